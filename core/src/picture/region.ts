import type { Point } from '../geometry/index.ts';

/** A part of a picture, in shares of its sides from its upper left corner, 0..1. */
interface Part {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Less than this of a side is no part. */
export const LEAST_REGION = 0.004;

export type RegionCorner = 'nw' | 'ne' | 'se' | 'sw';

const round = (value: number): number => Math.round(value * 1e4) / 1e4;
const within = (value: number): number => Math.min(1, Math.max(0, value));

/**
 * The part of a picture between two points, cut off at its edges.
 *
 * @param from, to - shares of the picture's sides
 * @returns undefined where nothing is left
 */
export function regionBetween(from: Point, to: Point): Part | undefined {
  const [x0, x1] = [within(Math.min(from.x, to.x)), within(Math.max(from.x, to.x))];
  const [y0, y1] = [within(Math.min(from.y, to.y)), within(Math.max(from.y, to.y))];
  if (x1 - x0 < LEAST_REGION || y1 - y0 < LEAST_REGION) return undefined;
  return { x: round(x0), y: round(y0), width: round(x1 - x0), height: round(y1 - y0) };
}

/** Moved by shares of the picture's sides, and held within it. */
export function movedRegion(region: Part, by: Point): Part {
  const x = Math.min(1 - region.width, Math.max(0, region.x + by.x));
  const y = Math.min(1 - region.height, Math.max(0, region.y + by.y));
  return { ...region, x: round(x), y: round(y) };
}

/** One corner put elsewhere, its opposite staying; a corner that is drawn across the opposite one turns the part over. */
export function resizedRegion(region: Part, corner: RegionCorner, to: Point): Part {
  const fixed = {
    x: corner.endsWith('w') ? region.x + region.width : region.x,
    y: corner.startsWith('n') ? region.y + region.height : region.y,
  };
  return regionBetween(fixed, to) ?? region;
}

/** Grown by shares of the picture's sides at its lower right; less than the least part it never becomes. */
export const grownRegion = (region: Part, by: Point): Part =>
  resizedRegion(region, 'se', {
    x: Math.max(region.x + LEAST_REGION * 2, region.x + region.width + by.x),
    y: Math.max(region.y + LEAST_REGION * 2, region.y + region.height + by.y),
  });

/** Where the corners lie. */
export const cornersOfRegion = ({
  x,
  y,
  width,
  height,
}: Part): readonly (readonly [RegionCorner, Point])[] => [
  ['nw', { x, y }],
  ['ne', { x: x + width, y }],
  ['se', { x: x + width, y: y + height }],
  ['sw', { x, y: y + height }],
];
