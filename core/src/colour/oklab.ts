import { hexOfRgb, linearToOklab, type Oklab, oklabToRgb, rgbOfHex, rgbToOklab } from './spaces.ts';
import { LINEAR_OF_LEVEL as LINEAR } from './srgb.ts';

export const srgb8ToOklab = (r8: number, g8: number, b8: number): Oklab =>
  linearToOklab({ r: LINEAR[r8]!, g: LINEAR[g8]!, b: LINEAR[b8]! });

/** `#rrggbb` of an OKLab colour, each channel cut off at what sRGB can show. */
export const oklabToHex = (lab: Oklab): string => hexOfRgb(oklabToRgb(lab));

/** @throws RangeError for what is no `#rrggbb` */
export const hexToOklab = (hex: string): Oklab => rgbToOklab(rgbOfHex(hex));

export const oklabDistance = (one: Oklab, two: Oklab): number =>
  Math.hypot(one.l - two.l, one.a - two.a, one.b - two.b);

/** Degrees 0..360, of the direction in which a colour leaves grey. */
export const oklabHueDeg = ({ a, b }: Pick<Oklab, 'a' | 'b'>): number =>
  ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360;
