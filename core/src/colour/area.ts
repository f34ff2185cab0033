import { deltaE2000 } from './difference.ts';
import { encodedOf, type Lab, type Rgb, rgbToLab } from './spaces.ts';
import { srgbToLinear } from './srgb.ts';

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
 * @param data - RGBA, straight alpha, sRGB, 8 bits
 * @param mask - a byte a pixel: those of 0 are left out; undefined: all count
 * @returns undefined where nothing is opaque
 */
export function colourOfArea(
  data: Uint8Array | Uint8ClampedArray,
  mask?: Uint8Array,
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
  const mean = encodedOf({ r: sum.r / count, g: sum.g / count, b: sum.b / count });
  return { mean, spread: spreadOf(data, isIn, count, rgbToLab(mean)), count };
}

function spreadOf(
  data: Uint8Array | Uint8ClampedArray,
  isIn: (pixel: number) => boolean,
  count: number,
  mean: Lab,
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
      const lab = rgbToLab({ r: data[at]! / 255, g: data[at + 1]! / 255, b: data[at + 2]! / 255 });
      square = deltaE2000(mean, lab) ** 2;
      known.set(key, square);
    }
    squares += square;
    measured += 1;
  }
  return measured === 0 ? 0 : Math.sqrt(squares / measured);
}
