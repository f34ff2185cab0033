export * from './affine.ts';
export * from './azimuth.ts';
export * from './camera.ts';
export * from './point.ts';
export * from './polygon-mask.ts';
export * from './projective.ts';
export * from './rectangle.ts';
export * from './simpler-line.ts';
