export * from './identity.ts';
export * from './intake-limits.ts';
export * from './ladder.ts';
export * from './naming.ts';
