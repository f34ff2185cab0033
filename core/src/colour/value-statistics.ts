import { valueAtShare } from './value-distribution.ts';

/** What a distribution of values says. */
export interface ValueStatistics {
  /** Munsell, 0..10. */
  readonly mean: number;
  /** Between which all but a fiftieth on either end lies. */
  readonly low: number;
  readonly high: number;
  /** High: light on the whole; low: dark. */
  readonly key: ValueKey;
}
export type ValueKey = 'high' | 'middle' | 'low';

/** Means beyond these make a high and a low key. */
const KEYS = { high: 6.5, low: 3.5 } as const;
const ENDS = 0.02;
/** Figures are read of a distribution in so many steps: none of them shows in a tenth. */
export const FINE_BINS = 1_000;

/** A distribution in fewer steps, to be seen. @param bins - a part of those that there are */
export function coarserDistribution(distribution: Float32Array, bins: number): Float32Array<ArrayBuffer> {
  const coarse = new Float32Array(bins);
  for (const [bin, share] of distribution.entries()) {
    const to = Math.min(bins - 1, Math.floor((bin * bins) / distribution.length));
    coarse[to] = coarse[to]! + share;
  }
  return coarse;
}

export const keyOfValue = (mean: number): ValueKey =>
  mean > KEYS.high ? 'high' : mean < KEYS.low ? 'low' : 'middle';

/** @param distribution - shares over 0..10, darkest first @returns undefined where nothing was counted */
export function valueStatistics(distribution: Float32Array): ValueStatistics | undefined {
  const step = 10 / distribution.length;
  let [mean, total] = [0, 0];
  for (const [bin, share] of distribution.entries()) {
    mean += share * (bin + 0.5) * step;
    total += share;
  }
  if (total <= 0) return undefined;
  return {
    mean: mean / total,
    ...{
      low: valueAtShare(distribution, ENDS * total),
      high: valueAtShare(distribution, (1 - ENDS) * total),
    },
    key: keyOfValue(mean / total),
  };
}
