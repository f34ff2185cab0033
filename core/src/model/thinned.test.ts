import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { thinned } from './index.ts';
import { ball, die, type Triangle } from './test/made-models.ts';

const meshOf = (triangles: readonly Triangle[]) => ({
  positions: Float32Array.from(triangles.flatMap(({ corners }) => corners.flat())),
  indices: Uint32Array.from({ length: triangles.length * 3 }, (_, corner) => corner),
});

/** Six times the volume that triangles enclose. */
function volumeOf(positions: ArrayLike<number>, indices: ArrayLike<number>): number {
  let sum = 0;
  for (let at = 0; at < indices.length; at += 3) {
    const [a, b, c] = [0, 1, 2].map((corner) =>
      [0, 1, 2].map((axis) => positions[indices[at + corner]! * 3 + axis]!),
    );
    sum +=
      a![0]! * (b![1]! * c![2]! - b![2]! * c![1]!) +
      a![1]! * (b![2]! * c![0]! - b![0]! * c![2]!) +
      a![2]! * (b![0]! * c![1]! - b![1]! * c![0]!);
  }
  return sum;
}

describe('thinned', () => {
  it('leaves at most so many triangles and nearly as many, and the form stays', () => {
    const mesh = meshOf(ball(100_000));
    const whole = volumeOf(mesh.positions, mesh.indices);
    for (const most of [70_000, 50_000, 10_000, 1_000]) {
      const { kept, indices } = thinned(mesh, most);
      expect(indices.length / 3).toBeLessThanOrEqual(most);
      expect(indices.length / 3).toBeGreaterThan(most * 0.4);
      const positions = Float32Array.from(
        [...kept].flatMap((corner) => [...mesh.positions.slice(corner * 3, corner * 3 + 3)]),
      );
      // Closed as before, its outside outside: what it encloses is nearly the same.
      expect(volumeOf(positions, indices) / whole).toBeGreaterThan(0.9);
      expect(volumeOf(positions, indices) / whole).toBeLessThan(1.02);
    }
  });

  it('what is small enough stays as it is', () => {
    const mesh = meshOf(die());
    const { kept, indices } = thinned(mesh, 12);
    expect([...indices]).toEqual([...mesh.indices]);
    expect(kept).toHaveLength(36);
  });

  it('names corners that are there, each triangle with three different ones, none twice', () => {
    const corner = fc.tuple(
      fc.integer({ min: -5, max: 5 }),
      fc.integer({ min: -5, max: 5 }),
      fc.integer({ min: -5, max: 5 }),
    );
    fc.assert(
      fc.property(
        fc.array(fc.tuple(corner, corner, corner), { minLength: 1, maxLength: 60 }),
        fc.integer({ min: 1, max: 50 }),
        (triangles, most) => {
          const mesh = meshOf(triangles.map((corners) => ({ corners, colour: 0 })));
          const { kept, indices } = thinned(mesh, most);
          expect([...kept].every((one) => one < mesh.positions.length / 3)).toBe(true);
          expect([...indices].every((one) => one < kept.length)).toBe(true);
          if (triangles.length <= most) return;
          expect(indices.length / 3).toBeLessThanOrEqual(most);
          const seen = new Set<string>();
          for (let at = 0; at < indices.length; at += 3) {
            const three = [...indices.slice(at, at + 3)];
            expect(new Set(three).size).toBe(3);
            const least = three.indexOf(Math.min(...three));
            seen.add([...three.slice(least), ...three.slice(0, least)].join());
          }
          expect(seen.size).toBe(indices.length / 3);
        },
      ),
    );
  });
});
