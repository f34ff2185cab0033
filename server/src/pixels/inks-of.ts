import type { CmykAnswer } from '@miradero/core/schema';
import sharp from 'sharp';

/** The profile that libvips has built in, for pictures and colours that name none of their own. */
const PROFILE = 'the built-in CMYK profile of libvips';

/** Four inks of an sRGB colour, by a profile of no press in particular: about right. @param hex - six digits */
export async function inksOf(hex: string): Promise<CmykAnswer> {
  const code = Number.parseInt(hex, 16);
  const pixel = Buffer.from([code >> 16, (code >> 8) & 0xff, code & 0xff]);
  const inks = await sharp(pixel, { raw: { width: 1, height: 1, channels: 3 } })
    .toColourspace('cmyk')
    .raw()
    .toBuffer();
  return { inks: [...inks.subarray(0, 4)].map((one) => one / 255), profile: PROFILE };
}
