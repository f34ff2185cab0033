import type { Point } from './point.ts';

/** A projective transform of the plane, 3 × 3, row by row, the last element 1. Length 9. */
export type Projective = readonly number[];

/** Four points in order, each the neighbour of the next. */
export type Quad = readonly [Point, Point, Point, Point];

/** Solves `rows · x = right` by elimination with the largest pivot; undefined where there is no single answer. */
function solve(rows: number[][], right: number[]): number[] | undefined {
  const size = right.length;
  const all = rows.map((row, index) => [...row, right[index]!]);
  for (let column = 0; column < size; column += 1) {
    let pivot = column;
    for (let row = column + 1; row < size; row += 1)
      if (Math.abs(all[row]![column]!) > Math.abs(all[pivot]![column]!)) pivot = row;
    [all[column], all[pivot]] = [all[pivot]!, all[column]!];
    const lead = all[column]![column]!;
    if (Math.abs(lead) < 1e-9) return undefined;
    for (let row = 0; row < size; row += 1) {
      if (row === column) continue;
      const factor = all[row]![column]! / lead;
      for (let at = column; at <= size; at += 1) all[row]![at]! -= factor * all[column]![at]!;
    }
  }
  return all.map((row, index) => row[size]! / row[index]!);
}

/**
 * The transform that brings the four points of `from` onto those of `to`.
 *
 * @throws RangeError where three of the points lie on one line
 * Source: Hartley and Zisserman, Multiple View Geometry, 2004, 4.1 (eight equations, h₃₃ = 1)
 */
export function projectiveFromQuads(from: Quad, to: Quad): Projective {
  const rows: number[][] = [];
  const right: number[] = [];
  for (const [index, { x, y }] of from.entries()) {
    const { x: u, y: v } = to[index]!;
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]);
    right.push(u, v);
  }
  const solution = solve(rows, right);
  if (!solution?.every(Number.isFinite)) throw new RangeError('three of the four points lie on one line');
  return [...solution, 1];
}

export function applyProjective(transform: Projective, { x, y }: Point): Point {
  const [a, b, c, d, e, f, g, h, i] = transform as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const w = g * x + h * y + i;
  return { x: (a * x + b * y + c) / w, y: (d * x + e * y + f) / w };
}
