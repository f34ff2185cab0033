import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyChange, type BoardState, isStanding, sameValue } from '../board/index.ts';
import { board, change } from '../board/test/arbitrary.ts';
import { createCluster, createNote, createPlacement, propertyOf } from '../items/index.ts';
import type { Change, Item, PastSegment } from '../schema/index.ts';
import {
  addGists,
  bringBackBoard,
  bringBackItems,
  type Entry,
  gistOf,
  HistoryLine,
  isStateDue,
  stateAt,
  stretchesOf,
  wordsOfGist,
} from './index.ts';

const mapOf = (items: readonly Item[]): Map<string, Item> => new Map(items.map((item) => [item.id, item]));
const made = (...operations: Change['operations']): Change => ({
  id: 'e0f7b9a6-7f0f-4a3a-9f0c-3c8f9f0f1f10',
  operations,
});
const after = (state: BoardState, ...changes: readonly Change[]): Map<string, Item> => {
  const next = new Map(state);
  for (const one of changes) applyChange(next, one);
  return next;
};
const at = { centre: { x: 0, y: 0 }, width: 200 };
const note = (id: string, text = '') => createNote({ ...at, id, stack: 'a0', height: 40, text });
const picture = (id: string) =>
  createPlacement({ ...at, id, stack: 'a1', picture: 'p', pictureWidth: 400, pictureHeight: 300 });

/** What is seen of a board, property by property. */
const seen = (state: BoardState) =>
  new Map(
    [...state.values()]
      .filter(isStanding)
      .map((item) => [
        item.id,
        Object.fromEntries(
          [...Object.keys(item), 'cluster', 'isFixed'].map((name) => [name, propertyOf(item, name)]),
        ),
      ]),
  );

describe('a board that is brought back', () => {
  it('is what it was, whatever was done since', () => {
    fc.assert(
      fc.property(board, fc.array(change, { maxLength: 12 }), (items, changes) => {
        const then = mapOf(items);
        const now = after(then, ...changes);
        const back = after(now, made(...bringBackBoard(now, then)));
        expect(seen(back)).toEqual(seen(then));
        expect(bringBackBoard(back, then)).toEqual([]);
      }),
      { numRuns: 300 },
    );
  });

  it('has single items back, and leaves the others as they are', () => {
    fc.assert(
      fc.property(board, fc.array(change, { maxLength: 12 }), fc.nat(5), (items, changes, index) => {
        const then = mapOf(items);
        const now = after(then, ...changes);
        const chosen = then.get(`i${index}`);
        const operations = bringBackItems(now, then, [`i${index}`]);
        const back = after(now, made(...operations));
        if (chosen && !chosen.removed) {
          const { cluster: _, ...was } = seen(then).get(chosen.id)!;
          expect(seen(back).get(chosen.id)).toMatchObject(was);
        } else expect(operations).toEqual([]);
        const touched = new Set(operations.map((one) => ('create' in one ? one.create.id : one.item)));
        for (const [id, item] of now) if (!touched.has(id)) expect(back.get(id)).toBe(item);
      }),
      { numRuns: 300 },
    );
  });

  it('has a cluster back with what lay in it, but an item without a cluster that is gone', () => {
    const cluster = createCluster({
      ...at,
      id: 'c',
      stack: 'a0',
      height: 200,
      titleSize: 20,
      title: 'Lamps',
    });
    const inside = { ...picture('p'), cluster: 'c' };
    const then = mapOf([cluster, inside]);
    const now = after(
      then,
      made({ item: 'c', set: { removed: true } }, { item: 'p', set: { removed: true } }),
    );
    const all = after(now, made(...bringBackItems(now, then, ['c'])));
    expect([all.get('c')!.removed, all.get('p')!.removed, all.get('p')!.cluster]).toEqual([
      false,
      false,
      'c',
    ]);
    const alone = after(now, made(...bringBackItems(now, then, ['p'])));
    expect([alone.get('c')!.removed, alone.get('p')!.removed, alone.get('p')!.cluster]).toEqual([
      ...[true, false, null],
    ]);
  });
});

describe('a piece of the past', () => {
  it('gives every state that there was', () => {
    fc.assert(
      fc.property(board, fc.array(change, { minLength: 1, maxLength: 12 }), (items, changes) => {
        const segment: PastSegment = {
          ...{ base: 7, until: 7 + changes.length, items },
          changes: changes.map((one, index) => ({
            ...{ revision: 8 + index, at: '2026-11-28T09:00:00Z', by: null, change: one },
          })),
        };
        let truth: BoardState = mapOf(items);
        for (let revision = 7; revision <= segment.until; revision += 1) {
          if (revision > 7) truth = after(truth, changes[revision - 8]!);
          expect(seen(stateAt(segment, revision))).toEqual(seen(truth));
        }
        for (const outside of [6, segment.until + 1])
          expect(() => stateAt(segment, outside)).toThrow(RangeError);
      }),
    );
  });

  it('knows items from before there were turn and opacity', () => {
    const { turn: _, opacity: __, ...old } = note('n');
    const segment = {
      ...{ base: 0, until: 1, items: [] },
      changes: [{ revision: 1, at: '', by: null, change: made({ create: old as Item }) }],
    };
    expect(stateAt(segment, 1).get('n')).toEqual({ ...old, turn: 0, opacity: 1 });
  });

  it('is never put together from much more than a quarter of a state', () => {
    expect(isStateDue(48 * 1024 - 1, 0)).toBe(false);
    expect(isStateDue(48 * 1024, 0)).toBe(true);
    expect(isStateDue(48 * 1024, 1_000_000)).toBe(false);
    expect(isStateDue(250_000, 1_000_000)).toBe(true);
  });
});

