import { luminanceToMunsellValue, munsellValueToGrey8, naturalBreaks } from '../colour/index.ts';
import { LINEAR, type Pixels, STEPS } from './pixels.ts';
import { seeByLuminance } from './values.ts';

let values: Float32Array | undefined;
/** Munsell value of each step of luminance. */
function valueOfStep(): Float32Array {
  values ??= Float32Array.from({ length: STEPS + 20 }, (_, step) =>
    luminanceToMunsellValue(Math.min(1, step / STEPS) * 100),
  );
  return values;
}

/** Makes every pixel the grey of the tone in which its value lies. @param borders - between tones, rising @param greys - a level a tone */
function seeTones(pixels: Pixels, borders: readonly number[], greys: readonly number[]): void {
  const levels = Uint8Array.from(valueOfStep(), (value) => {
    const tone = borders.findIndex((border) => value < border);
    return greys[tone < 0 ? borders.length : tone]!;
  });
  seeByLuminance(pixels, levels);
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

/** So many pixels tell where values part, spread over all. */
const ASKED = 200_000;

/** How values are distributed, told by some of the pixels. */
function someValues({ data }: Pixels): Float32Array {
  const values = valueOfStep();
  const shares = new Float32Array(BINS);
  const every = 4 * Math.max(1, Math.floor(data.length / 4 / ASKED));
  for (let at = 0; at < data.length; at += every) {
    const luminance =
      0.2126 * LINEAR[data[at]!]! + 0.7152 * LINEAR[data[at + 1]!]! + 0.0722 * LINEAR[data[at + 2]!]!;
    const bin = Math.min(BINS - 1, Math.floor((values[(luminance * STEPS + 0.5) | 0]! * BINS) / 10));
    shares[bin]! += 1;
  }
  return shares;
}

/** Two or three tones, parted where the values that are seen part by themselves. */
export function seeNotan(pixels: Pixels, count: number): void {
  const tones = count >= 2.5 ? 3 : 2;
  seeTones(pixels, naturalBreaks(someValues(pixels), tones), NOTAN[tones].map(munsellValueToGrey8));
}
