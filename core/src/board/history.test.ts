import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createNote } from '../items/index.ts';
import type { Change, Item } from '../schema/index.ts';
import { applyChange, type Done, factsBefore, recordDone, takeBack, takeBackFacts } from './index.ts';
import { board, change } from './test/arbitrary.ts';

const mapOf = (items: readonly Item[]) => new Map(items.map((item) => [item.id, item]));
/** What a person sees: created items that were taken back are removed, not gone. */
const standing = (state: ReadonlyMap<string, Item>) =>
  new Map([...state].filter(([, item]) => !item.removed).map(([id, item]) => [id, item]));

function make(state: Map<string, Item>, made: Change): Done {
  const done = recordDone(state, made);
  applyChange(state, made);
  return done;
}

describe('history', () => {
  it('gives the start back when any sequence of changes is undone', () => {
    fc.assert(
      fc.property(board, fc.array(change, { maxLength: 12 }), (items, changes) => {
        const state = mapOf(items);
        const stack = changes.map((made) => make(state, made));
        for (const done of stack.reverse()) {
          const { operations, skipped } = takeBack(state, done);
          expect(skipped).toBe(0);
          if (operations.length > 0) applyChange(state, { id: 'undo', operations });
        }
        expect(standing(state)).toEqual(standing(mapOf(items)));
        for (const item of items) expect(state.get(item.id)).toEqual(item);
      }),
      { numRuns: 500 },
    );
  });

  it('gives the end back when everything undone is redone', () => {
    fc.assert(
      fc.property(board, fc.array(change, { maxLength: 10 }), (items, changes) => {
        const state = mapOf(items);
        const undo = changes.map((made) => make(state, made));
        const end = new Map(state);
        const redo: Done[] = [];
        for (const done of [...undo].reverse()) {
          const { operations } = takeBack(state, done);
          if (operations.length > 0) redo.push(make(state, { id: 'undo', operations }));
        }
        for (const done of redo.reverse()) {
          const { operations } = takeBack(state, done);
          if (operations.length > 0) applyChange(state, { id: 'redo', operations });
        }
        expect(standing(state)).toEqual(standing(end));
      }),
      { numRuns: 500 },
    );
  });

  it('leaves and counts a property that another window has set since', () => {
    const before = mapOf([
      createNote({
        ...{ id: 'n', stack: 'a0', centre: { x: 0, y: 0 }, width: 100, height: 50 },
        text: 'one',
      }),
    ]);
    const mine = { id: 'c', operations: [{ item: 'n', set: { text: 'two', width: 200 } }] };
    const done = make(before, mine);
    applyChange(before, { id: 'other', operations: [{ item: 'n', set: { text: 'three' } }] });
    expect(takeBack(before, done)).toEqual({ operations: [{ item: 'n', set: { width: 100 } }], skipped: 1 });
  });
});

describe('facts', () => {
  const value = fc.oneof(fc.string(), fc.integer(), fc.boolean(), fc.constant(null), fc.array(fc.string()));
  const some = fc.dictionary(fc.constantFrom('name', 'note', 'pile', 'surround'), value);
  const source = fc.dictionary(fc.constantFrom('page', 'creator', 'licence'), fc.option(fc.string()));
  const facts = fc
    .tuple(some, source)
    .map(([own, of]) => ({ ...own, source: of }) as Record<string, unknown>);
  const merged = (now: Record<string, unknown>, patch: Record<string, unknown>) => ({
    ...now,
    ...patch,
    source: { ...(now.source as object), ...(patch.source as object) },
  });
  /** Absent, null and empty are one. */
  const plain = (all: object): object =>
    Object.fromEntries(
      Object.entries(all)
        .filter(([, one]) => one !== null && one !== '' && one !== undefined)
        .map(([name, one]) => [name, name === 'source' ? plain(one as object) : one]),
    );

  it('are what they were when what was said of them is taken back', () => {
    fc.assert(
      fc.property(facts, facts, (now, patch) => {
        const before = factsBefore(now, patch);
        const after = merged(now, patch);
        const { set, skipped } = takeBackFacts(after, before, patch);
        expect(skipped).toBe(0);
        const back = merged(after, set);
        const ofNow = Object.fromEntries(Object.keys(now).map((name) => [name, back[name as 'source']]));
        expect(plain(ofNow)).toEqual(plain(now));
      }),
    );
  });

  it('that were said anew since are left, and counted', () => {
    const before = { name: 'Lantern', source: { page: null, creator: 'Oskin' } };
    const after = { name: 'Lamp', source: { page: 'https://a.example', creator: 'Wren' } };
    const now = { name: 'Lamp', source: { page: 'https://a.example', creator: 'Orla' } };
    expect(takeBackFacts(now, before, after)).toEqual({
      set: { name: 'Lantern', source: { page: null } },
      skipped: 1,
    });
    expect(takeBackFacts(undefined, before, after)).toEqual({ set: before, skipped: 0 });
  });

  it('of a view that nobody had said are unsaid again', () => {
    const view = {
      azimuthDeg: 30,
      elevationDeg: 0,
      lightAzimuthDeg: null,
      lightElevationDeg: null,
      distance: null,
    };
    expect(factsBefore({ views: {} }, { views: { s: view } })).toEqual({
      views: { s: { ...view, azimuthDeg: null, elevationDeg: null } },
    });
  });
});
