import type { Point } from '@miradero/core/geometry';

/** Corners of a line that a hand draws lie so far apart at least, CSS pixels. */
const STEP_PX = 3;

/** Dark and light side by side: seen on any picture. */
export const STROKES = [
  [3, 'rgba(20, 20, 20, 0.9)'],
  [1, '#fafaf9'],
] as const;

/** A line that a hand draws around something. */
export class Lasso {
  #points: Point[] = [];

  get points(): readonly Point[] {
    return this.#points;
  }
  begin(point: Point): void {
    this.#points = [point];
  }
  add(point: Point): void {
    const last = this.#points.at(-1);
    if (!last || Math.hypot(point.x - last.x, point.y - last.y) >= STEP_PX) this.#points.push(point);
  }
  /** Corners in place of what was drawn. */
  set(points: readonly Point[]): void {
    this.#points = [...points];
  }
  forget(): void {
    this.#points = [];
  }
  draw(context: CanvasRenderingContext2D): void {
    if (this.#points.length > 1) strokeLine(context, this.#points, this.#points.length === 4);
  }
}

export function strokeLine(
  context: CanvasRenderingContext2D,
  points: readonly Point[],
  isClosed: boolean,
): void {
  context.beginPath();
  for (const [index, { x, y }] of points.entries()) index === 0 ? context.moveTo(x, y) : context.lineTo(x, y);
  if (isClosed) context.closePath();
  for (const [width, colour] of STROKES) {
    context.lineWidth = width;
    context.strokeStyle = colour;
    context.stroke();
  }
}
