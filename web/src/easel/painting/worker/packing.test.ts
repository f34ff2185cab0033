import { emptyTile, type TilePixels } from '@miradero/core/paint';
import { describe, expect, it } from 'vitest';
import { packed, packedTile, unpackedTile } from './packing.ts';

const back = unpackedTile;
const isSame = (one: TilePixels, other: TilePixels) =>
  one.length === other.length && one.every((value, at) => value === other[at]);

describe('a tile that is kept', () => {
  it('comes back as it was, of one colour or of many, painted or not', async () => {
    const [soft, mixed] = [emptyTile(), emptyTile()];
    for (let at = 0; at < soft.length; at += 4) {
      soft.set([58, 44, 34, 1 + ((at >> 4) % 255)], at);
      mixed.set([at % 256, at >> 12, 5, 1 + (at % 200)], at);
    }
    for (const tile of [soft, mixed, emptyTile()])
      expect(isSame(await back(await packedTile(tile)), tile)).toBe(true);
    const [one, many] = [await packedTile(soft), await packedTile(mixed)];
    expect([one[0], one[1], one[2], one[3]]).toEqual([6, 58, 44, 34]);
    expect(many[0]! & 6).not.toBe(6);
  });

  it('also where it was packed before tiles of one colour were told apart', async () => {
    const tile = emptyTile();
    tile.fill(77);
    expect(isSame(await back(await packed(new Uint8Array(tile.buffer), 'deflate-raw')), tile)).toBe(true);
  });

  it('is refused where it is damaged', async () => {
    const whole = await packedTile(emptyTile());
    await expect(back(whole.slice(0, 6))).rejects.toThrow();
    await expect(
      back(Uint8Array.of(6, 1, 2, 3, ...(await packed(new Uint8Array(9), 'deflate-raw')))),
    ).rejects.toThrow(RangeError);
    await expect(back(Uint8Array.of(7, 7, 7))).rejects.toThrow();
  });
});
