import { CircleGeometry, SphereGeometry } from 'three';
import { describe, expect, it } from 'vitest';
import { Camera } from './camera.ts';
import { expose } from './expose.ts';
import type { Light } from './light.ts';
import { MeshBuilder, placed } from './mesh.ts';
import { SURFACE } from './surfaces.ts';
import { Tracer } from './trace.ts';

const SUN: Light = {
  ...{ kind: 'side', azimuthDeg: 90, elevationDeg: 40, radiusDeg: 0.3 },
  ...{ colour: [2, 2, 2], low: [0.1, 0.1, 0.1], high: [0.1, 0.1, 0.1] },
};

/** A ball of 1 m on the ground, seen from the front and a little above. */
function ball(light: Light) {
  const mesh = new MeshBuilder();
  mesh.add(new SphereGeometry(1, 48, 32), SURFACE.clay, placed(0, 1, 0));
  mesh.add(new CircleGeometry(9, 48), SURFACE.backdrop, placed(0, 0, 0, { turnDeg: [-90, 0, 0] }));
  const camera = new Camera(
    { target: [0, 1, 0], azimuthDeg: 0, elevationDeg: 18, distanceM: 9, focalMm: 60 },
    ...([120, 90] as const),
  );
  const tracer = new Tracer({ mesh: mesh.build() }, light);
  const { matt, rest } = expose(tracer, camera, 8);
  const level = (at: readonly [number, number, number]) => {
    const { x, y } = camera.project(at)!;
    const index = (Math.floor(y) * 120 + Math.floor(x)) * 3 + 1;
    return matt[index]! + rest[index]!;
  };
  return level;
}

describe('light', () => {
  it('falls from where it is said to come: the ball is bright on that side', () => {
    const level = ball(SUN);
    expect(level([0.7, 1.3, 0.5])).toBeGreaterThan(4 * level([-0.8, 0.9, 0.5]));
    const mirrored = ball({ ...SUN, azimuthDeg: -90 });
    expect(mirrored([-0.7, 1.3, 0.5])).toBeCloseTo(level([0.7, 1.3, 0.5]), 0);
  });

  it('throws the shadow to the other side, where the angle puts it', () => {
    const level = ball(SUN);
    // The middle of the shadow lies height / tan(elevation) away.
    const away = 1 / Math.tan((40 * Math.PI) / 180);
    expect(level([-away, 0, 0.1])).toBeLessThan(0.35 * level([2.1, 0, 0.3]));
  });

  it('falls off by the cosine: straight on twice what comes in at 60°', () => {
    const flat = (elevationDeg: number) => {
      const mesh = new MeshBuilder();
      mesh.add(new CircleGeometry(9, 48), SURFACE.backdrop, placed(0, 0, 0, { turnDeg: [-90, 0, 0] }));
      const dark = { low: [0, 0, 0], high: [0, 0, 0] } as const;
      const light: Light = { ...SUN, elevationDeg, ...dark };
      const camera = new Camera(
        { target: [0, 0, 0], azimuthDeg: 180, elevationDeg: 70, distanceM: 4, focalMm: 60 },
        ...([24, 24] as const),
      );
      const { matt } = expose(new Tracer({ mesh: mesh.build() }, light), camera, 8);
      return matt.reduce((sum, value) => sum + value, 0);
    };
    expect(flat(90) / flat(30)).toBeCloseTo(2, 1);
  });

  it('is the same at every run', () => {
    const one = ball(SUN)([0.3, 1.2, 0.8]);
    expect(ball(SUN)([0.3, 1.2, 0.8])).toBe(one);
  });
});
