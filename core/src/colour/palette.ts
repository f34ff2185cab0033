import { type ColourHistogram, coarsened, histogramOf } from './histogram.ts';
import type { Oklab } from './spaces.ts';

/** One colour of a picture and how much of it there is, 0..1. */
export interface Swatch extends Oklab {
  readonly share: number;
}

/** How a palette is made. */
export interface PaletteWish {
  /** So many colours at most, the locked ones among them. */
  readonly count: number;
  /** Colours that stay; the rest adapts. */
  readonly locked?: readonly Oklab[];
  /** 0: colours stand for as much as they cover; 1: the small but vivid count as much as the large and dull. */
  readonly accent?: number;
}

/**
 * Differences of a and b count as much more than those of lightness: at one, OKLab tells chroma apart half as well as ΔE00
 * does, which palettes are judged by (mean ΔE00 to the nearest colour, `npm run bench -- --colour`: 4.37 at 1, 4.21 at 2).
 */
const CHROMA = 2;
const stretched = <T extends Oklab>(colour: T, factor: number): T => ({
  ...colour,
  a: colour.a * factor,
  b: colour.b * factor,
});
function stretchedCells({ cells, total }: ColourHistogram): ColourHistogram {
  const wide = cells.slice();
  for (let at = 0; at < wide.length; at += 4) {
    wide[at + 1]! *= CHROMA;
    wide[at + 2]! *= CHROMA;
  }
  return { cells: wide, total };
}

const ROUNDS = 12;
/** Rounds over every cell, after those over a coarse grid. */
const FINE_ROUNDS = 2;
/** With all the weight on accents: cover counts by this power, chroma by so much a unit. */
const ACCENT_POWER = 0.35;
const ACCENT_CHROMA = 30;

/** How much each cell counts for where the colours go; its share is another matter. */
function pullOf({ cells }: ColourHistogram, accent: number): Float64Array {
  const pull = new Float64Array(cells.length / 4);
  for (let index = 0; index < pull.length; index += 1) {
    const at = index * 4;
    const weight = cells[at + 3]!;
    const chroma = Math.hypot(cells[at + 1]!, cells[at + 2]!) / CHROMA;
    pull[index] =
      accent === 0
        ? weight
        : weight ** (1 - accent * (1 - ACCENT_POWER)) * (1 + accent * ACCENT_CHROMA * chroma);
  }
  return pull;
}

const squared = (cells: Float64Array, at: number, { l, a, b }: Oklab): number =>
  (cells[at]! - l) ** 2 + (cells[at + 1]! - a) ** 2 + (cells[at + 2]! - b) ** 2;

/** Starts: what is locked, then each time the cell whose pull and distance from all others is greatest. */
function startsOf({ cells }: ColourHistogram, pull: Float64Array, count: number, locked: readonly Oklab[]) {
  const starts: Oklab[] = [...locked];
  const nearest = new Float64Array(pull.length).fill(1);
  const near = (start: Oklab) => {
    for (let index = 0; index < pull.length; index += 1) {
      const apart = squared(cells, index * 4, start);
      if (apart < nearest[index]!) nearest[index] = apart;
    }
  };
  for (const one of locked) near(one);
  while (starts.length < count) {
    let best = -1;
    let most = 0;
    for (let index = 0; index < pull.length; index += 1) {
      const worth = pull[index]! * nearest[index]!;
      if (worth > most) {
        most = worth;
        best = index;
      }
    }
    if (best < 0) break;
    const at = best * 4;
    const start = { l: cells[at]!, a: cells[at + 1]!, b: cells[at + 2]! };
    starts.push(start);
    near(start);
  }
  return starts;
}

interface Round {
  readonly centres: Oklab[];
  /** Weight of what is nearest to each. */
  readonly weights: Float64Array;
}

