import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyAffine, centreOf, overlaps, type Rectangle } from '../geometry/index.ts';
import {
  createCluster,
  heightOf,
  pictureToBoard,
  trimBetween,
  trimByHandle,
  trimTo,
  WHOLE,
} from '../items/index.ts';
import type { Item, Placement } from '../schema/index.ts';
import {
  alongOneAxis,
  applyChange,
  applyOperation,
  arrange,
  boundsOf,
  compareStacking,
  cornersOf,
  distanceToItem,
  drawList,
  duplicate,
  freeCentre,
  HANDLES,
  handlePoint,
  isOnItem,
  keysOnTop,
  restack,
  restackByStep,
  sizeAbout,
  sizeFactor,
} from './index.ts';
import { board, placement } from './test/arbitrary.ts';

const plain: Placement = {
  id: 'p',
  kind: 'placement',
  stack: 'a0',
  removed: false,
  picture: '7b7cf7b2-0d0a-5b1c-9d7f-3d9b1c5f1a11',
  pictureWidth: 400,
  pictureHeight: 200,
  centre: { x: 0, y: 0 },
  width: 100,
  turn: 0,
  opacity: 1,
  flipX: false,
  flipY: false,
  trim: WHOLE,
};
const near = (a: { x: number; y: number }, b: { x: number; y: number }) => {
  expect(a.x).toBeCloseTo(b.x, 6);
  expect(a.y).toBeCloseTo(b.y, 6);
};

describe('a placement', () => {
  it('has the height that follows from the aspect of its trimmed part', () => {
    expect(heightOf(plain)).toBe(50);
    expect(heightOf({ ...plain, trim: { x: 0, y: 0, width: 0.5, height: 1 } })).toBe(100);
  });

  it('maps fractions of the whole picture to the board', () => {
    near(applyAffine(pictureToBoard(plain), { x: 0, y: 0 }), { x: -50, y: -25 });
    near(applyAffine(pictureToBoard({ ...plain, flipX: true }), { x: 0, y: 0 }), { x: 50, y: -25 });
    near(applyAffine(pictureToBoard({ ...plain, turn: 90 }), { x: 1, y: 0.5 }), { x: 0, y: 50 });
    const trimmed = { ...plain, trim: { x: 0.5, y: 0, width: 0.5, height: 1 } };
    near(applyAffine(pictureToBoard(trimmed), { x: 0.5, y: 0 }), { x: -50, y: -50 });
  });

  it('is hit exactly within its corners', () => {
    fc.assert(
      fc.property(placement, (one) => {
        expect(isOnItem(one, one.centre)).toBe(true);
        const [a, , c] = cornersOf(one);
        expect(isOnItem(one, { x: a!.x + (a!.x - c!.x) * 0.01, y: a!.y + (a!.y - c!.y) * 0.01 })).toBe(false);
      }),
    );
  });

  it('is as far away as its nearest side, however it is turned', () => {
    fc.assert(
      fc.property(placement, fc.double({ min: 0.1, max: 900, noNaN: true }), (one, away) => {
        expect(distanceToItem(one, one.centre)).toBe(0);
        const [a, b] = cornersOf(one);
        const side = { x: (a!.x + b!.x) / 2, y: (a!.y + b!.y) / 2 };
        const out = { x: side.x - one.centre.x, y: side.y - one.centre.y };
        const length = Math.hypot(out.x, out.y);
        const beyond = { x: side.x + (out.x / length) * away, y: side.y + (out.y / length) * away };
        expect(distanceToItem(one, beyond)).toBeCloseTo(away, 4);
        // Past a corner, along the diagonal, the corner is what is nearest.
        const past = { x: a!.x + (a!.x - one.centre.x), y: a!.y + (a!.y - one.centre.y) };
        expect(distanceToItem(one, past)).toBeCloseTo(Math.hypot(a!.x - past.x, a!.y - past.y), 4);
      }),
    );
  });

  it('lies within its bounds', () => {
    fc.assert(
      fc.property(placement, (one) => {
        const b = boundsOf(one);
        for (const corner of cornersOf(one)) {
          expect(corner.x).toBeGreaterThanOrEqual(b.x - 1e-6);
          expect(corner.y).toBeLessThanOrEqual(b.y + b.height + 1e-6);
        }
      }),
    );
  });
});

