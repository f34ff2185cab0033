import { intersectionOf, type Rectangle } from '../geometry/index.ts';
import { coverageAt, type Dab } from './brush.ts';
import { release, TILE_PX, tileArea, tileKey, tilesIn } from './tiles.ts';

/** All of a pixel is covered. */
export const COVERED = 65_535;
/** How much of each pixel of a tile is covered, 0..65,535, row-major, length 256²: with eight bits a soft stroke shows steps. */
export type MaskTile = Uint16Array<ArrayBuffer>;

/** Distances from the middle of a dab are told apart by so much of a pixel, at least. */
const FINEST = 16;
const MOST_ENTRIES = 4_096;

/** How much a dab covers by the square of the distance from its middle, 0..65,535. */
interface CoverageTable {
  readonly values: Float32Array;
  /** Entries a square pixel. */
  readonly scale: number;
}

let lastTable: { readonly of: readonly number[]; readonly table: CoverageTable } | undefined;

/** Dabs of one stroke are often alike: the table is made once for them. */
function coverageTable(radius: number, hardness: number, strength: number): CoverageTable {
  const of = [radius, hardness, strength];
  if (lastTable?.of.every((value, at) => value === of[at])) return lastTable.table;
  const square = (radius + 1) ** 2;
  const count = Math.min(MOST_ENTRIES, Math.ceil(square * FINEST)) + 1;
  const scale = (count - 1) / square;
  const values = Float32Array.from(
    { length: count + 1 },
    (_, at) => COVERED * strength * coverageAt(Math.sqrt(at / scale), radius, hardness),
  );
  const table = { values, scale };
  lastTable = { of, table };
  return table;
}

/** Covers a row of one tile. @param dx - of its first pixel from the middle of the dab */
function stampRow(
  tile: MaskTile,
  from: number,
  count: number,
  dx: number,
  dy: number,
  { values, scale }: CoverageTable,
  isBuilding: boolean,
): void {
  const last = values.length - 2;
  for (let at = from, away = dx; at < from + count; at += 1, away += 1) {
    const place = (away * away + dy * dy) * scale;
    if (place >= last) continue;
    const entry = Math.floor(place);
    const low = values[entry]!;
    const covered = low + (values[entry + 1]! - low) * (place - entry);
    const before = tile[at]!;
    if (isBuilding) tile[at] = before + ((COVERED - before) * covered) / COVERED + 0.5;
    else if (covered > before) tile[at] = covered + 0.5;
  }
}

/** A part of one tile, whole pixels of the sheet; `right` and `bottom` are beyond it. */
interface TilePart {
  readonly tile: MaskTile;
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
  /** Where a pixel of the sheet lies in the tile. */
  readonly indexOf: (x: number, y: number) => number;
}

/** Covers a row of one tile. @param from - which of the shares is of its first pixel */
function coverRow(
  { tile, left, right, indexOf }: TilePart,
  y: number,
  shares: ArrayLike<number>,
  from: number,
): void {
  const first = indexOf(left, y);
  for (let x = 0; x < right - left; x += 1) {
    const covered = Math.round(COVERED * shares[from + x]!);
    if (covered > tile[first + x]!) tile[first + x] = covered;
  }
}

/** What is about to be painted: how much of each pixel, by touched tiles. */
export class Mask {
  readonly #within: Rectangle;
  readonly #tiles = new Map<number, MaskTile>();

  /** @param within - pixels of the sheet beyond which nothing is covered, whole ones */
  constructor(within: Rectangle) {
    this.#within = within;
  }

  get keys(): Iterable<number> {
    return this.#tiles.keys();
  }

  get(key: number): MaskTile | undefined {
    return this.#tiles.get(key);
  }

  /** It is used no more. */
  release(): void {
    for (const tile of this.#tiles.values()) release(tile);
    this.#tiles.clear();
  }

  /** @returns 0..65,535 */
  at(x: number, y: number): number {
    const key = tileKey({ column: Math.floor(x / TILE_PX), row: Math.floor(y / TILE_PX) });
    return this.#tiles.get(key)?.[(y % TILE_PX) * TILE_PX + (x % TILE_PX)] ?? 0;
  }

  /** Adds one print of a brush. @returns the tiles that it touched */
  stamp({ x, y, radius, strength, isBuilding }: Dab, hardness: number): number[] {
    // An edge reaches a pixel further.
    const reach = radius + 1;
    const box = { x: x - reach, y: y - reach, width: 2 * reach, height: 2 * reach };
    const table = coverageTable(radius, hardness, strength);
    return this.#touch(box, ({ tile, left, top, right, bottom, indexOf }) => {
      for (let row = top; row < bottom; row += 1) {
        const dy = row + 0.5 - y;
        // Only what the dab reaches of a row.
        const half = Math.sqrt(Math.max(0, reach * reach - dy * dy));
        const first = Math.max(left, Math.floor(x - half));
        const last = Math.min(right, Math.ceil(x + half));
        const at = indexOf(first, row);
        stampRow(tile, at, last - first, first + 0.5 - x, dy, table, isBuilding);
      }
    });
  }

  /** Covers what is said row by row, within a box; what was covered more stays. @param rowAt - 0..1 for each pixel from `left` on; undefined: none */
  cover(
    box: Rectangle,
    rowAt: (y: number, left: number, right: number) => ArrayLike<number> | undefined,
  ): number[] {
    // Each row is asked for once, for all the tiles that it runs through.
    const across = new Map<number, TilePart[]>();
    const touched = this.#touch(box, (part) => across.set(part.top, [...(across.get(part.top) ?? []), part]));
    for (const parts of across.values()) {
      const left = parts[0]!.left;
      const right = parts.at(-1)!.right;
      for (let y = parts[0]!.top; y < parts[0]!.bottom; y += 1) {
        const shares = rowAt(y, left, right);
        if (shares) for (const part of parts) coverRow(part, y, shares, part.left - left);
      }
    }
    return touched;
  }

  #touch(box: Rectangle, alter: (part: TilePart) => void): number[] {
    const wanted = intersectionOf(box, this.#within);
    const touched: number[] = [];
    for (const place of tilesIn(wanted)) {
      const key = tileKey(place);
      const tile = this.#tiles.get(key) ?? new Uint16Array(TILE_PX * TILE_PX);
      this.#tiles.set(key, tile);
      touched.push(key);
      const origin = tileArea(place);
      const own = intersectionOf(wanted, origin);
      alter({
        tile,
        ...{ left: Math.floor(own.x), top: Math.floor(own.y) },
        ...{ right: Math.ceil(own.x + own.width), bottom: Math.ceil(own.y + own.height) },
        indexOf: (x, y) => (y - origin.y) * TILE_PX + x - origin.x,
      });
    }
    return touched;
  }
}
