import { intersectionOf, type Rectangle, unionOf } from '../geometry/index.ts';
import { emptyRaster, type Raster } from '../raster/index.ts';
import type { Layer } from './layers.ts';
import { COVERED, type Mask } from './mask.ts';
import { tileLike } from './paint-tile.ts';
import { TILE_PX, type TilePixels, tileArea, tilePlace } from './tiles.ts';

/** What was taken out of a layer: its pixels, and the layer's tiles without them. */
export interface Floating {
  readonly pixels: Raster;
  /** The layer's tiles as they were before, and without what floats. */
  readonly tiles: ReadonlyMap<number, { readonly before: TilePixels; readonly rest: TilePixels }>;
}

/** Where a mask covers what is painted on a tile, pixels of the sheet; undefined: nowhere. */
function coveredPart(
  mask: ArrayLike<number>,
  pixels: TilePixels,
  { x, y }: Rectangle,
): Rectangle | undefined {
  let [left, top, right, bottom] = [TILE_PX, TILE_PX, 0, 0];
  for (let at = 0; at < mask.length; at += 1) {
    if (mask[at] === 0 || pixels[at * 4 + 3] === 0) continue;
    const [column, row] = [at % TILE_PX, Math.floor(at / TILE_PX)];
    left = Math.min(left, column);
    right = Math.max(right, column + 1);
    top = Math.min(top, row);
    bottom = row + 1;
  }
  return right === 0 ? undefined : { x: x + left, y: y + top, width: right - left, height: bottom - top };
}

/** Takes what a mask covers out of a layer; the layer itself stays as it is. @returns undefined where nothing is there */
export function floatingOf(layer: Layer, mask: Mask): Floating | undefined {
  const parts = [...mask.keys].flatMap((key) => {
    const before = layer.tiles.get(key);
    const area = before && coveredPart(mask.get(key)!, before, tileArea(tilePlace(key)));
    return before && area ? [{ key, before, area }] : [];
  });
  const box = unionOf(parts.map(({ area }) => area));
  if (!box) return undefined;
  const pixels = emptyRaster(box.x, box.y, box.width, box.height);
  const tiles = new Map<number, { before: TilePixels; rest: TilePixels }>();
  for (const { key, before } of parts) {
    const rest = tileLike(before);
    const tile = tileArea(tilePlace(key));
    const covered = mask.get(key)!;
    const { x, y, width, height } = intersectionOf(tile, box);
    for (let row = y; row < y + height; row += 1)
      for (let column = x; column < x + width; column += 1) {
        const at = (row - tile.y) * TILE_PX + column - tile.x;
        const share = covered[at]! / COVERED;
        if (share === 0) continue;
        const to = ((row - box.y) * box.width + column - box.x) * 4;
        for (let part = 0; part < 3; part += 1) pixels.data[to + part] = before[at * 4 + part]!;
        pixels.data[to + 3] = before[at * 4 + 3]! * share;
        rest[at * 4 + 3] = before[at * 4 + 3]! * (1 - share);
      }
    tiles.set(key, { before, rest });
  }
  return { pixels, tiles };
}
