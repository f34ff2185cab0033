import { INTAKE_LIMITS, type Print, printOf } from '@miradero/core/picture';
import sharp from 'sharp';
import { asStillAvif } from './still-avif.ts';

/** Longest side from which a print is taken; its cells are a quarter of that. */
const PRINT_SIDE = 128;

/** The print of a picture's first frame, from its bytes or any of its levels. @throws Error when they cannot be read */
export async function printOfBytes(bytes: Uint8Array): Promise<Print> {
  const { data, info } = await sharp(asStillAvif(bytes), { limitInputPixels: INTAKE_LIMITS.pixels })
    .autoOrient()
    .resize(PRINT_SIDE, PRINT_SIDE, { fit: 'inside', withoutEnlargement: true })
    .toColourspace('srgb')
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return printOf({ width: info.width, height: info.height, data });
}
