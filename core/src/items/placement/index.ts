export * from './placement.ts';
export * from './trimming.ts';
