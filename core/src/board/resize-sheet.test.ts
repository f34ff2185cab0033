import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pixelsOfSheet } from '../easel/index.ts';
import { createNote, createSheet, type SheetItem } from '../items/index.ts';
import type { Item, Operation } from '../schema/index.ts';
import {
  applyChange,
  boundsOf,
  changeSheetPaper,
  isDrawn,
  isSeen,
  keysBelow,
  keysOnTop,
  restack,
  restackByStep,
  scaleSheet,
} from './index.ts';

const SETUP = { width: 12, height: 9.6, unit: 'in', ppi: 100, bleed: 0.1 } as const;
const note = (id: string, x: number, y: number, stack = 'a0'): Item =>
  createNote({ id, stack, centre: { x, y }, width: 200, height: 100, text: id });
const desk = (...items: Item[]): Map<string, Item> =>
  new Map([createSheet(SETUP), ...items].map((item) => [item.id, item]));
const withOperations = (items: ReadonlyMap<string, Item>, operations: readonly Operation[]) => {
  const state = new Map(items);
  applyChange(state, { id: 'c', operations });
  return state;
};
const sheetIn = (items: ReadonlyMap<string, Item>) => items.get('sheet') as SheetItem;

describe('the paper of a board', () => {
  it('is drawn beneath everything, and is none of what stands there', () => {
    const items = desk(note('a', 0, 0));
    const sheet = sheetIn(items);
    expect([isDrawn(items, sheet), isSeen(items, sheet)]).toEqual([true, false]);
    expect(boundsOf(sheet)).toEqual({ x: -10, y: -10, width: 1220, height: 980 });
  });

  it('stays lowest, whatever is lowered or raised', () => {
    const items = desk(note('a', 0, 0, 'a0'), note('b', 10, 0, 'a1'), note('far', 5_000, 0, 'a2'));
    const all = [...items.values()];
    const lowered = [
      ...restack(all, new Set(['far']), null),
      ...restackByStep(all, new Set(['a']), 'lower'),
      ...restackByStep(all, new Set(['far']), 'lower'),
    ];
    const after = withOperations(items, lowered);
    for (const { id, stack } of after.values())
      if (id !== 'sheet') expect(stack > sheetIn(after).stack).toBe(true);
    const bare = desk();
    expect(keysOnTop(bare.values(), 1)).toEqual(keysOnTop([], 1));
    expect(keysBelow(bare.values(), 1)).toEqual(keysBelow([], 1));
  });
});

describe('scaling a sheet', () => {
  it('scales its paper, what lies on it and its guides, and is taken back by the way back', () => {
    const items = desk(note('a', 600, 480));
    const sheet = { ...sheetIn(items), guides: { x: [300], y: [96] } };
    const all = new Map(items).set('sheet', sheet);
    const half = withOperations(all, scaleSheet(all.values(), sheet, { width: 600, height: 480 }));
    expect(pixelsOfSheet(sheetIn(half).setup).trimmed).toEqual({ width: 600, height: 480 });
    expect(half.get('a')).toMatchObject({ centre: { x: 300, y: 240 }, width: 100 });
    expect(sheetIn(half).guides).toEqual({ x: [150], y: [48] });
    const back = withOperations(half, scaleSheet(half.values(), sheetIn(half), { width: 1200, height: 960 }));
    expect(back.get('a')).toMatchObject({ centre: { x: 600, y: 480 }, width: 200 });
  });

  it('that squeezes lets pictures follow the side that gains less, and keeps every place', () => {
    const items = desk(note('a', 600, 480));
    const after = withOperations(
      items,
      scaleSheet(items.values(), sheetIn(items), { width: 2400, height: 960 }),
    );
    expect(after.get('a')).toMatchObject({ centre: { x: 1200, y: 480 }, width: 200 });
  });
});

describe('other paper', () => {
  it('lets everything lie where the anchor says, in its size', () => {
    const items = desk(note('a', 600, 480));
    const next = { width: 1000, height: 1000 };
    const at = (x: 0 | 0.5 | 1, y: 0 | 0.5 | 1) =>
      withOperations(items, changeSheetPaper(items.values(), sheetIn(items), next, { x, y })).get('a')!
        .centre;
    expect(at(0, 0)).toEqual({ x: 600, y: 480 });
    expect(at(0.5, 0.5)).toEqual({ x: 500, y: 500 });
    expect(at(1, 1)).toEqual({ x: 400, y: 520 });
  });

  it('and back again about the same anchor is as it was', () => {
    const side = fc.integer({ min: 40, max: 5_000 });
    const third = fc.constantFrom(0, 0.5, 1) as fc.Arbitrary<0 | 0.5 | 1>;
    fc.assert(
      fc.property(side, side, third, third, (width, height, x, y) => {
        const items = desk(note('a', 613, 481));
        const there = withOperations(
          items,
          changeSheetPaper(items.values(), sheetIn(items), { width, height }, { x, y }),
        );
        const was = pixelsOfSheet(sheetIn(items).setup).trimmed;
        const back = withOperations(there, changeSheetPaper(there.values(), sheetIn(there), was, { x, y }));
        // Half a pixel that is rounded once each way.
        expect(Math.abs(back.get('a')!.centre.x - 613)).toBeLessThanOrEqual(1);
        expect(Math.abs(back.get('a')!.centre.y - 481)).toBeLessThanOrEqual(1);
        expect(pixelsOfSheet(sheetIn(back).setup)).toEqual(pixelsOfSheet(sheetIn(items).setup));
      }),
    );
  });
});
