import { detailOf, INTAKE_LIMITS, type Measures, measuresOf } from '@miradero/core/picture';
import sharp, { type Sharp } from 'sharp';

const SMALL_SIDE = 128;
/** Detail of very large pictures is read in a window of so many pixels each way, about the middle. */
const MOST_SIDE = 4096;

/** Luma of every pixel, 0..1; it stands for luminance well enough where only contrast counts. */
async function planeOf(opened: Sharp, width: number, height: number) {
  const [w, h] = [Math.min(MOST_SIDE, width), Math.min(MOST_SIDE, height)];
  const upright = opened.autoOrient();
  const window =
    w < width || h < height
      ? upright.extract({ left: (width - w) >> 1, top: (height - h) >> 1, width: w, height: h })
      : upright;
  const { data, info } = await window
    .flatten({ background: '#808080' })
    .toColourspace('b-w')
    .raw()
    .toBuffer({ resolveWithObject: true });
  const plane = new Float32Array(info.width * info.height);
  for (let at = 0; at < plane.length; at += 1) plane[at] = data[at * info.channels]! / 255;
  return { width: info.width, height: info.height, data: plane };
}

/**
 * What a picture looks like in figures.
 *
 * @param opened - the picture at full size, as `openPicture` gives it
 * @param small - the bytes of its smallest level
 * @param width, height - of the upright picture, pixels
 * @throws Error when the pixels cannot be read
 */
export async function measuresOfPicture(
  opened: Sharp,
  small: Uint8Array,
  width: number,
  height: number,
): Promise<Measures> {
  const { data, info } = await sharp(small, { limitInputPixels: INTAKE_LIMITS.pixels })
    .resize(SMALL_SIDE, SMALL_SIDE, { fit: 'inside', withoutEnlargement: true })
    .toColourspace('srgb')
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const detail = detailOf(await planeOf(opened, width, height));
  return measuresOf({ width: info.width, height: info.height, data }, detail);
}
