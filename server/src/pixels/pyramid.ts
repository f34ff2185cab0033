import { join } from 'node:path';
import { TILE_PX } from '@miradero/core/picture';
import type { PictureFile } from './levels.ts';
import { openPicture } from './open-picture.ts';

const WEBP = { quality: 88, effort: 0 } as const;

/** Writes a whole pyramid as files into `folder`; libvips streams, so that memory stays low. */
export async function writePyramid(picture: PictureFile, folder: string): Promise<void> {
  const opened = await openPicture(picture.original, picture.type, picture.width, picture.height);
  await opened
    .autoOrient()
    .toColourspace('srgb')
    .webp(WEBP)
    .tile({ size: TILE_PX, overlap: 0, layout: 'dz', container: 'fs', depth: 'onetile' })
    .toFile(join(folder, 'pyramid.dz'));
}
