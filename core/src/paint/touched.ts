import { intersectionOf, type Rectangle, unionOf } from '../geometry/index.ts';
import type { Layer } from './layers.ts';
import { tileLike } from './paint-tile.ts';
import {
  isEmptyTile,
  type TilePixels,
  tileArea,
  tileKey,
  tilesIn,
  WHOLE_TILE,
  wholePixels,
} from './tiles.ts';
import type { TileChange } from './undo.ts';

/** A tile that an action alters, and which part of it, in the tile's own whole pixels. */
export interface TouchedPart {
  readonly key: number;
  readonly before: TilePixels | undefined;
  /** To be altered; the layer has it until the action ends. */
  readonly pixels: TilePixels;
  readonly part: Rectangle;
}

/** What looks otherwise: by tile, the part of it, in its own whole pixels. */
export type AlteredParts = ReadonlyMap<number, Rectangle>;

/** Puts parts together: of each tile the one around both. */
export function joinParts(into: Map<number, Rectangle>, more: AlteredParts): Map<number, Rectangle> {
  for (const [key, part] of more) {
    const known = into.get(key);
    into.set(key, known ? unionOf([known, part])! : part);
  }
  return into;
}

/** All of tiles. */
export const wholeTiles = (keys: Iterable<number>): AlteredParts =>
  new Map([...keys].map((key) => [key, WHOLE_TILE]));

/** The tiles of one layer that one action alters, as they were and as they become. */
export class TouchedTiles {
  readonly #layer: Layer;
  readonly #within: Rectangle;
  readonly #before = new Map<number, TilePixels | undefined>();
  readonly #after = new Map<number, TilePixels>();

  /**
   * @param within - pixels of the sheet that may be altered, whole ones
   * @throws RangeError where the layer is locked
   */
  constructor(layer: Layer, within: Rectangle) {
    if (layer.isLocked) throw new RangeError(`The layer “${layer.name}” is locked.`);
    this.#layer = layer;
    this.#within = within;
  }

  /** Alters a part of the sheet tile by tile. @returns what looks otherwise now */
  alter(area: Rectangle, change: (touched: TouchedPart) => void): AlteredParts {
    const wanted = intersectionOf(area, this.#within);
    const altered = new Map<number, Rectangle>();
    for (const place of tilesIn(wanted)) {
      const key = tileKey(place);
      const { tiles } = this.#layer;
      if (!this.#after.has(key)) {
        this.#before.set(key, tiles.get(key));
        this.#after.set(key, tileLike(tiles.get(key)));
      }
      const pixels = this.#after.get(key)!;
      const part = partOf(wanted, tileArea(place));
      change({ key, before: this.#before.get(key), pixels, part });
      tiles.set(key, pixels);
      altered.set(key, part);
    }
    return altered;
  }

  /** It is done. @returns what it altered, for undo; what is as it was the layer has as it had it */
  end(): TileChange[] {
    const { id: layer, tiles } = this.#layer;
    return [...this.#after].flatMap(([key, after]) => {
      const before = this.#before.get(key);
      if (!isAsBefore(before, after)) return [{ layer, key, before, after }];
      tiles.set(key, before);
      return [];
    });
  }

  /** It is as if it had not been begun. @returns what looks otherwise now */
  cancel(): AlteredParts {
    for (const [key, before] of this.#before) this.#layer.tiles.set(key, before);
    return wholeTiles(this.#before.keys());
  }
}

/** Whether nothing looks otherwise; without a tile all is seen through. */
function isAsBefore(before: TilePixels | undefined, after: TilePixels): boolean {
  if (!before) return isEmptyTile(after);
  const [was, is] = [wholePixels(before), wholePixels(after)];
  for (let at = 0; at < is.length; at += 1) if (was[at] !== is[at]) return false;
  return true;
}

function partOf(area: Rectangle, tile: Rectangle): Rectangle {
  const { x, y, width, height } = intersectionOf(area, tile);
  const [left, top] = [Math.floor(x - tile.x), Math.floor(y - tile.y)];
  const [right, bottom] = [Math.ceil(x + width - tile.x), Math.ceil(y + height - tile.y)];
  return { x: left, y: top, width: right - left, height: bottom - top };
}
