import type { Pixels } from './pixels.ts';
import { blurPlane, lightnessOf } from './planes.ts';

const PAPER = 250;
const INK = 24;
/** Slopes of lightness from which a line begins, and from which it is as dark as ink; of 0..1 a pixel, before blurring. */
const FAINT = 0.035;
const FULL = 0.16;
/** Passes of a mean over a square: three of them are nearly a Gaussian. */
const PASSES = 2;

/**
 * Lines of the forms: where lightness alters, drawn dark on paper.
 * Source: I. Sobel and G. Feldman, "A 3×3 isotropic gradient operator for image processing", 1968.
 *
 * @param detailPx - what is finer than this is left out, pixels
 */
export function seeOutline({ width, height, data }: Pixels, detailPx: number): void {
  const light = lightnessOf({ width, height, data });
  const radius = Math.round(detailPx / PASSES);
  blurPlane(light, width, height, radius, PASSES);
  // Blurred, an edge is as much less steep as it is wider.
  const gain = 1 + radius * 1.2;
  const scale = (PAPER - INK) / (FULL - FAINT);
  for (let y = 0; y < height; y += 1) {
    const above = Math.max(0, y - 1) * width;
    const row = y * width;
    const below = Math.min(height - 1, y + 1) * width;
    for (let x = 0; x < width; x += 1) {
      const left = Math.max(0, x - 1);
      const right = Math.min(width - 1, x + 1);
      const gx =
        light[above + right]! +
        2 * light[row + right]! +
        light[below + right]! -
        (light[above + left]! + 2 * light[row + left]! + light[below + left]!);
      const gy =
        light[below + left]! +
        2 * light[below + x]! +
        light[below + right]! -
        (light[above + left]! + 2 * light[above + x]! + light[above + right]!);
      const slope = (Math.sqrt(gx * gx + gy * gy) / 8) * gain;
      const ink = slope <= FAINT ? 0 : Math.min(PAPER - INK, (slope - FAINT) * scale);
      const at = (row + x) * 4;
      data[at] = PAPER - ink;
      data[at + 1] = PAPER - ink;
      data[at + 2] = PAPER - ink;
    }
  }
}
