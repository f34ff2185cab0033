import {
  coarsened,
  encodedOf,
  histogramOf,
  linearToOklab,
  type Oklab,
  paletteOfHistogram,
  type Rgb,
} from '../colour/index.ts';
import { LINEAR, type Pixels } from './pixels.ts';

/** A picture as small as it will be seen, and how well a form in it holds. */
export interface SmallPicture {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray<ArrayBuffer>;
  /**
   * Part of the form that survives: intersection over union of its mask with what, at this size, still has the form's
   * colours and not its ground's, 0..1. Source of the measure: P. Jaccard, "Étude comparative de la distribution florale", 1901.
   */
  readonly holds: number;
}

/** Colours by which form and ground are told apart. */
const COLOURS = 5;

interface Reduced {
  readonly width: number;
  readonly height: number;
  readonly light: readonly Rgb[];
  /** How many pixels of the picture, and of the form, each stands for. */
  readonly counts: Float64Array;
  readonly ofForm: Float64Array;
}

/** A picture in fewer pixels, each the mean of the light of those that it stands for; what is clear counts as white. */
function reduced(pixels: Pixels, mask: Uint8Array, side: number): Reduced {
  const scale = Math.min(1, side / Math.max(pixels.width, pixels.height));
  const width = Math.max(1, Math.round(pixels.width * scale));
  const height = Math.max(1, Math.round(pixels.height * scale));
  const cellsOf = (many: number, few: number) =>
    Int32Array.from({ length: many }, (_, at) => Math.min(few - 1, Math.floor((at * few) / many)));
  const columns = cellsOf(pixels.width, width);
  const rows = cellsOf(pixels.height, height);
  const sums = new Float64Array(width * height * 3);
  const [counts, ofForm] = [new Float64Array(width * height), new Float64Array(width * height)];
  const { data } = pixels;
  for (let y = 0, at = 0; y < pixels.height; y += 1) {
    const row = rows[y]! * width;
    for (let x = 0; x < pixels.width; x += 1, at += 4) {
      const cell = row + columns[x]!;
      const to = cell * 3;
      const isClear = data[at + 3]! < 128;
      sums[to]! += isClear ? 1 : LINEAR[data[at]!]!;
      sums[to + 1]! += isClear ? 1 : LINEAR[data[at + 1]!]!;
      sums[to + 2]! += isClear ? 1 : LINEAR[data[at + 2]!]!;
      counts[cell]! += 1;
      if (mask[at >> 2] !== 0) ofForm[cell]! += 1;
    }
  }
  const light = Array.from({ length: width * height }, (_, cell): Rgb => {
    const count = Math.max(1, counts[cell]!);
    return {
      r: sums[cell * 3]! / count,
      g: sums[cell * 3 + 1]! / count,
      b: sums[cell * 3 + 2]! / count,
    };
  });
  return { width, height, light, counts, ofForm };
}

const apart = (one: Oklab, other: Oklab): number =>
  (one.l - other.l) ** 2 + (2 * (one.a - other.a)) ** 2 + (2 * (one.b - other.b)) ** 2;

/** The largest part that hangs together, of pixels that are in. */
function largestPart(isIn: readonly boolean[], width: number): Set<number> {
  const seen = new Set<number>();
  let largest = new Set<number>();
  for (let start = 0; start < isIn.length; start += 1) {
    if (!isIn[start] || seen.has(start)) continue;
    const part = new Set([start]);
    const stack = [start];
    seen.add(start);
    for (let at = stack.pop(); at !== undefined; at = stack.pop()) {
      const x = at % width;
      const beside = [
        ...(x > 0 ? [at - 1] : []),
        ...(x < width - 1 ? [at + 1] : []),
        ...[at - width, at + width],
      ];
      for (const next of beside) {
        if (!isIn[next] || seen.has(next)) continue;
        seen.add(next);
        part.add(next);
        stack.push(next);
      }
    }
    if (part.size > largest.size) largest = part;
  }
  return largest;
}

/**
 * A picture as it is seen small, and how well the silhouette of a form holds there, in several sizes.
 *
 * @param mask - a byte a pixel: 0 for what is not the form
 * @param sides - longest sides, pixels
 * @returns nothing where form or ground is empty
 */
export function seeSmall(pixels: Pixels, mask: Uint8Array, sides: readonly number[]): SmallPicture[] {
  const coloursOf = (part: Uint8Array) =>
    paletteOfHistogram(coarsened(histogramOf(pixels.data, part)), { count: COLOURS });
  const around = new Uint8Array(mask.length);
  for (let pixel = 0; pixel < mask.length; pixel += 1) around[pixel] = mask[pixel] === 0 ? 1 : 0;
  const [form, ground] = [coloursOf(mask), coloursOf(around)];
  if (form.length === 0 || ground.length === 0) return [];
  return sides.map((side) => seeSmallAt(pixels, mask, side, form, ground));
}

function seeSmallAt(
  pixels: Pixels,
  mask: Uint8Array,
  side: number,
  form: readonly Oklab[],
  ground: readonly Oklab[],
): SmallPicture {
  const { width, height, light, counts, ofForm } = reduced(pixels, mask, side);
  const nearest = (colour: Oklab, among: readonly Oklab[]) =>
    Math.min(...among.map((one) => apart(one, colour)));
  const isForm = light.map((one) => {
    const colour = linearToOklab(one);
    return nearest(colour, form) < nearest(colour, ground);
  });
  const seen = largestPart(isForm, width);
  let [both, either] = [0, 0];
  for (let cell = 0; cell < counts.length; cell += 1) {
    if (seen.has(cell)) both += ofForm[cell]!;
    either += seen.has(cell) ? counts[cell]! : ofForm[cell]!;
  }
  const data = new Uint8ClampedArray(width * height * 4);
  for (const [at, one] of light.entries()) {
    const { r, g, b } = encodedOf(one);
    data.set([255 * r, 255 * g, 255 * b, 255], at * 4);
  }
  return { width, height, data, holds: either === 0 ? 0 : both / either };
}
