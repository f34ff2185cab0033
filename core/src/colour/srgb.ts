import { luminanceToMunsellValue, munsellValueToLuminance } from './munsell-value.ts';

/** One sRGB channel, 0..1, to linear light. Source: IEC 61966-2-1:1999, section 5.2. */
export const srgbToLinear = (channel01: number): number =>
  channel01 <= 0.04045 ? channel01 / 12.92 : ((channel01 + 0.055) / 1.055) ** 2.4;

/** Linear light, 0..1, of each 8-bit level: called for every pixel. */
export const LINEAR_OF_LEVEL = Float64Array.from({ length: 256 }, (_, level) => srgbToLinear(level / 255));

/** One channel of linear light, 0..1, to sRGB. Source: IEC 61966-2-1:1999, section 5.2. */
export const linearToSrgb = (linear01: number): number =>
  linear01 <= 0.0031308 ? linear01 * 12.92 : 1.055 * linear01 ** (1 / 2.4) - 0.055;

/** Relative luminance, 0..1, of an 8-bit sRGB colour. Source: ITU-R BT.709-6, table 3 (weights in linear light). */
export const luminanceOfSrgb = (r8: number, g8: number, b8: number): number =>
  0.2126 * srgbToLinear(r8 / 255) + 0.7152 * srgbToLinear(g8 / 255) + 0.0722 * srgbToLinear(b8 / 255);

export const munsellValueOfSrgb = (r8: number, g8: number, b8: number): number =>
  luminanceToMunsellValue(luminanceOfSrgb(r8, g8, b8) * 100);

/** The 8-bit level v of the neutral grey rgb(v, v, v) with this Munsell value (0..10). */
export const munsellValueToGrey8 = (value: number): number =>
  Math.round(255 * Math.min(1, linearToSrgb(munsellValueToLuminance(value) / 100)));

/** CSS colour of the surround at a value step: pure grey, so that it tints nothing beside it. */
export function surroundColour(value: number): string {
  const grey = munsellValueToGrey8(value);
  return `rgb(${grey}, ${grey}, ${grey})`;
}
