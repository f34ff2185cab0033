import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { heightOf } from '../kind-of.ts';
import { createPlacement, shownInstead } from './placement.ts';

const side = fc.integer({ min: 1, max: 6_000 });
const share = fc.double({ min: 0.05, max: 1, noNaN: true });
const placement = fc
  .record({ pictureWidth: side, pictureHeight: side, width: share, height: share })
  .map(({ pictureWidth, pictureHeight, width, height }) =>
    createPlacement({
      ...{ id: 'p', stack: 'a0', picture: 'x', pictureWidth, pictureHeight, centre: { x: 0, y: 0 } },
      ...{ width: 400, trim: { x: 0, y: 0, width, height } },
    }),
  );

describe('a picture in the place of another', () => {
  it('is as wide, and no wider and no higher where its proportions are others', () => {
    fc.assert(
      fc.property(placement, side, side, (before, width, height) => {
        const after = { ...before, ...shownInstead(before, { id: 'y', width, height }) };
        expect([after.picture, after.pictureWidth, after.pictureHeight]).toEqual(['y', width, height]);
        const within = 1 + 2 / Math.min(width, height);
        expect(after.width).toBeLessThanOrEqual(before.width);
        expect(heightOf(after)).toBeLessThanOrEqual(heightOf(before) * within);
        // It fills what the other filled, one way or the other.
        const fills = Math.max(after.width / before.width, heightOf(after) / heightOf(before));
        expect(fills).toBeGreaterThan(1 - 1e-9);
      }),
    );
  });

  it('twice as large is as wide as it was, whatever rounding took', () => {
    const before = createPlacement({
      ...{ id: 'p', stack: 'a0', picture: 'x', pictureWidth: 1_201, pictureHeight: 800 },
      ...{ centre: { x: 0, y: 0 }, width: 300 },
    });
    expect(shownInstead(before, { id: 'y', width: 2_401, height: 1_600 }).width).toBe(300);
  });
});
