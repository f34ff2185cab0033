import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  BAY_SHAPE_NAMES,
  BAY_SHAPES,
  bayAround,
  bayKind,
  createBay,
  regionOnBoard,
  shapeBay,
} from './bay.ts';

const side = fc.integer({ min: 20, max: 4_000 });
const region = fc.record({
  x: fc.integer({ min: -900, max: 900 }),
  y: fc.integer({ min: -900, max: 900 }),
  width: side,
  height: side,
});

describe('a bay', () => {
  it('has the region it was drawn around, its title above it', () => {
    fc.assert(
      fc.property(region, (drawn) => {
        const bay = createBay({ id: 'b', stack: 'a0', ...bayAround(drawn) });
        const now = regionOnBoard(bay);
        for (const name of ['x', 'y', 'width', 'height'] as const)
          expect(now[name]).toBeCloseTo(drawn[name], 6);
        expect(bayKind.gripOf!(bay).height + now.height).toBeCloseTo(bay.height, 6);
      }),
    );
  });

  it('is shaped at its corner, wide ones wide and high ones high', () => {
    const square = region.map((drawn) => ({ ...drawn, height: drawn.width }));
    fc.assert(
      fc.property(fc.oneof(region, square), fc.constantFrom(...BAY_SHAPE_NAMES), (drawn, shape) => {
        const bay = createBay({ id: 'b', stack: 'a0', ...bayAround(drawn) });
        const now = regionOnBoard({ ...bay, ...shapeBay(bay, shape) });
        const longer = Math.max(now.width, now.height) / Math.min(now.width, now.height);
        expect(longer).toBeCloseTo(BAY_SHAPES[shape], 6);
        expect(now.x).toBeCloseTo(drawn.x, 6);
        expect(now.y).toBeCloseTo(drawn.y, 6);
        expect(now.width).toBeCloseTo(drawn.width, 6);
        if (shape !== '1 : 1') expect(now.height > now.width).toBe(drawn.height > drawn.width);
      }),
    );
  });
});
