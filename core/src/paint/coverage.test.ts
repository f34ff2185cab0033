import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { emptyTile, oneColourOf, TILE_PX, tileOfOneColour, wholePixels } from './index.ts';

const byte = fc.integer({ min: 0, max: 255 });
const painted = fc.array(fc.tuple(fc.integer({ min: 0, max: TILE_PX ** 2 - 1 }), byte), { maxLength: 60 });

describe('a tile of one colour', () => {
  it('is that colour and how much it covers, and nothing is lost', () => {
    fc.assert(
      fc.property(byte, byte, byte, painted, (red, green, blue, all) => {
        const tile = emptyTile();
        for (const [at, alpha] of all) if (alpha > 0) tile.set([red, green, blue, alpha], at * 4);
        const one = oneColourOf(tile)!;
        const isPainted = all.some(([, alpha]) => alpha > 0);
        expect(one.colour).toBe(isPainted ? (blue << 16) | (green << 8) | red : 0);
        const back = wholePixels(tileOfOneColour(one));
        expect(wholePixels(tile).every((pixel, at) => pixel === back[at])).toBe(true);
      }),
    );
  });

  it('has what is wholly clear without a colour, whatever stood there before', () => {
    const tile = emptyTile();
    tile.set([9, 8, 7, 200, 1, 2, 3, 0]);
    const back = tileOfOneColour(oneColourOf(tile)!);
    expect([...back.subarray(0, 8)]).toEqual([9, 8, 7, 200, 0, 0, 0, 0]);
    tile.set([9, 8, 6, 1], wholePixels(tile).byteLength - 4);
    expect(oneColourOf(tile)).toBeUndefined();
    expect(() => tileOfOneColour({ colour: 0, coverage: new Uint8Array(9) })).toThrow(RangeError);
  });
});
