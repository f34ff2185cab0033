import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { linearToSrgb, luminanceOfSrgb, srgbToLinear } from '../colour/index.ts';
import type { Pixels } from './pixels.ts';
import { squint, squintCoarsely } from './squint.ts';
import { seeValues } from './values.ts';

const blank = (width: number, height: number, pixel: readonly number[]): Pixels => {
  const data = new Uint8ClampedArray(width * height * 4);
  for (let at = 0; at < data.length; at += 4) data.set(pixel, at);
  return { width, height, data };
};
const at = ({ width, data }: Pixels, x: number, y: number) => [
  ...data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4),
];
const channel = fc.integer({ min: 0, max: 255 });

describe('values', () => {
  it('are the grey of the same luminance, to half a level', () => {
    fc.assert(
      fc.property(channel, channel, channel, channel, (red, green, blue, alpha) => {
        const pixels = blank(1, 1, [red, green, blue, alpha]);
        seeValues(pixels);
        const [grey, g, b, a] = at(pixels, 0, 0);
        expect([g, b, a]).toEqual([grey, grey, alpha]);
        const wanted = 255 * linearToSrgb(luminanceOfSrgb(red, green, blue));
        expect(Math.abs(grey! - wanted)).toBeLessThanOrEqual(0.6);
      }),
    );
  });

  it('leave greys as they are', () => {
    for (let level = 0; level < 256; level += 1) {
      const pixels = blank(1, 1, [level, level, level, 255]);
      seeValues(pixels);
      expect(at(pixels, 0, 0)).toEqual([level, level, level, 255]);
    }
  });
});

describe('squinting', () => {
  const sigma = fc.double({ min: 0.5, max: 20, noNaN: true });

  it('leaves an even ground as it is, however large', () => {
    fc.assert(
      fc.property(channel, sigma, fc.integer({ min: 1, max: 70 }), (level, by, size) => {
        const pixels = blank(size, 90 - size, [level, 40, 200, 255]);
        squint(pixels, by);
        for (const [x, y] of [
          [0, 0],
          [size - 1, 89 - size],
        ] as const)
          expect(at(pixels, x, y)).toEqual([level, 40, 200, 255]);
      }),
      { numRuns: 60 },
    );
  });

  it('spreads an edge as a Gaussian does, in linear light', () => {
    for (const by of [2, 6, 15]) {
      const pixels = blank(200, 3, [0, 0, 0, 255]);
      for (let y = 0; y < 3; y += 1)
        for (let x = 100; x < 200; x += 1) pixels.data.set([255, 255, 255, 255], (y * 200 + x) * 4);
      squint(pixels, by);
      for (const z of [-1.5, -1, -0.5, 0.5, 1, 1.5]) {
        const x = Math.round(100 + z * by - 0.5);
        const wanted = normal((x + 0.5 - 100) / by);
        expect(Math.abs(srgbToLinear(at(pixels, x, 1)[0]! / 255) - wanted)).toBeLessThan(0.025);
      }
    }
  });

  it('in few pixels, enlarged, is the same within ten levels at the hardest edge, and within two on soft ground', () => {
    const size = 120;
    for (const by of [4, 5, 9, 17]) {
      for (const [isHard, least] of [
        [true, 10],
        [false, 2],
      ] as const) {
        const pixels = blank(size, size, [0, 0, 0, 255]);
        for (let y = 0; y < size; y += 1)
          for (let x = 0; x < size; x += 1) {
            const level = isHard ? (x + y > size ? 255 : 0) : 90 + (x + y) / 2;
            pixels.data.set([level, level, level, 255], (y * size + x) * 4);
          }
        const { pixels: small, step } = squintCoarsely(pixels, by)!;
        squint(pixels, by);
        const between = (x: number, y: number): number => {
          const along = (at: number, count: number) => {
            const u = Math.min(count - 1, Math.max(0, (at + 0.5) / step - 0.5));
            const first = Math.floor(u);
            return [first, Math.min(count - 1, first + 1), u - first] as const;
          };
          const [left, right, beside] = along(x, small.width);
          const [upper, lower, below] = along(y, small.height);
          const of = (column: number, row: number) => small.data[(row * small.width + column) * 4]!;
          return (
            (of(left, upper) * (1 - beside) + of(right, upper) * beside) * (1 - below) +
            (of(left, lower) * (1 - beside) + of(right, lower) * beside) * below
          );
        };
        let worst = 0;
        for (let y = 3; y < size - 3; y += 1)
          for (let x = 3; x < size - 3; x += 1)
            worst = Math.max(worst, Math.abs(between(x, y) - at(pixels, x, y)[0]!));
        expect(worst).toBeLessThan(least);
      }
    }
    expect(squintCoarsely(blank(9, 9, [1, 2, 3, 255]), 2)).toBeUndefined();
  });

  it('keeps light: what is averaged has the mean of what was there', () => {
    const pixels = blank(120, 120, [10, 10, 10, 255]);
    for (let y = 40; y < 80; y += 1)
      for (let x = 40; x < 80; x += 1) pixels.data.set([240, 120, 30, 255], (y * 120 + x) * 4);
    const light = (part: number) => {
      let sum = 0;
      for (let index = part; index < pixels.data.length; index += 4)
        sum += srgbToLinear(pixels.data[index]! / 255);
      return sum / (120 * 120);
    };
    const before = [0, 1, 2].map(light);
    squint(pixels, 7);
    for (const part of [0, 1, 2]) expect(light(part) / before[part]!).toBeCloseTo(1, 1);
  });

  it('lets no colour out of what is not there', () => {
    const pixels = blank(60, 60, [255, 0, 0, 0]);
    for (let y = 20; y < 40; y += 1)
      for (let x = 20; x < 40; x += 1) pixels.data.set([0, 128, 255, 255], (y * 60 + x) * 4);
    squint(pixels, 4);
    const [red, green, blue, alpha] = at(pixels, 18, 30);
    expect([red, green, blue]).toEqual([0, 128, 255]);
    expect(alpha).toBeGreaterThan(20);
    expect(alpha).toBeLessThan(235);
    expect(at(pixels, 1, 1)[3]).toBe(0);
  });
});

/** The normal distribution. Source: Abramowitz and Stegun 26.2.17, off by less than 7.5e-8. */
function normal(z: number): number {
  const t = 1 / (1 + 0.2316419 * Math.abs(z));
  const tail =
    (Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI)) *
    t *
    (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  return z >= 0 ? 1 - tail : tail;
}
