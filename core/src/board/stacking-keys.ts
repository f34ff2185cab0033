import { generateNKeysBetween } from 'fractional-indexing';

/** Digits of a key, in the order in which keys are compared. */
const DIGITS = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz';
const BASE = DIGITS.length;

/** A key between two, read as fractions: "V" is about a half. `above` null is 1. */
function between(below: string, above: string | null): string {
  let key = '';
  let isBelowAbove = above === null;
  for (let at = 0; ; at += 1) {
    const low = DIGITS.indexOf(below.charAt(at) || '0');
    const high = isBelowAbove ? BASE : DIGITS.indexOf(above!.charAt(at) || '0');
    if (high - low > 1) return key + DIGITS[Math.floor((low + high) / 2)];
    key += DIGITS[low];
    // From here on any digit is low enough.
    isBelowAbove ||= high > low;
    if (!isBelowAbove && at > above!.length) throw new RangeError(`no key between ${below} and ${above}`);
  }
}

/** The same for many: each half of them on its side of the middle. */
function spread(below: string, above: string | null, count: number): string[] {
  if (count <= 0) return [];
  const middle = between(below, above);
  const before = Math.floor((count - 1) / 2);
  return [...spread(below, middle, before), middle, ...spread(middle, above, count - 1 - before)];
}

/**
 * Stacking keys between two others, in order. Keys that were not made by the usual rule (which says how long a key has to be)
 * are taken as fractions, so that nobody's odd key keeps a board from being worked on.
 *
 * @param below - null for the very bottom
 * @param above - null for the very top
 */
export function keysBetween(below: string | null, above: string | null, count: number): string[] {
  try {
    return generateNKeysBetween(below, above, count);
  } catch {
    return spread(below ?? '', above, count);
  }
}
