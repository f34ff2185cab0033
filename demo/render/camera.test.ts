import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cameraOf } from '../truth/check.ts';
import { Camera, directionOf, type Point, type Pose } from './camera.ts';

const pose: fc.Arbitrary<Pose> = fc.record({
  target: fc.constant([0.3, 1.2, -0.4] as Point),
  azimuthDeg: fc.double({ min: -180, max: 180, noNaN: true }),
  elevationDeg: fc.double({ min: -80, max: 80, noNaN: true }),
  distanceM: fc.double({ min: 1, max: 40, noNaN: true }),
  focalMm: fc.double({ min: 18, max: 200, noNaN: true }),
  rollDeg: fc.double({ min: -30, max: 30, noNaN: true }),
});

describe('a camera', () => {
  it('has its target in the middle, as far away as it says', () => {
    fc.assert(
      fc.property(pose, (one) => {
        const on = new Camera(one, 1600, 1040).project(one.target)!;
        expect(on.x).toBeCloseTo(800, 6);
        expect(on.y).toBeCloseTo(520, 6);
        expect(on.depth).toBeCloseTo(one.distanceM, 8);
      }),
    );
  });

  it('stands square: forward, right and up are one long and upright to each other', () => {
    fc.assert(
      fc.property(pose, (one) => {
        const { forward, right, up } = new Camera(one, 1600, 1040);
        const dot = (a: Point, b: Point) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
        for (const axis of [forward, right, up]) expect(dot(axis, axis)).toBeCloseTo(1, 9);
        for (const [a, b] of [
          [forward, right],
          [right, up],
          [up, forward],
        ] as const)
          expect(dot(a, b)).toBeCloseTo(0, 9);
      }),
    );
  });

  it('shows a metre across the view as long as the 35-mm equivalent makes it', () => {
    const camera = new Camera(
      { target: [0, 0, 0], azimuthDeg: 0, elevationDeg: 0, distanceM: 10, focalMm: 50 },
      ...([1800, 1200] as const),
    );
    const [left, right] = [camera.project([-0.5, 0, 0])!, camera.project([0.5, 0, 0])!];
    // 50 mm before a frame of 36 mm: a metre at ten metres is 5 mm of the 36.
    expect(right.x - left.x).toBeCloseTo((5 / 36) * 1800, 6);
  });

  it('sends far points along a direction to where that direction vanishes', () => {
    fc.assert(
      fc.property(pose, fc.constantFrom<Point>([1, 0, 0], [0, 1, 0], [0, 0, 1]), (one, direction) => {
        const camera = new Camera(one, 1600, 1040);
        const at = camera.vanishingPoint(direction);
        const ahead = camera.forward.reduce((sum, value, axis) => sum + value * direction[axis]!, 0);
        if (!at || Math.abs(ahead) < 0.05) return;
        const far = direction.map((value) => value * Math.sign(ahead) * 1e12) as unknown as Point;
        const on = camera.project(far)!;
        expect(Math.hypot(on.x - at.x, on.y - at.y)).toBeLessThan(0.01);
      }),
    );
  });

  it('sees nothing behind itself', () => {
    const camera = new Camera(
      { target: [0, 0, 0], azimuthDeg: 30, elevationDeg: 10, distanceM: 5, focalMm: 50 },
      ...([100, 100] as const),
    );
    const behind = directionOf(30, 10).map((value) => value * 6) as unknown as Point;
    expect(camera.project(behind)).toBeUndefined();
  });

  it('tilts the picture clockwise by its roll', () => {
    const still = { target: [0, 0, 0], azimuthDeg: 0, elevationDeg: 0, distanceM: 4, focalMm: 50 } as const;
    const above = new Camera({ ...still, rollDeg: 12 }, 800, 800).project([0, 0.5, 0])!;
    expect((Math.atan2(above.x - 400, 400 - above.y) * 180) / Math.PI).toBeCloseTo(12, 6);
  });

  it('agrees with the camera that truth files are checked by, tilted or not', () => {
    fc.assert(
      fc.property(pose, (one) => {
        const camera = new Camera(one, 1600, 1040);
        const { target, rollDeg = 0, ...rest } = one;
        const project = cameraOf({ ...rest, rollDeg, targetM: [...target] }, 1600, 1040);
        const at: Point = [target[0] + 0.2, target[1] - 0.1, target[2] + 0.15];
        const [ours, theirs] = [camera.project(at)!, project(at)];
        expect(Math.hypot(ours.x - theirs.x, ours.y - theirs.y)).toBeLessThan(0.01);
      }),
    );
  });
});
