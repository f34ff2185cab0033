import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createNote } from '../items/index.ts';
import type { Change, Item } from '../schema/index.ts';
import {
  applyChange,
  type Done,
  factsBefore,
  joinChanges,
  joinDone,
  recordDone,
  takeBack,
  takeBackFacts,
} from './index.ts';
import { board, change } from './test/arbitrary.ts';

/** With what older items lack. */
const whole = (item: Item): Item => ({ cluster: null, isFixed: false, ...item });
const mapOf = (items: readonly Item[]) => new Map(items.map((item) => [item.id, item]));
/** What a person sees: created items that were taken back are removed, not gone. */
const standing = (state: ReadonlyMap<string, Item>) =>
  new Map([...state].filter(([, item]) => !item.removed).map(([id, item]) => [id, whole(item)]));

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
        for (const item of items) expect(whole(state.get(item.id)!)).toEqual(whole(item));
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

  it('joins changes in a row to one that does the same, and is taken back like both', () => {
    let joinedRuns = 0;
    fc.assert(
      fc.property(board, change, change, fc.option(change), (items, one, two, between) => {
        const state = mapOf(items);
        const first = make(state, one);
        if (between) applyChange(state, between);
        const next = make(state, two);
        const joined = joinDone(first, next);
        fc.pre(joined !== undefined);
        joinedRuns += 1;
        const both = new Map(state);
        for (const done of [next, first]) {
          const { operations } = takeBack(both, done);
          if (operations.length > 0) applyChange(both, { id: 'undo', operations });
        }
        const { operations } = takeBack(state, joined);
        if (operations.length > 0) applyChange(state, { id: 'undo', operations });
        expect(state).toEqual(both);

        const apart = mapOf(items);
        const together = mapOf(items);
        applyChange(apart, one);
        applyChange(apart, two);
        applyChange(together, joinChanges(one, two)!);
        expect(together).toEqual(apart);
      }),
      { numRuns: 500, maxSkipsPerRun: 200 },
    );
    expect(joinedRuns).toBeGreaterThan(100);
  });

  it('joins none that create, nor across what somebody else set between', () => {
    const note = createNote({
      id: 'n',
      stack: 'a0',
      centre: { x: 0, y: 0 },
      width: 240,
      height: 51,
      text: '',
    });
    const create: Change = { id: '1', operations: [{ create: note }] };
    const wider = (id: string, width: number): Change => ({
      id,
      operations: [{ item: 'n', set: { width } }],
    });
    expect(joinChanges(create, wider('2', 300))).toBeUndefined();
    expect(joinChanges(wider('2', 300), create)).toBeUndefined();
    const state = mapOf([note]);
    const first = make(state, wider('1', 300));
    applyChange(state, wider('theirs', 400));
    const next = make(state, wider('2', 410));
    expect(joinDone(first, next)).toBeUndefined();
    expect(joinChanges(first.change, next.change)).toEqual(wider('1', 410));
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
