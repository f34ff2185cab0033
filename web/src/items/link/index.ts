export * from './link.ts';
