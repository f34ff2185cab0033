import {
  luminanceOfSrgb,
  luminanceToMunsellValue,
  oklabHueDeg,
  paletteOf,
  type Swatch,
  srgb8ToOklab,
} from '../colour/index.ts';
import type { SmallPixels } from './likeness.ts';
import { type Detail, type Part, sharpnessOf } from './sharpness.ts';

/** Sides of the grid in which sharpness is kept. */
export const SHARPNESS_GRID = 8;
const SWATCHES = 6;
/** Where the form that matters stands, as long as nobody marked it. */
const MIDDLE: Part = { x: 0.3, y: 0.2, width: 0.4, height: 0.6 };
/** Chroma below which a picture has no hue of its own. */
const GREY_CHROMA = 0.02;

/** What a picture looks like in figures. They come from a small copy; sharpness alone needs every pixel. */
export interface Measures {
  /** OKLab lightness of the mean, 0..1. */
  readonly lightness: number;
  /** Degrees 0..360 of OKLab; null for what is grey. */
  readonly hue: number | null;
  readonly chroma: number;
  /** 0 (a plain sheet) to 1 (everything full of edges and patches). */
  readonly complexity: number;
  /** Munsell value steps between the darkest and the lightest tenth of the forms in the middle of the picture. */
  readonly modelling: number;
  readonly palette: readonly Swatch[];
  /** OKLab of the four quarters, L a b each: left above, right above, left below, right below. */
  readonly look: readonly number[];
  /** Cycles per pixel of the original. */
  readonly sharpness: number;
  /** The same in each cell of a grid of `SHARPNESS_GRID` squared, row by row. */
  readonly sharpnessGrid: readonly number[];
}

const digits = (value: number, count: number) => Number(value.toFixed(count));

/** Mean OKLab of a part of the pixels, transparent ones left out; middle grey where nothing is opaque. */
function meanOf({ width, height, data }: SmallPixels, part: Part): [number, number, number] {
  const sum = [0, 0, 0];
  let weight = 0;
  const [left, right] = [Math.floor(part.x * width), Math.ceil((part.x + part.width) * width)];
  const [top, bottom] = [Math.floor(part.y * height), Math.ceil((part.y + part.height) * height)];
  for (let y = top; y < Math.min(height, bottom); y += 1)
    for (let x = left; x < Math.min(width, right); x += 1) {
      const at = (y * width + x) * 4;
      const opaque = data[at + 3]! / 255;
      const { l, a, b } = srgb8ToOklab(data[at]!, data[at + 1]!, data[at + 2]!);
      sum[0]! += l * opaque;
      sum[1]! += a * opaque;
      sum[2]! += b * opaque;
      weight += opaque;
    }
  return weight === 0 ? [0.6, 0, 0] : [sum[0]! / weight, sum[1]! / weight, sum[2]! / weight];
}

const QUARTERS: readonly Part[] = [0, 0.5].flatMap((y) =>
  [0, 0.5].map((x) => ({ x, y, width: 0.5, height: 0.5 })),
);

/** Luminance steps by which patches are told apart, and the smallest share of a picture that counts as one. */
const TONES = 7;
const SMALLEST_PATCH = 0.0008;
/** Slope of lightness, OKLab a pixel of a copy of about 128, that is an edge. */
const EDGE = 0.06;
/** Edges on so much of the picture, and so many patches, make it as complicated as can be told. */
const MOST_EDGES = 0.35;
const MOST_PATCHES = 220;

/** Patches of one tone (4-connected), larger than a speck. */
function countPatches(tones: Uint8Array, width: number): number {
  const least = Math.max(3, tones.length * SMALLEST_PATCH);
  const seen = new Uint8Array(tones.length);
  const stack: number[] = [];
  let patches = 0;
  for (let start = 0; start < tones.length; start += 1) {
    if (seen[start]) continue;
    seen[start] = 1;
    stack.push(start);
    let size = 0;
    while (stack.length > 0) {
      const at = stack.pop()!;
      size += 1;
      const x = at % width;
      const beside = [at - width, at + width, x > 0 ? at - 1 : -1, x < width - 1 ? at + 1 : -1];
      for (const next of beside) {
        if (next < 0 || next >= tones.length || seen[next] || tones[next] !== tones[at]) continue;
        seen[next] = 1;
        stack.push(next);
      }
    }
    if (size >= least) patches += 1;
  }
  return patches;
}

/**
 * How complicated a picture is to read and to draw, 0..1: half by the share of it that is edge, half by the number of
 * patches of tone (logarithmic: the tenth patch adds more than the hundredth).
 *
 * @param pixels - a copy whose longest side is about 128 px
 */
