import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';

/** Of a picture of 12 megapixels. */
export const SIDES = { width: 4000, height: 3000 } as const;

/** Pictures of the demo. */
export const PICTURES = ['20260915_061803.jpg', 'P1080266.JPG', 'DSC00731.JPG'];

/** A picture of the demo as a camera of 12 megapixels gives it: enlarged, with grain. */
export async function camera(name: string): Promise<Uint8ClampedArray<ArrayBuffer>> {
  const path = join(fileURLToPath(new URL('../demo/pictures/', import.meta.url)), name);
  const grain = await sharp({
    create: {
      ...SIDES,
      channels: 3,
      background: '#808080',
      noise: { type: 'gaussian', mean: 128, sigma: 6 },
    },
  })
    .png({ compressionLevel: 0 })
    .toBuffer();
  const { data } = await sharp(path)
    .rotate()
    .resize({ ...SIDES, fit: 'cover' })
    .composite([{ input: grain, blend: 'soft-light' }])
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return Uint8ClampedArray.from(data);
}
