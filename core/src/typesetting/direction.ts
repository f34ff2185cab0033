import createBidi from 'bidi-js';

/** Scripts written from right to left, and marks that say so: without one of them nothing has to be reordered. */
const MAY_RUN_LEFT =
  /[\u0590-\u08ff\u200f\u202b\u202e\u2067\ufb1d-\ufdff\ufe70-\ufefc\u{10800}-\u{10fff}\u{1e800}-\u{1efff}]/u;

let bidi: ReturnType<typeof createBidi> | undefined;
const algorithm = () => {
  bidi ??= createBidi();
  return bidi;
};

/** Whether a paragraph runs from right to left: its first strong character says it. Source: UAX #9, rules P2 and P3. */
export function isRightToLeft(paragraph: string): boolean {
  if (!MAY_RUN_LEFT.test(paragraph)) return false;
  return algorithm().getEmbeddingLevels(paragraph, 'auto').paragraphs[0]?.level === 1;
}

/**
 * A line's characters as they stand from left to right, mirrored where they must be, for drawing them one by one.
 * Source: UAX #9, rules L1 to L4.
 */
export function visualOrder(line: string, isFromRight: boolean): string {
  if (!MAY_RUN_LEFT.test(line) && !isFromRight) return line;
  const levels = algorithm().getEmbeddingLevels(line, isFromRight ? 'rtl' : 'ltr');
  return algorithm().getReorderedString(line, levels);
}

/** A part of a line that runs one way. */
export interface DirectedPart {
  readonly from: number;
  readonly to: number;
  readonly isRightToLeft: boolean;
}

/** The parts of a line that run one way each, as they stand from left to right. Source: UAX #9, rule L2. */
export function visualParts(line: string, isFromRight: boolean): DirectedPart[] {
  if (!MAY_RUN_LEFT.test(line) && !isFromRight) return [{ from: 0, to: line.length, isRightToLeft: false }];
  const { levels } = algorithm().getEmbeddingLevels(line, isFromRight ? 'rtl' : 'ltr');
  const parts: { from: number; to: number; level: number }[] = [];
  for (let at = 0; at < line.length; at += 1) {
    const last = parts.at(-1);
    if (last && last.level === levels[at]) last.to = at + 1;
    else parts.push({ from: at, to: at + 1, level: levels[at]! });
  }
  const deepest = Math.max(0, ...parts.map(({ level }) => level));
  for (let level = deepest; level > 0; level -= 1)
    for (let first = 0; first < parts.length; first += 1) {
      let end = first;
      while (end < parts.length && parts[end]!.level >= level) end += 1;
      parts.splice(first, end - first, ...parts.slice(first, end).reverse());
      first = end;
    }
  return parts.map(({ from, to, level }) => ({ from, to, isRightToLeft: level % 2 === 1 }));
}
