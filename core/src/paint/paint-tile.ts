import type { Rectangle } from '../geometry/index.ts';
import { COVERED, type MaskTile } from './mask.ts';
import { emptyTile, TILE_PX, type TilePixels, WHOLE_TILE } from './tiles.ts';

/** What is painted where a mask covers. */
export interface Paint {
  /** sRGB, 0..255; null: what is there is taken away. */
  readonly colour: readonly [number, number, number] | null;
  /** How much of what is covered wholly, 0..1. */
  readonly opacity: number;
  /** Whether it keeps to what is painted already. */
  readonly keepsToPainted: boolean;
}

/** A tile to begin with: as one was, or with nothing on it. */
export const tileLike = (before: TilePixels | undefined): TilePixels =>
  before ? new Uint8ClampedArray(before) : emptyTile();

/**
 * Puts paint on a tile. Source: Porter and Duff 1984: *over*; *destination out* where something is taken away; *atop* where
 * paint keeps to what is there.
 *
 * @param before - as the tile was; undefined: nothing was there
 * @param into - altered where the mask covers, else as it was before
 * @param part - of the tile, in its own whole pixels; by default all
 */
export function paintTile(
  before: TilePixels | undefined,
  mask: MaskTile,
  { colour, opacity, keepsToPainted }: Paint,
  into: TilePixels,
  { x, y, width, height }: Rectangle = WHOLE_TILE,
): void {
  const share = opacity / COVERED;
  // Nothing is taken from, and nothing kept to, where nothing is.
  if (!before && (!colour || keepsToPainted)) return;
  for (let row = y; row < y + height; row += 1) {
    const from = row * TILE_PX + x;
    if (!colour) takeFromRow(before!, mask, share, into, from, from + width);
    else if (!before) coverRow(mask, share, colour, into, from, from + width);
    else if (keepsToPainted) keepToRow(before, mask, share, colour, into, from, from + width);
    else paintRow(before, mask, share, colour, into, from, from + width);
  }
}

type Colour = readonly [number, number, number];

function takeFromRow(
  before: TilePixels,
  mask: MaskTile,
  share: number,
  into: TilePixels,
  from: number,
  to: number,
): void {
  for (let pixel = from; pixel < to; pixel += 1) {
    const covered = mask[pixel]!;
    if (covered === 0) continue;
    const at = pixel * 4;
    into[at + 3] = before[at + 3]! * (1 - covered * share);
    // Nothing has no colour: empty tiles are alike, and packed small.
    if (into[at + 3] === 0) into.fill(0, at, at + 3);
  }
}

/** Paint on nothing has its own colour. */
function coverRow(
  mask: MaskTile,
  share: number,
  [red, green, blue]: Colour,
  into: TilePixels,
  from: number,
  to: number,
): void {
  const most = 255 * share;
  // Whole pixels are written at once; every platform there is has the lowest byte first.
  const pixels = new Uint32Array(into.buffer);
  const colour = (blue << 16) | (green << 8) | red;
  for (let pixel = from; pixel < to; pixel += 1) {
    const alpha = (mask[pixel]! * most + 0.5) | 0;
    // Nothing has no colour.
    if (alpha !== 0) pixels[pixel] = (alpha << 24) | colour;
  }
}

function keepToRow(
  before: TilePixels,
  mask: MaskTile,
  share: number,
  [red, green, blue]: Colour,
  into: TilePixels,
  from: number,
  to: number,
): void {
  for (let pixel = from; pixel < to; pixel += 1) {
    const alpha = mask[pixel]! * share;
    const at = pixel * 4;
    if (alpha === 0 || before[at + 3] === 0) continue;
    into[at] = before[at]! + (red - before[at]!) * alpha;
    into[at + 1] = before[at + 1]! + (green - before[at + 1]!) * alpha;
    into[at + 2] = before[at + 2]! + (blue - before[at + 2]!) * alpha;
  }
}

function paintRow(
  before: TilePixels,
  mask: MaskTile,
  share: number,
  [red, green, blue]: Colour,
  into: TilePixels,
  from: number,
  to: number,
): void {
  for (let pixel = from; pixel < to; pixel += 1) {
    const alpha = mask[pixel]! * share;
    if (alpha === 0) continue;
    const at = pixel * 4;
    const was = before[at + 3]!;
    if (was === 0) {
      into[at] = red;
      into[at + 1] = green;
      into[at + 2] = blue;
      into[at + 3] = 255 * alpha;
      continue;
    }
    // Over what is there wholly, which is common, it needs no division.
    const sum = was === 255 ? 1 : alpha + (was / 255) * (1 - alpha);
    const part = was === 255 ? alpha : alpha / sum;
    into[at] = before[at]! + (red - before[at]!) * part;
    into[at + 1] = before[at + 1]! + (green - before[at + 1]!) * part;
    into[at + 2] = before[at + 2]! + (blue - before[at + 2]!) * part;
    into[at + 3] = 255 * sum;
  }
}
