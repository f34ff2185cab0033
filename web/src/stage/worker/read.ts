import { valueDistribution } from '@miradero/core/colour';
import type { ReadAnswer, ReadRequest } from '../messages.ts';
import type { PictureCache, Pixels } from './picture-cache.ts';

/** Side of the level that a distribution is counted from: 65,000 pixels tell it within a percent. */
const READ_SIDE = 256;

const canvas = new OffscreenCanvas(1, 1);
const context = canvas.getContext('2d', { willReadFrequently: true })!;

/** Draws a part of `pixels` (fractions) at its own size, at least one pixel, and reads it back. */
function readPart(
  { image, x, y, width, height }: Pixels,
  part: { x: number; y: number; width: number; height: number },
) {
  const columns = Math.max(1, Math.round(part.width * width));
  const rows = Math.max(1, Math.round(part.height * height));
  canvas.width = columns;
  canvas.height = rows;
  context.drawImage(
    image,
    x + part.x * width,
    y + part.y * height,
    part.width * width,
    part.height * height,
    0,
    0,
    columns,
    rows,
  );
  return context.getImageData(0, 0, columns, rows);
}

/** Answers a question about pixels from what is at hand, or from the small level, which is fetched for it. */
export async function read(cache: PictureCache, request: ReadRequest): Promise<ReadAnswer> {
  if (request.what === 'distribution') {
    const pixels = await cache.levelFor(request.picture, READ_SIDE);
    return pixels ? valueDistribution(readPart(pixels, request.trim), request.bins) : null;
  }
  const pixels = cache.atHand(request.picture);
  if (!pixels) return null;
  const clamp = (at: number, size: number) => Math.min(size - 1, Math.max(0, Math.floor(at * size)));
  canvas.width = 1;
  canvas.height = 1;
  const { image, x, y, width, height } = pixels;
  context.drawImage(image, x + clamp(request.x, width), y + clamp(request.y, height), 1, 1, 0, 0, 1, 1);
  const { data } = context.getImageData(0, 0, 1, 1);
  return [data[0]!, data[1]!, data[2]!];
}
