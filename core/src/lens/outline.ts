import { linearToSrgb } from '../colour/index.ts';
import { LINEAR, type Pixels } from './pixels.ts';

const PAPER = 250;
const INK = 24;
/** Slopes of lightness from which a line begins, and from which it is as dark as ink; of 0..1 a pixel, before blurring. */
const FAINT = 0.035;
const FULL = 0.16;
/** Passes of a mean over a square: three of them are nearly a Gaussian. */
const PASSES = 2;

/** Mean along rows of a plane within `radius` pixels, written turned, so that twice is both ways. */
function blurRows(from: Float32Array, to: Float32Array, width: number, height: number, radius: number): void {
  const across = 2 * radius + 1;
  for (let y = 0; y < height; y += 1) {
    const row = y * width;
    let sum = 0;
    for (let x = -radius; x <= radius; x += 1) sum += from[row + Math.min(width - 1, Math.max(0, x))]!;
    for (let x = 0; x < width; x += 1) {
      to[x * height + y] = sum / across;
      sum += from[row + Math.min(width - 1, x + radius + 1)]! - from[row + Math.max(0, x - radius)]!;
    }
  }
}

/**
 * Lines of the forms: where lightness alters, drawn dark on paper.
 * Source: I. Sobel and G. Feldman, "A 3×3 isotropic gradient operator for image processing", 1968.
 *
 * @param detailPx - what is finer than this is left out, pixels
 */
export function seeOutline({ width, height, data }: Pixels, detailPx: number): void {
  const light = new Float32Array(width * height);
  const lightness = Float32Array.from({ length: 1025 }, (_, step) => linearToSrgb(step / 1024));
  for (let pixel = 0; pixel < light.length; pixel += 1) {
    const at = pixel * 4;
    const luminance =
      0.2126 * LINEAR[data[at]!]! + 0.7152 * LINEAR[data[at + 1]!]! + 0.0722 * LINEAR[data[at + 2]!]!;
    light[pixel] = lightness[(luminance * 1024 + 0.5) | 0]!;
  }
  const radius = Math.round(detailPx / PASSES);
  if (radius > 0) {
    const turned = new Float32Array(light.length);
    for (let pass = 0; pass < PASSES; pass += 1) {
      blurRows(light, turned, width, height, radius);
      blurRows(turned, light, height, width, radius);
    }
  }
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
