export * from './munsell-value.ts';
export * from './oklab.ts';
export * from './palette.ts';
export * from './srgb.ts';
export * from './value-distribution.ts';
