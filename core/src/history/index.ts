export * from './bring-back.ts';
export * from './gist.ts';
export * from './segment.ts';
export * from './stretches.ts';
