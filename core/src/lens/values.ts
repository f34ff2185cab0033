import { LEVELS, LINEAR, type Pixels, STEPS } from './pixels.ts';

/** Makes every pixel the grey that stands for its luminance. @param levels - for each step of luminance. Source: ITU-R BT.709-6, table 3. */
export function seeByLuminance({ data }: Pixels, levels: Uint8Array): void {
  const linear = LINEAR;
  for (let at = 0; at < data.length; at += 4) {
    const luminance =
      0.2126 * linear[data[at]!]! + 0.7152 * linear[data[at + 1]!]! + 0.0722 * linear[data[at + 2]!]!;
    const level = levels[(luminance * STEPS + 0.5) | 0]!;
    data[at] = level;
    data[at + 1] = level;
    data[at + 2] = level;
  }
}

/** Makes every pixel the grey of its luminance: what is as light as something else looks as light. */
export const seeValues = (pixels: Pixels): void => seeByLuminance(pixels, LEVELS);
