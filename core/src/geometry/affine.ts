import type { Point } from './point.ts';

/**
 * A plane affine transform `[a, b, c, d, e, f]` in the order of CanvasRenderingContext2D.setTransform:
 * `x' = a·x + c·y + e`, `y' = b·x + d·y + f`.
 */
export type Affine = readonly [number, number, number, number, number, number];

export const IDENTITY: Affine = [1, 0, 0, 1, 0, 0];

export const translation = (x: number, y: number): Affine => [1, 0, 0, 1, x, y];
export const scaling = (x: number, y: number): Affine => [x, 0, 0, y, 0, 0];

/** Rotation about the origin, degrees, clockwise on screen (y down). */
export function rotation(angleDeg: number): Affine {
  const radians = (angleDeg * Math.PI) / 180;
  const cos = Math.cos(radians);
  const sin = Math.sin(radians);
  return [cos, sin, -sin, cos, 0, 0];
}

/** The transform that applies the *last* argument first, as in a written matrix product. */
export function compose(...transforms: readonly Affine[]): Affine {
  return transforms.reduce(
    ([a, b, c, d, e, f], [g, h, i, j, k, l]): Affine => [
      a * g + c * h,
      b * g + d * h,
      a * i + c * j,
      b * i + d * j,
      a * k + c * l + e,
      b * k + d * l + f,
    ],
    IDENTITY,
  );
}

export const applyAffine = ([a, b, c, d, e, f]: Affine, p: Point): Point => ({
  x: a * p.x + c * p.y + e,
  y: b * p.x + d * p.y + f,
});

/** By how much a transform alters areas; negative where it mirrors. */
export const determinantOf = ([a, b, c, d]: Affine): number => a * d - b * c;

/** @throws RangeError if the transform flattens the plane (determinant 0 or not finite) */
export function invertAffine(transform: Affine): Affine {
  const [a, b, c, d, e, f] = transform;
  const determinant = determinantOf(transform);
  if (!Number.isFinite(determinant) || determinant === 0) {
    throw new RangeError(`transform has no inverse: ${transform.join(', ')}`);
  }
  return [
    d / determinant,
    -b / determinant,
    -c / determinant,
    a / determinant,
    (c * f - d * e) / determinant,
    (b * e - a * f) / determinant,
  ];
}
