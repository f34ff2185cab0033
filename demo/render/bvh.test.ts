import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Bvh } from './bvh.ts';

const number = fc.double({ min: -5, max: 5, noNaN: true });
const triangles = fc
  .array(fc.array(number, { minLength: 9, maxLength: 9 }), { minLength: 1, maxLength: 60 })
  .map((all) => Float32Array.from(all.flat()));
const direction = fc
  .tuple(number, number, number)
  .filter((d) => Math.hypot(...d) > 0.1)
  .map((d) => d.map((value) => value / Math.hypot(...d)) as [number, number, number]);

/** The first hit by trying every triangle: Cramer's rule in plain words. */
function bruteForce(corners: Float32Array, o: readonly number[], d: readonly number[]): number {
  let first = Infinity;
  for (let at = 0; at < corners.length; at += 9) {
    const [a, b, c] = [0, 3, 6].map((corner) => [0, 1, 2].map((axis) => corners[at + corner + axis]!));
    const e1 = b!.map((value, axis) => value - a![axis]!);
    const e2 = c!.map((value, axis) => value - a![axis]!);
    const s = o.map((value, axis) => value - a![axis]!);
    const minus = d.map((value) => -value);
    const whole = determinant(minus, e1, e2);
    if (Math.abs(whole) < 1e-9) continue;
    const t = determinant(s, e1, e2) / whole;
    const u = determinant(minus, s, e2) / whole;
    const v = determinant(minus, e1, s) / whole;
    if (t > 1e-6 && u >= 0 && v >= 0 && u + v <= 1) first = Math.min(first, t);
  }
  return first;
}

const determinant = (a: readonly number[], b: readonly number[], c: readonly number[]): number =>
  a[0]! * (b[1]! * c[2]! - b[2]! * c[1]!) -
  b[0]! * (a[1]! * c[2]! - a[2]! * c[1]!) +
  c[0]! * (a[1]! * b[2]! - a[2]! * b[1]!);

describe('rays through a tree of triangles', () => {
  it('hit what trying every triangle hits', () => {
    fc.assert(
      fc.property(triangles, fc.tuple(number, number, number), direction, (corners, from, along) => {
        const bvh = new Bvh(corners);
        const should = bruteForce(corners, from, along);
        const hits = bvh.cast(...from, ...along, 100, false);
        // On the rim of a triangle either answer is right.
        if (hits !== should < 100) return;
        if (hits) expect(bvh.distance).toBeCloseTo(should, 3);
      }),
      { numRuns: 400 },
    );
  });

  it('nearly never answer otherwise', () => {
    let same = 0;
    let asked = 0;
    fc.assert(
      fc.property(triangles, fc.tuple(number, number, number), direction, (corners, from, along) => {
        asked += 1;
        const hits = new Bvh(corners).cast(...from, ...along, 100, false);
        if (hits === bruteForce(corners, from, along) < 100) same += 1;
      }),
      { numRuns: 400 },
    );
    expect(same / asked).toBeGreaterThan(0.98);
  });

  it('tell whether anything that throws a shadow is in the way', () => {
    const wall = Float32Array.from([-1, -1, 2, 3, -1, 2, -1, 3, 2]);
    expect(new Bvh(wall).cast(0, 0, 0, 0, 0, 1, 10, true)).toBe(true);
    expect(new Bvh(wall).cast(0, 0, 0, 0, 0, 1, 1.9, true)).toBe(false);
    expect(new Bvh(wall, () => true).cast(0, 0, 0, 0, 0, 1, 10, true)).toBe(false);
  });
});
