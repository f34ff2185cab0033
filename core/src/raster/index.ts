export * from './coverage.ts';
export * from './flat-size.ts';
export * from './paint-picture.ts';
export * from './place-picture.ts';
export * from './raster.ts';
