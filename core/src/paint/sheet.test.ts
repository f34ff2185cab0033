import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  BRUSHES,
  LAYER_KINDS,
  lassoMask,
  layerFacts,
  PaintedSheet,
  PaintStroke,
  paintArea,
  type TilePixels,
} from './index.ts';

const FRAME = { x: 0, y: 0, width: 500, height: 400 };
const GROUND = [240, 230, 210] as const;
const sheetWith = (...kinds: Parameters<typeof layerFacts>[1][]) =>
  new PaintedSheet(
    FRAME,
    kinds.map((kind) => ({ ...layerFacts(kind, kind), ...(kind === 'ground' && { colour: GROUND }) })),
  );

function paint(
  sheet: PaintedSheet,
  id: string,
  y: number,
  colour: [number, number, number] = [20, 40, 160],
): void {
  const stroke = new PaintStroke(
    sheet.layer(id),
    { ...BRUSHES.round, pressureTo: { size: false, opacity: false } },
    colour,
    FRAME,
  );
  for (const x of [20, 250, 480]) stroke.to([{ x, y, pressure: 1 }]);
  sheet.record(stroke.end());
}
/** All that a sheet is: its layers with their very tiles. */
const stateOf = (sheet: PaintedSheet) =>
  sheet.layers.map(({ tiles, ...facts }) => ({
    facts,
    tiles: new Map([...tiles.keys].map((key) => [key, tiles.get(key)])),
  }));
type State = ReturnType<typeof stateOf>;
const isSame = (one: State, other: State): boolean =>
  one.length === other.length &&
  one.every(({ facts, tiles }, index) => {
    const there = other[index]!;
    const areTilesSame =
      tiles.size === there.tiles.size &&
      [...tiles].every(([key, pixels]: [number, TilePixels | undefined]) => there.tiles.get(key) === pixels);
    return areTilesSame && JSON.stringify(facts) === JSON.stringify(there.facts);
  });

