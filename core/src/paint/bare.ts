import { intersectionOf, type Rectangle } from '../geometry/index.ts';
import type { Layer } from './layers.ts';
import { TILE_PX, type TilePixels, type TilePlace, tileArea, tileKey, tilesIn } from './tiles.ts';

/** Covered by less than this, 0..255, a pixel is bare: nobody sees so little. */
const SEEN = 8;

/** Pixels of one layer, and the alpha from which they are seen. */
interface Cover {
  readonly pixels: TilePixels;
  readonly least: number;
}

/** How much of a frame is bare ground: where no layer that is seen has paint. Only what altered is counted anew. */
export class BareGround {
  readonly #frame: Rectangle;
  /** What was counted of a tile, and from what. */
  readonly #known = new Map<number, { readonly covers: readonly Cover[]; readonly bare: number }>();

  /** @param frame - whole pixels of the sheet, not empty */
  constructor(frame: Rectangle) {
    this.#frame = frame;
  }

  /** Its share, 0..1. @param layers - whose tiles are not altered any more */
  shareIn(layers: readonly Layer[]): number {
    const seen = layers.filter(
      ({ kind, isHidden, opacity }) => kind !== 'ground' && !isHidden && opacity > 0,
    );
    let bare = 0;
    for (const place of tilesIn(this.#frame)) {
      const key = tileKey(place);
      const covers = seen.flatMap(({ tiles, opacity }) => {
        const pixels = tiles.get(key);
        return pixels ? [{ pixels, least: SEEN / opacity }] : [];
      });
      bare += this.#bareOf(key, place, covers);
    }
    return bare / (this.#frame.width * this.#frame.height);
  }

  #bareOf(key: number, place: TilePlace, covers: readonly Cover[]): number {
    const known = this.#known.get(key);
    if (known && areSame(known.covers, covers)) return known.bare;
    const tile = tileArea(place);
    const { x, y, width, height } = intersectionOf(this.#frame, tile);
    let bare = 0;
    for (let row = y - tile.y; row < y - tile.y + height; row += 1)
      bare += bareIn(covers, row * TILE_PX + x - tile.x, width);
    this.#known.set(key, { covers, bare });
    return bare;
  }
}

const areSame = (some: readonly Cover[], others: readonly Cover[]): boolean =>
  some.length === others.length &&
  some.every(({ pixels, least }, at) => pixels === others[at]!.pixels && least === others[at]!.least);

function bareIn(covers: readonly Cover[], from: number, count: number): number {
  if (covers.length === 0) return count;
  let bare = 0;
  for (let at = from * 4 + 3; at < (from + count) * 4; at += 4) {
    let layer = 0;
    while (layer < covers.length && covers[layer]!.pixels[at]! < covers[layer]!.least) layer += 1;
    if (layer === covers.length) bare += 1;
  }
  return bare;
}
