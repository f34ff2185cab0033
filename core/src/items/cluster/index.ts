export * from './cluster.ts';
