import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Rectangle } from '../geometry/index.ts';
import {
  arrangeWindows,
  fillWindow,
  isPaneTree,
  keptOnScreen,
  MOST_PERCH_PANES,
  type PaneTree,
  panesOf,
  placePanes,
  type ScreenOfDesktop,
  screensKey,
  shuffledRound,
  splitPane,
  withoutPane,
  withShare,
} from './index.ts';

const overlap = (a: Rectangle, b: Rectangle) =>
  Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x) > 1e-6 &&
  Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y) > 1e-6;
const isWithin = (inner: Rectangle, outer: Rectangle) =>
  inner.x >= outer.x - 1e-6 &&
  inner.y >= outer.y - 1e-6 &&
  inner.x + inner.width <= outer.x + outer.width + 1e-6 &&
  inner.y + inner.height <= outer.y + outer.height + 1e-6;
const areaOf = (all: readonly Rectangle[]) => all.reduce((sum, { width, height }) => sum + width * height, 0);
const noneOverlap = (all: readonly Rectangle[]) =>
  all.every((one, index) => all.slice(index + 1).every((other) => !overlap(one, other)));

/** A tree made by splits and closings, as a person makes it. */
const trees = fc
  .array(fc.tuple(fc.nat(3), fc.constantFrom('beside' as const, 'below' as const), fc.boolean()), {
    maxLength: 8,
  })
  .map((steps) => {
    let tree: PaneTree = { pane: 'p0' };
    for (const [index, [at, side, isClosing]] of steps.entries()) {
      const all = panesOf(tree);
      const pane = all[at % all.length]!;
      tree = (isClosing ? withoutPane(tree, pane) : splitPane(tree, pane, `p${index + 1}`, side)) ?? tree;
    }
    return tree;
  });

describe('panes of a window', () => {
  it('tile it with their dividers, whatever was split, closed and dragged', () => {
    fc.assert(
      fc.property(
        trees,
        // No browser makes a window smaller than this.
        fc.integer({ min: 240, max: 2_000 }),
        fc.integer({ min: 180, max: 1_500 }),
        fc.double({ min: -1, max: 2, noNaN: true }),
        (made, width, height, share) => {
          const within = { x: 0, y: 0, width, height };
          const tree = withShare(made, [], share);
          const { panes, dividers } = placePanes(tree, within, 5);
          const all = [...panes.values(), ...dividers.map(({ at }) => at)];
          expect([...panes.keys()]).toEqual(panesOf(tree));
          expect(dividers).toHaveLength(panes.size - 1);
          expect(noneOverlap(all)).toBe(true);
          expect(areaOf(all)).toBe(width * height);
          for (const { width: wide, height: high } of panes.values()) expect(wide * high).toBeGreaterThan(0);
          expect(isPaneTree(JSON.parse(JSON.stringify(tree)))).toBe(true);
        },
      ),
    );
  });

  it('are four at most, and a split halves the one that is split alone', () => {
    let tree: PaneTree = { pane: 'a' };
    for (const [pane, fresh, side] of [
      ['a', 'b', 'beside'],
      ['b', 'c', 'below'],
      ['a', 'd', 'below'],
    ] as const)
      tree = splitPane(tree, pane, fresh, side)!;
    expect(panesOf(tree)).toEqual(['a', 'd', 'b', 'c']);
    expect(panesOf(tree)).toHaveLength(MOST_PERCH_PANES);
    expect(splitPane(tree, 'a', 'e', 'beside')).toBeUndefined();
    const { panes } = placePanes(tree, { x: 0, y: 0, width: 404, height: 304 }, 4);
    expect(panes.get('c')).toEqual({ x: 204, y: 154, width: 200, height: 150 });
    const left = withoutPane(tree, 'd')!;
    expect(placePanes(left, { x: 0, y: 0, width: 404, height: 304 }, 4).panes.get('a')?.height).toBe(304);
    expect(withoutPane({ pane: 'a' }, 'a')).toBeUndefined();
    expect(() => splitPane({ pane: 'a' }, 'a', 'a', 'below')).toThrow(RangeError);
  });

  it('refuse what a torn store gives', () => {
    const half = { side: 'beside', share: 0.5, first: { pane: 'a' } };
    for (const torn of [
      null,
      3,
      {},
      half,
      { ...half, second: { pane: 'a' } },
      { ...half, share: Number.NaN },
    ])
      expect(isPaneTree(torn)).toBe(false);
    let deep: unknown = { pane: 'x' };
    for (let depth = 0; depth < 2_000; depth += 1) deep = { ...half, second: deep };
    expect(isPaneTree(deep)).toBe(false);
  });
});

