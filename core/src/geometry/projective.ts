import { solveLinear } from '../numeric/index.ts';
import type { Point } from './point.ts';

/** A projective transform of the plane, 3 × 3, row by row, the last element 1. Length 9. */
export type Projective = readonly number[];

/** Four points in order, each the neighbour of the next. */
export type Quad = readonly [Point, Point, Point, Point];

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
  const solution = solveLinear(rows, right);
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
