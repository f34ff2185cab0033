import { isWarmHue, linearToOklab, oklabToLinear, oklabToOklch, oklchToOklab } from '../colour/index.ts';
import { LEVELS, LINEAR, type Pixels, STEPS } from './pixels.ts';

/** Bits of each channel that a table tells apart. */
const BITS = 6;
const CELLS = 1 << (3 * BITS);
const SHIFT = 8 - BITS;

/** Chroma that is seen as white, OKLab; what is stronger is as well. */
const MOST_CHROMA = 0.3;
/** Lightness and chroma in which every hue is shown; below the last, greys are grey. */
const HUES = { l: 0.72, c: 0.12, grey: 0.02 } as const;
/** Orange and blue in which warm and cool are shown, as strong as the colour is. */
const WARM = { h: 58, full: 0.14 } as const;
const COOL = { h: 248 } as const;

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

const tables = new Map<TableLens, Uint32Array>();

/** Middle of a cell of the table, a level of a channel. */
const middle = (part: number): number => Math.min(255, (part << SHIFT) + (1 << (SHIFT - 1)));

function tableOf(lens: TableLens): Uint32Array {
  const known = tables.get(lens);
  if (known) return known;
  const see = SEEN[lens];
  const mask = (1 << BITS) - 1;
  const table = Uint32Array.from({ length: CELLS }, (_, cell) => {
    const channel = (at: number) => LINEAR[middle((cell >>> (at * BITS)) & mask)]!;
    const { l, c, h } = oklabToOklch(linearToOklab({ r: channel(0), g: channel(1), b: channel(2) }));
    return see(l, c, h);
  });
  tables.set(lens, table);
  return table;
}

/** Alters each pixel by its own colour alone, through a table; alpha stays. */
export function lookUp({ data }: Pixels, table: Uint32Array): void {
  for (let at = 0; at < data.length; at += 4) {
    const cell =
      (data[at]! >>> SHIFT) | ((data[at + 1]! >>> SHIFT) << BITS) | ((data[at + 2]! >>> SHIFT) << (2 * BITS));
    const seen = table[cell]!;
    data[at] = seen & 0xff;
    data[at + 1] = (seen >>> 8) & 0xff;
    data[at + 2] = seen >>> 16;
  }
}

export const seeByTable = (pixels: Pixels, lens: TableLens): void => lookUp(pixels, tableOf(lens));
