import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Rectangle } from '../geometry/index.ts';
import { type CapturedPixels, findSheet, SheetTracker } from './index.ts';

const WINDOW = { width: 480, height: 320 } as const;
const DESK = { x: 44, y: 30, width: 350, height: 270 } as const;

/** A window of a drawing program in which a sheet lies at a place and a zoom, cut off by the bars around its desk. */
function windowWith(
  { x: left, y: top, width, height }: Rectangle,
  { marks = 70, seed = 5 } = {},
): CapturedPixels {
  const data = new Uint8ClampedArray(4 * WINDOW.width * WINDOW.height);
  const fill = (r: Rectangle, within: Rectangle, [red, green, blue]: readonly number[]) => {
    const [x0, y0] = [Math.round(Math.max(within.x, r.x)), Math.round(Math.max(within.y, r.y))];
    const x1 = Math.round(Math.min(within.x + within.width, r.x + r.width));
    const y1 = Math.round(Math.min(within.y + within.height, r.y + r.height));
    for (let y = y0; y < y1; y += 1)
      for (let x = x0; x < x1; x += 1) data.set([red!, green!, blue!, 255], 4 * (y * WINDOW.width + x));
  };
  let state = seed;
  const random = () => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    return state / 2_147_483_648;
  };
  const whole = { x: 0, y: 0, ...WINDOW };
  fill(whole, whole, [52, 54, 58]);
  for (let button = 0; button < 12; button += 1)
    fill({ x: 6, y: 34 + 22 * button, width: 28, height: 18 }, whole, [70 + 9 * button, 80, 90]);
  for (let row = 0; row < 14; row += 1)
    fill({ x: 400, y: 34 + 18 * row, width: 74, height: 14 }, whole, [80, 84 + 5 * row, 92]);
  fill(DESK, whole, [128, 128, 128]);
  fill({ x: left, y: top, width, height }, DESK, [250, 249, 245]);
  for (let mark = 0; mark < marks; mark += 1) {
    const [w, h] = [0.02 + random() * 0.1, 0.02 + random() * 0.1];
    const [x, y] = [random() * (1 - w), random() * (1 - h)];
    const ink = [random() * 200, random() * 200, random() * 200];
    const part = { x: left + x * width, y: top + y * height, width: w * width, height: h * height };
    fill(part, DESK, ink);
  }
  return { data, ...WINDOW };
}

/** Larger than the desk: never all four of its sides are in view. */
const SHEET = { width: 700, height: 560 } as const;
const ASPECT = SHEET.width / SHEET.height;
const at = (x: number, y: number): Rectangle => ({ x, y, ...SHEET });

describe('a sheet in a captured window', () => {
  it('that is scrolled is followed to the pixel, by what is drawn on it', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 400 }),
        fc.integer({ min: -90, max: 90 }),
        fc.integer({ min: -70, max: 70 }),
        (seed, dx, dy) => {
          const from = at(-120, -100);
          const tracker = new SheetTracker(windowWith(from, { seed }), from, ASPECT);
          const now = tracker.see(windowWith(at(from.x + dx, from.y + dy), { seed }));
          expect(now).toBeDefined();
          expect(Math.abs(now!.x - (from.x + dx))).toBeLessThanOrEqual(1);
          expect(Math.abs(now!.y - (from.y + dy))).toBeLessThanOrEqual(1);
        },
      ),
      { numRuns: 8 },
    );
  });

  it('is followed on over many scrolls, past what stands still', () => {
    const tracker = new SheetTracker(windowWith(at(-20, -20)), at(-20, -20), ASPECT);
    for (let step = 1; step <= 8; step += 1) {
      const there = at(-20 - 28 * step, -20 - 22 * step);
      const now = tracker.see(windowWith(there));
      expect(now, `after ${step} scrolls`).toBeDefined();
      expect(Math.abs(now!.x - there.x)).toBeLessThanOrEqual(2);
      expect(Math.abs(now!.y - there.y)).toBeLessThanOrEqual(2);
    }
  });

  it('is found by its sides at any zoom, as soon as all four are in view', () => {
    const from = at(-120, -100);
    const tracker = new SheetTracker(windowWith(from), from, ASPECT);
    const small = { x: 90, y: 60, width: 250, height: 200 };
    expect(findSheet(windowWith(small), ASPECT)?.rectangle).toEqual(small);
    expect(tracker.see(windowWith(small))).toEqual(small);
  });

  it('that cannot be told is not guessed: zoomed with its sides out of view, bare, or another one', () => {
    const from = at(-120, -100);
    const tracker = () => new SheetTracker(windowWith(from), from, ASPECT);
    expect(tracker().see(windowWith({ x: -400, y: -330, width: 1_400, height: 1_120 }))).toBeUndefined();
    expect(tracker().see(windowWith(from, { marks: 0 }))).toBeUndefined();
    expect(tracker().see(windowWith(from, { seed: 77 }))).toBeUndefined();
    // And is taken up again where it comes back.
    const one = tracker();
    one.see(windowWith(from, { marks: 0 }));
    expect(one.see(windowWith(at(-100, -100)))).toEqual(at(-100, -100));
  });
});
