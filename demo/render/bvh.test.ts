import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Bvh } from './bvh.ts';

// Even over the range: doubles as fast-check draws them are nearly all about zero.
const number = fc.integer({ min: -5_000, max: 5_000 }).map((thousandths) => thousandths / 1_000);
const triangles = fc
  .array(fc.array(number, { minLength: 9, maxLength: 9 }), { minLength: 1, maxLength: 60 })
  .map((all) => Float32Array.from(all.flat()));
const direction = fc
  .tuple(number, number, number)
  .filter((d) => Math.hypot(...d) > 0.1)
  .map((d) => d.map((value) => value / Math.hypot(...d)) as [number, number, number]);

const NEITHER = 0.01;

/** Where the ray hits the triangle from `at`; NaN where rounding decides: seen edge on, or hit at its rim. */
function hitOf(corners: Float32Array, at: number, o: readonly number[], d: readonly number[]): number {
  const [a, b, c] = [0, 3, 6].map((corner) => [0, 1, 2].map((axis) => corners[at + corner + axis]!));
  const e1 = b!.map((value, axis) => value - a![axis]!);
  const e2 = c!.map((value, axis) => value - a![axis]!);
  const s = o.map((value, axis) => value - a![axis]!);
  const minus = d.map((value) => -value);
  const whole = determinant(minus, e1, e2);
  if (Math.abs(whole) < NEITHER) return NaN;
  const t = determinant(s, e1, e2) / whole;
  const u = determinant(minus, s, e2) / whole;
  const v = determinant(minus, e1, s) / whole;
  const inside = Math.min(u, v, 1 - u - v);
  if (inside < -NEITHER || t < -NEITHER) return Infinity;
  return inside > NEITHER && t > NEITHER ? t : NaN;
}

/** The triangles of which no rounding decides, and the first hit of them by trying every one: Cramer's rule in plain words. */
function bruteForce(corners: Float32Array, o: readonly number[], d: readonly number[]) {
  const clear: number[] = [];
  let first = Infinity;
  for (let at = 0; at < corners.length; at += 9) {
    const hit = hitOf(corners, at, o, d);
    if (Number.isNaN(hit)) continue;
    clear.push(...corners.subarray(at, at + 9));
    first = Math.min(first, hit);
  }
  return { clear: Float32Array.from(clear), first };
}

const determinant = (a: readonly number[], b: readonly number[], c: readonly number[]): number =>
  a[0]! * (b[1]! * c[2]! - b[2]! * c[1]!) -
  b[0]! * (a[1]! * c[2]! - a[2]! * c[1]!) +
  c[0]! * (a[1]! * b[2]! - a[2]! * b[1]!);

describe('rays through a tree of triangles', () => {
  it('hit what trying every triangle hits', () => {
    let hit = 0;
    fc.assert(
      fc.property(triangles, fc.tuple(number, number, number), direction, (corners, from, along) => {
        const { clear, first } = bruteForce(corners, from, along);
        fc.pre(clear.length > 0);
        const bvh = new Bvh(clear);
        expect(bvh.cast(...from, ...along, 100, false)).toBe(first < 100);
        if (first < 100) {
          hit += 1;
          expect(Math.abs(bvh.distance - first)).toBeLessThan(0.002);
        }
      }),
      { numRuns: 400 },
    );
    expect(hit).toBeGreaterThan(40);
  });

  it('tell whether anything that throws a shadow is in the way', () => {
    const wall = Float32Array.from([-1, -1, 2, 3, -1, 2, -1, 3, 2]);
    expect(new Bvh(wall).cast(0, 0, 0, 0, 0, 1, 10, true)).toBe(true);
    expect(new Bvh(wall).cast(0, 0, 0, 0, 0, 1, 1.9, true)).toBe(false);
    expect(new Bvh(wall, () => true).cast(0, 0, 0, 0, 0, 1, 10, true)).toBe(false);
  });
});
