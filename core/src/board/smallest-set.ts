/** A picture that may be chosen, and what it is there for. */
export interface Candidate<Need extends string> {
  readonly id: string;
  readonly serves: readonly Need[];
  /** Greater is better; decides between sets of the same size. */
  readonly sharpness: number;
}

export interface SmallestSet<Need extends string> {
  readonly ids: readonly string[];
  /** What none serves. */
  readonly missing: readonly Need[];
}

/** More needs than this would take too long to weigh exactly: 2¹⁶ sets of them. */
const MOST_NEEDS = 16;

/**
 * The fewest pictures that together serve all needs which any of them serves; of equally many, those that are sharpest together.
 * Exact: for each set of needs the best way to serve it is found from the best ways to serve less.
 *
 * @throws RangeError for more than 16 needs
 */
export function smallestSet<Need extends string>(
  candidates: readonly Candidate<Need>[],
  needs: readonly Need[],
): SmallestSet<Need> {
  const wanted = [...new Set(needs)];
  if (wanted.length > MOST_NEEDS) throw new RangeError(`at most ${MOST_NEEDS} needs, got ${wanted.length}`);
  const bitOf = new Map(wanted.map((need, index) => [need, 1 << index]));
  // Of pictures that serve the same, the sharpest is enough.
  const bestBySet = new Map<number, Candidate<Need>>();
  for (const one of candidates) {
    const set = one.serves.reduce((bits, need) => bits | (bitOf.get(need) ?? 0), 0);
    const known = bestBySet.get(set);
    if (set !== 0 && (!known || one.sharpness > known.sharpness)) bestBySet.set(set, one);
  }
  const served = [...bestBySet.keys()].reduce((all, set) => all | set, 0);
  const size = 1 << wanted.length;
  const count = new Uint8Array(size).fill(255);
  const sharpness = new Float64Array(size).fill(Number.NEGATIVE_INFINITY);
  const last = new Int32Array(size).fill(-1);
  const before = new Int32Array(size).fill(-1);
  const options = [...bestBySet];
  count[0] = 0;
  sharpness[0] = 0;
  for (let covered = 0; covered < size; covered += 1) {
    if (count[covered] === 255) continue;
    for (const [index, [set, one]] of options.entries()) {
      const next = covered | set;
      if (next === covered) continue;
      const [more, sharper] = [count[covered]! + 1, sharpness[covered]! + one.sharpness];
      if (more > count[next]! || (more === count[next]! && sharper <= sharpness[next]!)) continue;
      count[next] = more;
      sharpness[next] = sharper;
      last[next] = index;
      before[next] = covered;
    }
  }
  const ids: string[] = [];
  for (let at = served; at > 0; at = before[at]!) ids.push(options[last[at]!]![1].id);
  return { ids: ids.reverse(), missing: wanted.filter((need) => !(served & bitOf.get(need)!)) };
}