describe('a painted sheet', () => {
  it('goes back and forth through whatever was done to it and its layers', () => {
    const action = fc.oneof(
      fc.record({ what: fc.constant('paint' as const), at: fc.nat(9), y: fc.integer({ min: 10, max: 390 }) }),
      fc.record({ what: fc.constant('add' as const), kind: fc.constantFrom(...LAYER_KINDS) }),
      fc.record({ what: fc.constant('remove' as const), at: fc.nat(9) }),
      fc.record({ what: fc.constant('move' as const), at: fc.nat(9), to: fc.nat(9) }),
      fc.record({
        what: fc.constant('fade' as const),
        at: fc.nat(9),
        opacity: fc.double({ min: 0, max: 1, noNaN: true }),
      }),
      fc.record({ what: fc.constant('merge' as const), at: fc.nat(9) }),
    );
    fc.assert(
      fc.property(fc.array(action, { maxLength: 9 }), (actions) => {
        const sheet = sheetWith('ground', 'sketch', 'ink');
        const states = [stateOf(sheet)];
        for (const [index, one] of actions.entries()) {
          const all = sheet.layers;
          const id = 'at' in one ? all[one.at % Math.max(1, all.length)]?.id : undefined;
          if (one.what === 'add') sheet.add(`new ${index}`, one.kind);
          else if (id === undefined) continue;
          else if (one.what === 'remove') sheet.remove(id);
          else if (one.what === 'move') sheet.move(id, one.to % all.length);
          else if (one.what === 'fade') sheet.alter(id, { opacity: one.opacity });
          else if (one.what === 'merge') {
            if (!sheet.canMerge(id)) continue;
            sheet.merge(id);
          } else {
            if (sheet.layer(id).isLocked) continue;
            paint(sheet, id, one.y);
          }
          states.push(stateOf(sheet));
        }
        for (let at = states.length - 2; at >= 0; at -= 1) {
          sheet.undo();
          expect(isSame(stateOf(sheet), states[at]!)).toBe(true);
        }
        expect(sheet.undo()).toBeUndefined();
        for (let at = 1; at < states.length; at += 1) {
          sheet.redo();
          expect(isSame(stateOf(sheet), states[at]!)).toBe(true);
        }
      }),
      { numRuns: 30 },
    );
  });

  it('tells what of it is bare, whatever its ground is painted like', () => {
    const sheet = sheetWith('ground', 'colour');
    expect(sheet.bare).toBe(1);
    for (let y = 0; y <= 400; y += 12) paint(sheet, 'colour', y);
    expect(sheet.bare).toBeLessThan(0.1);
    sheet.alter('colour', { isHidden: true });
    expect(sheet.bare).toBe(1);
    expect(() => new PaintStroke(sheet.layer('ground'), BRUSHES.round, [0, 0, 0], FRAME)).toThrow(RangeError);
  });

  it('takes one pull at a slider back as one step, and lets no more of them stay than are wanted', () => {
    const sheet = sheetWith('sketch', 'ink');
    paint(sheet, 'ink', 100);
    for (const [at, opacity] of [0.9, 0.6, 0.3].entries()) sheet.alter('ink', { opacity }, at > 0);
    sheet.alter('ink', { opacity: 0.5 });
    expect(sheet.layer('ink').opacity).toBe(0.5);
    sheet.undo();
    expect(sheet.layer('ink').opacity).toBe(0.3);
    // Nothing goes on what was taken back: it is a step of its own.
    sheet.undo();
    expect(sheet.layer('ink').opacity).toBe(1);
    sheet.alter('ink', { opacity: 0.2 }, true);
    expect(sheet.bytes).toBeGreaterThan(0);
    sheet.undo();
    expect(sheet.layer('ink').opacity).toBe(1);
    expect(sheet.bytes).toBeGreaterThan(0);
    for (let step = 0; step < 700; step += 1) sheet.alter('ink', { isHidden: step % 2 === 0 });
    expect(sheet.history.done).toHaveLength(500);
  });

  it('numbers a further layer of a kind', () => {
    const sheet = sheetWith('ground', 'shadow');
    for (const id of ['one', 'two']) sheet.add(id, 'shadow');
    expect(sheet.facts.map(({ name }) => name)).toEqual(['ground', 'shadow', 'shadow 2', 'shadow 3']);
    sheet.remove('one');
    sheet.add('three', 'shadow');
    expect(sheet.facts.map(({ name }) => name)).toEqual(['ground', 'shadow', 'shadow 3', 'shadow 2']);
  });

  it('takes as much memory as was touched, and less once it is taken back', () => {
    const sheet = sheetWith('ground', 'sketch', 'ink');
    paint(sheet, 'ink', 100);
    // One row of two tiles.
    expect(sheet.bytes).toBe(2 * 256 * 256 * 4);
    sheet.undo();
    expect(sheet.bytes).toBe(0);
    expect(() => sheet.layer('nobody')).toThrow(RangeError);
    expect(sheet.canMerge('sketch')).toBe(false);
    expect(() => sheet.merge('sketch')).toThrow(RangeError);
  });

  it('has areas of one colour once, and each is altered for itself', () => {
    const sheet = sheetWith('ground', 'sketch', 'ink');
    const all = [
      { x: 0, y: 0 },
      { x: 500, y: 0 },
      { x: 500, y: 400 },
      { x: 0, y: 400 },
    ];
    const cover = (id: string, colour: [number, number, number]) =>
      sheet.record(paintArea(sheet.layer(id), lassoMask(all, FRAME), { colour, opacity: 1 }, FRAME));
    cover('sketch', [20, 40, 160]);
    cover('ink', [20, 40, 160]);
    const tileOn = (id: string) => sheet.layer(id).tiles.get(0);
    expect(tileOn('ink')).toBe(tileOn('sketch'));
    paint(sheet, 'ink', 100, [250, 0, 0]);
    expect(tileOn('ink')).not.toBe(tileOn('sketch'));
    expect([...tileOn('sketch')!.subarray(0, 4)]).toEqual([20, 40, 160, 255]);
    expect([...tileOn('sketch')!].every((byte, at) => byte === [20, 40, 160, 255][at % 4])).toBe(true);
    sheet.undo();
    expect(tileOn('ink')).toBe(tileOn('sketch'));
    cover('ink', [1, 2, 3]);
    expect(tileOn('ink')).not.toBe(tileOn('sketch'));
    // What lies below is seen as soon as it is not covered wholly.
    const seen = () => [...sheet.composed(0).subarray(0, 4)];
    expect(seen()).toEqual([1, 2, 3, 255]);
    sheet.alter('ink', { opacity: 0.5 });
    expect(seen()).toEqual([11, 21, 82, 255]);
    sheet.alter('ink', { isHidden: true });
    expect(seen()).toEqual([20, 40, 160, 255]);
  });
});
