import { type Oklab, srgb8ToOklab } from './oklab.ts';

/** One colour of a picture and how much of it there is, 0..1. */
export interface Swatch extends Oklab {
  readonly share: number;
}

/** Cells of the histogram along each of L, a, b: fine enough that a cell looks like one colour. */
const STEP = 0.025;
const ROUNDS = 12;

interface Cell {
  l: number;
  a: number;
  b: number;
  weight: number;
}

/** Mean colour of every occupied cell of a grid over OKLab, weighted by its opaque pixels. */
function cellsOf(data: Uint8Array | Uint8ClampedArray): Cell[] {
  const cells = new Map<number, Cell>();
  for (let at = 0; at < data.length; at += 4) {
    const weight = data[at + 3]! / 255;
    if (weight === 0) continue;
    const { l, a, b } = srgb8ToOklab(data[at]!, data[at + 1]!, data[at + 2]!);
    const key = (Math.round(l / STEP) * 64 + Math.round(a / STEP) + 32) * 64 + Math.round(b / STEP) + 32;
    const cell = cells.get(key);
    if (cell === undefined) cells.set(key, { l: l * weight, a: a * weight, b: b * weight, weight });
    else {
      cell.l += l * weight;
      cell.a += a * weight;
      cell.b += b * weight;
      cell.weight += weight;
    }
  }
  return [...cells.values()].map(({ l, a, b, weight }) => ({
    ...{ l: l / weight, a: a / weight, b: b / weight, weight },
  }));
}

const squared = (one: Oklab, two: Oklab) =>
  (one.l - two.l) ** 2 + (one.a - two.a) ** 2 + (one.b - two.b) ** 2;

/** Starts: the heaviest cell, then each time the one whose weight and distance from all others is greatest. */
function startsOf(cells: readonly Cell[], count: number): Oklab[] {
  const starts: Oklab[] = [];
  const nearest = cells.map(() => 1);
  while (starts.length < Math.min(count, cells.length)) {
    let best = 0;
    cells.forEach((cell, index) => {
      if (cell.weight * nearest[index]! > cells[best]!.weight * nearest[best]!) best = index;
    });
    if (nearest[best] === 0) break;
    const start = cells[best]!;
    starts.push(start);
    cells.forEach((cell, index) => {
      nearest[index] = Math.min(nearest[index]!, squared(cell, start));
    });
  }
  return starts;
}

/**
 * Up to `count` colours that stand for a small copy of a picture, the largest share first; shares add up to 1, and
 * there are none where nothing is opaque. Weighted k-means over a histogram; starts as in k-means++ but without
 * chance, so that the same pixels always give the same palette.
 * Source: S. Lloyd, "Least squares quantization in PCM", 1982; D. Arthur and S. Vassilvitskii, "k-means++", 2007.
 *
 * @param data - RGBA, straight alpha, sRGB
 */
export function paletteOf(data: Uint8Array | Uint8ClampedArray, count: number): Swatch[] {
  const cells = cellsOf(data);
  let centres = startsOf(cells, count);
  let weights: number[] = [];
  for (let round = 0; round < ROUNDS; round += 1) {
    const sums = centres.map((): Cell => ({ l: 0, a: 0, b: 0, weight: 0 }));
    for (const cell of cells) {
      let near = 0;
      for (let index = 1; index < centres.length; index += 1)
        if (squared(cell, centres[index]!) < squared(cell, centres[near]!)) near = index;
      const sum = sums[near]!;
      sum.l += cell.l * cell.weight;
      sum.a += cell.a * cell.weight;
      sum.b += cell.b * cell.weight;
      sum.weight += cell.weight;
    }
    centres = sums.map(({ l, a, b, weight }, index) =>
      weight === 0 ? centres[index]! : { l: l / weight, a: a / weight, b: b / weight },
    );
    weights = sums.map(({ weight }) => weight);
  }
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  return centres
    .map(({ l, a, b }, index) => ({ l, a, b, share: weights[index]! / total }))
    .filter(({ share }) => share > 0)
    .sort((one, two) => two.share - one.share);
}
