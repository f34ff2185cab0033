import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { boundsOfPoints, type Point } from '../geometry/index.ts';
import { MEANT, meantAs, outlineToPath, penOf, type StrokePoint, strokeOutline } from './index.ts';

/** Trembling that is the same at every run. */
const tremble = (index: number, by: number): number => by * Math.sin(index * 12.9898) * Math.cos(index * 4.1);

/** A closed way around something, as a hand draws it: turned, trembling, begun anywhere. */
function around(of: (share: number) => Point, degrees: number, by: number): StrokePoint[] {
  const angle = (degrees * Math.PI) / 180;
  return Array.from({ length: 120 }, (_, index) => {
    const { x, y } = of((index / 117 + 0.13) % 1);
    return {
      x: 300 + x * Math.cos(angle) - y * Math.sin(angle) + tremble(index, by),
      y: -80 + x * Math.sin(angle) + y * Math.cos(angle) + tremble(index + 50, by),
      pressure: 0.3,
    };
  });
}
const onEllipse = (share: number): Point => ({
  x: 120 * Math.cos(2 * Math.PI * share),
  y: 50 * Math.sin(2 * Math.PI * share),
});
function onRectangle(share: number): Point {
  const at = share * 4;
  const part = (at % 1) * 2 - 1;
  const sides = [
    { x: 100 * part, y: -40 },
    { x: 100, y: 40 * part },
    { x: -100 * part, y: 40 },
    { x: -100, y: -40 * part },
  ];
  return sides[Math.floor(at) % 4]!;
}
/** The largest and least distance of points from the middle of what is meant. */
const reach = (points: readonly Point[]) => {
  const away = points.map(({ x, y }) => Math.hypot(x - 300, y + 80));
  return [Math.max(...away), Math.min(...away)] as const;
};

describe('what a stroke is meant as', () => {
  it('an ellipse has the middle, the axes and the way to lie of what was drawn', () => {
    for (const degrees of [0, 4, 30, 75, 140]) {
      const ellipse = meantAs(around(onEllipse, degrees, 3), 'ellipse', 4);
      const [far, near] = reach(ellipse);
      expect(Math.abs(far - 120)).toBeLessThan(6);
      expect(Math.abs(near - 50)).toBeLessThan(6);
      const { x, y } = ellipse[0]!;
      const lies = ((Math.atan2(y + 80, x - 300) * 180) / Math.PI + 360) % 180;
      const off = Math.abs(lies - (degrees < 9 ? 0 : degrees));
      expect(Math.min(off, 180 - off)).toBeLessThan(3);
    }
  });

  it('a rectangle has its corners, upright where it nearly is', () => {
    for (const degrees of [0, 6, 25, 60]) {
      const rectangle = meantAs(around(onRectangle, degrees, 2), 'rectangle', 4);
      const [far] = reach(rectangle);
      expect(Math.abs(far - Math.hypot(100, 40))).toBeLessThan(9);
      expect(rectangle[0]).toEqual(rectangle.at(-1));
      const { width, height } = boundsOfPoints(rectangle);
      if (degrees < 9) expect(Math.abs(width - 200) + Math.abs(height - 80)).toBeLessThan(34);
    }
  });

  it('a line goes from where it began to where it ended; an arrow has its tip there and its head behind', () => {
    const drawn = Array.from({ length: 40 }, (_, index) => ({
      ...{ x: index * 5, y: tremble(index, 6) },
      pressure: 0.5,
    }));
    const last = drawn.at(-1)!;
    expect(meantAs(drawn, 'line', 4)).toEqual([drawn[0], { ...last, pressure: 0.5 }]);
    const [from, tip, left, again, right] = meantAs(drawn, 'arrow', 4);
    expect(from).toEqual(drawn[0]);
    expect(tip).toEqual(again);
    for (const barb of [left!, right!]) {
      expect(barb.x).toBeLessThan(tip!.x - 20);
      expect(barb.x).toBeGreaterThan(tip!.x / 2);
    }
    expect(Math.sign(left!.y - tip!.y)).toBe(-Math.sign(right!.y - tip!.y));
  });

  it('of anything is something that can be drawn', () => {
    const figure = fc.integer({ min: -50, max: 50 });
    const point = fc.record({ x: figure, y: figure, pressure: fc.constantFrom(0, 0.5, 1) });
    fc.assert(
      fc.property(
        fc.array(point, { minLength: 1, maxLength: 12 }),
        fc.constantFrom(...MEANT),
        fc.integer({ min: 1, max: 90 }),
        (points, as, nib) => {
          const meant = meantAs(points, as, nib);
          const outline = strokeOutline(meant, { pen: penOf('hard-pencil'), nib, smoothing: 0 });
          expect(outline.length).toBeGreaterThan(2);
          expect(outlineToPath(outline, 2)).not.toMatch(/NaN|Infinity/);
        },
      ),
    );
    expect(meantAs([], 'ellipse', 3)).toEqual([]);
    expect(outlineToPath([], 2)).toBe('');
  });
});
