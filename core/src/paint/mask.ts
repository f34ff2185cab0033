import type { Rectangle } from '../geometry/index.ts';
import { coverageAt, type Dab } from './brush.ts';
import { release, TILE_PX, tileKey } from './tiles.ts';

/** All of a pixel is covered. */
export const COVERED = 65_535;
/** How much of each pixel of a tile is covered, 0..65,535, row-major, length 256²: with eight bits a soft stroke shows steps. */
export type MaskTile = Uint16Array<ArrayBuffer>;

/** Larger dabs are read from a table; up to here one has more entries than the dab has pixels, and is too coarse at its middle. */
const LARGEST_EXACT_PX = 16;
const TABLE_ENTRIES = 4_096;

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
  const scale = TABLE_ENTRIES / (radius + 1) ** 2;
  const values = Float32Array.from(
    { length: TABLE_ENTRIES + 2 },
    (_, at) => COVERED * strength * coverageAt(Math.sqrt(at / scale), radius, hardness),
  );
  const table = { values, scale };
  lastTable = { of, table };
  return table;
}

/** What a dab adds to a pixel that was covered so much, both 0..65,535. */
const stamped = (before: number, covered: number, isBuilding: boolean): number =>
  isBuilding
    ? before + ((COVERED - before) * covered) / COVERED + 0.5
    : covered > before
      ? covered + 0.5
      : before;

/** Pixels of one row of one tile, and how far the first lies from the middle of the dab. */
interface DabRow {
  readonly tile: MaskTile;
  readonly from: number;
  readonly count: number;
  readonly dx: number;
  readonly dy: number;
}

/** Covers a row as a table says, to within half a step of eight bits. */
function stampByTable(
  { tile, from, count, dx, dy }: DabRow,
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
    tile[at] = stamped(tile[at]!, covered, isBuilding);
  }
}

/** Covers a row exactly. */
function stampExactly(
  { tile, from, count, dx, dy }: DabRow,
  { radius, strength, isBuilding }: Dab,
  hardness: number,
): void {
  for (let at = from, away = dx; at < from + count; at += 1, away += 1) {
    const covered = COVERED * strength * coverageAt(Math.sqrt(away * away + dy * dy), radius, hardness);
    tile[at] = stamped(tile[at]!, covered, isBuilding);
  }
}

/** A part of one tile, whole pixels of the sheet; `right` and `bottom` are beyond it. */
interface TilePart {
  readonly tile: MaskTile;
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
  /** A pixel of the sheet lies in the tile where `inTile` says by this. */
  readonly base: number;
}

/** Where a pixel of the sheet lies in a tile. */
const inTile = (base: number, x: number, y: number): number => y * TILE_PX + x - base;

/** Covers a row of one tile. @param from - which of the shares is of its first pixel */
function coverRow(
  { tile, left, right, base }: TilePart,
  y: number,
  shares: ArrayLike<number>,
  from: number,
): void {
  const first = inTile(base, left, y);
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
  stamp(dab: Dab, hardness: number): number[] {
    const { x, y, radius, strength, isBuilding } = dab;
    // An edge reaches a pixel further.
    const reach = radius + 1;
    const box = { x: x - reach, y: y - reach, width: 2 * reach, height: 2 * reach };
    const table = radius > LARGEST_EXACT_PX ? coverageTable(radius, hardness, strength) : undefined;
    return this.#touch(box, ({ tile, left, top, right, bottom, base }) => {
      for (let row = top; row < bottom; row += 1) {
        const dy = row + 0.5 - y;
        // Only what the dab reaches of a row.
        const half = Math.sqrt(Math.max(0, reach * reach - dy * dy));
        const first = Math.max(left, Math.floor(x - half));
        const last = Math.min(right, Math.ceil(x + half));
        const pixels = { tile, from: inTile(base, first, row), count: last - first, dx: first + 0.5 - x, dy };
        if (table) stampByTable(pixels, table, isBuilding);
        else stampExactly(pixels, dab, hardness);
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

  /** Goes through the tiles that a box touches, row by row. For every dab of a stroke: it makes as few objects as it can. */
  #touch(box: Rectangle, alter: (part: TilePart) => void): number[] {
    const within = this.#within;
    const left = Math.floor(Math.max(box.x, within.x));
    const top = Math.floor(Math.max(box.y, within.y));
    const right = Math.ceil(Math.min(box.x + box.width, within.x + within.width));
    const bottom = Math.ceil(Math.min(box.y + box.height, within.y + within.height));
    const touched: number[] = [];
    if (right <= left) return touched;
    for (let row = Math.floor(top / TILE_PX); row * TILE_PX < bottom; row += 1)
      for (let column = Math.floor(left / TILE_PX); column * TILE_PX < right; column += 1) {
        const key = tileKey({ column, row });
        touched.push(key);
        alter({
          tile: this.#tileOf(key),
          base: (row * TILE_PX + column) * TILE_PX,
          left: Math.max(left, column * TILE_PX),
          top: Math.max(top, row * TILE_PX),
          right: Math.min(right, (column + 1) * TILE_PX),
          bottom: Math.min(bottom, (row + 1) * TILE_PX),
        });
      }
    return touched;
  }

  #tileOf(key: number): MaskTile {
    let tile = this.#tiles.get(key);
    if (!tile) {
      tile = new Uint16Array(TILE_PX * TILE_PX);
      this.#tiles.set(key, tile);
    }
    return tile;
  }
}
