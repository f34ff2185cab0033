export * from './working-set.ts';
