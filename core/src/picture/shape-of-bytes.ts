import { imageSize } from 'image-size';
import type { IntakeType } from './intake-limits.ts';
import { rasterSizeOfSvg } from './raster-size.ts';

/**
 * Pixel size of the upright picture, read from the head of its file; undefined when it does not say.
 *
 * @param bytes - the head of the file, or all of it
 */
export function shapeOfBytes(
  bytes: Uint8Array,
  type: IntakeType,
): { width: number; height: number } | undefined {
  try {
    const { width, height, orientation = 1 } = imageSize(bytes);
    if (!(width > 0 && height > 0)) return undefined;
    if (type === 'image/svg+xml') return rasterSizeOfSvg(width, height);
    return orientation >= 5 ? { width: height, height: width } : { width, height };
  } catch {
    return undefined;
  }
}
