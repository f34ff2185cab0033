import type { Point } from './point.ts';

/** An axis-parallel rectangle; `x`, `y` are its top left corner, y grows downward. */
export interface Rectangle {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export const centreOf = (r: Rectangle): Point => ({ x: r.x + r.width / 2, y: r.y + r.height / 2 });

export const rectangleAround = (centre: Point, width: number, height: number): Rectangle => ({
  x: centre.x - width / 2,
  y: centre.y - height / 2,
  width,
  height,
});

/** The rectangle spanned by two opposite corners, in either order. */
export const rectangleBetween = (a: Point, b: Point): Rectangle => ({
  x: Math.min(a.x, b.x),
  y: Math.min(a.y, b.y),
  width: Math.abs(a.x - b.x),
  height: Math.abs(a.y - b.y),
});

/** The smallest rectangle that holds every point. @throws RangeError when there is none */
export function boundsOfPoints(points: readonly Point[]): Rectangle {
  if (points.length === 0) throw new RangeError('boundsOfPoints needs at least one point');
  let left = Number.POSITIVE_INFINITY;
  let top = Number.POSITIVE_INFINITY;
  let right = Number.NEGATIVE_INFINITY;
  let bottom = Number.NEGATIVE_INFINITY;
  for (const p of points) {
    left = Math.min(left, p.x);
    right = Math.max(right, p.x);
    top = Math.min(top, p.y);
    bottom = Math.max(bottom, p.y);
  }
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** The smallest rectangle that holds all of them; `undefined` for none. */
export function unionOf(rectangles: Iterable<Rectangle>): Rectangle | undefined {
  let left = Number.POSITIVE_INFINITY;
  let top = Number.POSITIVE_INFINITY;
  let right = Number.NEGATIVE_INFINITY;
  let bottom = Number.NEGATIVE_INFINITY;
  for (const r of rectangles) {
    left = Math.min(left, r.x);
    top = Math.min(top, r.y);
    right = Math.max(right, r.x + r.width);
    bottom = Math.max(bottom, r.y + r.height);
  }
  return left > right ? undefined : { x: left, y: top, width: right - left, height: bottom - top };
}

/** True when the interiors share area; touching edges do not count. */
export const overlaps = (a: Rectangle, b: Rectangle): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

export const containsPoint = (r: Rectangle, p: Point): boolean =>
  p.x >= r.x && p.x <= r.x + r.width && p.y >= r.y && p.y <= r.y + r.height;

export const containsRectangle = (outer: Rectangle, inner: Rectangle): boolean =>
  inner.x >= outer.x &&
  inner.y >= outer.y &&
  inner.x + inner.width <= outer.x + outer.width &&
  inner.y + inner.height <= outer.y + outer.height;

/** Grows (or, with a negative margin, shrinks) `r` by `margin` on every side. */
export const inflate = (r: Rectangle, margin: number): Rectangle => ({
  x: r.x - margin,
  y: r.y - margin,
  width: r.width + 2 * margin,
  height: r.height + 2 * margin,
});

/** The shared part of two rectangles; zero-sized (never negative) where they do not meet. */
export function intersectionOf(a: Rectangle, b: Rectangle): Rectangle {
  const x = Math.max(a.x, b.x);
  const y = Math.max(a.y, b.y);
  return {
    x,
    y,
    width: Math.max(0, Math.min(a.x + a.width, b.x + b.width) - x),
    height: Math.max(0, Math.min(a.y + a.height, b.y + b.height) - y),
  };
}
