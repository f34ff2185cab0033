import type { Rectangle } from '../geometry/index.ts';

/** Sides of a tile, pixels: small enough that a stroke copies little, large enough that few are handled. */
export const TILE_PX = 256;
export const TILE_BYTES = TILE_PX * TILE_PX * 4;

/** Which tile of a sheet: columns and rows from its upper left corner, both from 0. */
export interface TilePlace {
  readonly column: number;
  readonly row: number;
}

/**
 * Pixels of one tile: RGBA, straight alpha, 8 bits, sRGB, row-major, length 4·256². Never altered once a layer has it: whoever
 * paints makes another, so that undo keeps the one before without copying it.
 */
export type TilePixels = Uint8ClampedArray<ArrayBuffer>;

/** A number for each tile; sheets have 2¹⁶ columns at most. */
const COLUMNS = 65_536;
export const tileKey = ({ column, row }: TilePlace): number => row * COLUMNS + column;
export const tilePlace = (key: number): TilePlace => ({
  column: key % COLUMNS,
  row: Math.floor(key / COLUMNS),
});

/** The pixels of a sheet that a tile covers. */
export const tileArea = ({ column, row }: TilePlace): Rectangle => ({
  x: column * TILE_PX,
  y: row * TILE_PX,
  width: TILE_PX,
  height: TILE_PX,
});

/**
 * The tiles that a part of a sheet touches, row by row.
 *
 * @param area - pixels of the sheet; what lies left of it or above it has no tiles
 */
export function* tilesIn({ x, y, width, height }: Rectangle): Generator<TilePlace> {
  if (width <= 0 || height <= 0) return;
  const last = { column: Math.ceil((x + width) / TILE_PX) - 1, row: Math.ceil((y + height) / TILE_PX) - 1 };
  for (let row = Math.max(0, Math.floor(y / TILE_PX)); row <= last.row; row += 1)
    for (let column = Math.max(0, Math.floor(x / TILE_PX)); column <= last.column; column += 1)
      yield { column, row };
}

/** All of a tile, in its own pixels. */
export const WHOLE_TILE: Rectangle = { x: 0, y: 0, width: TILE_PX, height: TILE_PX };

export const emptyTile = (): TilePixels => new Uint8ClampedArray(TILE_BYTES);

/** The same memory as whole pixels, their red lowest: every platform there is has the lowest byte first. */
export const wholePixels = ({ buffer, byteOffset, length }: TilePixels): Uint32Array =>
  new Uint32Array(buffer, byteOffset, length >> 2);

export function isEmptyTile(pixels: TilePixels): boolean {
  for (let at = 3; at < pixels.length; at += 4) if (pixels[at] !== 0) return false;
  return true;
}

const flatTiles = new Map<number, WeakRef<TilePixels>>();

/** A tile all of whose pixels are alike, of which one is enough for all of that colour; any other as it is. Areas of one colour are common. */
export function sharedTile(tile: TilePixels): TilePixels {
  const pixels = wholePixels(tile);
  const first = pixels[0]!;
  for (const pixel of pixels) if (pixel !== first) return tile;
  const known = flatTiles.get(first)?.deref();
  if (known) return known;
  for (const [pixel, tileOf] of flatTiles) if (!tileOf.deref()) flatTiles.delete(pixel);
  flatTiles.set(first, new WeakRef(tile));
  return tile;
}

/** Whether a tile is one of one colour that is there wholly, as a sheet took it up. */
export const isOpaque = (tile: TilePixels): boolean =>
  tile[3] === 255 && flatTiles.get(wholePixels(tile)[0]!)?.deref() === tile;

/** The touched tiles of one layer; where it has none nothing is painted. */
export class Tiles {
  readonly #tiles = new Map<number, TilePixels>();

  /** Bytes of its pixels. */
  get bytes(): number {
    return this.#tiles.size * TILE_BYTES;
  }

  get keys(): Iterable<number> {
    return this.#tiles.keys();
  }

  get(key: number): TilePixels | undefined {
    return this.#tiles.get(key);
  }

  /** The same tiles; what is set later in the one is not in the other. */
  copy(): Tiles {
    const copy = new Tiles();
    for (const [key, pixels] of this.#tiles) copy.#tiles.set(key, pixels);
    return copy;
  }

  /** @param pixels - undefined, or empty ones: there is nothing any more */
  set(key: number, pixels: TilePixels | undefined): void {
    if (pixels === undefined || isEmptyTile(pixels)) this.#tiles.delete(key);
    else this.#tiles.set(key, pixels);
  }
}

/** Gives memory back at once, where the platform can (ECMAScript 2024): what waits for a collector is used until then. Nobody may have it any more. */
export const release = ({ buffer }: { readonly buffer: ArrayBuffer }): void =>
  void (buffer as { transfer?: (bytes: number) => ArrayBuffer }).transfer?.(0);
