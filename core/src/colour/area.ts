import { deltaE2000 } from './difference.ts';
import { encodedOf, type Lab, type Rgb, rgbToLab } from './spaces.ts';
import { srgbToLinear } from './srgb.ts';

/** The space in which pixels are given, 8 bits a channel; both have the transfer curve of sRGB. */
export type PixelSpace = 'srgb' | 'display-p3';

/** Linear light of the primaries of Display P3 as linear sRGB. Source: W3C, CSS Color Module Level 4, section 10.2. */
const FROM_P3 = ({ r, g, b }: Rgb): Rgb => ({
  r: 1.2249401762805598 * r - 0.22494017628055996 * g,
  g: -0.042056954709688163 * r + 1.0420569547096881 * g,
  b: -0.019637554590334432 * r - 0.078636045550631889 * g + 1.0982736001409663 * b,
});
const linearSrgb = (light: Rgb, space: PixelSpace): Rgb => (space === 'srgb' ? light : FROM_P3(light));

/** What lies in an area of a picture, taken together. */
export interface AreaColour {
  /** Mean in linear light, as encoded sRGB. */
  readonly mean: Rgb;
  /** Root of the mean square ΔE00 of its pixels from the mean: 0 for one colour. */
  readonly spread: number;
  /** Pixels that were counted: those at least half opaque. */
  readonly count: number;
}

const LINEAR = Float64Array.from({ length: 256 }, (_, level) => srgbToLinear(level / 255));
/** Differences of no more pixels than this are measured; of more, of every n-th: the root mean square stays. */
const MOST_MEASURED = 40_000;

/**
 * The colour of an area. Light is added, so its mean is taken in linear light.
 *
 * @param data - RGBA, straight alpha, 8 bits
 * @param mask - a byte a pixel: those of 0 are left out; undefined: all count
 * @returns undefined where nothing is opaque
 */
export function colourOfArea(
  data: Uint8Array | Uint8ClampedArray,
  mask?: Uint8Array,
  space: PixelSpace = 'srgb',
): AreaColour | undefined {
  const sum = { r: 0, g: 0, b: 0 };
  let count = 0;
  const isIn = (pixel: number) => data[pixel * 4 + 3]! >= 128 && (mask === undefined || mask[pixel]! > 0);
  const pixels = data.length / 4;
  for (let pixel = 0; pixel < pixels; pixel += 1) {
    if (!isIn(pixel)) continue;
    const at = pixel * 4;
    sum.r += LINEAR[data[at]!]!;
    sum.g += LINEAR[data[at + 1]!]!;
    sum.b += LINEAR[data[at + 2]!]!;
    count += 1;
  }
  if (count === 0) return undefined;
  const light = { r: sum.r / count, g: sum.g / count, b: sum.b / count };
  const mean = encodedOf(linearSrgb(light, space));
  return { mean, spread: spreadOf(data, isIn, count, { mean: rgbToLab(mean), space }), count };
}

function spreadOf(
  data: Uint8Array | Uint8ClampedArray,
  isIn: (pixel: number) => boolean,
  count: number,
  { mean, space }: { readonly mean: Lab; readonly space: PixelSpace },
): number {
  const every = Math.max(1, Math.ceil(count / MOST_MEASURED));
  const known = new Map<number, number>();
  let squares = 0;
  let measured = 0;
  let seen = 0;
  for (let pixel = 0; pixel < data.length / 4; pixel += 1) {
    if (!isIn(pixel)) continue;
    seen += 1;
    if (seen % every !== 0 && every > 1) continue;
    const at = pixel * 4;
    const key = (data[at]! << 16) | (data[at + 1]! << 8) | data[at + 2]!;
    let square = known.get(key);
    if (square === undefined) {
      const light = { r: LINEAR[data[at]!]!, g: LINEAR[data[at + 1]!]!, b: LINEAR[data[at + 2]!]! };
      square = deltaE2000(mean, rgbToLab(encodedOf(linearSrgb(light, space)))) ** 2;
      known.set(key, square);
    }
    squares += square;
    measured += 1;
  }
  return measured === 0 ? 0 : Math.sqrt(squares / measured);
}
