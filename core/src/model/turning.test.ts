import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  boxAround,
  cameraOf,
  FIRST_VIEW,
  lightTowards,
  litFrom,
  type ModelView,
  NAMED_VIEWS,
  nearerBy,
  Outermost,
  pushedBy,
  radiusOf,
  reachOf,
  type Spot,
  standingPoints,
  takenView,
  towards,
  turnedBy,
  turnedTo,
  turnOf,
  verticalFieldDeg,
  wholeInView,
} from './index.ts';
import { ball, DIE, die } from './test/made-models.ts';

const points: readonly Spot[] = die().flatMap(({ corners }) => [...corners]);
const view = (part: Partial<ModelView> = {}): ModelView => ({ ...FIRST_VIEW, ...part });
const near = (value: readonly number[], wanted: readonly number[], digits = 9) =>
  value.forEach((one, at) => {
    expect(one).toBeCloseTo(wanted[at]!, digits);
  });

describe('where a model is seen from', () => {
  it('azimuth 0 is its front, 90 its left hand, elevation 90 from above', () => {
    near(towards({ azimuthDeg: 0, elevationDeg: 0 }), [0, 0, 1]);
    near(towards({ azimuthDeg: 90, elevationDeg: 0 }), [1, 0, 0]);
    near(towards({ azimuthDeg: 30, elevationDeg: 90 }), [0, 1, 0]);
    expect(NAMED_VIEWS.map(([name]) => name)).toContain('left side');
  });

  it('what is pulled to the left shows more of its left hand; pulled down, more of its top', () => {
    const front = view({ azimuthDeg: 0, elevationDeg: 0 });
    expect(turnedBy(front, -0.25, 0)).toMatchObject({ azimuthDeg: 45, elevationDeg: 0 });
    expect(turnedBy(front, 0, 0.25)).toMatchObject({ azimuthDeg: 0, elevationDeg: 45 });
    expect(turnedBy(front, 0, 9).elevationDeg).toBe(90);
    expect(turnedTo(front, { azimuthDeg: 190, elevationDeg: 0 }).azimuthDeg).toBe(-170);
  });

  it('a turn goes all around, evenly, from where it is', () => {
    const angles = turnOf(view({ azimuthDeg: 100 }), 8).map(({ azimuthDeg }) => azimuthDeg);
    expect(angles).toEqual([100, 145, -170, -125, -80, -35, 10, 55]);
  });

  it('a lens of 50 mm sees 46.8° along the diagonal, whatever the form of the picture', () => {
    const diagonal = (width: number, height: number) => {
      const half = Math.tan((verticalFieldDeg(50, width, height) * Math.PI) / 360);
      return (2 * Math.atan(half * Math.hypot(1, width / height)) * 180) / Math.PI;
    };
    for (const [width, height] of [
      [36, 24],
      [1, 1],
      [9, 16],
    ] as const)
      expect(diagonal(width, height)).toBeCloseTo(46.79, 2);
    expect(verticalFieldDeg(50, 36, 24)).toBeCloseTo(26.99, 2);
  });

  it('the axes of the camera stand upright on each other, and it looks at the middle', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -180, max: 180, noNaN: true }),
        fc.double({ min: -90, max: 90, noNaN: true }),
        (azimuthDeg, elevationDeg) => {
          const { position, target, up } = cameraOf(
            view({ azimuthDeg, elevationDeg }),
            boxAround(points),
            4,
            3,
          );
          near(target, [0, 0, 0]);
          const along = position.reduce((sum, value, axis) => sum + value * up[axis]!, 0);
          expect(along).toBeCloseTo(0, 6);
          expect(Math.hypot(...up)).toBeCloseTo(1, 9);
          expect(up[1]).toBeGreaterThanOrEqual(-1e-9);
        },
      ),
    );
  });

  it('another lens alters the perspective, not the size of what is in the middle', () => {
    const heights = [18, 50, 135, null].map(
      (lensMm) => cameraOf(view({ lensMm, nearer: 1 }), boxAround(points), 1, 1).halfHeight,
    );
    const radius = radiusOf(boxAround(points));
    for (const height of heights) expect(height / radius).toBeGreaterThanOrEqual(0.999);
    // A sphere seen from nearby reaches a little beyond its middle's circle: the shorter the lens, the more.
    expect(heights).toEqual([...heights].sort((a, b) => b - a));
    expect(heights[3]).toBeCloseTo(radius, 9);
  });

  it('all of it is in view from everywhere around, and nearly fills it somewhere', () => {
    for (const lensMm of [18, 50, 200, null])
      for (const [width, height] of [
        [4, 3],
        [1, 1],
        [2, 5],
      ] as const) {
        const whole = wholeInView(view({ lensMm, aside: { right: 1, up: 1 } }), points, width, height);
        const reaches = Array.from({ length: 72 }, (_, step) =>
          reachOf({ ...whole, azimuthDeg: step * 5 }, points, width, height),
        );
        expect(Math.max(...reaches)).toBeLessThan(1);
        expect(Math.max(...reaches)).toBeGreaterThan(0.9);
      }
  });

  it('pushed aside, it moves with the pointer: as far as it is wide in the picture', () => {
    const parallel = view({ azimuthDeg: 0, elevationDeg: 0, lensMm: null, nearer: 1 });
    const { target, halfHeight } = cameraOf(pushedBy(parallel, 0.1, 0.2), boxAround(points), 1, 1);
    // By a tenth of the picture to the right, and a fifth down.
    near(target, [-0.1 * 2 * halfHeight, 0.2 * 2 * halfHeight, 0]);
    expect(nearerBy(parallel, 1e9).nearer).toBe(40);
  });
});

