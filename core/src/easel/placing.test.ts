import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyAffine, type Point, type Rectangle } from '../geometry/index.ts';
import { type CapturedPixels, findSheet, placedByPoints } from './index.ts';

const coordinate = fc.double({ min: -2_000, max: 2_000, noNaN: true });
const point = fc.record({ x: coordinate, y: coordinate });
const away = (a: Point, b: Point) => Math.hypot(a.x - b.x, a.y - b.y);

describe('placing by marked points', () => {
  it('brings one, two and three onto where they belong', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(point, point), { minLength: 1, maxLength: 3 }), (pairs) => {
        const [from, to] = [pairs.map(([a]) => a), pairs.map(([, b]) => b)];
        const transform = placedByPoints(from, to);
        const across = (p: readonly Point[]) =>
          Math.abs((p[1]!.x - p[0]!.x) * (p[2]!.y - p[0]!.y) - (p[1]!.y - p[0]!.y) * (p[2]!.x - p[0]!.x));
        fc.pre(pairs.length < 2 || (away(from[0]!, from[1]!) > 1 && away(to[0]!, to[1]!) > 1));
        fc.pre(pairs.length < 3 || (across(from) > 1_000 && across(to) > 1_000));
        for (const [index, p] of from.entries())
          expect(away(applyAffine(transform!, p), to[index]!)).toBeLessThan(1e-3);
      }),
    );
  });

  it('by two leaves shapes as they are: no mirror, no squeeze', () => {
    fc.assert(
      fc.property(point, point, point, point, point, point, (a, b, p, q, one, other) => {
        fc.pre(away(a, b) > 1 && away(p, q) > 1);
        const transform = placedByPoints([a, b], [p, q])!;
        const scale = away(p, q) / away(a, b);
        const span = away(applyAffine(transform, one), applyAffine(transform, other));
        expect(span).toBeCloseTo(scale * away(one, other), 4);
        expect(transform[0] * transform[3] - transform[1] * transform[2]).toBeGreaterThan(0);
      }),
    );
  });

  it('says nothing where the points do not', () => {
    const [a, b] = [
      { x: 1, y: 1 },
      { x: 5, y: 9 },
    ];
    expect(placedByPoints([], [])).toBeUndefined();
    expect(placedByPoints([a, a], [a, b])).toBeUndefined();
    expect(placedByPoints([a, b], [b, b])).toBeUndefined();
    expect(placedByPoints([a, b, { x: 9, y: 17 }], [a, b, { x: 0, y: 4 }])).toBeUndefined();
    expect(() => placedByPoints([a], [a, b])).toThrow(/cannot be brought onto/);
  });
});

/**
 * A window of a drawing program: bars with buttons around a desk of one grey, a sheet on it, something drawn on that. Nothing
 * that is drawn has the desk's own grey: along a side nobody could tell the two apart.
 */
function windowWith(
  sheet: Rectangle,
  seed: number,
  { isBare = false, width = 480, height = 320 } = {},
): CapturedPixels {
  const data = new Uint8ClampedArray(4 * width * height);
  const fill = (r: Rectangle, [red, green, blue]: readonly number[]) => {
    for (let y = Math.max(0, r.y); y < Math.min(height, r.y + r.height); y += 1)
      for (let x = Math.max(0, r.x); x < Math.min(width, r.x + r.width); x += 1)
        data.set([red!, green!, blue!, 255], 4 * (y * width + x));
  };
  let state = seed;
  const random = () => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    return state / 2_147_483_648;
  };
  fill({ x: 0, y: 0, width, height }, [52, 54, 58]);
  const desk = { x: 40, y: 28, width: width - 40 - 90, height: height - 28 - 18 };
  for (let button = 0; button < 12; button += 1)
    fill({ x: 6, y: 34 + 22 * button, width: 28, height: 18 }, [70 + 9 * button, 80, 90]);
  for (let row = 0; row < 14; row += 1)
    fill({ x: width - 84, y: 34 + 18 * row, width: 78, height: 14 }, [80, 84 + 5 * row, 92]);
  fill(desk, [128, 128, 128]);
  fill(sheet, [250, 249, 245]);
  if (!isBare)
    for (let mark = 0; mark < 40; mark += 1) {
      const w = 4 + Math.floor(random() * sheet.width * 0.4);
      const h = 4 + Math.floor(random() * sheet.height * 0.4);
      const x = sheet.x + Math.floor(random() * (sheet.width - w));
      const y = sheet.y + Math.floor(random() * (sheet.height - h));
      const red = random() * 200;
      fill({ x, y, width: w, height: h }, [red < 100 ? red : red + 55, random() * 255, random() * 255]);
    }
  return { data, width, height };
}

describe('the sheet in a captured window', () => {
  const sheets = fc
    .record({
      w: fc.integer({ min: 110, max: 320 }),
      h: fc.integer({ min: 80, max: 250 }),
      fx: fc.double({ min: 0, max: 1, noNaN: true }),
      fy: fc.double({ min: 0, max: 1, noNaN: true }),
    })
    .map(({ w, h, fx, fy }) => ({
      ...{ x: 44 + Math.round(fx * (342 - w)), y: 32 + Math.round(fy * (266 - h)) },
      ...{ width: w, height: h },
    }));

  it('is found within a pixel, whatever is drawn on it that is not grey as the desk', () => {
    fc.assert(
      fc.property(sheets, fc.integer({ min: 1, max: 1e6 }), (sheet, seed) => {
        // The desk itself may happen to have its proportions: then nobody can say.
        fc.pre(Math.abs(350 - (sheet.width / sheet.height) * 274) > 8);
        const found = findSheet(windowWith(sheet, seed), sheet.width / sheet.height);
        expect(found).toBeDefined();
        const { x, y, width, height } = found!.rectangle;
        expect(Math.abs(x - sheet.x)).toBeLessThanOrEqual(1);
        expect(Math.abs(y - sheet.y)).toBeLessThanOrEqual(1);
        expect(Math.abs(x + width - sheet.x - sheet.width)).toBeLessThanOrEqual(1);
        expect(Math.abs(y + height - sheet.y - sheet.height)).toBeLessThanOrEqual(1);
      }),
      { numRuns: 40 },
    );
  });

  it('and not a frame that is drawn on it, nor the desk', () => {
    const sheet = { x: 90, y: 60, width: 240, height: 190 };
    const pixels = windowWith(sheet, 3, { isBare: true });
    const { data, width } = pixels;
    for (let y = 80; y < 230; y += 1)
      for (let x = 110; x < 310; x += 1)
        if (y < 82 || y >= 228 || x < 112 || x >= 308)
          data.fill(20, 4 * (y * width + x), 4 * (y * width + x) + 3);
    expect(findSheet(pixels, 240 / 190)?.rectangle).toEqual(sheet);
  });

  it('is not found where a side is out of view, or there is none', () => {
    // It goes on beneath the bar on the right.
    const over = windowWith({ x: 200, y: 60, width: 400, height: 190 }, 5, { isBare: true });
    expect(findSheet(over, 400 / 190)).toBeUndefined();
    const none = windowWith({ x: 0, y: 0, width: 0, height: 0 }, 7, { isBare: true });
    expect(findSheet(none, 1.5)).toBeUndefined();
  });
});
