import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cornersOfRegion, grownRegion, movedRegion, regionBetween, resizedRegion } from './region.ts';

const part = { x: 0.2, y: 0.3, width: 0.4, height: 0.2 };
const share = fc.double({ min: -2, max: 3, noNaN: true });

describe('a part of a picture', () => {
  it('lies between two points in any order, cut off at the edges', () => {
    expect(regionBetween({ x: 0.9, y: 1.4 }, { x: 0.5, y: -0.2 })).toEqual({
      x: 0.5,
      y: 0,
      width: 0.4,
      height: 1,
    });
    expect(regionBetween({ x: 0.5, y: 0.5 }, { x: 0.501, y: 0.9 })).toBeUndefined();
  });

  it('is moved and stays whole', () => {
    expect(movedRegion(part, { x: 0.1, y: -0.1 })).toEqual({ ...part, x: 0.3, y: 0.2 });
    expect(movedRegion(part, { x: 5, y: 5 })).toEqual({ ...part, x: 0.6, y: 0.8 });
  });

  it('is resized at a corner, its opposite staying', () => {
    expect(resizedRegion(part, 'se', { x: 0.7, y: 0.9 })).toEqual({
      x: 0.2,
      y: 0.3,
      width: 0.5,
      height: 0.6,
    });
    expect(resizedRegion(part, 'nw', { x: 0.1, y: 0.1 })).toEqual({
      x: 0.1,
      y: 0.1,
      width: 0.5,
      height: 0.4,
    });
    // Across the opposite corner it is turned over; onto it, it stays.
    expect(resizedRegion(part, 'se', { x: 0.1, y: 0.1 })).toEqual({
      x: 0.1,
      y: 0.1,
      width: 0.1,
      height: 0.2,
    });
    expect(resizedRegion(part, 'se', { x: 0.2, y: 0.3 })).toEqual(part);
  });

  it('never leaves the picture, whatever is done to it', () => {
    fc.assert(
      fc.property(share, share, fc.constantFrom('nw', 'ne', 'se', 'sw'), (x, y, corner) => {
        for (const made of [
          movedRegion(part, { x, y }),
          resizedRegion(part, corner, { x, y }),
          grownRegion(part, { x, y }),
        ])
          for (const [, at] of cornersOfRegion(made)) {
            expect(at.x).toBeGreaterThanOrEqual(0);
            expect(at.y).toBeGreaterThanOrEqual(0);
            expect(at.x).toBeLessThanOrEqual(1.0002);
            expect(at.y).toBeLessThanOrEqual(1.0002);
          }
      }),
    );
  });
});
