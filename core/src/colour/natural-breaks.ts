/**
 * Borders between classes of a distribution of values, so that values within a class lie as near to their mean as can be.
 * Source: W. D. Fisher, "On grouping for maximum homogeneity", 1958; exact, by dynamic programming over the bins.
 *
 * @param distribution - shares of equal bins over 0..10, darkest first
 * @returns `classes - 1` borders, rising, 0..10
 */
export function naturalBreaks(distribution: Float32Array, classes: number): number[] {
  const bins = distribution.length;
  // Sums of share, of value and of its square up to each bin: the spread of any run of bins comes of them.
  const sums = Array.from({ length: bins + 1 }, () => [0, 0, 0] as [number, number, number]);
  for (let bin = 0; bin < bins; bin += 1) {
    const share = distribution[bin]!;
    const [shares, values, squares] = sums[bin]!;
    sums[bin + 1] = [shares + share, values + share * bin, squares + share * bin * bin];
  }
  const spread = (from: number, to: number): number => {
    const [share, value, square] = [0, 1, 2].map((of) => sums[to]![of]! - sums[from]![of]!) as [
      number,
      number,
      number,
    ];
    return share <= 1e-9 ? 0 : square - (value * value) / share;
  };
  let least = Array.from({ length: bins + 1 }, (_, to) => spread(0, to));
  const cuts: number[][] = [];
  for (let of = 1; of < classes; of += 1) {
    const next = new Array<number>(bins + 1).fill(Number.POSITIVE_INFINITY);
    const cut = new Array<number>(bins + 1).fill(0);
    for (let to = 0; to <= bins; to += 1)
      for (let from = 0; from <= to; from += 1) {
        const sum = least[from]! + spread(from, to);
        if (sum < next[to]! - 1e-12) {
          next[to] = sum;
          cut[to] = from;
        }
      }
    least = next;
    cuts.push(cut);
  }
  const borders: number[] = [];
  let to = bins;
  for (const cut of cuts.reverse()) {
    const from = cut[to]!;
    // Between two classes with nothing between them the border lies in the middle.
    let empty = from;
    while (empty < to && distribution[empty] === 0) empty += 1;
    borders.unshift((((from + empty) / 2) * 10) / bins);
    to = from;
  }
  return borders;
}
