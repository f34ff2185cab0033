export * from './identity.ts';
export * from './intake-limits.ts';
export * from './kind-of-bytes.ts';
export * from './ladder.ts';
export * from './naming.ts';
export * from './raster-size.ts';
export * from './shape-of-bytes.ts';
export * from './tiles.ts';