export function complexityOf({ width, height, data }: SmallPixels): number {
  const light = Float32Array.from(
    { length: width * height },
    (_, at) => srgb8ToOklab(data[at * 4]!, data[at * 4 + 1]!, data[at * 4 + 2]!).l,
  );
  let edges = 0;
  for (let y = 1; y < height - 1; y += 1)
    for (let x = 1; x < width - 1; x += 1) {
      const at = y * width + x;
      const across = (light[at + 1]! - light[at - 1]!) / 2;
      const down = (light[at + width]! - light[at - width]!) / 2;
      if (Math.hypot(across, down) > EDGE) edges += 1;
    }
  const tones = Uint8Array.from(light, (value) => Math.min(TONES - 1, Math.floor(value * TONES)));
  const byEdges = Math.min(1, edges / (width * height) / MOST_EDGES);
  const byPatches = Math.min(1, Math.log1p(countPatches(tones, width)) / Math.log1p(MOST_PATCHES));
  return digits((byEdges + byPatches) / 2, 4);
}

/** Cells a side in which light is averaged before its spread is taken: forms remain, surfaces do not. */
const FORM_CELLS = 24;

/**
 * How much the light models the forms of a part: Munsell value steps between the tenth and the ninetieth percentile of
 * luminance, averaged over cells so that the grain of surfaces does not count. Flat light leaves forms within a step
 * or two; raking light spreads them over half the scale.
 */
export function modellingOf({ width, height, data }: SmallPixels, part?: Part): number {
  const { x = 0, y = 0, width: w = 1, height: h = 1 } = part ?? {};
  const sums = new Float64Array(FORM_CELLS ** 2);
  const weights = new Float64Array(FORM_CELLS ** 2);
  for (let row = Math.floor(y * height); row < Math.min(height, (y + h) * height); row += 1)
    for (let column = Math.floor(x * width); column < Math.min(width, (x + w) * width); column += 1) {
      const at = (row * width + column) * 4;
      const opaque = data[at + 3]! / 255;
      const down = Math.min(FORM_CELLS - 1, Math.floor(((row / height - y) / h) * FORM_CELLS));
      const across = Math.min(FORM_CELLS - 1, Math.floor(((column / width - x) / w) * FORM_CELLS));
      const cell = Math.max(0, down) * FORM_CELLS + Math.max(0, across);
      sums[cell]! += luminanceOfSrgb(data[at]!, data[at + 1]!, data[at + 2]!) * opaque;
      weights[cell]! += opaque;
    }
  const lit = Array.from(sums, (sum, cell) => (weights[cell] ? sum / weights[cell]! : Number.NaN))
    .filter((value) => !Number.isNaN(value))
    .sort((one, two) => one - two);
  if (lit.length === 0) return 0;
  const value = (share: number) => luminanceToMunsellValue(100 * lit[Math.floor((lit.length - 1) * share)]!);
  return digits(value(0.9) - value(0.1), 3);
}

/** Everything that is sorted and searched by. @param small - a copy whose longest side is about 128 px */
export function measuresOf(small: SmallPixels, detail: Detail): Measures {
  const [l, a, b] = meanOf(small, { x: 0, y: 0, width: 1, height: 1 });
  const chroma = Math.hypot(a, b);
  const cell = 1 / SHARPNESS_GRID;
  return {
    lightness: digits(l, 4),
    hue: chroma < GREY_CHROMA ? null : digits(oklabHueDeg({ a, b }), 1),
    chroma: digits(chroma, 4),
    complexity: complexityOf(small),
    modelling: modellingOf(small, MIDDLE),
    palette: paletteOf(small.data, SWATCHES).map(({ l, a, b, share }) => ({
      ...{ l: digits(l, 4), a: digits(a, 4), b: digits(b, 4), share: digits(share, 4) },
    })),
    look: QUARTERS.flatMap((part) => meanOf(small, part)).map((value) => digits(value, 4)),
    sharpness: digits(sharpnessOf(detail), 4),
    sharpnessGrid: Array.from({ length: SHARPNESS_GRID ** 2 }, (_, index) => {
      const x = (index % SHARPNESS_GRID) * cell;
      const y = Math.floor(index / SHARPNESS_GRID) * cell;
      return digits(sharpnessOf(detail, { x, y, width: cell, height: cell }), 4);
    }),
  };
}

/** The sharpest cell of a part: what matters there is in focus, or nothing is. */
export function sharpnessIn(grid: readonly number[], part: Part): number {
  let most = 0;
  grid.forEach((value, index) => {
    const x = (index % SHARPNESS_GRID) + 0.5;
    const y = Math.floor(index / SHARPNESS_GRID) + 0.5;
    const isIn =
      x >= part.x * SHARPNESS_GRID &&
      x <= (part.x + part.width) * SHARPNESS_GRID &&
      y >= part.y * SHARPNESS_GRID &&
      y <= (part.y + part.height) * SHARPNESS_GRID;
    if (isIn) most = Math.max(most, value);
  });
  return most;
}
