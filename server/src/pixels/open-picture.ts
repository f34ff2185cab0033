import { mergedOfOpenRaster } from '@miradero/core/formats';
import { INTAKE_LIMITS, type IntakeType } from '@miradero/core/picture';
import sharp, { type Sharp } from 'sharp';
import { decodeHeic } from './decode-heic.ts';
import { asStillAvif } from './still-avif.ts';

/** librsvg draws at 72 units an inch unless told otherwise; more than this it refuses. */
const SVG_DPI = 72;
const SVG_MOST_DPI = 2400;

const LIMITS = { limitInputPixels: INTAKE_LIMITS.pixels, pages: 1 } as const;

export interface OpenMore {
  /** Its levels stay as the file has them, whatever its profile says. */
  readonly keepsLevels?: boolean;
}

/** A drawing at the density that gives it `longest` pixels on its longest side; outside references are not followed. */
async function openSvg(original: Buffer, width: number, height: number): Promise<Sharp> {
  const natural = await sharp(original, { ...LIMITS, density: SVG_DPI }).metadata();
  const factor = Math.max(width, height) / Math.max(natural.width, natural.height, 1);
  const density = Math.min(SVG_MOST_DPI, Math.max(1, SVG_DPI * factor));
  return sharp(original, { ...LIMITS, density }).resize(width, height, { fit: 'fill' });
}

/**
 * The pixels of a picture of any kind that intake takes, of its first frame; not yet upright, in its own colour space.
 *
 * @param width, height - pixels of the upright picture; only a drawing without pixels of its own needs them
 * @throws Error when the file cannot be read
 */
export async function openPicture(
  original: Buffer,
  type: IntakeType,
  width: number,
  height: number,
  { keepsLevels = false }: OpenMore = {},
): Promise<Sharp> {
  const limits = { ...LIMITS, ignoreIcc: keepsLevels };
  if (type === 'image/svg+xml') return openSvg(original, width, height);
  if (type === 'image/heic') return sharp(await decodeHeic(original), limits);
  if (type === 'image/openraster') {
    const merged = mergedOfOpenRaster(original, INTAKE_LIMITS.bytes);
    if (!merged) throw new Error('there is no merged image in it');
    return sharp(merged, limits);
  }
  return sharp(asStillAvif(original), { ...limits, sequentialRead: true });
}