describe('pictures that fill a window', () => {
  it('keep their shapes and their order in rows, lie within it and over none', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.2, max: 5, noNaN: true }), { minLength: 1, maxLength: 24 }),
        fc.integer({ min: 40, max: 2_000 }),
        fc.integer({ min: 40, max: 2_000 }),
        fc.constantFrom(0, 4, 30),
        (aspects, width, height, gap) => {
          const places = fillWindow(aspects, { width, height }, gap);
          expect(places).toHaveLength(aspects.length);
          expect(noneOverlap(places)).toBe(true);
          for (const [index, place] of places.entries()) {
            expect(place.width / place.height).toBeCloseTo(aspects[index]!, 6);
            expect(isWithin(place, { x: 0, y: 0, width, height })).toBe(true);
            const next = places[index + 1];
            expect(!next || next.y > place.y + 1e-9 || next.x > place.x).toBe(true);
          }
        },
      ),
    );
  });

  it('touch two opposite sides of it where one is alone, and lie below each other in a narrow one', () => {
    const [alone] = fillWindow([2], { width: 400, height: 300 }, 8);
    expect(alone).toEqual({ x: 0, y: 50, width: 400, height: 200 });
    const narrow = fillWindow([1.5, 1.5, 1.5], { width: 360, height: 800 }, 6);
    expect(new Set(narrow.map(({ x }) => x)).size).toBe(1);
    const wide = fillWindow([1.5, 1.5, 1.5], { width: 1_200, height: 260 }, 6);
    expect(new Set(wide.map(({ y }) => y)).size).toBe(1);
  });

  it('of few, no other way to cut them into rows is larger', () => {
    // Three squares in a square: two above and one below cover less than … the best of the four ways, by hand.
    const cover = (rows: number[][]) => {
      const heights = rows.map((row) => 300 / row.length);
      const factor = Math.min(1, 300 / heights.reduce((sum, high) => sum + high, 0));
      return rows.reduce((sum, row, at) => sum + row.length * (heights[at]! * factor) ** 2, 0);
    };
    const ways = [[[0, 1, 2]], [[0], [1, 2]], [[0, 1], [2]], [[0], [1], [2]]];
    expect(areaOf(fillWindow([1, 1, 1], { width: 300, height: 300 }, 0))).toBeCloseTo(
      Math.max(...ways.map(cover)),
      6,
    );
  });

  it('says what is no shape', () => {
    expect(() => fillWindow([0], { width: 10, height: 10 }, 0)).toThrow(RangeError);
    expect(() => fillWindow([1], { width: Number.NaN, height: 10 }, 0)).toThrow(RangeError);
    expect(fillWindow([], { width: 10, height: 10 }, 4)).toEqual([]);
  });
});

const screen = (x: number, width: number, isPrimary = false): ScreenOfDesktop => ({
  ...{ label: '', isPrimary },
  available: { x, y: 0, width, height: 900 },
});

describe('windows on screens', () => {
  it('lie within the part they are arranged in, whole pixels, none over another', () => {
    const side = fc.integer({ min: 240, max: 1_600 });
    fc.assert(
      fc.property(
        fc.array(fc.record({ width: side, height: side }), { minLength: 1, maxLength: 8 }),
        fc.record({
          x: fc.integer({ min: -2_000, max: 2_000 }),
          y: fc.integer({ min: -500, max: 500 }),
          width: fc.integer({ min: 300, max: 2_000 }),
          height: fc.integer({ min: 300, max: 1_200 }),
        }),
        (sizes, area) => {
          const places = arrangeWindows(sizes, area, 6);
          expect(noneOverlap(places)).toBe(true);
          for (const place of places) {
            expect(isWithin(place, area)).toBe(true);
            expect(Object.values(place).every(Number.isInteger)).toBe(true);
          }
        },
      ),
    );
  });

  it('come back from a screen that is gone, and are told from those that only lay over an edge', () => {
    const both = [screen(0, 1_600, true), screen(1_600, 1_200)];
    const onSecond = { x: 1_700, y: 100, width: 500, height: 400 };
    expect(keptOnScreen(onSecond, both)).toEqual({ place: onSecond, isBroughtBack: false });
    const back = keptOnScreen(onSecond, both.slice(0, 1));
    expect(back.isBroughtBack).toBe(true);
    expect(isWithin(back.place, both[0]!.available)).toBe(true);
    expect(keptOnScreen({ x: 1_300, y: 700, width: 500, height: 400 }, both.slice(0, 1))).toEqual({
      place: { x: 1_100, y: 500, width: 500, height: 400 },
      isBroughtBack: false,
    });
    expect(keptOnScreen({ x: 0, y: 0, width: 5_000, height: 5_000 }, both).place).toEqual(both[0]!.available);
  });

  it('a set-up is known again in whatever order its screens are named', () => {
    const both = [screen(0, 1_600, true), screen(1_600, 1_200)];
    expect(screensKey(both)).toBe(screensKey([...both].reverse()));
    expect(screensKey(both)).not.toBe(screensKey(both.slice(0, 1)));
    expect(screensKey(both)).not.toBe(screensKey([screen(0, 1_600), screen(1_600, 1_200, true)]));
  });
});

describe('a shuffled slideshow', () => {
  it('shows each once a round, the same for a seed, and none twice running', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), fc.integer(), fc.integer(), (count, seed, other) => {
        const all = Array.from({ length: count }, (_, index) => index);
        const round = shuffledRound(all, seed);
        expect([...round].sort((a, b) => a - b)).toEqual(all);
        expect(shuffledRound(all, seed)).toEqual(round);
        const next = shuffledRound(all, other, round.at(-1));
        if (count > 1) expect(next[0]).not.toBe(round.at(-1));
      }),
    );
    const firsts = new Set(Array.from({ length: 200 }, (_, seed) => shuffledRound([1, 2, 3, 4], seed)[0]));
    expect(firsts.size).toBe(4);
  });
});
