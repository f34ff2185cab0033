export * from './outline.ts';
export * from './placement.ts';
export * from './trimming.ts';
