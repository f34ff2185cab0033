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

/** How far a point lies from a line of corners; from the corner where it has one alone. */
export function distanceToLine(line: readonly Point[], { x, y }: Point): number {
  let least = Number.POSITIVE_INFINITY;
  for (let index = 0; index < line.length; index += 1) {
    const from = line[index]!;
    const to = line[index + 1] ?? from;
    const [dx, dy] = [to.x - from.x, to.y - from.y];
    const square = dx * dx + dy * dy;
    const along = square === 0 ? 0 : ((x - from.x) * dx + (y - from.y) * dy) / square;
    const on = Math.min(1, Math.max(0, along));
    least = Math.min(least, Math.hypot(from.x + on * dx - x, from.y + on * dy - y));
  }
  return least;
}
