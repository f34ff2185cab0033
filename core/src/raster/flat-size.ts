import type { Rectangle } from '../geometry/index.ts';
import { type Item, isPlacement } from '../items/index.ts';
import type { PixelSize } from './place-picture.ts';

/** The longest side of a flat picture, pixels. */
export const MOST_FLAT_SIDE = 16_000;
/** WebP's encoder holds the whole picture, eight bytes a pixel and more: so many pixels at most. */
const MOST_WEBP_PIXELS = 24_000_000;

/** The longest side that a region may have as a flat picture of a kind, pixels. */
export function mostSide({ width, height }: Rectangle, type: string): number {
  if (type !== 'image/webp') return MOST_FLAT_SIDE;
  const aspect = Math.max(width, height) / Math.min(width, height);
  return Math.min(MOST_FLAT_SIDE, Math.floor(Math.sqrt(MOST_WEBP_PIXELS * aspect)));
}

/**
 * The size of a region as a flat picture.
 *
 * @param region - board units
 * @param side - its longest side, pixels
 * @returns whole pixels, and pixels a board unit
 */
export function flatSize(region: Rectangle, side: number): PixelSize & { readonly scale: number } {
  const scale = side / Math.max(region.width, region.height);
  return {
    width: Math.max(1, Math.round(region.width * scale)),
    height: Math.max(1, Math.round(region.height * scale)),
    scale,
  };
}

/** Pixels that the finest picture among items has on a board unit; undefined where none is one. */
export function finestScale(items: Iterable<Item>): number | undefined {
  let finest: number | undefined;
  for (const item of items)
    if (isPlacement(item)) finest = Math.max(finest ?? 0, (item.pictureWidth * item.trim.width) / item.width);
  return finest;
}

/** The longest side at which a region shows every pixel of its finest picture, as far as there is room. */
export const finestSide = (region: Rectangle, items: Iterable<Item>): number =>
  Math.max(
    1,
    Math.min(MOST_FLAT_SIDE, Math.round((finestScale(items) ?? 1) * Math.max(region.width, region.height))),
  );
