import { bytesOfHistogram, coarsened, histogramOf } from '@miradero/core/colour';
import type { Sharp } from 'sharp';

/** How often each colour is in a picture, all pixels counted, in sRGB. @param opened - as `openPicture` gives it */
export async function histogramBytesOf(opened: Sharp): Promise<Buffer> {
  const pixels = await opened.toColourspace('srgb').ensureAlpha().raw().toBuffer();
  return Buffer.from(bytesOfHistogram(coarsened(histogramOf(pixels))));
}
