import type { Rectangle } from '@miradero/core/geometry';
import { MOST_PIXELS_AT_ONCE } from '@miradero/core/schema';
import { PixelError, type PixelSource } from '../requests.ts';
import { answerOf } from './load.ts';

/** More exact pixels than this are not held at once: 128 MB. */
const MOST_EXACT = 8_000_000;

/** Whether exact pixels of so much of a picture come from the server. */
export const hasExact = ({ exact }: PixelSource, { width, height }: Rectangle): boolean =>
  exact === 'ready' && width * height <= MOST_EXACT;

/**
 * Whole pixels of the original, as its own profile says.
 *
 * @param as - bytes of sRGB, or floats of linear sRGB unbounded; both RGBA
 * @throws PixelError
 */
export async function exactPixels(
  source: PixelSource,
  { x, y, width, height }: Rectangle,
  as: 'srgb8' | 'light',
  signal: AbortSignal,
): Promise<Uint8ClampedArray<ArrayBuffer> | Float32Array<ArrayBuffer>> {
  const values = width * height * 4;
  const pixels = as === 'light' ? new Float32Array(values) : new Uint8ClampedArray(values);
  const lines = Math.max(1, Math.floor(MOST_PIXELS_AT_ONCE / width));
  for (let line = 0; line < height; line += lines) {
    const part = `x=${x}&y=${y + line}&width=${width}&height=${Math.min(lines, height - line)}`;
    const response = await answerOf(`/api/pictures/${source.id}/pixels?${part}&as=${as}`, signal);
    const bytes = await response.arrayBuffer().catch((error) => {
      if (signal.aborted) throw error;
      throw new PixelError('unreachable', String(error));
    });
    pixels.set(as === 'light' ? new Float32Array(bytes) : new Uint8Array(bytes), line * width * 4);
  }
  return pixels;
}
