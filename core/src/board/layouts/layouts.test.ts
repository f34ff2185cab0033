import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { containsRectangle, inflate, overlaps, type Rectangle } from '../../geometry/index.ts';
import { createCluster, createPlacement, heightOf, type Item, isCluster } from '../../items/index.ts';
import type { Operation } from '../../schema/index.ts';
import { clusterOf, membersByCluster, outermost, withMembers } from '../clusters.ts';
import { group } from '../grouping.ts';
import { boundsOf } from '../item-geometry.ts';
import { rowsOf } from '../reading-order.ts';
import { applyChange } from '../state.ts';
import { evenOut } from './even-out.ts';
import { axisOf, type LineUpEdge, lineUp, spaceEvenly } from './line-up.ts';
import { areaOf, pack } from './packing.ts';
import { packScaled } from './scaled-strip.ts';
import { type SettleForm, settle } from './settle.ts';
import { shelve } from './shelves.ts';
import { packWithoutHoles } from './without-holes.ts';

type Board = Map<string, Item>;

const at = fc.integer({ min: -3_000, max: 3_000 });
/** Mostly pictures of ordinary sizes, some tiny, some huge. */
const width = fc.oneof(
  { weight: 8, arbitrary: fc.integer({ min: 60, max: 400 }) },
  { weight: 1, arbitrary: fc.constantFrom(1, 100_000) },
);

const picture = fc
  .record({
    x: at,
    y: at,
    width,
    pictureWidth: fc.integer({ min: 400, max: 900 }),
    turn: fc.constantFrom(0, 0, 0, 90, 30, -12),
    isFixed: fc.constantFrom(false, false, false, false, true),
  })
  .map(({ x, y, ...rest }) => ({ centre: { x, y }, ...rest }));

const boardOf = (pictures: readonly Pick<Item, 'centre' | 'width'>[]): Board =>
  new Map(
    pictures.map((one, index) => {
      const id = `p${index}`;
      const size = { picture: '7b7cf7b2-0d0a-5b1c-9d7f-3d9b1c5f1a11', pictureWidth: 600, pictureHeight: 600 };
      return [id, createPlacement({ id, stack: `a${index.toString(36)}1`, ...size, ...one })];
    }),
  );

const board = fc.array(picture, { minLength: 2, maxLength: 30 }).map(boardOf);
const gap = fc.constantFrom(0, 4, 12, 60);
const aspect = fc.constantFrom(0.5, 1, 1.6, 3);

function after(before: Board, operations: readonly Operation[]): Board {
  const board = new Map(before);
  applyChange(board, { id: 'c', operations });
  return board;
}

/** Less than touching, since sums are seldom exact. */
const shrunk = (rectangle: Rectangle, by: number) => inflate(rectangle, -by);

/** Whether none of some overlaps another, or comes nearer than `gap`; sums of large sizes are exact to about 1e-9 of them. */
function areApart(items: readonly Item[], gap: number): boolean {
  const bounds = items.map(boundsOf).sort((a, b) => a.x - b.x);
  const slack = 1e-8 * Math.max(...bounds.map((r) => Math.abs(r.x) + r.width + Math.abs(r.y) + r.height));
  return bounds.every((one, index) =>
    bounds
      .slice(index + 1)
      .every(
        (other) => !overlaps(inflate(shrunk(one, slack), gap / 2), inflate(shrunk(other, slack), gap / 2)),
      ),
  );
}

const movable = (board: Board) => [...board.values()].filter((item) => !item.isFixed);
const sizesOf = (board: Board) =>
  [...board.values()].map((item) => [item.id, item.width, heightOf(item), item.turn]);

