import { pixelsOfLight } from '@miradero/core/colour';
import {
  type DeviceProfile,
  DISPLAY_P3_PROFILE,
  lightOfLevels,
  readDeviceProfile,
  SRGB_PROFILE,
} from '@miradero/core/formats';
import type { Rectangle } from '@miradero/core/geometry';
import { TILE_PX } from '@miradero/core/picture';
import { MOST_PIXELS_AT_ONCE, type PixelsQuery } from '@miradero/core/schema';
import sharp from 'sharp';
import type { Knex } from '../database/connection.ts';
import { type ExactTile, findExact, findExactTiles } from '../database/exact-tiles.ts';
import { ProblemError } from '../requests/problem.ts';
import { readBytes } from '../storage/blob-store.ts';

async function profileOf(knex: Knex, exact: string): Promise<DeviceProfile> {
  if (exact === 'srgb') return SRGB_PROFILE;
  if (exact === 'display-p3') return DISPLAY_P3_PROFILE;
  // It was read once already, when the tiles were cut.
  return readDeviceProfile(await readBytes(knex, exact))!;
}

/** Where a rectangle of whole pixels and a tile have pixels in common. */
function commonOf(wanted: Rectangle, left: number, top: number, width: number, height: number): Rectangle {
  const x = Math.max(wanted.x, left);
  const y = Math.max(wanted.y, top);
  return {
    ...{ x, y, width: Math.min(wanted.x + wanted.width, left + width) - x },
    height: Math.min(wanted.y + wanted.height, top + height) - y,
  };
}

/** Puts what a tile has of the wanted part into its place. Light: RGBA, linear sRGB. */
async function addTile(
  knex: Knex,
  { row, column, hash }: ExactTile,
  profile: DeviceProfile,
  wanted: Rectangle,
  into: Float32Array,
): Promise<void> {
  // These are bytes that the program wrote itself: they are read here, not in a process of their own.
  const tile = sharp(await readBytes(knex, hash), { ignoreIcc: true });
  const { width, height, depth } = await tile.metadata();
  const [left, top] = [column * TILE_PX, row * TILE_PX];
  const part = commonOf(wanted, left, top, width, height);
  const isDeep = depth === 'ushort';
  const raw = await tile
    .extract({ left: part.x - left, top: part.y - top, width: part.width, height: part.height })
    .toColourspace(isDeep ? 'rgb16' : 'srgb')
    .ensureAlpha()
    .raw({ depth: isDeep ? 'ushort' : 'uchar' })
    .toBuffer();
  const light = isDeep
    ? lightOfLevels(new Uint16Array(raw.buffer, raw.byteOffset, raw.length / 2), 65_535, profile)
    : lightOfLevels(raw, 255, profile);
  for (let line = 0; line < part.height; line += 1) {
    const at = ((part.y - wanted.y + line) * wanted.width + part.x - wanted.x) * 4;
    into.set(light.subarray(line * part.width * 4, (line + 1) * part.width * 4), at);
  }
}

/**
 * A part of a picture, from its lossless tiles, each pixel as the file's own profile says.
 *
 * @returns RGBA row by row: bytes of sRGB, or floats of linear light, as asked
 * @throws ProblemError `picture-missing`, `level-missing` where there are no such tiles (yet), `no-such-pixels`
 */
export async function exactPixels(
  knex: Knex,
  owner: string,
  picture: string,
  { as, ...wanted }: PixelsQuery,
): Promise<Buffer> {
  const known = await findExact(knex, owner, picture);
  if (!known) throw new ProblemError('picture-missing');
  const { width, height, exact } = known;
  const isWithin = wanted.x + wanted.width <= width && wanted.y + wanted.height <= height;
  if (!isWithin || wanted.width * wanted.height > MOST_PIXELS_AT_ONCE)
    throw new ProblemError('no-such-pixels');
  if (exact === null || exact === 'failed') throw new ProblemError('level-missing');
  const profile = await profileOf(knex, exact);
  const tileOf = (x: number, y: number) => ({
    column: Math.floor(x / TILE_PX),
    row: Math.floor(y / TILE_PX),
  });
  const from = tileOf(wanted.x, wanted.y);
  const to = tileOf(wanted.x + wanted.width - 1, wanted.y + wanted.height - 1);
  const light = new Float32Array(wanted.width * wanted.height * 4);
  for (const tile of await findExactTiles(knex, picture, from, to))
    await addTile(knex, tile, profile, wanted, light);
  const bytes = as === 'light' ? light : pixelsOfLight(light);
  return Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
}
