import { isWarmHue, linearToOklab, oklabToLinear, oklabToOklch, oklchToOklab } from '../colour/index.ts';
import { ALPHA, LEVELS, LINEAR, type Pixels, STEPS, wordsOf } from './pixels.ts';

/** Bits of each channel that a table tells apart. */
const BITS = 6;
export const CELLS = 1 << (3 * BITS);
const SHIFT = 8 - BITS;
const MASK = (1 << BITS) - 1;

/** Chroma that is seen as white, OKLab; what is stronger is as well. */
const MOST_CHROMA = 0.3;
/** Lightness and chroma in which every hue is shown; below the last, greys are grey. */
const HUES = { l: 0.72, c: 0.12, grey: 0.02 } as const;
/** Orange and blue in which warm and cool are shown, as strong as the colour is. */
const WARM = { h: 58, full: 0.14 } as const;
const COOL = { h: 248 } as const;

/** The cell of a colour. @param word - of a pixel */
export const cellOf = (word: number): number =>
  ((word >>> SHIFT) & MASK) |
  ((word >>> (8 + SHIFT - BITS)) & (MASK << BITS)) |
  ((word >>> (16 + SHIFT - 2 * BITS)) & (MASK << (2 * BITS)));

const levelOf = (light: number): number => LEVELS[(Math.min(1, Math.max(0, light)) * STEPS + 0.5) | 0]!;
const packed = (r: number, g: number, b: number): number => r | (g << 8) | (b << 16);
function packedLch(l: number, c: number, h: number): number {
  const { r, g, b } = oklabToLinear(oklchToOklab({ l, c, h }));
  return packed(levelOf(r), levelOf(g), levelOf(b));
}

/** What each sees of a colour in OKLCH: three levels, packed. */
const SEEN = {
  chroma(_: number, c: number) {
    const level = Math.round(255 * Math.min(1, c / MOST_CHROMA));
    return packed(level, level, level);
  },
  hue: (_: number, c: number, h: number) => packedLch(HUES.l, c < HUES.grey ? 0 : HUES.c, h),
  warmth: (l: number, c: number, h: number) =>
    packedLch(0.35 + 0.5 * l, Math.min(WARM.full, c), isWarmHue(h) ? WARM.h : COOL.h),
} as const;
export type TableLens = keyof typeof SEEN;

const tables = new Map<TableLens, Int32Array>();

/** Middle of a cell of the table, a level of a channel. */
const middle = (part: number): number => Math.min(255, (part << SHIFT) + (1 << (SHIFT - 1)));

function tableOf(lens: TableLens): Int32Array {
  const known = tables.get(lens);
  if (known) return known;
  const see = SEEN[lens];
  const table = Int32Array.from({ length: CELLS }, (_, cell) => {
    const channel = (at: number) => LINEAR[middle((cell >>> (at * BITS)) & MASK)]!;
    const { l, c, h } = oklabToOklch(linearToOklab({ r: channel(0), g: channel(1), b: channel(2) }));
    return see(l, c, h);
  });
  tables.set(lens, table);
  return table;
}

/** Alters each pixel by its own colour alone, through a table; alpha stays. */
function lookUp(pixels: Pixels, table: Int32Array): void {
  const words = wordsOf(pixels);
  for (let at = 0; at < words.length; at += 1) {
    const word = words[at]!;
    words[at] = (word & ALPHA) | table[cellOf(word)]!;
  }
}

const COLOUR = 0xffffff;
/** Colours as they are met, empty between times: making one anew takes longer than a small picture. */
const asMet = new Int32Array(CELLS);

/**
 * The same, asking for a colour of each cell when the first of it is met: most pictures have few.
 *
 * @param see - what becomes of a colour, three levels packed
 */
export function lookUpAsMet(pixels: Pixels, see: (r: number, g: number, b: number) => number): void {
  const table = asMet;
  const met: number[] = [];
  const words = wordsOf(pixels);
  for (let at = 0; at < words.length; at += 1) {
    const word = words[at]!;
    const cell = cellOf(word);
    if (table[cell] === 0) {
      table[cell] = see(word & 0xff, (word >>> 8) & 0xff, (word >>> 16) & 0xff) | ~COLOUR;
      met.push(cell);
    }
    words[at] = (word & ALPHA) | (table[cell]! & COLOUR);
  }
  for (const cell of met) table[cell] = 0;
}

export const seeByTable = (pixels: Pixels, lens: TableLens): void => lookUp(pixels, tableOf(lens));
