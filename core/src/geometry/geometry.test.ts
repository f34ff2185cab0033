import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  applyAffine,
  boardToScreen,
  type Camera,
  cameraShowing,
  compose,
  containsRectangle,
  IDENTITY,
  intersectionOf,
  invertAffine,
  MAX_SCALE,
  MIN_SCALE,
  maskOfPolygon,
  overlaps,
  panBy,
  rotation,
  scaling,
  screenToBoard,
  translation,
  turnPoint,
  unionOf,
  viewOf,
  zoomAt,
} from './index.ts';

const finite = (limit: number) => fc.double({ min: -limit, max: limit, noNaN: true });
const point = fc.record({ x: finite(1e4), y: finite(1e4) });
const camera: fc.Arbitrary<Camera> = fc.record({
  centre: point,
  scale: fc.double({ min: MIN_SCALE, max: MAX_SCALE, noNaN: true }),
});
const viewport = fc.record({
  width: fc.integer({ min: 10, max: 4000 }),
  height: fc.integer({ min: 10, max: 4000 }),
});
const rectangle = fc.record({
  x: finite(1e3),
  y: finite(1e3),
  width: fc.double({ min: 1, max: 1e3, noNaN: true }),
  height: fc.double({ min: 1, max: 1e3, noNaN: true }),
});

describe('affine', () => {
  it('turns clockwise on screen, where y grows downward', () => {
    const turned = turnPoint({ x: 1, y: 0 }, 90);
    expect(turned.x).toBeCloseTo(0, 12);
    expect(turned.y).toBeCloseTo(1, 12);
    const same = applyAffine(rotation(90), { x: 1, y: 0 });
    expect(same).toEqual(turned);
  });

  it('applies the last of a product first', () => {
    const moved = applyAffine(compose(translation(10, 0), scaling(2, 3)), { x: 1, y: 1 });
    expect(moved).toEqual({ x: 12, y: 3 });
    expect(compose()).toEqual(IDENTITY);
  });

  it('comes back by its inverse', () => {
    fc.assert(
      fc.property(
        point,
        finite(360),
        fc.double({ min: 0.01, max: 100, noNaN: true }),
        point,
        (p, angle, size, by) => {
          const transform = compose(translation(by.x, by.y), rotation(angle), scaling(size, -size));
          const back = applyAffine(invertAffine(transform), applyAffine(transform, p));
          expect(back.x).toBeCloseTo(p.x, 4);
          expect(back.y).toBeCloseTo(p.y, 4);
        },
      ),
    );
  });

  it('refuses to invert what flattens the plane', () => {
    expect(() => invertAffine(scaling(0, 1))).toThrow(RangeError);
  });
});

describe('rectangle', () => {
  it('does not count touching edges as overlap', () => {
    expect(overlaps({ x: 0, y: 0, width: 1, height: 1 }, { x: 1, y: 0, width: 1, height: 1 })).toBe(false);
  });

  it('has an intersection inside both, empty exactly where nothing overlaps', () => {
    fc.assert(
      fc.property(rectangle, rectangle, (a, b) => {
        const shared = intersectionOf(a, b);
        if (!overlaps(a, b)) expect(shared.width * shared.height).toBe(0);
        else {
          expect(containsRectangle(unionOf([a, b])!, shared)).toBe(true);
          expect(shared.width).toBeLessThanOrEqual(Math.min(a.width, b.width) + 1e-9);
        }
      }),
    );
  });

  it('has no union of nothing', () => {
    expect(unionOf([])).toBeUndefined();
  });
});

describe('camera', () => {
  it('converts screen to board and back', () => {
    fc.assert(
      fc.property(camera, viewport, point, (c, v, p) => {
        const back = screenToBoard(c, v, boardToScreen(c, v, p));
        expect(back.x).toBeCloseTo(p.x, 3);
        expect(back.y).toBeCloseTo(p.y, 3);
      }),
    );
  });

  it('keeps the point under the pointer fixed while zooming, and its scale within 1 % to 3,200 %', () => {
    fc.assert(
      fc.property(
        camera,
        viewport,
        point,
        fc.double({ min: 0.01, max: 100, noNaN: true }),
        (c, v, p, factor) => {
          const before = screenToBoard(c, v, p);
          const zoomed = zoomAt(c, v, p, factor);
          const after = boardToScreen(zoomed, v, before);
          expect(Math.abs(after.x - p.x)).toBeLessThan(1e-4 * Math.max(1, Math.abs(p.x)));
          expect(Math.abs(after.y - p.y)).toBeLessThan(1e-4 * Math.max(1, Math.abs(p.y)));
          expect(zoomed.scale).toBeGreaterThanOrEqual(MIN_SCALE);
          expect(zoomed.scale).toBeLessThanOrEqual(MAX_SCALE);
        },
      ),
    );
  });

  it('lets the board follow the hand while panning', () => {
    const c = panBy({ centre: { x: 0, y: 0 }, scale: 2 }, { x: 10, y: -4 });
    expect(boardToScreen(c, { width: 100, height: 100 }, { x: 0, y: 0 })).toEqual({ x: 60, y: 46 });
  });

  it('shows a rectangle whole, centred, with its margin', () => {
    fc.assert(
      fc.property(rectangle, viewport, (r, v) => {
        const c = cameraShowing(r, v, 4);
        expect(c.centre).toEqual({ x: r.x + r.width / 2, y: r.y + r.height / 2 });
        if (c.scale > MIN_SCALE) expect(containsRectangle(viewOf(c, v), r)).toBe(true);
      }),
    );
    const c = cameraShowing({ x: 0, y: 0, width: 100, height: 50 }, { width: 220, height: 220 }, 10);
    expect(c.scale).toBe(2);
    expect(() => cameraShowing({ x: 0, y: 0, width: 0, height: 5 }, { width: 9, height: 9 })).toThrow(
      RangeError,
    );
  });
});

describe('the mask of a closed line', () => {
  const filled = (mask: Uint8Array) => mask.reduce((sum, one) => sum + one, 0);

  it('holds the pixels whose centre lies within', () => {
    const square = [
      { x: 1, y: 1 },
      { x: 4, y: 1 },
      { x: 4, y: 3 },
      { x: 1, y: 3 },
    ];
    expect([...maskOfPolygon(square, 5, 4)]).toEqual([
      ...[0, 0, 0, 0, 0],
      ...[0, 1, 1, 1, 0],
      ...[0, 1, 1, 1, 0],
      ...[0, 0, 0, 0, 0],
    ]);
    expect(filled(maskOfPolygon(square.slice(0, 2), 5, 4))).toBe(0);
  });

  it('is as large as what it encloses, but for its edge, also where that goes beyond the raster', () => {
    const circle = (radius: number, at: number) =>
      Array.from({ length: 90 }, (_, index) => ({
        x: at + radius * Math.cos((index * Math.PI) / 45),
        y: at + radius * Math.sin((index * Math.PI) / 45),
      }));
    expect(filled(maskOfPolygon(circle(40, 50), 100, 100)) / (Math.PI * 1600)).toBeCloseTo(1, 1);
    expect(filled(maskOfPolygon(circle(400, 50), 100, 100))).toBe(10_000);
  });

  it('leaves out what is gone around twice', () => {
    const twice = [0, 1, 2, 3, 0, 1, 2, 3].map((corner) => ({
      x: [1, 9, 9, 1][corner]!,
      y: [1, 1, 9, 9][corner]!,
    }));
    expect(filled(maskOfPolygon(twice, 10, 10))).toBe(0);
  });
});
