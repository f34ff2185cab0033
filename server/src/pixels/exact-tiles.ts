import { join } from 'node:path';
import { readDeviceProfile } from '@miradero/core/formats';
import { TILE_PX } from '@miradero/core/picture';
import type { Metadata } from 'sharp';
import type { PictureFile } from './levels.ts';
import { openPicture } from './open-picture.ts';

/** By what the levels of lossless tiles are read. */
export interface ExactTiles {
  readonly space: 'srgb' | 'display-p3' | 'profile';
  /** The file's own, for `profile`. */
  readonly profile: Buffer | undefined;
}

const OF_LIGHT: readonly Metadata['space'][] = ['srgb', 'rgb', 'rgb16', 'b-w', 'grey16'];

/** By which way the levels of a file become light. */
function wayOf({ icc, space }: Metadata): ExactTiles {
  const isPlain = OF_LIGHT.includes(space);
  if (isPlain && icc === undefined) return { space: 'srgb', profile: undefined };
  if (isPlain && icc && readDeviceProfile(icc)) return { space: 'profile', profile: icc };
  // Inks, Lab, and profiles of tables: by the libraries' own conversion, into the widest space that it has.
  return { space: 'display-p3', profile: undefined };
}

/**
 * Writes every pixel of a picture as tiles `<column>_<row>.png` into `folder`/tiles_files/0, lossless and in its own
 * depth; libvips streams, so that memory stays low.
 */
export async function writeExactTiles(picture: PictureFile, folder: string): Promise<ExactTiles> {
  const { original, type, width, height } = picture;
  const opened = await openPicture(original, type, width, height);
  const facts = await opened.metadata();
  const way = wayOf(facts);
  const isDeep = facts.depth !== 'uchar' || way.space === 'display-p3';
  const levels =
    way.space === 'display-p3'
      ? opened.autoOrient().withIccProfile('p3', { attach: false }).toColourspace('rgb16')
      : (await openPicture(original, type, width, height, { keepsLevels: true }))
          .autoOrient()
          .toColourspace(isDeep ? 'rgb16' : 'srgb');
  await levels
    .png({ compressionLevel: 3 })
    .tile({ size: TILE_PX, overlap: 0, layout: 'dz', container: 'fs', depth: 'one' })
    .toFile(join(folder, 'tiles.dz'));
  return way;
}
