import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { centreOf, type Point } from '../geometry/index.ts';
import { pictureToBoard, WHOLE } from '../items/index.ts';
import type { Item, Operation, Placement } from '../schema/index.ts';
import {
  angleBetween,
  applyChange,
  boundsOfItems,
  cornersOf,
  distanceToItem,
  fadeBy,
  MIN_OPACITY,
  mirror,
  multiply,
  normalTurn,
  restore,
  sizeAbout,
  turnAbout,
} from './index.ts';
import { item, placement } from './test/arbitrary.ts';

const some = fc
  .array(item(fc.constant('')), { minLength: 1, maxLength: 4 })
  .map((items) => items.map((one, index) => ({ ...one, id: `i${index}` })));

/** The items after operations, in their order. */
function after(items: readonly Item[], operations: readonly Operation[]): Item[] {
  const state = new Map(items.map((one) => [one.id, one]));
  applyChange(state, { id: '', operations });
  return items.map((one) => state.get(one.id)!);
}
const near = (a: Point, b: Point, digits = 5) => {
  expect(a.x).toBeCloseTo(b.x, digits);
  expect(a.y).toBeCloseTo(b.y, digits);
};
const aspectOf = (one: Item) => {
  const [a, b, , d] = cornersOf(one) as [Point, Point, Point, Point];
  return Math.hypot(b.x - a.x, b.y - a.y) / Math.hypot(d.x - a.x, d.y - a.y);
};

describe('turning', () => {
  it('moves every corner as a rigid body about the anchor', () => {
    fc.assert(
      fc.property(some, fc.integer({ min: -720, max: 720 }), (items, angle) => {
        const anchor = { x: 7, y: -3 };
        const turned = after(items, turnAbout(items, anchor, angle));
        const radians = (angle * Math.PI) / 180;
        for (const [index, one] of items.entries()) {
          for (const [corner, p] of cornersOf(one).entries()) {
            const [x, y] = [p.x - anchor.x, p.y - anchor.y];
            near(cornersOf(turned[index]!)[corner]!, {
              x: anchor.x + x * Math.cos(radians) - y * Math.sin(radians),
              y: anchor.y + x * Math.sin(radians) + y * Math.cos(radians),
            });
          }
        }
      }),
    );
  });

  it('is taken back by the same angle the other way, and four quarters are none', () => {
    fc.assert(
      fc.property(some, (items) => {
        const anchor = centreOf(boundsOfItems(items));
        let now: Item[] = items;
        for (let quarter = 0; quarter < 4; quarter += 1) now = after(now, turnAbout(now, anchor, 90));
        for (const [index, one] of items.entries()) {
          near(now[index]!.centre, one.centre);
          expect(now[index]!.turn).toBeCloseTo(normalTurn(one.turn), 9);
        }
      }),
    );
  });

  it('names every angle once, in (-180, 180]', () => {
    expect([0, 180, -180, 190, -190, 360, 539].map(normalTurn)).toEqual([0, 180, 180, -170, 170, 0, 179]);
  });

  it('measures the angle of a drag about the anchor, clockwise on screen', () => {
    expect(angleBetween({ x: 0, y: 0 }, { x: 1, y: 0 }, { x: 0, y: 5 })).toBeCloseTo(90);
    expect(angleBetween({ x: 2, y: 2 }, { x: 3, y: 2 }, { x: 2, y: 1 })).toBeCloseTo(-90);
  });
});

