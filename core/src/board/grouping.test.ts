import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { containsRectangle, inflate } from '../geometry/index.ts';
import { createPlacement, type Item, isCluster } from '../items/index.ts';
import type { Change, Operation } from '../schema/index.ts';
import {
  applyChange,
  boundsOf,
  clusterAt,
  clusterOf,
  compareStacking,
  drawList,
  fitToContent,
  foldOrOpen,
  group,
  invertChange,
  isBanded,
  isOnItem,
  isSeen,
  moveBy,
  putAside,
  rejoin,
  seenAs,
  ungroup,
  withMembers,
} from './index.ts';

type Board = Map<string, Item>;

const picture = (id: string, x: number, y: number, more: Partial<Item> = {}) =>
  createPlacement({
    ...{ id, stack: 'a1', picture: '7b7cf7b2-0d0a-5b1c-9d7f-3d9b1c5f1a11' },
    ...{ pictureWidth: 400, pictureHeight: 300, centre: { x, y }, width: 100 },
    ...(more as object),
  });
const boardOf = (...items: Item[]): Board => new Map(items.map((item) => [item.id, item]));

function after(before: Board, operations: readonly Operation[]): Board {
  const board = new Map(before);
  applyChange(board, { id: 'c', operations });
  return board;
}
const seenIds = (board: Board) =>
  [...board.values()].filter((item) => isSeen(board, item)).map(({ id }) => id);
const pictures = fc
  .array(fc.tuple(fc.integer({ min: -900, max: 900 }), fc.integer({ min: -900, max: 900 })), {
    minLength: 1,
    maxLength: 12,
  })
  .map((places) => boardOf(...places.map(([x, y], index) => picture(`p${index}`, x, y))));

