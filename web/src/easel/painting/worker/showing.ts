import type { Rectangle } from '@miradero/core/geometry';
import {
  type AlteredParts,
  joinParts,
  type PaintedSheet,
  tileKey,
  tilePlace,
  tilesIn,
  WHOLE_TILE,
  wholeTiles,
} from '@miradero/core/paint';
import type { FromPaint, SeenPart, SeenWindow } from '../messages.ts';
import { Seen } from './seen.ts';

/** All of a sheet is told always, so small that its longest side is at most this, px. */
const COARSE_PX = 1_024;
/** And while a stroke is made so often, ms: it is what is seen beyond the view. */
const COARSE_EVERY_MS = 250;
/** Tells what is seen of a sheet: all of it made small, and the part in view as fine as it is asked for. */
export class Showing {
  /** The level at which all of it is told. */
  readonly coarse: number;
  readonly #size: { readonly width: number; readonly height: number };
  readonly #seen: Seen;
  readonly #tell: (message: FromPaint, transfer: Transferable[]) => void;
  #window: SeenWindow | null = null;
  /** What is to be told of the whole sheet still. */
  #forCoarse = new Map<number, Rectangle>();
  #coarseTimer: ReturnType<typeof setTimeout> | undefined;
  /** Tiles that have not come yet: nothing is said of them. */
  readonly #missing: Set<number>;

  constructor(
    sheet: PaintedSheet,
    size: { readonly width: number; readonly height: number },
    tell: (message: FromPaint, transfer: Transferable[]) => void,
  ) {
    this.#size = size;
    this.#seen = new Seen(sheet);
    this.#tell = tell;
    const longest = Math.max(size.width, size.height);
    let coarse = 0;
    while (longest >> coarse > COARSE_PX) coarse += 1;
    this.coarse = coarse;
    this.#missing = new Set(this.allKeys());
  }

  /** Every tile of the sheet, painted or not. */
  *allKeys(): Generator<number> {
    for (const place of tilesIn({ x: 0, y: 0, width: this.#size.width, height: this.#size.height }))
      yield tileKey(place);
  }

  /** One layer is worked on from now on; undefined: none. */
  workOn(layer: string | undefined): void {
    this.#seen.workOn(layer);
  }

  showBare(isShown: boolean): void {
    this.#seen.isBareShown = isShown;
    this.show(wholeTiles(this.allKeys()), null);
  }

  /** Tiles of the sheet have come. */
  arrive(keys: readonly number[]): void {
    const window = this.#window;
    const isFiner = window !== null && window.level < this.coarse;
    for (const key of keys) this.#missing.delete(key);
    this.#send(
      keys.flatMap((key) => {
        const levels = isFiner && isWithin(window, key) ? [this.coarse, window.level] : [this.coarse];
        return this.#seen.parts(key, WHOLE_TILE, levels);
      }),
    );
  }

  /** Another part is in view. */
  look(window: SeenWindow | null): void {
    const before = this.#window;
    this.#window = window;
    if (!window) return;
    const fresh = [...keysOf(window)].filter(
      (key) => !this.#missing.has(key) && (before?.level !== window.level || !isWithin(before, key)),
    );
    this.#send(this.#partsIn(wholeTiles(fresh), window.level));
  }

  /** Something looks otherwise. @param number - of the last point of the stroke that is seen in it */
  show(altered: AlteredParts, number: number | null): void {
    const window = this.#window;
    joinParts(this.#forCoarse, altered);
    if (window && window.level < this.coarse) {
      const within = new Map([...altered].filter(([key]) => isWithin(window, key)));
      this.#send(this.#partsIn(within, window.level), number);
      this.#coarseTimer ??= setTimeout(() => this.#showCoarse(null), COARSE_EVERY_MS);
    } else this.#showCoarse(number);
  }

  #showCoarse(number: number | null): void {
    clearTimeout(this.#coarseTimer);
    this.#coarseTimer = undefined;
    const altered = this.#forCoarse;
    this.#forCoarse = new Map();
    this.#send(this.#partsIn(altered, this.coarse), number);
  }

  #partsIn(altered: AlteredParts, level: number): SeenPart[] {
    return [...altered].flatMap(([key, part]) => this.#seen.parts(key, part, [level]));
  }

  #send(parts: readonly SeenPart[], number: number | null = null): void {
    this.#tell(
      { kind: 'parts', parts, number },
      parts.map(({ data }) => data.buffer),
    );
  }
}

function isWithin({ column, row, columns, rows }: SeenWindow, key: number): boolean {
  const place = tilePlace(key);
  return (
    place.column >= column && place.row >= row && place.column < column + columns && place.row < row + rows
  );
}

function* keysOf({ column, row, columns, rows }: SeenWindow): Generator<number> {
  for (let down = row; down < row + rows; down += 1)
    for (let right = column; right < column + columns; right += 1)
      yield tileKey({ column: right, row: down });
}
