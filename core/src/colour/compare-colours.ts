import { deltaE2000, hueBetween } from './difference.ts';
import { munsellValueOf } from './notation.ts';
import { contrastRatio, labToLch, oklabToOklch, type Rgb, rgbToLab, rgbToOklab } from './spaces.ts';

/** How a second colour differs from a first. */
export interface ColourDifference {
  readonly deltaE: number;
  /** Munsell steps, −10..10: above 0 the second is lighter. */
  readonly value: number;
  /** CIELAB chroma: above 0 the second is stronger. */
  readonly chroma: number;
  /** Degrees of CIELAB hue, −180..180; undefined where one of them is grey. */
  readonly hueDeg: number | undefined;
  /** Above 0 the second is warmer, about −1..1: along the axis from cool to warm, seen from grey. */
  readonly warmth: number;
  /** 1..21. */
  readonly contrast: number;
}

/** Less CIELAB chroma than this has no hue to speak of. */
const GREY_CHROMA = 2;
/** The warmest hue, degrees of OKLCH: orange, in the middle of the warm side. */
const WARMEST = 54;
/** OKLCH chroma along that axis that counts as all there is. */
const FULL = 0.2;

/** How warm a colour is, −1..1: how far it lies from grey towards orange, or towards blue. */
export function warmthOf(colour: Rgb): number {
  const { c, h } = oklabToOklch(rgbToOklab(colour));
  const along = c * Math.cos(((h - WARMEST) * Math.PI) / 180);
  return Math.max(-1, Math.min(1, along / FULL));
}

export function compareColours(one: Rgb, two: Rgb): ColourDifference {
  const [first, second] = [rgbToLab(one), rgbToLab(two)];
  const [a, b] = [labToLch(first), labToLch(second)];
  return {
    deltaE: deltaE2000(first, second),
    value: munsellValueOf(two) - munsellValueOf(one),
    chroma: b.c - a.c,
    hueDeg: a.c < GREY_CHROMA || b.c < GREY_CHROMA ? undefined : hueBetween(a.h, b.h),
    warmth: warmthOf(two) - warmthOf(one),
    contrast: contrastRatio(one, two),
  };
}

/** Differences that are no more than this are none to speak of. */
const SLIGHT = { value: 0.15, chroma: 2.5, warmth: 0.03 } as const;

/** What somebody who sees `two` for `one` sees, in words: "warmer and lighter"; undefined where they are alike. */
export function directionWords({ value, chroma, warmth }: ColourDifference): string | undefined {
  const words = [
    Math.abs(warmth) > SLIGHT.warmth ? (warmth > 0 ? 'warmer' : 'cooler') : undefined,
    Math.abs(value) > SLIGHT.value ? (value > 0 ? 'lighter' : 'darker') : undefined,
    Math.abs(chroma) > SLIGHT.chroma ? (chroma > 0 ? 'stronger' : 'duller') : undefined,
  ].filter((word) => word !== undefined);
  if (words.length === 0) return undefined;
  return words.length === 1 ? words[0] : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;
}
