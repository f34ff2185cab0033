export { strongestContrast } from './focus.ts';
export * from './lenses.ts';
export type { Pixels } from './pixels.ts';
export * from './seeing.ts';
export * from './squint.ts';
export * from './strokes.ts';
export * from './value-study.ts';
export * from './values.ts';
export { colourAsAmount } from './where.ts';
