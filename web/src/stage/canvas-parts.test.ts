import fc from 'fast-check';
import { expect, it } from 'vitest';
import { around, pixelsAround } from './canvas-parts.ts';

const ALL = { x: 0, y: 0, width: 60, height: 40 };

it('strips around a hole leave out whole pixels of the hole alone, and none is drawn twice', () => {
  const side = fc.double({ min: -50, max: 80, noNaN: true });
  const length = fc.double({ min: 0, max: 90, noNaN: true });
  fc.assert(
    fc.property(side, side, length, length, fc.constantFrom(1, 1.5, 2), (x, y, width, height, ratio) => {
      const hole = { x, y, width, height };
      const strips = around(ALL, hole, ratio);
      for (let row = 0; row < ALL.height; row += 1)
        for (let column = 0; column < ALL.width; column += 1) {
          const count = strips.filter(
            (one) =>
              column >= one.x && column < one.x + one.width && row >= one.y && row < one.y + one.height,
          ).length;
          const isHidden =
            column >= x * ratio &&
            column + 1 <= (x + width) * ratio &&
            row >= y * ratio &&
            row + 1 <= (y + height) * ratio;
          expect(count).toBe(isHidden ? 0 : 1);
        }
    }),
    { numRuns: 60 },
  );
});

it('a part of the board is whole device pixels with a rim', () => {
  const view = { x: 10, y: 20, width: 100, height: 80 };
  expect(pixelsAround({ x: 12.3, y: 20, width: 4, height: 1 }, { view, scale: 2 })).toEqual({
    ...{ x: 2, y: -2, width: 13, height: 6 },
  });
});
