/** A pseudo-random generator that is the same for the same seed: mulberry32, Tommy Ettinger, 2017 (public domain). @returns values 0..1 */
function generatorOf(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
}

/**
 * The order of one round of a shuffled slideshow: every picture once.
 *
 * @param after - what was shown last: it does not come first again, where there are others
 * @param seed - the same gives the same order
 * Source: Durstenfeld, Algorithm 235, CACM 7 (7), 1964
 */
export function shuffledRound<T>(given: readonly T[], seed: number, after?: T): T[] {
  const random = generatorOf(seed);
  const order = [...given];
  for (let last = order.length - 1; last > 0; last -= 1) {
    const other = Math.floor(random() * (last + 1));
    [order[last], order[other]] = [order[other]!, order[last]!];
  }
  if (order.length > 1 && order[0] === after) order.push(order.shift()!);
  return order;
}
