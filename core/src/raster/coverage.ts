import { boundsOfPoints, type Point, type Rectangle } from '../geometry/index.ts';

/** Lines a row of pixels is cut into; along each the covered length is exact. */
const LINES = 8;

interface Edge {
  readonly top: number;
  readonly bottom: number;
  /** At `top`. */
  readonly x: number;
  readonly perLine: number;
}

/** How much of each pixel lies within a polygon (even-odd), row by row: smooth edges without a renderer. */
export class Coverage {
  readonly bounds: Rectangle;
  readonly #edges: readonly Edge[];
  readonly #left: number;
  readonly #shares: Float32Array;
  /** What is added from a pixel on. */
  readonly #steps: Float32Array;

  /**
   * @param polygon - corners, pixels
   * @param left - first pixel of the rows asked for
   * @param width - of the rows, pixels
   */
  constructor(polygon: readonly Point[], left: number, width: number) {
    this.bounds = boundsOfPoints(polygon);
    this.#left = left;
    this.#shares = new Float32Array(width);
    this.#steps = new Float32Array(width + 2);
    this.#edges = polygon.flatMap((from, index) => {
      const to = polygon[(index + 1) % polygon.length]!;
      const [upper, lower] = from.y < to.y ? [from, to] : [to, from];
      if (upper.y === lower.y) return [];
      const perLine = (lower.x - upper.x) / (lower.y - upper.y);
      return [{ top: upper.y, bottom: lower.y, x: upper.x, perLine }];
    });
  }

  /** @returns the covered share of each pixel of a row, 0..1, valid until the next is asked for; undefined where none is */
  row(y: number): Float32Array | undefined {
    const { y: top, height } = this.bounds;
    if (y + 1 <= top || y >= top + height) return undefined;
    const near = this.#edges.filter((edge) => edge.top < y + 1 && edge.bottom > y);
    if (near.length === 0) return undefined;
    this.#shares.fill(0);
    this.#steps.fill(0);
    for (let line = 0; line < LINES; line += 1) {
      const at = y + (line + 0.5) / LINES;
      const crossings = near
        .filter((edge) => edge.top <= at && edge.bottom > at)
        .map((edge) => edge.x + (at - edge.top) * edge.perLine)
        .sort((a, b) => a - b);
      for (let index = 0; index + 1 < crossings.length; index += 2)
        this.#cover(crossings[index]! - this.#left, crossings[index + 1]! - this.#left);
    }
    const [shares, steps] = [this.#shares, this.#steps];
    let sum = 0;
    for (let x = 0; x < shares.length; x += 1) {
      sum += steps[x]!;
      shares[x] = Math.min(1, Math.max(0, (shares[x]! + sum) / LINES));
    }
    return shares;
  }

  #cover(from: number, to: number): void {
    const { length } = this.#shares;
    const start = Math.max(0, from);
    const end = Math.min(length, to);
    if (end <= start) return;
    const [first, last] = [Math.floor(start), Math.min(Math.floor(end), length - 1)];
    if (first === last) {
      this.#shares[first]! += end - start;
      return;
    }
    this.#shares[first]! += first + 1 - start;
    this.#shares[last]! += end - last;
    this.#steps[first + 1]! += 1;
    this.#steps[last]! -= 1;
  }
}
