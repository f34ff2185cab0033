export * from './storable.ts';
