import type { Rectangle } from '../geometry/index.ts';
import { intersectionOf } from '../geometry/index.ts';
import type { Layer } from './layers.ts';
import { TILE_PX, type TilePixels, tileArea, tileKey, tilesIn } from './tiles.ts';

/** Covered by less than this, 0..255, a pixel is bare: nobody sees so little. */
const SEEN = 8;

/**
 * How much of a frame is bare ground, 0..1: where no layer that is seen has paint.
 *
 * @param frame - whole pixels of the sheet, not empty
 */
export function bareShare(layers: readonly Layer[], frame: Rectangle): number {
  const seen = layers.filter(({ kind, isHidden, opacity }) => kind !== 'ground' && !isHidden && opacity > 0);
  let bare = 0;
  for (const place of tilesIn(frame)) {
    const key = tileKey(place);
    const tile = tileArea(place);
    const { x, y, width, height } = intersectionOf(frame, tile);
    const own = seen.flatMap(({ tiles, opacity }) => {
      const pixels = tiles.get(key);
      return pixels ? [{ pixels, least: SEEN / opacity }] : [];
    });
    if (own.length === 0) bare += width * height;
    else
      for (let row = y - tile.y; row < y - tile.y + height; row += 1)
        bare += bareIn(own, row * TILE_PX + x - tile.x, width);
  }
  return bare / (frame.width * frame.height);
}

function bareIn(
  layers: readonly { readonly pixels: TilePixels; readonly least: number }[],
  from: number,
  count: number,
): number {
  let bare = 0;
  for (let pixel = from; pixel < from + count; pixel += 1)
    if (layers.every(({ pixels, least }) => pixels[pixel * 4 + 3]! < least)) bare += 1;
  return bare;
}
