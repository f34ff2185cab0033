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
