import type { Point, Rectangle } from '../geometry/index.ts';

/** Nodes of the mesh stand so far apart, px: between them it is even. */
const CELL_PX = 12;
/** No single push is longer than this share of its radius: what lies in front of it would fold over. */
const MOST_OF_RADIUS = 0.25;

/**
 * A mesh over a part of a sheet that is pushed and pulled like cloth. It tells for every pixel where what is seen there comes
 * from, so that it is drawn without gaps.
 */
export class PushPull {
  readonly #area: Rectangle;
  readonly #columns: number;
  readonly #rows: number;
  /** By node, row-major: how far what is seen there has come, x and y, px. */
  readonly #way: Float32Array;

  /** @param area - pixels of the sheet; its edge stays */
  constructor(area: Rectangle) {
    this.#area = area;
    this.#columns = Math.max(2, Math.ceil(area.width / CELL_PX) + 1);
    this.#rows = Math.max(2, Math.ceil(area.height / CELL_PX) + 1);
    this.#way = new Float32Array(this.#columns * this.#rows * 2);
  }

  /** Pushes what is near a point to another; within the radius, less and less towards its edge. @param radius - px */
  push(from: Point, to: Point, radius: number): void {
    const length = Math.hypot(to.x - from.x, to.y - from.y);
    const steps = Math.max(1, Math.ceil(length / (radius * MOST_OF_RADIUS)));
    const step = { x: (to.x - from.x) / steps, y: (to.y - from.y) / steps };
    for (let index = 1; index <= steps; index += 1)
      this.#pushOnce({ x: from.x + step.x * index, y: from.y + step.y * index }, step, radius);
  }

  /** Where what is seen at a point comes from. */
  sourceOf(point: Point): Point {
    const way = this.#wayAt(point);
    return { x: point.x - way.x, y: point.y - way.y };
  }

  #pushOnce(at: Point, step: Point, radius: number): void {
    const { x, y, width, height } = this.#area;
    const [across, down] = [width / (this.#columns - 1), height / (this.#rows - 1)];
    const nodes = (middle: number, from: number, size: number, count: number) => ({
      first: Math.max(1, Math.ceil((middle - radius - from) / size)),
      last: Math.min(count - 2, Math.floor((middle + radius - from) / size)),
    });
    const columns = nodes(at.x, x, across, this.#columns);
    const rows = nodes(at.y, y, down, this.#rows);
    const moved: [index: number, x: number, y: number][] = [];
    for (let row = rows.first; row <= rows.last; row += 1)
      for (let column = columns.first; column <= columns.last; column += 1) {
        const node = this.#nodeAt(column, row);
        const share = falloff(Math.hypot(node.x - at.x, node.y - at.y) / radius);
        if (share === 0) continue;
        const by = { x: step.x * share, y: step.y * share };
        // What comes to stand here had come from where it stood.
        const before = this.#wayAt({ x: node.x - by.x, y: node.y - by.y });
        moved.push([(row * this.#columns + column) * 2, before.x + by.x, before.y + by.y]);
      }
    for (const [index, wayX, wayY] of moved) {
      this.#way[index] = wayX;
      this.#way[index + 1] = wayY;
    }
  }

  #nodeAt(column: number, row: number): Point {
    const { x, y, width, height } = this.#area;
    return {
      x: x + (width * column) / (this.#columns - 1),
      y: y + (height * row) / (this.#rows - 1),
    };
  }

  #wayAt(point: Point): Point {
    const { x, y, width, height } = this.#area;
    const u = ((point.x - x) / width) * (this.#columns - 1);
    const v = ((point.y - y) / height) * (this.#rows - 1);
    if (!(u > 0 && v > 0 && u < this.#columns - 1 && v < this.#rows - 1)) return { x: 0, y: 0 };
    const [column, row] = [Math.floor(u), Math.floor(v)];
    const [right, down] = [u - column, v - row];
    const at = (row * this.#columns + column) * 2;
    const mixed = (part: 0 | 1) => {
      const way = this.#way;
      const above = way[at + part]! * (1 - right) + way[at + 2 + part]! * right;
      const next = at + this.#columns * 2;
      const below = way[next + part]! * (1 - right) + way[next + 2 + part]! * right;
      return above * (1 - down) + below * down;
    };
    return { x: mixed(0), y: mixed(1) };
  }
}

/** 1 in the middle, 0 at the radius, even at both. */
function falloff(share: number): number {
  if (share >= 1) return 0;
  const left = 1 - share * share;
  return left * left;
}
