import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fillFrom, type SeenPixels, squaredDistances } from './fill.ts';

const [WIDTH, HEIGHT] = [120, 100];

/** White, with what is drawn in black. */
function drawing(isLine: (x: number, y: number) => boolean): SeenPixels {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4).fill(255);
  for (let y = 0; y < HEIGHT; y += 1)
    for (let x = 0; x < WIDTH; x += 1) if (isLine(x, y)) data.set([0, 0, 0, 255], (y * WIDTH + x) * 4);
  return { width: WIDTH, height: HEIGHT, data };
}

/** A ring about (60, 50), open to the right by so many pixels. */
const ring = (gapPx: number, thick = 2) =>
  drawing((x, y) => {
    const away = Math.hypot(x - 60, y - 50);
    const isOpen = x > 60 && Math.abs(y - 50) < gapPx / 2;
    return Math.abs(away - 30) <= thick / 2 && !isOpen;
  });
const isIn = (mask: Uint8Array, x: number, y: number) => mask[y * WIDTH + x] === 1;
const wish = { x: 60, y: 50, tolerance: 20, gapPx: 0 };

describe('distances', () => {
  it('are those to the nearest pixel that is none', () => {
    const bits = fc
      .array(fc.boolean(), { minLength: 63, maxLength: 63 })
      .filter((all) => all.includes(false));
    fc.assert(
      fc.property(bits, (all) => {
        const mask = Uint8Array.from(all, Number);
        const told = squaredDistances(mask, 9, 7);
        for (let at = 0; at < mask.length; at += 1) {
          let least = Number.POSITIVE_INFINITY;
          for (let other = 0; other < mask.length; other += 1)
            if (!mask[other])
              least = Math.min(
                least,
                ((at % 9) - (other % 9)) ** 2 + (Math.floor(at / 9) - Math.floor(other / 9)) ** 2,
              );
          expect(told[at]).toBe(least);
        }
      }),
    );
  });
});

describe('a fill', () => {
  it('goes up to closed lines, all of it, and not beyond', () => {
    const { mask, box } = fillFrom(ring(0), wish);
    expect([isIn(mask, 60, 50), isIn(mask, 87, 50), isIn(mask, 95, 50), isIn(mask, 2, 2)]).toEqual([
      ...[true, true, false, false],
    ]);
    expect(box).toEqual({ x: 32, y: 22, width: 57, height: 57 });
    let area = 0;
    for (const one of mask) area += one;
    expect(Math.abs(area / (Math.PI * 29 ** 2) - 1)).toBeLessThan(0.04);
  });

  it('takes openings up to a size for closed, and runs out of larger ones', () => {
    for (const gap of [2, 5, 9]) {
      expect(isIn(fillFrom(ring(gap), wish).mask, 110, 50), `${gap}, none closed`).toBe(true);
      const { mask } = fillFrom(ring(gap), { ...wish, gapPx: gap + 1 });
      expect(isIn(mask, 110, 50), `${gap}, closed`).toBe(false);
      // Up to the lines all around, and no further than the opening itself.
      expect([isIn(mask, 60, 22), isIn(mask, 60, 78), isIn(mask, 33, 50)]).toEqual([true, true, true]);
      expect(isIn(mask, 60 + 30 + gap + 3, 50)).toBe(false);
    }
    expect(isIn(fillFrom(ring(20), { ...wish, gapPx: 6 }).mask, 110, 50)).toBe(true);
  });

  it('does not grow through a thin line, and begins close to one all the same', () => {
    const { mask } = fillFrom(ring(6, 1.4), { ...wish, gapPx: 8 });
    for (let angle = 30; angle < 330; angle += 5) {
      const radians = (angle * Math.PI) / 180;
      const [x, y] = [Math.round(60 + 33 * Math.cos(radians)), Math.round(50 + 33 * Math.sin(radians))];
      expect(isIn(mask, x, y), String(angle)).toBe(false);
    }
    expect(isIn(fillFrom(ring(0), { ...wish, x: 88, gapPx: 8 }).mask, 60, 50)).toBe(true);
  });

  it('keeps to colours that are near, and refuses what is beyond the sheet', () => {
    const { data, ...size } = drawing(() => false);
    for (let x = 0; x < WIDTH; x += 1)
      for (let y = 0; y < HEIGHT; y += 1) data.set([255 - x, 255, 255], (y * WIDTH + x) * 4);
    const { mask } = fillFrom({ ...size, data }, { ...wish, x: 0, y: 0, tolerance: 40 });
    expect([isIn(mask, 40, 9), isIn(mask, 41, 9)]).toEqual([true, false]);
    for (const x of [-1, WIDTH, Number.NaN])
      expect(() => fillFrom(ring(0), { ...wish, x })).toThrow(RangeError);
  });
});
