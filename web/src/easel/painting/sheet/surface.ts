import { containsRectangle, type Rectangle } from '@miradero/core/geometry';
import type { SeenPart, SeenWindow } from '../messages.ts';

/** Pixels. */
interface Size {
  readonly width: number;
  readonly height: number;
}

const TILE_PX = 256;

/** An image of a part of a sheet, in parts of the whole one. */
export interface SurfaceImage {
  readonly image: HTMLCanvasElement;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Pixels of one level of a sheet, of all of it or of the part in view. */
class Level {
  readonly canvas = document.createElement('canvas');
  readonly #context: CanvasRenderingContext2D;
  readonly window: SeenWindow;
  /** Tiles that have not come yet. */
  readonly #missing: Set<string>;

  constructor(window: SeenWindow, before: Level | undefined) {
    this.window = window;
    const side = TILE_PX >> window.level;
    this.canvas.width = window.columns * side;
    this.canvas.height = window.rows * side;
    this.#context = this.canvas.getContext('2d')!;
    this.#missing = new Set();
    const known = before?.window.level === window.level ? before : undefined;
    for (let row = 0; row < window.rows; row += 1)
      for (let column = 0; column < window.columns; column += 1) {
        const place = `${window.column + column} ${window.row + row}`;
        if (!known?.has(window.column + column, window.row + row)) this.#missing.add(place);
      }
    if (known) {
      const x = (known.window.column - window.column) * side;
      const y = (known.window.row - window.row) * side;
      this.#context.drawImage(known.canvas, x, y);
    }
  }

  has(column: number, row: number): boolean {
    const { window } = this;
    const [right, down] = [column - window.column, row - window.row];
    const isIn = right >= 0 && down >= 0 && right < window.columns && down < window.rows;
    return isIn && !this.#missing.has(`${column} ${row}`);
  }

  get isWhole(): boolean {
    return this.#missing.size === 0;
  }

  put({ x, y, width, height, data }: SeenPart): void {
    const { level, column, row } = this.window;
    const side = TILE_PX >> level;
    this.#context.putImageData(new ImageData(data, width, height), x - column * side, y - row * side);
    if (width === side && height === side) this.#missing.delete(`${x / side} ${y / side}`);
  }

  /** In parts of the whole sheet. */
  imageOf({ width, height }: Size): SurfaceImage {
    const { column, row, columns, rows } = this.window;
    return {
      image: this.canvas,
      ...{ x: (column * TILE_PX) / width, y: (row * TILE_PX) / height },
      ...{ width: (columns * TILE_PX) / width, height: (rows * TILE_PX) / height },
    };
  }
}

/** What is seen of a sheet that a worker paints: all of it made small, and the part in view as fine as it is seen. */
export class PaintSurface {
  readonly size: Size;
  readonly #coarse: Level;
  #fine: Level | undefined;
  /** What was asked for last, until all of it has come: what is there is shown until then. */
  #next: Level | undefined;

  constructor(size: Size, coarse: number) {
    this.size = size;
    this.#coarse = new Level(this.#whole(coarse), undefined);
  }

  get coarseLevel(): number {
    return this.#coarse.window.level;
  }

  get bytes(): number {
    return [this.#coarse, this.#fine, this.#next].reduce(
      (sum, level) => sum + (level ? level.canvas.width * level.canvas.height * 4 : 0),
      0,
    );
  }

  /** All of it has come, small. */
  get isThere(): boolean {
    return this.#coarse.isWhole;
  }

  /** Whether it is this part that is shown finer, or will be; null: none is. */
  looksAt(window: SeenWindow | null): boolean {
    return isSame((this.#next ?? this.#fine)?.window ?? null, window);
  }

  /** Whether what is shown finer holds a part of the sheet, its pixels. */
  covers(part: Rectangle): boolean {
    if (!this.#fine?.isWhole) return false;
    const { column, row, columns, rows } = this.#fine.window;
    const [x, y, width, height] = [column, row, columns, rows].map((count) => count * TILE_PX);
    return containsRectangle({ x: x!, y: y!, width: width!, height: height! }, part);
  }

  /** Another part is shown finer; what has not come of it is to be asked for. */
  look(window: SeenWindow | null): void {
    const next = window ? new Level(window, this.#next ?? this.#fine) : undefined;
    this.#next = undefined;
    if (next && !next.isWhole && this.#fine?.isWhole) this.#next = next;
    else this.#fine = next;
  }

  put(parts: readonly SeenPart[]): void {
    for (const part of parts) {
      if (part.level === this.coarseLevel) this.#coarse.put(part);
      for (const one of [this.#fine, this.#next]) if (part.level === one?.window.level) one.put(part);
    }
    if (!this.#next?.isWhole) return;
    this.#fine = this.#next;
    this.#next = undefined;
  }

  /**
   * Lowest first.
   *
   * @param isSharp - what is shown finer holds all that is in view
   * @param isClear - one sees through it: then nothing of it may be drawn twice
   */
  images(isSharp: boolean, isClear: boolean): readonly SurfaceImage[] {
    const fine = this.#fine?.imageOf(this.size);
    if (fine && isSharp && this.#fine?.isWhole) return [fine];
    const coarse = this.#coarse.imageOf(this.size);
    return fine && !isClear ? [coarse, fine] : [coarse];
  }

  #whole(level: number): SeenWindow {
    const { width, height } = this.size;
    return {
      ...{ level, column: 0, row: 0 },
      ...{ columns: Math.ceil(width / TILE_PX), rows: Math.ceil(height / TILE_PX) },
    };
  }
}

const isSame = (one: SeenWindow | null, other: SeenWindow | null): boolean =>
  one === other ||
  (one !== null &&
    other !== null &&
    one.level === other.level &&
    one.column === other.column &&
    one.row === other.row &&
    one.columns === other.columns &&
    one.rows === other.rows);

/**
 * Which tiles are wanted, how fine.
 *
 * @param part - of the sheet that is in view, its pixels; undefined: nothing
 * @param perPixel - pixels of the sheet under one of the screen
 * @returns null where the small picture of all of it is fine enough
 */
export function windowFor(
  { width, height }: Size,
  part: { x: number; y: number; width: number; height: number } | undefined,
  perPixel: number,
  coarse: number,
): SeenWindow | null {
  const level = Math.max(0, Math.floor(Math.log2(Math.max(1, perPixel)) + 0.01));
  if (!part || level >= coarse) return null;
  const tile = (px: number) => Math.floor(px / TILE_PX);
  const [last, lowest] = [Math.ceil(width / TILE_PX) - 1, Math.ceil(height / TILE_PX) - 1];
  const [column, row] = [Math.max(0, tile(part.x)), Math.max(0, tile(part.y))];
  const [right, bottom] = [
    Math.min(last, tile(part.x + part.width)),
    Math.min(lowest, tile(part.y + part.height)),
  ];
  if (right < column || bottom < row) return null;
  return { level, column, row, columns: right - column + 1, rows: bottom - row + 1 };
}
