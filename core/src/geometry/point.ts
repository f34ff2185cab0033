/** A position or offset. The frame (board units, screen pixels, picture fractions) is named by the variable that holds it. */
export interface Point {
  readonly x: number;
  readonly y: number;
}

export const addPoints = (a: Point, b: Point): Point => ({ x: a.x + b.x, y: a.y + b.y });
export const subtractPoints = (a: Point, b: Point): Point => ({ x: a.x - b.x, y: a.y - b.y });
export const scalePoint = (p: Point, factor: number): Point => ({ x: p.x * factor, y: p.y * factor });
export const distance = (a: Point, b: Point): number => Math.hypot(a.x - b.x, a.y - b.y);

/** Turns `p` about the origin by `angleDeg`, clockwise as seen on screen (y grows downward). */
export function turnPoint(p: Point, angleDeg: number): Point {
  const radians = (angleDeg * Math.PI) / 180;
  const cos = Math.cos(radians);
  const sin = Math.sin(radians);
  return { x: p.x * cos - p.y * sin, y: p.x * sin + p.y * cos };
}
