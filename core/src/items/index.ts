export * from './drawn.ts';
export * from './frame.ts';
export * from './item.ts';
export * from './kind.ts';
export * from './kind-of.ts';
export * from './primitives.ts';
export * from './table.ts';
export * from './tints.ts';
export { stripHeight } from './title-strip.ts';
