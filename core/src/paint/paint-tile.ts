import type { Rectangle } from '../geometry/index.ts';
import { COVERED, type MaskTile } from './mask.ts';
import { emptyTile, TILE_PX, type TilePixels, WHOLE_TILE, wholePixels } from './tiles.ts';

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
  const whole = wholePixels(into);
  const wholeBefore = before && wholePixels(before);
  for (let row = y; row < y + height; row += 1) {
    const from = row * TILE_PX + x;
    if (!colour) takeFromRow(before!, mask, share, into, from, from + width);
    else if (!before || !wholeBefore) coverRow(mask, share, colour, whole, from, from + width);
    else if (keepsToPainted) keepToRow(before, mask, share, colour, into, from, from + width);
    else paintRow(wholeBefore, mask, share, colour, whole, from, from + width);
  }
}

type Colour = readonly [number, number, number];

/** Without its alpha. */
const pixelOf = ([red, green, blue]: Colour): number => (blue << 16) | (green << 8) | red;

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
  colour: Colour,
  into: Uint32Array,
  from: number,
  to: number,
): void {
  const most = 255 * share;
  const own = pixelOf(colour);
  for (let pixel = from; pixel < to; pixel += 1) {
    const alpha = (mask[pixel]! * most + 0.5) | 0;
    // Nothing has no colour.
    if (alpha !== 0) into[pixel] = (alpha << 24) | own;
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

/** Over what is there wholly, which is common, it needs no division. */
function paintRow(
  before: Uint32Array,
  mask: MaskTile,
  share: number,
  colour: Colour,
  into: Uint32Array,
  from: number,
  to: number,
): void {
  const [red, green, blue] = colour;
  const own = pixelOf(colour);
  for (let pixel = from; pixel < to; pixel += 1) {
    const covered = mask[pixel]!;
    if (covered === 0) continue;
    const alpha = covered * share;
    const below = before[pixel]!;
    const was = below >>> 24;
    if (was === 0) {
      const painted = (255 * alpha + 0.5) | 0;
      if (painted !== 0) into[pixel] = (painted << 24) | own;
      continue;
    }
    const sum = was === 255 ? 1 : alpha + (was / 255) * (1 - alpha);
    const part = was === 255 ? alpha : alpha / sum;
    const belowRed = below & 0xff;
    const belowGreen = (below >>> 8) & 0xff;
    const belowBlue = (below >>> 16) & 0xff;
    into[pixel] =
      ((255 * sum + 0.5) << 24) |
      ((belowBlue + (blue - belowBlue) * part + 0.5) << 16) |
      ((belowGreen + (green - belowGreen) * part + 0.5) << 8) |
      (belowRed + (red - belowRed) * part + 0.5);
  }
}
