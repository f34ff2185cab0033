import { linearToOklab, type Oklab } from '../colour/index.ts';
import { CELLS, cellOf } from './by-table.ts';
import { ALPHA, LINEAR, type Pixels, wordsOf } from './pixels.ts';

/** Colours as far off as the first are seen as they are, and as far as the second not at all, OKLab with chroma twice. */
const NEAR = 0.055;
const FAR = 0.11;
/** What of the rest is left to know one's way by. */
const LEFT = 0.16;
const GROUND = 121;

/** A colour as the figure of a lens: `0xrrggbb`. @param hex - `#rrggbb` */
export const colourAsAmount = (hex: string): number => Number.parseInt(hex.slice(1), 16);

const labOf = (r: number, g: number, b: number): Oklab =>
  linearToOklab({ r: LINEAR[r]!, g: LINEAR[g]!, b: LINEAR[b]! });

/** How much is left of a colour that is so far from the wanted one, 255ths. */
function leftOf(wanted: Oklab, { l, a, b }: Oklab): number {
  const apart = Math.hypot(l - wanted.l, 2 * (a - wanted.a), 2 * (b - wanted.b));
  const part = Math.min(1, Math.max(0, (FAR - apart) / (FAR - NEAR)));
  return Math.round(255 * (LEFT + (1 - LEFT) * part));
}

/** Leaves what is near a colour as it is, and lets the rest sink into grey. @param amount - the colour, `0xrrggbb` */
export function seeWhere(pixels: Pixels, amount: number): void {
  const wanted = labOf((amount >>> 16) & 0xff, (amount >>> 8) & 0xff, amount & 0xff);
  /** What is left of the colours of each cell; 0 as long as it was not asked: something always is. */
  const left = new Uint8Array(CELLS);
  const words = wordsOf(pixels);
  for (let at = 0; at < words.length; at += 1) {
    const word = words[at]!;
    const cell = cellOf(word);
    if (left[cell] === 0)
      left[cell] = leftOf(wanted, labOf(word & 0xff, (word >>> 8) & 0xff, (word >>> 16) & 0xff));
    const part = left[cell]!;
    /** 256ths, so that all of it is all. */
    const of = part + (part >>> 7);
    const ground = GROUND * (256 - of) + 128;
    words[at] =
      (word & ALPHA) |
      (((word & 0xff) * of + ground) >>> 8) |
      ((((word >>> 8) & 0xff) * of + ground) & 0xff00) |
      (((((word >>> 16) & 0xff) * of + ground) << 8) & 0xff0000);
  }
}
