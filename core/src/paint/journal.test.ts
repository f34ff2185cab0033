import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type KeptSheet, newLayers, readJournal, stateRecord, tileRecord, tilesOfState } from './index.ts';

const stateWith = (change: number, tiles: readonly number[]): KeptSheet => ({
  ...{ width: 500, height: 400, ppi: 300, frame: { x: 0, y: 0, width: 500, height: 400 } },
  ...{ reference: null, layers: newLayers([240, 230, 210]), version: null, isAltered: true, change },
  tiles: { sketch: tiles.map((tile, index) => [index, tile]) },
  done: tiles.length > 0 ? [{ tiles: [['sketch', 0, 0, tiles[0]!]] }] : [],
  undone: [],
});
const packedAs = (tile: number) => Uint8Array.from({ length: 40 + (tile % 7) }, (_, at) => tile + at);

/** A file as it grows, with where each of its states ends. */
function written(saves: readonly (readonly number[])[]) {
  const records: Uint8Array[] = [];
  const ends: number[] = [];
  const known = new Set<number>();
  for (const [change, tiles] of saves.entries()) {
    for (const tile of tiles) if (!known.has(tile)) records.push(tileRecord(tile, packedAs(tile)));
    for (const tile of tiles) known.add(tile);
    records.push(stateRecord(stateWith(change, tiles)));
    ends.push(records.reduce((sum, one) => sum + one.length, 0));
  }
  const bytes = new Uint8Array(ends.at(-1)!);
  let at = 0;
  for (const record of records) {
    bytes.set(record, at);
    at += record.length;
  }
  return { bytes, ends };
}

const saves = fc.array(fc.uniqueArray(fc.integer({ min: 1, max: 60 }), { minLength: 1, maxLength: 6 }), {
  minLength: 1,
  maxLength: 6,
});

describe('the file of a sheet', () => {
  it('gives the last state that was written whole, wherever it was cut off', () => {
    fc.assert(
      fc.property(saves, fc.double({ min: 0, max: 1, noNaN: true }), (all, share) => {
        const { bytes, ends } = written(all);
        const length = Math.round(bytes.length * share);
        const read = readJournal(bytes.subarray(0, length));
        const whole = ends.findLastIndex((end) => end <= length);
        if (whole < 0) expect(read).toBeUndefined();
        else {
          expect(read?.state).toEqual(stateWith(whole, all[whole]!));
          expect(read?.end).toBe(ends[whole]);
          for (const tile of tilesOfState(read!.state)) expect(read!.tiles.get(tile)).toEqual(packedAs(tile));
        }
      }),
    );
  });

  it('believes nothing from the first byte on that is another', () => {
    fc.assert(
      fc.property(saves, fc.nat(), fc.integer({ min: 1, max: 255 }), (all, place, by) => {
        const { bytes, ends } = written(all);
        const at = place % bytes.length;
        bytes[at] = bytes[at]! ^ by;
        const before = ends.findLastIndex((end) => end <= at);
        expect(readJournal(bytes)?.state.change).toBe(before < 0 ? undefined : before);
      }),
    );
  });

  it('with a state whose tile is not there is none', () => {
    expect(readJournal(stateRecord(stateWith(0, [3])))).toBeUndefined();
    expect(readJournal(new Uint8Array(0))).toBeUndefined();
  });
});