describe('trim', () => {
  it('does not move or scale what stays visible', () => {
    const inner = fc.record({
      x: fc.double({ min: 0, max: 0.5, noNaN: true }),
      y: fc.double({ min: 0, max: 0.5, noNaN: true }),
      width: fc.double({ min: 0.1, max: 0.5, noNaN: true }),
      height: fc.double({ min: 0.1, max: 0.5, noNaN: true }),
    });
    fc.assert(
      fc.property(placement, inner, (given, trim) => {
        const { x, y, width, height } = given.trim;
        // Those that lean have their own tests, beside the trims.
        const one = { ...given, trim: { x, y, width, height } };
        const trimmed = applyOperation(one, trimTo(one, trim)) as Placement;
        const middle = { x: trim.x + trim.width / 2, y: trim.y + trim.height / 2 };
        near(applyAffine(pictureToBoard(trimmed), middle), applyAffine(pictureToBoard(one), middle));
        expect(trimmed.width / trimmed.trim.width).toBeCloseTo(one.width / one.trim.width, 6);
        const back = applyOperation(trimmed, trimTo(trimmed, one.trim)) as Placement;
        near(back.centre, one.centre);
        expect(back.width).toBeCloseTo(one.width, 6);
      }),
    );
  });

  it('is what a drag across the picture marks, clipped to it', () => {
    expect(trimBetween(plain, { x: 0, y: -100 }, { x: 25, y: 0 })).toEqual({
      x: 0.5,
      y: 0,
      width: 0.25,
      height: 0.5,
    });
    const flipped = trimBetween({ ...plain, flipX: true }, { x: 0, y: -100 }, { x: 25, y: 0 });
    expect(flipped.x).toBeCloseTo(0.25, 9);
  });

  it('follows its handles, never past the opposite side or the picture', () => {
    expect(trimByHandle(plain, { x: 1, y: 0 }, { x: 0, y: 7 })).toEqual({
      x: 0,
      y: 0,
      width: 0.5,
      height: 1,
    });
    expect(trimByHandle(plain, { x: -1, y: -1 }, { x: -900, y: -900 })).toEqual(WHOLE);
    const narrow = trimByHandle(plain, { x: 1, y: 0 }, { x: -900, y: 0 });
    expect(narrow.width).toBeGreaterThan(0);
    expect(narrow.width).toBeLessThan(0.01);
  });
});

describe('sizing', () => {
  it('keeps the anchor, the aspect and the distances in proportion', () => {
    fc.assert(
      fc.property(placement, fc.double({ min: 0.5, max: 8, noNaN: true }), (one, factor) => {
        const anchor = handlePoint(one, HANDLES[0]!);
        const [operation] = sizeAbout([{ ...one, width: 100 }], anchor, factor);
        const start = { ...one, width: 100 };
        const anchorOfStart = handlePoint(start, HANDLES[0]!);
        const sized = applyOperation(start, sizeAbout([start], anchorOfStart, factor)[0]!)!;
        near(handlePoint(sized, HANDLES[0]!), anchorOfStart);
        expect(sized.width / heightOf(sized)).toBeCloseTo(start.width / heightOf(start), 6);
        expect(operation).toBeDefined();
      }),
    );
  });

  it('takes the factor from the drag along the diagonal, and never turns inside out', () => {
    expect(sizeFactor({ x: 0, y: 0 }, { x: 10, y: 10 }, { x: 20, y: 20 })).toBe(2);
    expect(sizeFactor({ x: 0, y: 0 }, { x: 10, y: 0 }, { x: 5, y: 99 })).toBe(0.5);
    expect(sizeFactor({ x: 0, y: 0 }, { x: 10, y: 10 }, { x: -20, y: -20 })).toBeGreaterThan(0);
  });

  it('holds a drag to its larger axis', () => {
    expect(alongOneAxis({ x: -5, y: 4 })).toEqual({ x: -5, y: 0 });
    expect(alongOneAxis({ x: 1, y: 4 })).toEqual({ x: 0, y: 4 });
  });
});

