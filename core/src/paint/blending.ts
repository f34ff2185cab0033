import type { Rectangle } from '../geometry/index.ts';
import { TILE_PX, type TilePixels, WHOLE_TILE, wholePixels } from './tiles.ts';

/** How a layer is mixed with what lies below it. */
export const BLEND_MODES = ['normal', 'multiply', 'overlay'] as const;
export type BlendMode = (typeof BLEND_MODES)[number];

/** The colour of backdrop and source where both are, 0..1. Source: W3C Compositing and Blending Level 1, section 10.1. */
export function blendedChannel(mode: BlendMode, backdrop: number, source: number): number {
  switch (mode) {
    case 'normal':
      return source;
    case 'multiply':
      return backdrop * source;
    case 'overlay':
      return backdrop <= 0.5 ? 2 * backdrop * source : 1 - 2 * (1 - backdrop) * (1 - source);
  }
}

/** By backdrop and source, both 0..255: the blended colour, 0..255, not rounded. */
const tables = new Map<BlendMode, Float32Array>();
function tableOf(mode: BlendMode): Float32Array {
  const known = tables.get(mode);
  if (known) return known;
  const table = new Float32Array(65_536);
  for (let backdrop = 0; backdrop < 256; backdrop += 1)
    for (let source = 0; source < 256; source += 1)
      table[backdrop * 256 + source] = 255 * blendedChannel(mode, backdrop / 255, source / 255);
  tables.set(mode, table);
  return table;
}

/**
 * Lays pixels over others. Source: W3C Compositing and Blending Level 1, section 5: the source's colour is mixed with the blended
 * one by the backdrop's alpha, then laid over it (Porter and Duff).
 *
 * @param onto - altered; RGBA, straight alpha, as long as `pixels`
 * @param opacity - of `pixels`, 0..1
 * @param part - of the tile, in its own whole pixels; by default all
 */
export function blendTile(
  onto: TilePixels,
  pixels: TilePixels,
  mode: BlendMode,
  opacity: number,
  { x, y, width, height }: Rectangle = WHOLE_TILE,
): void {
  const table = mode === 'normal' ? undefined : tableOf(mode);
  const [onto32, pixels32] = [wholePixels(onto), wholePixels(pixels)];
  for (let row = y; row < y + height; row += 1) {
    const from = row * TILE_PX + x;
    const to = from + width;
    if (!table && opacity === 1) layRow(onto32, pixels32, from, to);
    else if (table) mixRow(onto32, pixels32, table, opacity / 255, from, to);
    else blendRow(onto32, pixels32, opacity / 255, from, to);
  }
}

const ODD = 0xff_00_ff;

/**
 * The commonest of all, a row laid over what is there wholly: two channels at once, exact. A number n of 0..65,025 divided by
 * 255 and rounded is (n + 128 + ((n + 128) >> 8)) >> 8.
 */
function layRow(onto: Uint32Array, pixels: Uint32Array, from: number, to: number): void {
  for (let at = from; at < to; at += 1) {
    const source = pixels[at]!;
    const alpha = source >>> 24;
    if (alpha === 0) continue;
    const below = onto[at]!;
    if (alpha === 255) onto[at] = source;
    else if (below >>> 24 !== 255) onto[at] = overClear(below, source, alpha / 255, undefined);
    else {
      const rest = 255 - alpha;
      const redBlue = (Math.imul(below & ODD, rest) + Math.imul(source & ODD, alpha) + 0x80_00_80) >>> 0;
      const green = Math.imul((below >>> 8) & 0xff, rest) + Math.imul((source >>> 8) & 0xff, alpha) + 0x80;
      onto[at] =
        0xff_00_00_00 |
        (((green + (green >>> 8)) >>> 8) << 8) |
        (((redBlue + ((redBlue >>> 8) & ODD)) >>> 8) & ODD);
    }
  }
}

/** What is there wholly, which is common, needs no division. @param share - of a source's alpha, 1/255 */
function blendRow(onto: Uint32Array, pixels: Uint32Array, share: number, from: number, to: number): void {
  for (let at = from; at < to; at += 1) {
    const source = pixels[at]!;
    if (source >>> 24 === 0) continue;
    const alpha = (source >>> 24) * share;
    const below = onto[at]!;
    if (below >>> 24 !== 255) {
      onto[at] = overClear(below, source, alpha, undefined);
      continue;
    }
    const red = below & 0xff;
    const green = (below >>> 8) & 0xff;
    const blue = (below >>> 16) & 0xff;
    onto[at] =
      0xff_00_00_00 |
      ((blue + (((source >>> 16) & 0xff) - blue) * alpha + 0.5) << 16) |
      ((green + (((source >>> 8) & 0xff) - green) * alpha + 0.5) << 8) |
      (red + ((source & 0xff) - red) * alpha + 0.5);
  }
}

/** The same where the source is blended with what is below it. */
function mixRow(
  onto: Uint32Array,
  pixels: Uint32Array,
  table: Float32Array,
  share: number,
  from: number,
  to: number,
): void {
  for (let at = from; at < to; at += 1) {
    const source = pixels[at]!;
    if (source >>> 24 === 0) continue;
    const alpha = (source >>> 24) * share;
    const below = onto[at]!;
    if (below >>> 24 !== 255) {
      onto[at] = overClear(below, source, alpha, table);
      continue;
    }
    const red = below & 0xff;
    const green = (below >>> 8) & 0xff;
    const blue = (below >>> 16) & 0xff;
    onto[at] =
      0xff_00_00_00 |
      ((blue + (table[(blue << 8) | ((source >>> 16) & 0xff)]! - blue) * alpha + 0.5) << 16) |
      ((green + (table[(green << 8) | ((source >>> 8) & 0xff)]! - green) * alpha + 0.5) << 8) |
      (red + (table[(red << 8) | (source & 0xff)]! - red) * alpha + 0.5);
  }
}

/** One pixel over one that is not there wholly. @param alpha - of the source, 0..1 */
function overClear(below: number, source: number, alpha: number, table: Float32Array | undefined): number {
  if (alpha === 0) return below;
  const backdrop = (below >>> 24) / 255;
  const kept = backdrop * (1 - alpha);
  const sum = alpha + kept;
  let pixel = (255 * sum + 0.5) << 24;
  for (let shift = 0; shift < 24; shift += 8) {
    const under = (below >>> shift) & 0xff;
    const own = (source >>> shift) & 0xff;
    const mixed = table ? (1 - backdrop) * own + backdrop * table[(under << 8) | own]! : own;
    pixel |= ((alpha * mixed + kept * under) / sum + 0.5) << shift;
  }
  return pixel;
}
