export * from './palette.ts';
