export * from './misspelling.ts';
export * from './storable.ts';
