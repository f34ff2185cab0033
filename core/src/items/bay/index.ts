export * from './bay.ts';
