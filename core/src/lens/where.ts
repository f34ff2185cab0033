import { linearToOklab } from '../colour/index.ts';
import { LINEAR, type Pixels } from './pixels.ts';

/** Colours as far off as the first are seen as they are, and as far as the second not at all, OKLab with chroma twice. */
const NEAR = 0.055;
const FAR = 0.11;
/** What of the rest is left to know one's way by. */
const LEFT = 0.16;
const GROUND = 121;

/** A colour as the figure of a lens: `0xrrggbb`. @param hex - `#rrggbb` */
export const colourAsAmount = (hex: string): number => Number.parseInt(hex.slice(1), 16);

/** Leaves what is near a colour as it is, and lets the rest sink into grey. @param amount - the colour, `0xrrggbb` */
export function seeWhere({ data }: Pixels, amount: number): void {
  const labOf = (r: number, g: number, b: number) =>
    linearToOklab({ r: LINEAR[r]!, g: LINEAR[g]!, b: LINEAR[b]! });
  const wanted = labOf((amount >>> 16) & 0xff, (amount >>> 8) & 0xff, amount & 0xff);
  /** How much is left of a colour, 1 to 256; 0: not asked yet. */
  const left = new Uint16Array(1 << 18);
  for (let at = 0; at < data.length; at += 4) {
    const cell = (data[at]! >>> 2) | ((data[at + 1]! >>> 2) << 6) | ((data[at + 2]! >>> 2) << 12);
    if (left[cell] === 0) {
      const { l, a, b } = labOf(data[at]!, data[at + 1]!, data[at + 2]!);
      const apart = Math.hypot(l - wanted.l, 2 * (a - wanted.a), 2 * (b - wanted.b));
      const part = Math.min(1, Math.max(0, (FAR - apart) / (FAR - NEAR)));
      left[cell] = 1 + Math.round(255 * (LEFT + (1 - LEFT) * part));
    }
    const of = (left[cell]! - 1) / 255;
    for (let part = 0; part < 3; part += 1) data[at + part] = GROUND + (data[at + part]! - GROUND) * of;
  }
}
