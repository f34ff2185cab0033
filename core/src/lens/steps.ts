import {
  luminanceToMunsellValue,
  munsellValueToGrey8,
  naturalBreaks,
  valueDistribution,
} from '../colour/index.ts';
import { LINEAR, type Pixels, STEPS } from './pixels.ts';

let values: Float32Array | undefined;
/** Munsell value of each step of luminance. */
function valueOfStep(): Float32Array {
  values ??= Float32Array.from({ length: STEPS + 20 }, (_, step) =>
    luminanceToMunsellValue(Math.min(1, step / STEPS) * 100),
  );
  return values;
}

/** Makes every pixel the grey of the tone in which its value lies. @param borders - between tones, rising @param greys - a level a tone */
function seeTones({ data }: Pixels, borders: readonly number[], greys: readonly number[]): void {
  const levels = Uint8Array.from(valueOfStep(), (value) => {
    const tone = borders.findIndex((border) => value < border);
    return greys[tone < 0 ? borders.length : tone]!;
  });
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

/** Values in `count` steps of equal height, each seen as the grey of its middle. */
export function seeSteps(pixels: Pixels, count: number): void {
  const steps = Math.round(Math.min(9, Math.max(2, count)));
  const borders = Array.from({ length: steps - 1 }, (_, index) => ((index + 1) * 10) / steps);
  const greys = Array.from({ length: steps }, (_, index) =>
    munsellValueToGrey8(((index + 0.5) * 10) / steps),
  );
  seeTones(pixels, borders, greys);
}

/** Tones of a notan: far apart, so that shapes alone are seen. */
const NOTAN: Readonly<Record<2 | 3, readonly number[]>> = { 2: [1, 9.5], 3: [1, 5.5, 9.5] };
const BINS = 100;

/** Two or three tones, parted where the values that are seen part by themselves. */
export function seeNotan(pixels: Pixels, count: number): void {
  const tones = count >= 2.5 ? 3 : 2;
  const borders = naturalBreaks(valueDistribution(pixels, BINS), tones);
  seeTones(pixels, borders, NOTAN[tones].map(munsellValueToGrey8));
}