describe('settling', () => {
  const settled = (before: Board, form: SettleForm, gap: number, aspect: number) =>
    after(before, settle(before, before.values(), { form, gap, aspect }));

  it('lets nothing overlap and keeps the gaps, the sizes, the turns and what is fixed', () => {
    fc.assert(
      fc.property(board, gap, aspect, fc.constantFrom('tight', 'in-order'), (before, gap, aspect, form) => {
        const now = settled(before, form, gap, aspect);
        expect(sizesOf(now)).toEqual(sizesOf(before));
        for (const item of before.values()) if (item.isFixed) expect(now.get(item.id)).toEqual(item);
        const fixed = [...now.values()].filter((item) => item.isFixed);
        const moved = movable(now);
        if (moved.length < 2) return;
        expect(areApart(moved, gap)).toBe(true);
        for (const one of fixed) for (const other of moved) expect(areApart([one, other], 0)).toBe(true);
      }),
    );
  });

  it('comes to an end where an obstacle begins at a place that sums of widths miss by a rounding', () => {
    const sides = [
      ...[134.8881236954595, 127.63308357817095, 342, 395.3757225433526, 528.300749467686, 568.0437397547485],
      ...[81521.73913043478, 100000, 370, 503.4013605442177, 72, 49.25883694412771, 1, 1.0507880910683012],
      ...[100000, 82644.62809917355, 127.63259026135756, 99.55827729992791, 318, 321.2121212121212],
      ...[462.64072445581496, 473.3172404079447, 79, 79.13188647746244, 1.1857707509880129, 1],
    ];
    const sizes = Array.from({ length: sides.length / 2 }, (_, at) => ({
      width: sides[2 * at]!,
      height: sides[2 * at + 1]!,
    }));
    const obstacle = { x: 60234.62873831053, y: 66700.11149693123, width: 224, height: 331.0344827586207 };
    const { at } = pack(sizes, { aspect: 1, obstacles: [obstacle] });
    const placed = at.map((place, index) => ({ ...place, ...sizes[index]! }));
    for (const one of placed) expect(overlaps(inflate(one, -1e-3), obstacle)).toBe(false);
  });

  it('goes on being read as it was', () => {
    fc.assert(
      fc.property(board, gap, aspect, (before, gap, aspect) => {
        const order = (board: Board) => rowsOf(movable(board)).flat();
        const now = settled(before, 'in-order', gap, aspect);
        if (movable(before).length > 1) expect(order(now)).toEqual(order(before));
      }),
    );
  });

  /** Sizes as pictures have them, always the same ones. */
  const sizesOfSeed = (seed: number, count: number) =>
    fc
      .sample(fc.tuple(fc.integer({ min: 1, max: 240 }), fc.integer({ min: 1, max: 240 })), {
        numRuns: count,
        seed,
      })
      .map(([width, height]) => ({ width: 90 + width, height: 90 + height }));

  const cellsOf = (
    sizes: readonly { width: number; height: number }[],
    { at }: ReturnType<typeof packWithoutHoles>,
  ): Rectangle[] =>
    at.map(({ x, y, scale }, index) => ({
      ...{ x, y, width: sizes[index]!.width * scale, height: sizes[index]!.height * scale },
    }));

  it.each([5, 9, 14, 20, 30, 60])(
    'of %i without holes fills its rectangle, sizes varied by little',
    (count) => {
      const sizes = sizesOfSeed(11, count);
      const packing = packWithoutHoles(sizes, 1.6);
      expect(areaOf(cellsOf(sizes, packing)) / areaOf([packing])).toBeCloseTo(1, 6);
      expect(Math.max(...packing.at.map(({ scale }) => Math.max(scale, 1 / scale)))).toBeLessThanOrEqual(1.6);
    },
    60_000,
  );

  it('without holes lets nothing overlap or stick out, whatever the sizes', () => {
    const size = fc.record({
      width: fc.integer({ min: 80, max: 300 }),
      height: fc.integer({ min: 80, max: 300 }),
    });
    fc.assert(
      fc.property(fc.array(size, { minLength: 1, maxLength: 14 }), aspect, (sizes, aspect) => {
        const packing = packWithoutHoles(sizes, aspect);
        const cells = cellsOf(sizes, packing);
        for (const cell of cells)
          expect(containsRectangle(inflate({ x: 0, y: 0, ...packing }, 1e-6), cell)).toBe(true);
        for (const [index, one] of cells.entries())
          for (const other of cells.slice(index + 1)) expect(overlaps(shrunk(one, 1e-6), other)).toBe(false);
      }),
      { numRuns: 15, endOnFailure: true },
    );
  }, 60_000);

  it('of very many leaves hardly a hole with sizes that vary by a tenth', () => {
    const random = fc.sample(fc.tuple(fc.integer({ min: 90, max: 330 }), fc.integer({ min: 90, max: 330 })), {
      numRuns: 200,
      seed: 7,
    });
    const sizes = random.map(([width, height]) => ({ width, height }));
    const packing = packScaled(sizes, 1.6, 1.1)!;
    const cells = packing.at.map(({ scale }, index) => areaOf([sizes[index]!]) * scale ** 2);
    expect(cells.reduce((sum, cell) => sum + cell, 0) / areaOf([packing])).toBeGreaterThan(0.97);
    for (const { scale } of packing.at)
      expect(Math.abs(Math.log(scale))).toBeLessThanOrEqual(Math.log(1.1) + 1e-6);
    const boxes = packing.at.map(({ x, y, scale }, index) => ({
      ...{ x, y, width: sizes[index]!.width * scale, height: sizes[index]!.height * scale },
    }));
    for (const [index, one] of boxes.entries())
      for (const other of boxes.slice(index + 1)) expect(overlaps(shrunk(one, 1e-4), other)).toBe(false);
  }, 60_000);

  it('is dense, and of about the shape that was wanted', () => {
    const sizes = fc
      .sample(fc.tuple(fc.integer({ min: 90, max: 330 }), fc.integer({ min: 90, max: 330 })), {
        numRuns: 300,
        seed: 3,
      })
      .map(([width, height]) => ({ width, height }));
    const packing = pack(sizes, { aspect: 1.6 });
    expect(areaOf(sizes) / areaOf([packing])).toBeGreaterThan(0.95);
    expect(packing.width / packing.height).toBeGreaterThan(1.4);
    expect(packing.width / packing.height).toBeLessThan(1.8);
  });

  it('packs around what is fixed in the midst of it', () => {
    const before = boardOf([
      ...Array.from({ length: 40 }, (_, index) => ({
        centre: { x: (index % 8) * 100, y: Math.floor(index / 8) * 100 },
        width: 80,
      })),
      { centre: { x: 350, y: 200 }, width: 150, isFixed: true } as Pick<Item, 'centre' | 'width'>,
    ]);
    const now = settled(before, 'tight', 10, 1.6);
    expect(now.get('p40')).toEqual(before.get('p40'));
    expect(areApart([...now.values()], 10)).toBe(true);
    const around = movable(now).filter((item) => Math.hypot(item.centre.x - 350, item.centre.y - 200) < 220);
    expect(around.length).toBeGreaterThan(8);
  });

  it('moves a cluster as one, with all that lies in it', () => {
    fc.assert(
      fc.property(fc.array(picture, { minLength: 4, maxLength: 12 }), (pictures) => {
        const loose = boardOf(pictures.map((one) => ({ ...one, isFixed: false })));
        const inside = ['p0', 'p1'].map((id) => loose.get(id)!);
        const before = after(loose, group(loose, inside, 'c'));
        const now = settled(before, 'tight', 8, 1.6);
        expect(areApart(outermost(now, now.values()), 8)).toBe(true);
        const shift = (id: string) => {
          const [a, b] = [before.get(id)!.centre, now.get(id)!.centre];
          return [b.x - a.x, b.y - a.y] as const;
        };
        for (const id of ['p0', 'p1']) {
          expect(shift(id)[0]).toBeCloseTo(shift('c')[0], 5);
          expect(shift(id)[1]).toBeCloseTo(shift('c')[1], 5);
        }
      }),
    );
  });
});