describe('what a change did', () => {
  it('is counted by kind, each item once, and told in words', () => {
    const kinds = mapOf([note('n'), picture('gone')]);
    const gist = gistOf(
      made(
        ...[{ create: picture('a') }, { create: picture('b') }, { item: 'a', set: { width: 9 } }],
        ...[
          { item: 'n', set: { text: 'x' } },
          { item: 'n', set: { removed: true } },
        ],
        ...[
          { item: 'gone', set: { removed: false } },
          { item: 'nobody', set: { width: 1 } },
        ],
      ),
      (id) => kinds.get(id)?.kind,
    );
    expect(gist).toEqual({
      placement: { added: 3, removed: 0, altered: 0 },
      note: { added: 0, removed: 1, altered: 0 },
    });
    expect(wordsOfGist(gist)).toBe('3 pictures; gone: 1 remark');
    const more = addGists(gist, { note: { added: 2, removed: 0, altered: 4 } });
    expect(wordsOfGist(more)).toBe('3 pictures, 2 remarks; 4 altered; gone: 1 remark');
    expect(wordsOfGist({})).toBe('');
  });

  it('belongs to a stretch by one person without a long pause', () => {
    const minute = (minutes: number) => new Date(Date.UTC(2026, 10, 24, 9, minutes));
    const one = { placement: { added: 1, removed: 0, altered: 0 } };
    const entry = (revision: number, minutes: number, by: string | null = null): Entry => ({
      ...{ revision, at: minute(minutes), by, gist: one },
    });
    const stretches = stretchesOf([
      ...[entry(1, 0), entry(2, 20), entry(3, 49)],
      ...[entry(4, 50, 'Mara Quill'), entry(5, 51)],
      ...[entry(6, 81)],
    ]);
    expect(stretches.map(({ from, to, by }) => [from, to, by])).toEqual([
      ...[
        [1, 3, null],
        [4, 4, 'Mara Quill'],
        [5, 5, null],
        [6, 6, null],
      ],
    ]);
    expect(stretches[0]).toMatchObject({
      ...{ begunAt: minute(0).toISOString(), endedAt: minute(49).toISOString() },
      gist: { placement: { added: 3, removed: 0, altered: 0 } },
    });
  });
});

describe('the line of a history', () => {
  const lengths = fc.array(fc.integer({ min: 1, max: 4_000 }), { minLength: 1, maxLength: 40 });
  const lineOf = (all: readonly number[]): HistoryLine => {
    let last = 0;
    return new HistoryLine(
      all.map((length) => {
        const from = last + 1;
        last += length;
        return { from, to: last, begunAt: '', endedAt: '', by: null, gist: {} };
      }),
    );
  };

  it('reaches every revision, in their order, and gives each its own place', () => {
    fc.assert(
      fc.property(lengths, fc.double({ min: 0, max: 1, noNaN: true }), (all, share) => {
        const line = lineOf(all);
        expect([line.revisionAt(0), line.revisionAt(1)]).toEqual([0, line.end]);
        expect([line.positionOf(0), line.positionOf(line.end)]).toEqual([0, expect.closeTo(1, 9)]);
        const revision = Math.round(share * line.end);
        expect(line.revisionAt(line.positionOf(revision))).toBe(revision);
        if (revision > 0) expect(line.positionOf(revision)).toBeGreaterThan(line.positionOf(revision - 1));
        const [first] = line.places;
        expect(first!.start).toBe(0);
        expect(line.stretchOf(revision)?.to ?? 0).toBeGreaterThanOrEqual(revision);
      }),
    );
  });

  it('leaves room for a short stretch beside a long one, and is there for an empty board', () => {
    const [long, short] = lineOf([3_000, 5]).places;
    const width = (place: typeof long) => place!.end - place!.start;
    expect(width(short) / width(long)).toBeCloseTo(Math.sqrt(5 / 3_000), 9);
    const empty = lineOf([]);
    expect([empty.end, empty.revisionAt(0.5), empty.positionOf(3)]).toEqual([0, 0, 0]);
    expect(sameValue(empty.places, [])).toBe(true);
  });
});
