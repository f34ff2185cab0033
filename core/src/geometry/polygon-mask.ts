import type { Point } from './point.ts';

/**
 * Which pixels of a raster have their centre within a closed line; what it goes around twice is not within (even-odd).
 *
 * @param corners - in pixels of the raster
 * @returns a byte a pixel, row by row: 1 within, 0 outside
 */
export function maskOfPolygon(corners: readonly Point[], width: number, height: number): Uint8Array {
  const mask = new Uint8Array(width * height);
  if (corners.length < 3) return mask;
  for (let row = 0; row < height; row += 1) {
    const y = row + 0.5;
    const crossings: number[] = [];
    for (let index = 0; index < corners.length; index += 1) {
      const from = corners[index]!;
      const to = corners[(index + 1) % corners.length]!;
      if (from.y > y === to.y > y) continue;
      crossings.push(from.x + ((y - from.y) / (to.y - from.y)) * (to.x - from.x));
    }
    crossings.sort((a, b) => a - b);
    for (let index = 0; index + 1 < crossings.length; index += 2) {
      const first = Math.max(0, Math.ceil(crossings[index]! - 0.5));
      const last = Math.min(width, Math.ceil(crossings[index + 1]! - 0.5));
      if (last > first) mask.fill(1, row * width + first, row * width + last);
    }
  }
  return mask;
}