describe('evening out', () => {
  it.each(['height', 'width', 'area', 'longest'] as const)(
    'makes the same %s, each about its middle',
    (measure) => {
      fc.assert(
        fc.property(board, (before) => {
          const now = after(before, evenOut(before, before.values(), measure));
          const lengths = movable(now).map((item) => {
            const [wide, high] = [item.width, heightOf(item)];
            return { height: high, width: wide, area: Math.sqrt(wide * high), longest: Math.max(wide, high) }[
              measure
            ];
          });
          if (lengths.length < 2) return;
          for (const length of lengths) expect(length / lengths[0]!).toBeCloseTo(1, 6);
          for (const item of now.values()) expect(item.centre).toEqual(before.get(item.id)!.centre);
          // Evened out again, nothing alters: there is nothing to take back.
          expect(evenOut(now, now.values(), measure)).toEqual([]);
        }),
      );
    },
  );
});

describe('lining up', () => {
  const lineOf = (item: Item, edge: LineUpEdge) => {
    const { x, y, width, height } = boundsOf(item);
    return {
      left: x,
      right: x + width,
      top: y,
      bottom: y + height,
      'middle-x': x + width / 2,
      'middle-y': y + height / 2,
    }[edge];
  };

  it.each(['left', 'right', 'top', 'bottom', 'middle-x', 'middle-y'] as const)(
    'lays every %s on one line',
    (edge) => {
      fc.assert(
        fc.property(board, (before) => {
          const now = after(before, lineUp(before, before.values(), edge));
          const lines = movable(now).map((item) => lineOf(item, edge));
          if (lines.length < 2) return;
          for (const line of lines) expect(line).toBeCloseTo(lines[0]!, 4);
          const across = edge === 'left' || edge === 'right' || edge === 'middle-x' ? 'y' : 'x';
          for (const item of now.values())
            expect(item.centre[across]).toBeCloseTo(before.get(item.id)!.centre[across], 6);
          expect(lineUp(now, now.values(), edge)).toEqual([]);
        }),
      );
    },
  );

  it('makes gaps the same; the first and the last stay', () => {
    fc.assert(
      fc.property(board, fc.constantFrom('x' as const, 'y' as const), (before, axis) => {
        const now = after(before, spaceEvenly(before, before.values(), axis));
        const side = axis === 'x' ? 'width' : 'height';
        const middle = (item: Item) => item.centre[axis];
        const order = movable(before).sort((a, b) => middle(a) - middle(b) || (a.id < b.id ? -1 : 1));
        if (order.length < 3) return;
        const bounds = order.map(({ id }) => boundsOf(now.get(id)!));
        const gaps = bounds
          .slice(1)
          .map((one, index) => one[axis] - bounds[index]![axis] - bounds[index]![side]);
        for (const gap of gaps) expect(gap).toBeCloseTo(gaps[0]!, 3);
        for (const end of [order[0]!, order.at(-1)!])
          expect(middle(now.get(end.id)!)).toBeCloseTo(middle(end), 4);
      }),
    );
  });

  it('tells a row from a column', () => {
    const row = boardOf(
      [0, 1, 2].map((index) => ({ centre: { x: index * 200, y: index * 10 }, width: 100 })),
    );
    const column = boardOf(
      [0, 1, 2].map((index) => ({ centre: { x: index * 10, y: index * 200 }, width: 100 })),
    );
    expect([axisOf(row, row.values()), axisOf(column, column.values())]).toEqual(['x', 'y']);
  });
});