describe('copying', () => {
  it('copies with new ids, above everything', () => {
    const keys = keysOnTop([plain], 1);
    const [copy] = duplicate([plain], { x: 5, y: 5 }, () => 'q', keys);
    expect(copy).toEqual({ ...plain, id: 'q', stack: keys[0], centre: { x: 5, y: 5 } });
    expect(compareStacking(plain, copy!)).toBeLessThan(0);
  });
});

describe('stacking', () => {
  const order = (items: readonly Item[]) => [...items].sort(compareStacking).map((item) => item.id);
  const apply = (items: readonly Item[], operations: ReturnType<typeof restack>) => {
    const state = new Map(items.map((item) => [item.id, item]));
    if (operations.length > 0) applyChange(state, { id: 'c', operations });
    return [...state.values()];
  };

  it('puts items directly above another one, equal keys included, and leaves the order of the rest', () => {
    fc.assert(
      fc.property(board, fc.nat(), fc.nat(), (items, whichMoved, whichBelow) => {
        fc.pre(items.length >= 2);
        const moved = items[whichMoved % items.length]!.id;
        const rest = order(items).filter((id) => id !== moved);
        const below = rest[whichBelow % rest.length]!;
        const after = order(apply(items, restack(items, new Set([moved]), below)));
        expect(after.filter((id) => id !== moved)).toEqual(rest);
        expect(after.indexOf(moved)).toBe(after.indexOf(below) + 1);
      }),
      { numRuns: 400 },
    );
  });

  it('puts items at the very bottom', () => {
    const items = ['a', 'b', 'c'].map((id, index) => ({ ...plain, id, stack: `a${index}` }));
    expect(order(apply(items, restack(items, new Set(['c']), null)))).toEqual(['c', 'a', 'b']);
  });

  it('raises past the next that overlaps, lowers back, and stops at the ends', () => {
    const at = (id: string, x: number, index: number): Item => ({
      ...plain,
      id,
      stack: `a${index}`,
      centre: { x, y: 0 },
    });
    const items = [at('a', 0, 0), at('far', 1000, 1), at('b', 10, 2), at('c', 20, 3)];
    const raised = apply(items, restackByStep(items, new Set(['a']), 'raise'));
    expect(order(raised)).toEqual(['far', 'b', 'a', 'c']);
    const lowered = apply(raised, restackByStep(raised, new Set(['a']), 'lower'));
    expect(order(lowered)).toEqual(['far', 'a', 'b', 'c']);
    expect(restackByStep(items, new Set(['c']), 'raise')).toEqual([]);
  });

  it('by a step goes past what it overlaps, not past what lies edge to edge or is not seen', () => {
    const at = (id: string, index: number, x: number, width: number): Item => ({
      ...plain,
      ...{ id, stack: `a${index}`, centre: { x, y: 0 }, width },
    });
    // Their edges meet at 0.1 + 0.2 and at 0.3, which rounding tells apart.
    const left = at('left', 0, 0.1 + 0.2 - 50, 100);
    const touching = at('touching', 1, 0.3 + 50, 100);
    const cluster = createCluster({
      ...{ id: 'folded', stack: 'a3', centre: { x: 9_000, y: 0 }, width: 10, height: 10 },
      ...{ form: 'folded', titleSize: 20 },
    });
    const unseen = { ...at('unseen', 2, 0, 100), cluster: 'folded' };
    const items = [left, touching, unseen, cluster, at('over', 4, 0, 100), at('top', 5, 0, 100)];
    const raised = apply(items, restackByStep(items, new Set(['left']), 'raise'));
    expect(order(raised)).toEqual(['touching', 'unseen', 'folded', 'over', 'left', 'top']);
    const lowered = apply(raised, restackByStep(raised, new Set(['left']), 'lower'));
    expect(order(lowered)).toEqual(['touching', 'unseen', 'folded', 'left', 'over', 'top']);
  });
});

