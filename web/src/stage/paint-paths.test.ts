import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { withinPixels } from './worker/paint-paths.ts';

const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });

describe('what lies beneath everything', () => {
  it('is painted on the whole pixels within it, upright and at any scale', () => {
    fc.assert(
      fc.property(
        number(0.01, 40),
        number(-1_000, 1_000),
        number(-1_000, 1_000),
        number(200, 5_000),
        (scale, x, y, width) => {
          const size = { width, height: width / 2 };
          const [a, b, c, d, e, f] = withinPixels([scale, 0, 0, scale, x, y], size);
          if (scale * size.height < 3) return;
          expect([b, c]).toEqual([0, 0]);
          for (const [at, from, to] of [
            [e, x, x + scale * size.width],
            [f, y, y + scale * size.height],
            [e + a * size.width, x, x + scale * size.width],
            [f + d * size.height, y, y + scale * size.height],
          ] as const) {
            expect(Math.abs(at - Math.round(at))).toBeLessThan(1e-6);
            expect(at).toBeGreaterThan(from - 0.02);
            expect(at).toBeLessThan(to + 0.02);
            expect(Math.min(Math.abs(at - from), Math.abs(at - to))).toBeLessThan(1);
          }
        },
      ),
    );
  });

  it('is left as it is where it is turned, or smaller than a pixel', () => {
    const turned = [0, 1, -1, 0, 0.3, 0.4] as const;
    expect(withinPixels(turned, { width: 300, height: 200 })).toBe(turned);
    const small = [0.001, 0, 0, 0.001, 0.3, 0.4] as const;
    expect(withinPixels(small, { width: 300, height: 200 })).toBe(small);
  });
});
