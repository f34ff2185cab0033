export * from './mark.ts';
