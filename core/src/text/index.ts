export * from './misspelling.ts';
export * from './rich-text.ts';
export * from './storable.ts';
export * from './why.ts';
