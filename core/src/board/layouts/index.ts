export * from './even-out.ts';
export * from './line-up.ts';
export { pack, type ScaledPacking } from './packing.ts';
export * from './settle.ts';
export * from './shelf-groups.ts';
export * from './shelves.ts';
export * from './strips.ts';
export { packWithoutHoles } from './without-holes.ts';