describe('the light on a model', () => {
  it('comes from where it was dragged to: the middle is where one stands, the rim the side, beyond it behind', () => {
    const level = view({ azimuthDeg: 70, elevationDeg: 0 });
    expect(litFrom(level, 0, 0).light).toEqual({ azimuthDeg: 0, elevationDeg: 0 });
    expect(litFrom(level, 1, 0).light.azimuthDeg).toBeCloseTo(90, 9);
    expect(litFrom(level, -1, 0).light.azimuthDeg).toBeCloseTo(-90, 9);
    expect(litFrom(level, 0, -1).light.elevationDeg).toBeCloseTo(90, 9);
    expect(Math.abs(litFrom(level, 5, 0).light.azimuthDeg)).toBeCloseTo(180, 9);
  });

  it('from above, what lies at the middle is still where one stands', () => {
    const { light } = litFrom(view({ elevationDeg: 60 }), 0, 0);
    expect(light.elevationDeg).toBeCloseTo(60, 9);
    expect(light.azimuthDeg).toBeCloseTo(0, 9);
  });

  it('stays where it is for the viewer while the model is turned', () => {
    const lit = view({ azimuthDeg: 0, elevationDeg: 0, light: { azimuthDeg: 90, elevationDeg: 0 } });
    near(lightTowards(lit), [1, 0, 0]);
    near(lightTowards({ ...lit, azimuthDeg: 90 }), [0, 0, -1]);
  });

  it('a picture keeps the figures, to a tenth of a degree', () => {
    expect(takenView(view({ azimuthDeg: 33.333, elevationDeg: -0.04, lensMm: null }))).toEqual({
      ...{ azimuthDeg: 33.3, elevationDeg: 0, lightAzimuthDeg: -40, lightElevationDeg: 45, lensMm: null },
    });
  });
});

describe('how it stands', () => {
  it('with z up its top is up; its front comes to azimuth 0', () => {
    near(standingPoints([[1, 2, 3]], { up: 'z', frontDeg: 0 })[0]!, [1, 3, -2]);
    near(standingPoints([[1, 0, 0]], { up: 'y', frontDeg: 90 })[0]!, [0, 0, 1]);
    near(standingPoints([[0, -1, 0]], { up: 'z', frontDeg: 0 })[0]!, [0, 0, 1]);
  });

  it('its outermost points tell its box exactly, and how far it reaches nearly', () => {
    const outermost = new Outermost();
    const all = ball(20_000).flatMap(({ corners }) => [...corners]);
    for (const [x, y, z] of [...all, [Number.NaN, 9, 9] as const]) outermost.add(x, y, z);
    const found = outermost.points;
    expect(found.length).toBeLessThan(120);
    expect(boxAround(found)).toEqual(boxAround(all));
    for (const azimuthDeg of [0, 33, 71]) {
      const seen = view({ azimuthDeg, elevationDeg: 25 });
      expect(reachOf(seen, found, 4, 3) / reachOf(seen, all, 4, 3)).toBeGreaterThan(0.98);
    }
    expect(boxAround(points).max).toEqual([DIE.width / 2, DIE.height / 2, DIE.depth / 2]);
  });
});
