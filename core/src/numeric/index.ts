export * from './solve-linear.ts';
