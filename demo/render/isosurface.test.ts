import { describe, expect, it } from 'vitest';
import { surfaceOf } from './isosurface.ts';

const BOUNDS = { least: [-1.3, -1.3, -1.3], greatest: [1.3, 1.3, 1.3] } as const;

describe('the surface of a field', () => {
  it('is closed, lies where the field is nought and faces outwards', () => {
    const geometry = surfaceOf((x, y, z) => Math.hypot(x, y, z) - 1, BOUNDS, 0.08);
    const at = geometry.getAttribute('position');
    const normal = geometry.getAttribute('normal');
    for (let index = 0; index < at.count; index += 1) {
      const [x, y, z] = [at.getX(index), at.getY(index), at.getZ(index)];
      expect(Math.hypot(x, y, z)).toBeCloseTo(1, 1);
      const out = x * normal.getX(index) + y * normal.getY(index) + z * normal.getZ(index);
      expect(out).toBeGreaterThan(0.9);
    }
    // Every edge of a closed surface belongs to two faces, once in each direction.
    const corners = [...geometry.getIndex()!.array];
    const edges = new Set<string>();
    for (let face = 0; face < corners.length; face += 3) {
      for (let side = 0; side < 3; side += 1)
        edges.add(`${corners[face + side]}>${corners[face + ((side + 1) % 3)]}`);
    }
    for (const edge of edges) expect(edges.has(edge.split('>').reverse().join('>')), edge).toBe(true);
    expect(edges.size).toBe(corners.length);
  });

  it('has the volume of its body', () => {
    const geometry = surfaceOf(
      (x, y, z) => Math.max(Math.abs(x), Math.abs(y), Math.abs(z)) - 0.8,
      BOUNDS,
      0.05,
    );
    const at = geometry.getAttribute('position');
    const corners = geometry.getIndex()!.array;
    let volume = 0;
    for (let face = 0; face < corners.length; face += 3) {
      const [a, b, c] = [0, 1, 2].map((side) => {
        const index = corners[face + side]!;
        return [at.getX(index), at.getY(index), at.getZ(index)] as const;
      });
      volume +=
        (a![0] * (b![1] * c![2] - b![2] * c![1]) -
          a![1] * (b![0] * c![2] - b![2] * c![0]) +
          a![2] * (b![0] * c![1] - b![1] * c![0])) /
        6;
    }
    expect(volume).toBeCloseTo(1.6 ** 3, 0);
  });
});