describe('shelves', () => {
  const shelfOf = fc.constantFrom('light', 'middle', 'dark');

  it('hold each item once, in clusters that do not overlap, whatever was clustered before', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(picture, shelfOf), { minLength: 1, maxLength: 24 }),
        gap,
        (given, gap) => {
          const loose = boardOf(given.map(([one]) => one));
          const first = [...loose.values()].slice(0, 3);
          const before = after(loose, group(loose, first, 'old'));
          const shelves = ['light', 'middle', 'dark'].map((heading) => ({
            ...{ id: `s-${heading}`, heading },
            items: given.flatMap(([, shelf], index) => (shelf === heading ? [`p${index}`] : [])),
          }));
          const now = after(before, shelve(before, shelves, { gap, aspect: 1.6 }));
          const clusters = [...now.values()].filter((item) => isCluster(item) && item.id.startsWith('s-'));
          expect(areApart(clusters, gap)).toBe(true);
          for (const [index, [one, shelf]] of given.entries()) {
            const item = now.get(`p${index}`)!;
            if (one.isFixed) {
              expect(item.centre).toEqual(one.centre);
              continue;
            }
            const cluster = clusterOf(now, item)!;
            expect(cluster).toMatchObject({ id: `s-${shelf}`, title: shelf });
            expect(containsRectangle(inflate(boundsOf(cluster), 1e-3), boundsOf(item))).toBe(true);
          }
          for (const members of membersByCluster(now).values())
            expect(
              areApart(
                members.filter((item) => !item.isFixed),
                gap,
              ),
            ).toBe(true);
          // What holds nothing any more is gone.
          expect(now.get('old')!.removed).toBe(!first.some((item) => item.isFixed));
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('clusters in clusters', () => {
  it('are found through fifty of them, and through two that lie in each other', () => {
    let board = boardOf([{ centre: { x: 0, y: 0 }, width: 10 }]);
    for (let depth = 0; depth < 50; depth += 1)
      board = after(board, group(board, outermost(board, board.values()), `c${depth}`));
    expect(withMembers(board, [board.get('c49')!])).toHaveLength(51);
    expect(outermost(board, board.values()).map(({ id }) => id)).toEqual(['c49']);
    const ring = new Map<string, Item>(
      ['a', 'b'].map((id) => [
        id,
        createCluster({
          id,
          stack: 'a0',
          centre: { x: 0, y: 0 },
          width: 9,
          height: 9,
          titleSize: 1,
          cluster: id === 'a' ? 'b' : 'a',
        }),
      ]),
    );
    expect(withMembers(ring, [ring.get('a')!])).toHaveLength(2);
  });
});
