export * from './munsell-value.ts';
export * from './srgb.ts';