describe('arrival', () => {
  const view = { x: -500, y: -300, width: 1000, height: 600 };
  const shape = fc.record({
    width: fc.integer({ min: 40, max: 400 }),
    height: fc.integer({ min: 40, max: 400 }),
  });
  const rectangle: fc.Arbitrary<Rectangle> = fc.record({
    x: fc.integer({ min: -600, max: 600 }),
    y: fc.integer({ min: -600, max: 600 }),
    width: fc.integer({ min: 20, max: 300 }),
    height: fc.integer({ min: 20, max: 300 }),
  });

  it('keeps aspects, overlaps nothing that stands and nothing of its own', () => {
    fc.assert(
      fc.property(
        fc.array(shape, { minLength: 1, maxLength: 8 }),
        fc.array(rectangle, { maxLength: 12 }),
        (shapes, standing) => {
          const places = arrange(shapes, { x: 0, y: 0 }, view, standing, standing);
          places.forEach((place, index) => {
            expect(place.width / place.height).toBeCloseTo(shapes[index]!.width / shapes[index]!.height, 6);
            const inner = {
              x: place.x + 1e-3,
              y: place.y + 1e-3,
              width: place.width - 2e-3,
              height: place.height - 2e-3,
            };
            for (const other of [...standing, ...places.slice(0, index)])
              expect(overlaps(inner, other)).toBe(false);
          });
        },
      ),
      { numRuns: 300 },
    );
  });

  it('takes a quarter of the view for one picture on an empty board, at the pointer', () => {
    const [place] = arrange([{ width: 300, height: 200 }], { x: 40, y: 10 }, view, [], []);
    expect(place!.width * place!.height).toBeCloseTo((view.width * view.height) / 4, 3);
    near(centreOf(place!), { x: 40, y: 10 });
  });

  it('takes the size of its neighbours', () => {
    const neighbours = [0, 1, 2].map((index) => ({ x: index * 120, y: 200, width: 100, height: 100 }));
    const [place] = arrange([{ width: 400, height: 100 }], { x: 0, y: 0 }, view, neighbours, neighbours);
    expect(place!.width * place!.height).toBeCloseTo(10_000, 3);
  });

  it('shows several that come to an empty board within the view', () => {
    const shapes = [3, 2, 1, 0.5, 0.7, 5].map((aspect) => ({ width: aspect, height: 1 }));
    for (const place of arrange(shapes, { x: 0, y: 0 }, view, [], [])) {
      expect(place.x).toBeGreaterThanOrEqual(view.x);
      expect(place.y).toBeGreaterThanOrEqual(view.y);
      expect(place.x + place.width).toBeLessThanOrEqual(view.x + view.width);
      expect(place.y + place.height).toBeLessThanOrEqual(view.y + view.height);
    }
  });

  it('finds the nearest free place', () => {
    const wall = [{ x: -50, y: -500, width: 100, height: 1000 }];
    near(freeCentre({ x: 10, y: 0 }, { width: 20, height: 20 }, wall, 0), { x: 60, y: 0 });
  });
});

describe('draw list', () => {
  it('holds what stands in view, lowest first', () => {
    const items = [
      { ...plain, id: 'top', stack: 'a2' },
      { ...plain, id: 'gone', removed: true },
      { ...plain, id: 'away', centre: { x: 9e3, y: 0 } },
      { ...plain, id: 'low', stack: 'a1' },
    ];
    const drawn = drawList(items, { x: -10, y: -10, width: 20, height: 20 });
    expect(drawn.map((one) => one.id)).toEqual(['low', 'top']);
  });

  it('asks for the level by the size of the whole picture, not of its trimmed part', () => {
    const trimmed = { ...plain, width: 50, trim: { x: 0, y: 0, width: 0.5, height: 0.5 } };
    const [drawn] = drawList([trimmed], { x: -99, y: -99, width: 198, height: 198 });
    expect(drawn!.primitives).toMatchObject([{ kind: 'picture', longestSide: 100 }]);
  });
});