describe('a cluster', () => {
  it('is made around its members, below them, and taken away leaves them as they were', () => {
    fc.assert(
      fc.property(pictures, (before) => {
        const operations = group(before, before.values(), 'c');
        const grouped = after(before, operations);
        const cluster = grouped.get('c')!;
        for (const id of before.keys()) {
          const member = grouped.get(id)!;
          expect(clusterOf(grouped, member)?.id).toBe('c');
          expect(containsRectangle(inflate(boundsOf(cluster), 1e-6), boundsOf(member))).toBe(true);
          expect(compareStacking(cluster, member)).toBeLessThan(0);
        }
        const change: Change = { id: 'x', operations };
        expect(after(grouped, invertChange(before, change)).get('p0')).toMatchObject(before.get('p0')!);
        const freed = after(grouped, ungroup(grouped, [cluster]));
        expect(freed.get('c')!.removed).toBe(true);
        for (const [id, item] of before)
          expect({ ...freed.get(id), stack: '' }).toEqual({ ...item, stack: '', cluster: null });
      }),
    );
  });

  it('inside another goes with it, and leaves its members to it when it is taken away', () => {
    const loose = boardOf(picture('a', 0, 0), picture('b', 300, 0), picture('d', 0, 600));
    const inner = after(loose, group(loose, [loose.get('a')!, loose.get('b')!], 'inner'));
    const outer = after(inner, group(inner, [inner.get('inner')!, inner.get('d')!], 'outer'));
    expect(
      withMembers(outer, [outer.get('outer')!])
        .map(({ id }) => id)
        .sort(),
    ).toEqual(['a', 'b', 'd', 'inner', 'outer']);
    const freed = after(outer, ungroup(outer, [outer.get('inner')!]));
    expect(clusterOf(freed, freed.get('a')!)?.id).toBe('outer');
    // What is grouped within a cluster stays in it.
    const again = after(freed, group(freed, [freed.get('a')!, freed.get('b')!], 'again'));
    expect(again.get('again')).toMatchObject({ cluster: 'outer' });
  });

  it('folds to a cover at its upper left corner, hides what lies in it, and opens as it was', () => {
    fc.assert(
      fc.property(pictures, (before) => {
        const open = after(before, group(before, before.values(), 'c'));
        const folded = after(open, foldOrOpen(open, [open.get('c')!]));
        expect(seenIds(folded)).toEqual(['c']);
        expect(seenAs(folded, folded.get('p0')!)?.id).toBe('c');
        expect(seenAs(open, open.get('p0')!)?.id).toBe('p0');
        expect(
          drawList(folded.values(), { x: -1e5, y: -1e5, width: 2e5, height: 2e5 }).map(({ id }) => id),
        ).toEqual(['c']);
        expect(folded.get('c')).toMatchObject({
          form: 'folded',
          picture: '7b7cf7b2-0d0a-5b1c-9d7f-3d9b1c5f1a11',
        });
        const corner = (board: Board) => boundsOf(board.get('c')!);
        expect(corner(folded).x).toBeCloseTo(corner(open).x, 6);
        expect(corner(folded).y).toBeCloseTo(corner(open).y, 6);
        const opened = after(folded, foldOrOpen(folded, [folded.get('c')!]));
        expect(boundsOf(opened.get('c')!).width).toBeCloseTo(corner(open).width, 6);
        expect(boundsOf(opened.get('c')!).height).toBeCloseTo(corner(open).height, 6);
        expect(seenIds(opened)).toEqual(seenIds(open));
      }),
    );
  });

  it('is taken hold of by its title, and banded only as a whole', () => {
    const loose = boardOf(picture('a', 0, 0), picture('b', 500, 300));
    const board = after(loose, group(loose, loose.values(), 'c'));
    const cluster = board.get('c')!;
    const { x, y, width, height } = boundsOf(cluster);
    expect(isOnItem(cluster, { x: x + width / 2, y: y + 4 })).toBe(true);
    expect(isOnItem(cluster, { x: x + width / 2, y: y + height / 2 })).toBe(false);
    expect(isBanded(cluster, { x: x + 10, y: y + 10, width: 200, height: 200 })).toBe(false);
    expect(isBanded(cluster, { x: x - 1, y: y - 1, width: width + 2, height: height + 2 })).toBe(true);
  });

  it('takes in what is dropped on its ground, and lets go what is taken out', () => {
    const loose = boardOf(
      picture('a', 0, 0),
      picture('b', 500, 300),
      picture('new', 2_000, 0, { stack: 'Zz' }),
    );
    const board = after(loose, group(loose, [loose.get('a')!, loose.get('b')!], 'c'));
    const dropped = after(board, moveBy([board.get('new')!], { x: -1_750, y: 150 }));
    const joined = after(dropped, rejoin(dropped, [dropped.get('new')!]));
    expect(clusterOf(joined, joined.get('new')!)?.id).toBe('c');
    expect(compareStacking(joined.get('c')!, joined.get('new')!)).toBeLessThan(0);
    const out = after(joined, moveBy([joined.get('a')!], { x: 3_000, y: 0 }));
    const left = after(out, rejoin(out, [out.get('a')!]));
    expect(clusterOf(left, left.get('a')!)).toBeUndefined();
    // A cluster is never dropped into itself.
    expect(clusterAt(joined, joined.get('c')!.centre, new Set(['c']))).toBeUndefined();
  });

  it('is made as large as what lies in it', () => {
    const loose = boardOf(picture('a', 0, 0), picture('b', 500, 300));
    const board = after(loose, group(loose, loose.values(), 'c'));
    const moved = after(board, moveBy([board.get('b')!], { x: 900, y: 900 }));
    const fitted = after(moved, fitToContent(moved, [moved.get('c')!]));
    for (const id of ['a', 'b'])
      expect(containsRectangle(boundsOf(fitted.get('c')!), boundsOf(fitted.get(id)!))).toBe(true);
  });
});

describe('spares', () => {
  it('are put away as a small stack where they were; what is put away there again joins it', () => {
    const loose = boardOf(picture('a', 0, 0), picture('b', 20, 10), picture('d', 900, 0));
    const one = after(loose, putAside(loose, [loose.get('a')!], 's', 40));
    expect(seenIds(one)).toEqual(['b', 'd', 's']);
    expect(one.get('s')).toMatchObject({ centre: { x: 0, y: 0 }, width: 40, form: 'spares' });
    const two = after(one, putAside(one, [one.get('b')!], 'unused', 40));
    expect(two.get('unused')).toBeUndefined();
    expect(seenIds(two)).toEqual(['d', 's']);
    const back = after(two, ungroup(two, [two.get('s')!]));
    expect(seenIds(back)).toEqual(['a', 'b', 'd']);
    expect(back.get('a')).toEqual({ ...loose.get('a'), cluster: null });
  });

  it('of a fold are seen again as they stood when it is opened', () => {
    const loose = boardOf(picture('a', 0, 0), picture('b', 500, 300));
    const away = after(loose, putAside(loose, loose.values(), 's', 40));
    const open = after(away, foldOrOpen(away, [away.get('s')!]));
    expect(seenIds(open).sort()).toEqual(['a', 'b', 's']);
    expect(
      isCluster(open.get('s')!) && containsRectangle(boundsOf(open.get('s')!), boundsOf(open.get('b')!)),
    ).toBe(true);
  });
});
