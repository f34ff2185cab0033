/** The upper edge of what is packed so far, as steps from left to right: where each begins, how wide and how far down it is. */
export class Skyline {
  readonly x: number[] = [0];
  readonly width: number[];
  readonly y: number[] = [0];

  /** @param width - of the strip, any unit */
  constructor(width: number) {
    this.width = [width];
  }

  /** The step with most room above. */
  get lowest(): number {
    let best = 0;
    for (let index = 1; index < this.y.length; index += 1) if (this.y[index]! < this.y[best]!) best = index;
    return best;
  }

  /** How far up the walls beside a step go; the sides of the strip go on for ever. */
  walls(step: number): readonly [left: number, right: number] {
    return [this.y[step - 1] ?? Number.POSITIVE_INFINITY, this.y[step + 1] ?? Number.POSITIVE_INFINITY];
  }

  /** Lays `width` × `height` on a step, at its left or right end. @returns where it begins */
  lay(step: number, width: number, height: number, isLeft: boolean): number {
    const rest = this.width[step]! - width;
    const top = this.y[step]! + height;
    const x = isLeft ? this.x[step]! : this.x[step]! + rest;
    if (rest <= 0) {
      this.y[step] = top;
      this.#join(step);
      return x;
    }
    this.width[step] = rest;
    if (isLeft) this.x[step] = x + width;
    const at = isLeft ? step : step + 1;
    this.#insert(at, x, width, top);
    this.#join(at);
    return x;
  }

  /** Gives a step up: it is as high as the lower of its walls. */
  raise(step: number): void {
    const to = Math.min(...this.walls(step));
    if (!Number.isFinite(to)) throw new RangeError('a strip without walls cannot be raised');
    this.y[step] = to;
    this.#join(step);
  }

  /** Raises the part of a step between two places to `y`: something stands there. */
  raisePart(step: number, from: number, to: number, y: number): void {
    const [start, end] = [this.x[step]!, this.x[step]! + this.width[step]!];
    const [left, right] = [Math.max(start, from), Math.min(end, to)];
    const base = this.y[step]!;
    this.x[step] = left;
    this.width[step] = right - left;
    this.y[step] = y;
    if (right < end) this.#insert(step + 1, right, end - right, base);
    if (left > start) this.#insert(step, start, left - start, base);
  }

  #insert(at: number, x: number, width: number, y: number): void {
    this.x.splice(at, 0, x);
    this.width.splice(at, 0, width);
    this.y.splice(at, 0, y);
  }

  /** Neighbours of one height are one step. */
  #join(step: number): void {
    for (const [low, high] of [
      [step, step + 1],
      [step - 1, step],
    ] as const) {
      if (this.y[low] === undefined || this.y[low] !== this.y[high]) continue;
      this.width[low]! += this.width[high]!;
      this.x.splice(high, 1);
      this.width.splice(high, 1);
      this.y.splice(high, 1);
    }
  }
}
