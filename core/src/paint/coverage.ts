import { emptyTile, TILE_PX, type TilePixels, wholePixels } from './tiles.ts';

/** Pixels of a tile that have one colour and cover more or less: a quarter of its bytes. */
export interface OneColour {
  /** 0xBBGGRR; 0 where nothing is painted. */
  readonly colour: number;
  /** Alpha, 0..255, row-major, length 256². */
  readonly coverage: Uint8Array<ArrayBuffer>;
}

const COLOUR = 0xff_ff_ff;

/** What is painted on a tile, where it is of one colour; what is wholly clear has none. @returns undefined for more colours */
export function oneColourOf(tile: TilePixels): OneColour | undefined {
  const pixels = wholePixels(tile);
  const coverage = new Uint8Array(TILE_PX * TILE_PX);
  let colour = -1;
  for (let at = 0; at < pixels.length; at += 1) {
    const pixel = pixels[at]!;
    const alpha = pixel >>> 24;
    if (alpha === 0) continue;
    if (colour === -1) colour = pixel & COLOUR;
    else if ((pixel & COLOUR) !== colour) return undefined;
    coverage[at] = alpha;
  }
  return { colour: Math.max(0, colour), coverage };
}

/** @throws RangeError where it is not as long as a tile has pixels */
export function tileOfOneColour({ colour, coverage }: OneColour): TilePixels {
  if (coverage.length !== TILE_PX * TILE_PX)
    throw new RangeError(`${coverage.length} pixels are no tile of ${TILE_PX}²`);
  const tile = emptyTile();
  const pixels = wholePixels(tile);
  for (let at = 0; at < pixels.length; at += 1) {
    const alpha = coverage[at]!;
    if (alpha !== 0) pixels[at] = (alpha << 24) | colour;
  }
  return tile;
}
