import {
  composeTile,
  emptyTile,
  newLayers,
  PaintedSheet,
  TILE_PX,
  tileArea,
  tileKey,
  tilePlace,
  WHOLE_TILE,
} from '@miradero/core/paint';
import { describe, expect, it } from 'vitest';
import type { SeenPart } from '../messages.ts';
import { Seen } from './seen.ts';

const FRAME = { x: 0, y: 0, width: 700, height: 600 };
const PAINTED = tileKey({ column: 1, row: 1 });
const BLANK = tileKey({ column: 0, row: 0 });

/** A sheet with something on four layers of one tile, each pixel other than the next. */
function sheetOn(ground: [number, number, number] | null): PaintedSheet {
  const sheet = new PaintedSheet(FRAME, newLayers(ground));
  for (const [at, id] of ['sketch', 'colour', 'shadow', 'light'].entries()) {
    const pixels = emptyTile();
    for (let byte = 0; byte < pixels.length; byte += 1) pixels[byte] = (byte * (at + 3) * 7 + at * 40) % 256;
    sheet.layer(id).tiles.set(PAINTED, pixels);
  }
  return sheet;
}

/** Mean of a square of a tile that is there wholly, of one channel. */
function meanOf(pixels: Uint8ClampedArray, x: number, y: number, step: number, channel: number): number {
  let sum = 0;
  for (let down = 0; down < step; down += 1)
    for (let right = 0; right < step; right += 1)
      sum += pixels[((y + down) * TILE_PX + x + right) * 4 + channel]!;
  return sum / step ** 2;
}

function expectSeen(part: SeenPart, key: number, composed: Uint8ClampedArray): void {
  const step = 1 << part.level;
  const origin = tileArea(tilePlace(key));
  for (let row = 0; row < part.height; row += 7)
    for (let column = 0; column < part.width; column += 5)
      for (let channel = 0; channel < 4; channel += 1) {
        const x = (part.x + column) * step - origin.x;
        const y = (part.y + row) * step - origin.y;
        const seen = part.data[(row * part.width + column) * 4 + channel]!;
        expect(Math.abs(seen - meanOf(composed, x, y, step, channel))).toBeLessThanOrEqual(0.51);
      }
}

describe('what is seen of a sheet', () => {
  it('is what its layers come to, made smaller by means, whichever layer is worked on', () => {
    const sheet = sheetOn([240, 230, 210]);
    const composed = composeTile(sheet.layers, PAINTED, sheet.ground);
    const seen = new Seen(sheet);
    for (const active of [undefined, 'sketch', 'light', 'ink']) {
      seen.workOn(active);
      for (const levels of [[0], [2], [3], [1, 4], [5, 0]]) {
        const parts = seen.parts(PAINTED, WHOLE_TILE, levels);
        expect(parts.map(({ level }) => level)).toEqual(levels);
        for (const part of parts) expectSeen(part, PAINTED, composed);
      }
    }
  });

  it('also of more tiles than what lies below is had of at once', () => {
    const sheet = new PaintedSheet(FRAME, newLayers([240, 230, 210]));
    const keys = Array.from({ length: 300 }, (_, at) =>
      tileKey({ column: at % 10, row: Math.floor(at / 10) }),
    );
    for (const [at, key] of keys.entries()) {
      const pixels = emptyTile();
      pixels.fill(at + 60);
      sheet.layer('sketch').tiles.set(key, pixels);
    }
    const seen = new Seen(sheet);
    const firstOf = (key: number) => [...seen.parts(key, WHOLE_TILE, [5])[0]!.data.subarray(0, 4)];
    const before = keys.map(firstOf);
    seen.workOn('ink');
    expect([...keys, ...keys].map(firstOf)).toEqual([...before, ...before]);
  });

  it('of a part is whole pixels of the level that hold it', () => {
    const sheet = sheetOn([9, 8, 7]);
    const composed = composeTile(sheet.layers, PAINTED, sheet.ground);
    const [part] = new Seen(sheet).parts(PAINTED, { x: 13, y: 30, width: 20, height: 5 }, [3]);
    expect(part).toMatchObject({ level: 3, x: (256 + 8) / 8, y: (256 + 24) / 8, width: 4, height: 2 });
    expectSeen(part!, PAINTED, composed);
  });

  it('where nothing is painted is the ground; without one nothing; bare ground stands out where it is shown', () => {
    const pixel = (sheet: PaintedSheet, isBareShown: boolean) => {
      const seen = new Seen(sheet);
      seen.isBareShown = isBareShown;
      return [...seen.parts(BLANK, WHOLE_TILE, [4])[0]!.data.subarray(0, 4)];
    };
    expect(pixel(sheetOn([240, 230, 210]), false)).toEqual([240, 230, 210, 255]);
    expect(pixel(sheetOn(null), false)).toEqual([0, 0, 0, 0]);
    expect(pixel(sheetOn([240, 230, 210]), true)).toEqual([191, 65, 40, 255]);
    const hidden = sheetOn([1, 2, 3]);
    for (const { id } of hidden.layers.slice(1)) hidden.alter(id, { isHidden: true });
    const [part] = new Seen(hidden).parts(PAINTED, WHOLE_TILE, [0]);
    expect([...part!.data.subarray(-4)]).toEqual([1, 2, 3, 255]);
  });
});
