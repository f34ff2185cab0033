import { luminanceToMunsellValue } from './munsell-value.ts';
import { oklabHueDeg, srgb8ToOklab } from './oklab.ts';
import { luminanceOfSrgb } from './srgb.ts';
import type { Pixels } from './value-distribution.ts';

/** What a picture is at a first glance; of a small copy as well as of the whole. */
export interface Impression {
  /** Munsell value, 0..10, of its mean luminance. */
  readonly value: number;
  /** OKLab, degrees 0..360: of all its colours together, each counting by its chroma; null where it is all but grey. */
  readonly hueDeg: number | null;
  /** OKLab, mean. */
  readonly chroma: number;
  /** Mean L a b, interleaved, of `LOOK_CELLS` × `LOOK_CELLS` cells, row by row. */
  readonly look: Float32Array;
}

export const LOOK_CELLS = 4;
/** Less chroma than this on the whole has no hue that anybody would name. */
const GREY = 0.02;

/**
 * @param pixels - both sides ≥ 1
 * @returns undefined where nothing of it is opaque
 */
export function impressionOf({ width, height, data }: Pixels): Impression | undefined {
  const sums = new Float64Array(LOOK_CELLS * LOOK_CELLS * 4);
  let [luminance, chroma, a, b, count] = [0, 0, 0, 0, 0];
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const at = (y * width + x) * 4;
      if (data[at + 3]! < 128) continue;
      const [red, green, blue] = [data[at]!, data[at + 1]!, data[at + 2]!];
      const lab = srgb8ToOklab(red, green, blue);
      luminance += luminanceOfSrgb(red, green, blue);
      chroma += Math.hypot(lab.a, lab.b);
      a += lab.a;
      b += lab.b;
      count += 1;
      const cell = Math.floor((y * LOOK_CELLS) / height) * LOOK_CELLS + Math.floor((x * LOOK_CELLS) / width);
      sums[cell * 4]! += lab.l;
      sums[cell * 4 + 1]! += lab.a;
      sums[cell * 4 + 2]! += lab.b;
      sums[cell * 4 + 3]! += 1;
    }
  }
  if (count === 0) return undefined;
  const look = new Float32Array(LOOK_CELLS * LOOK_CELLS * 3);
  for (let cell = 0; cell < LOOK_CELLS * LOOK_CELLS; cell += 1)
    for (let channel = 0; channel < 3; channel += 1)
      look[cell * 3 + channel] = sums[cell * 4 + channel]! / Math.max(1, sums[cell * 4 + 3]!);
  const isGrey = Math.hypot(a, b) / count < GREY;
  return {
    value: luminanceToMunsellValue((luminance / count) * 100),
    hueDeg: isGrey ? null : oklabHueDeg({ a, b }),
    chroma: chroma / count,
    look,
  };
}

/** How differently two pictures look: mean distance of their cells in OKLab; 0 for the same, about 0.3 for very different ones. */
export function lookDistance(one: Float32Array, other: Float32Array): number {
  let sum = 0;
  for (let at = 0; at < one.length; at += 3)
    sum += Math.hypot(one[at]! - other[at]!, one[at + 1]! - other[at + 1]!, one[at + 2]! - other[at + 2]!);
  return (sum * 3) / one.length;
}
