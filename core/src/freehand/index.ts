export * from './meant.ts';
export * from './outline.ts';
export * from './pens.ts';