describe('mirroring', () => {
  it('shows each picture point at its mirror image about the common centre, twice gives the start', () => {
    fc.assert(
      fc.property(some, fc.constantFrom('flipX' as const, 'flipY' as const), (items, axis) => {
        const middle = centreOf(boundsOfItems(items));
        const mirrored = after(items, mirror(items, axis));
        for (const [index, one] of items.entries()) {
          if (one.kind !== 'placement') continue;
          for (const [x, y] of [
            [0, 0],
            [0.3, 0.8],
          ] as const) {
            const [a, b, c, d, e, f] = pictureToBoard(one);
            const before = { x: a * x + c * y + e, y: b * x + d * y + f };
            const [g, h, i, j, k, l] = pictureToBoard(mirrored[index] as Placement);
            near(
              { x: g * x + i * y + k, y: h * x + j * y + l },
              axis === 'flipX'
                ? { x: 2 * middle.x - before.x, y: before.y }
                : { x: before.x, y: 2 * middle.y - before.y },
            );
          }
        }
        const twice = after(mirrored, mirror(mirrored, axis));
        for (const [index, one] of items.entries()) {
          near(twice[index]!.centre, one.centre);
          expect(twice[index]!.turn).toBeCloseTo(normalTurn(one.turn), 9);
        }
      }),
    );
  });
});

describe('fading', () => {
  it('keeps each difference, within what can still be found', () => {
    const [a, b] = [0.4, 0.9].map((opacity, index) => ({ id: `i${index}`, opacity }) as Item);
    expect(fadeBy([a!, b!], -0.2)).toEqual([
      { item: 'i0', set: { opacity: 0.2 } },
      { item: 'i1', set: { opacity: 0.7 } },
    ]);
    expect(fadeBy([a!], -3)).toEqual([{ item: 'i0', set: { opacity: MIN_OPACITY } }]);
    expect(fadeBy([b!], 3)).toEqual([{ item: 'i1', set: { opacity: 1 } }]);
  });
});

describe('multiplying', () => {
  it('is for pictures alone, and is taken off where all of them are', () => {
    const [one, other] = ['a', 'b'].map((id) => ({ id, kind: 'placement' }) as Placement);
    const note = { id: 'n', kind: 'note' } as Item;
    const multiplied = { ...other!, blend: 'multiply' } as const;
    expect(multiply([note])).toEqual([]);
    expect(multiply([one!, note, multiplied])).toEqual([
      { item: 'a', set: { blend: 'multiply' } },
      { item: 'b', set: { blend: 'multiply' } },
    ]);
    expect(multiply([multiplied])).toEqual([{ item: 'b', set: { blend: 'normal' } }]);
    expect(restore([{ ...multiplied, trim: WHOLE, width: 1 } as Item])).toMatchObject([
      { set: { blend: 'normal' } },
    ]);
  });
});

describe('the original state', () => {
  it('is upright, unflipped, whole and opaque, with the same scale and centre', () => {
    fc.assert(
      fc.property(placement, (one) => {
        const [back] = after([one], restore([one])) as [Placement];
        expect(back).toMatchObject({ turn: 0, flipX: false, flipY: false, trim: WHOLE, opacity: 1 });
        near(back.centre, one.centre);
        expect(back.width / back.pictureWidth).toBeCloseTo(
          one.width / (one.trim.width * one.pictureWidth),
          9,
        );
      }),
    );
  });
});

describe('sizing about a point', () => {
  it('keeps what lies at the anchor there and every aspect, from a corner or the centre', () => {
    fc.assert(
      fc.property(some, fc.double({ min: 1, max: 6, noNaN: true }), (items, factor) => {
        const anchor = centreOf(boundsOfItems(items));
        const sized = after(items, sizeAbout(items, anchor, factor));
        const before = boundsOfItems(items);
        const bounds = boundsOfItems(sized);
        near(centreOf(bounds), anchor, 4);
        expect(bounds.width).toBeCloseTo(before.width * factor, 4);
        for (const [index, one] of items.entries()) {
          expect(distanceToItem(sized[index]!, sized[index]!.centre)).toBe(0);
          // A trim of a thousandth makes aspects of thousands: what counts is their ratio.
          expect(aspectOf(sized[index]!) / aspectOf(one)).toBeCloseTo(1, 8);
        }
      }),
    );
  });
});
