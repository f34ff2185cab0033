export * from './munsell-value.ts';
export * from './srgb.ts';
export * from './value-distribution.ts';
