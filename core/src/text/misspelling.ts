/**
 * How many slips of the hand lie between what was typed and a word: a letter left out, put in, taken for another, or two
 * neighbours swapped (the optimal string alignment distance). What was typed may also be the beginning of the word.
 *
 * @param most - more slips than this are of no interest
 * @returns slips to the whole word, and to the nearest of its beginnings; each at most `most + 1`
 */
export function slipsBetween(
  typed: string,
  word: string,
  most: number,
): { whole: number; beginning: number } {
  const [from, to] = [[...typed], [...word]];
  const none = most + 1;
  if (from.length - to.length > most) return { whole: none, beginning: none };
  let beforeLast: number[] = [];
  let last = Array.from({ length: to.length + 1 }, (_, column) => column);
  for (let row = 1; row <= from.length; row += 1) {
    const line = [row];
    let least = row;
    for (let column = 1; column <= to.length; column += 1) {
      const isSame = from[row - 1] === to[column - 1];
      let slips = Math.min(last[column]! + 1, line[column - 1]! + 1, last[column - 1]! + (isSame ? 0 : 1));
      const isSwapped =
        row > 1 && column > 1 && from[row - 1] === to[column - 2] && from[row - 2] === to[column - 1];
      if (isSwapped) slips = Math.min(slips, beforeLast[column - 2]! + 1);
      line.push(slips);
      if (slips < least) least = slips;
    }
    if (least > most) return { whole: none, beginning: none };
    beforeLast = last;
    last = line;
  }
  return { whole: Math.min(none, last[to.length]!), beginning: Math.min(none, ...last) };
}

/** Slips that are forgiven in a word of so many letters. */
const forgivenIn = (letters: number): number => (letters < 3 ? 0 : letters < 6 ? 1 : letters < 9 ? 2 : 3);

/** What is offered for a misspelt word, at most. */
const MOST_MEANT = 12;

/**
 * The words that may have been meant by a misspelt one: those with the fewest slips, whole words before beginnings.
 *
 * @param known - words in lower case
 */
export function wordsMeant(typed: string, known: Iterable<string>): string[] {
  const most = forgivenIn([...typed].length);
  let least = Number.POSITIVE_INFINITY;
  let meant: string[] = [];
  for (const word of known) {
    const { whole, beginning } = slipsBetween(typed, word, most);
    const cost = Math.min(2 * whole, 2 * beginning + 1);
    if (cost > 2 * most + 1 || Math.min(whole, beginning) > most || cost > least) continue;
    if (cost < least) meant = [];
    least = cost;
    meant.push(word);
  }
  return meant.slice(0, MOST_MEANT);
}