/** Every cell goes to the centre it is nearest to; those that are not locked go to the middle of theirs. */
function step(
  { cells }: ColourHistogram,
  pull: Float64Array,
  centres: readonly Oklab[],
  locked: number,
): Round {
  const count = centres.length;
  const flat = Float64Array.from(centres.flatMap(({ l, a, b }) => [l, a, b]));
  const sums = new Float64Array(count * 4);
  const weights = new Float64Array(count);
  for (let index = 0; index < pull.length; index += 1) {
    const at = index * 4;
    const [l, a, b] = [cells[at]!, cells[at + 1]!, cells[at + 2]!];
    let near = 0;
    let least = Number.POSITIVE_INFINITY;
    for (let centre = 0; centre < count; centre += 1) {
      const to = centre * 3;
      const apart = (l - flat[to]!) ** 2 + (a - flat[to + 1]!) ** 2 + (b - flat[to + 2]!) ** 2;
      if (apart < least) {
        least = apart;
        near = centre;
      }
    }
    const of = pull[index]!;
    const to = near * 4;
    sums[to]! += l * of;
    sums[to + 1]! += a * of;
    sums[to + 2]! += b * of;
    sums[to + 3]! += of;
    weights[near]! += cells[at + 3]!;
  }
  return {
    weights,
    centres: centres.map((before, index) => {
      const to = index * 4;
      const of = sums[to + 3]!;
      return index < locked || of === 0
        ? before
        : { l: sums[to]! / of, a: sums[to + 1]! / of, b: sums[to + 2]! / of };
    }),
  };
}

const isBy = (one: readonly Oklab[], two: readonly Oklab[]): boolean =>
  one.every((before, index) => {
    const { l, a, b } = two[index]!;
    return Math.abs(before.l - l) + Math.abs(before.a - a) + Math.abs(before.b - b) < 1e-6;
  });

/**
 * Colours that stand for a histogram: what is locked first, in its order, then the largest share first. Shares add up to 1,
 * and there are none but the locked where nothing was counted. Weighted k-means; starts as in k-means++ but without chance,
 * so that the same always gives the same.
 * Source: S. Lloyd, "Least squares quantization in PCM", 1982; D. Arthur and S. Vassilvitskii, "k-means++", 2007.
 */
export function paletteOfHistogram(
  histogram: ColourHistogram,
  { count, locked = [], accent = 0 }: PaletteWish,
): Swatch[] {
  const coarse = stretchedCells(coarsened(histogram));
  const coarsePull = pullOf(coarse, accent);
  const stay = locked.map((colour) => stretched(colour, CHROMA));
  let centres = startsOf(coarse, coarsePull, Math.max(count, locked.length), stay);
  for (let round = 0; round < ROUNDS; round += 1) {
    const next = step(coarse, coarsePull, centres, locked.length).centres;
    const isDone = isBy(centres, next);
    centres = next;
    if (isDone) break;
  }
  const fine = stretchedCells(histogram);
  const pull = pullOf(fine, accent);
  for (let round = 0; round < FINE_ROUNDS; round += 1)
    centres = step(fine, pull, centres, locked.length).centres;
  const { weights } = step(fine, pull, centres, centres.length);
  const { total } = histogram;
  const swatches = centres.map((centre, index): Swatch => {
    const { l, a, b } = locked[index] ?? stretched(centre, 1 / CHROMA);
    return { l, a, b, share: total === 0 ? 0 : weights[index]! / total };
  });
  return [
    ...swatches.slice(0, locked.length),
    ...swatches
      .slice(locked.length)
      .filter(({ share }) => share > 0)
      .sort((one, two) => two.share - one.share),
  ];
}

/**
 * Up to `count` colours that stand for pixels, the largest share first.
 *
 * @param data - RGBA, straight alpha, sRGB
 */
export const paletteOf = (data: Uint8Array | Uint8ClampedArray, count: number): Swatch[] =>
  paletteOfHistogram(histogramOf(data), { count });
