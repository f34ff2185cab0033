export * from './apart.ts';
export * from './small.ts';
export * from './subtle.ts';
