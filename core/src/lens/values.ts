import { LEVELS, LINEAR, type Pixels, STEPS } from './pixels.ts';

/** Parts of a step of luminance that whole numbers of 31 bits hold. */
const FINE_BITS = 16;
const shareOf = (weight: number): Int32Array =>
  Int32Array.from(LINEAR, (light) => Math.round(weight * light * STEPS * 2 ** FINE_BITS));
// What each level of a channel gives to luminance, in those. Source: ITU-R BT.709-6, table 3.
const RED = shareOf(0.2126);
const GREEN = shareOf(0.7152);
const BLUE = shareOf(0.0722);
const HALF = 1 << (FINE_BITS - 1);

/** Makes every pixel the grey that stands for its luminance. @param levels - for each step of luminance */
export function seeByLuminance({ data }: Pixels, levels: Uint8Array): void {
  for (let at = 0; at < data.length; at += 4) {
    const level =
      levels[(RED[data[at]!]! + GREEN[data[at + 1]!]! + BLUE[data[at + 2]!]! + HALF) >> FINE_BITS]!;
    data[at] = level;
    data[at + 1] = level;
    data[at + 2] = level;
  }
}

/** Makes every pixel the grey of its luminance: what is as light as something else looks as light. */
export const seeValues = (pixels: Pixels): void => seeByLuminance(pixels, LEVELS);
