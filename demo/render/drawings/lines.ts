/** Line drawing in metres, x to the right and y up; widths of pen in millimetres of the sheet. */
export type Flat = readonly [x: number, y: number];
export type Pen = 'heavy' | 'medium' | 'fine' | 'hidden' | 'axis';

export interface Stroke {
  readonly pen: Pen;
  readonly points: readonly Flat[];
  readonly isClosed?: boolean;
  /** Covers what was drawn before, as what is nearer covers what is farther. */
  readonly isOpaque?: boolean;
}

export class LineDrawing {
  readonly strokes: Stroke[] = [];

  line(pen: Pen, ...points: Flat[]): void {
    this.strokes.push({ pen, points });
  }

  shape(pen: Pen, points: readonly Flat[], isOpaque = false): void {
    this.strokes.push({ pen, points, isClosed: true, isOpaque });
  }

  box(pen: Pen, x: number, y: number, width: number, height: number, isOpaque = false): void {
    this.shape(
      pen,
      [
        [x, y],
        [x + width, y],
        [x + width, y + height],
        [x, y + height],
      ],
      isOpaque,
    );
  }

  circle(pen: Pen, [x, y]: Flat, radius: number, isOpaque = false, sides = 64): void {
    const points = Array.from({ length: sides }, (_, index): Flat => {
      const angle = (index / sides) * 2 * Math.PI;
      return [x + Math.cos(angle) * radius, y + Math.sin(angle) * radius];
    });
    this.shape(pen, points, isOpaque);
  }

  /** A hanging line from one point to another. */
  hang(pen: Pen, from: Flat, to: Flat, sag: number, steps = 24): void {
    const points = Array.from({ length: steps + 1 }, (_, step): Flat => {
      const t = step / steps;
      return [from[0] + (to[0] - from[0]) * t, from[1] + (to[1] - from[1]) * t - 4 * sag * t * (1 - t)];
    });
    this.strokes.push({ pen, points });
  }
}
