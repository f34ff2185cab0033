import { deltaE2000 } from './difference.ts';
import { encodedOf, type Lab, type Rgb, rgbToLab } from './spaces.ts';
import { LINEAR_OF_LEVEL as LINEAR } from './srgb.ts';

/** The space in which pixels are given, 8 bits a channel; both have the transfer curve of sRGB. */
export type PixelSpace = 'srgb' | 'display-p3';

/** Linear light of the primaries of Display P3 as linear sRGB, row by row. Source: W3C, CSS Color Module Level 4, section 10.2. */
export const P3_TO_SRGB = [
  1.2249401762805598, -0.22494017628055996, 0, -0.042056954709688163, 1.0420569547096881, 0,
  -0.019637554590334432, -0.078636045550631889, 1.0982736001409663,
] as const;
const FROM_P3 = ({ r, g, b }: Rgb): Rgb => ({
  r: P3_TO_SRGB[0] * r + P3_TO_SRGB[1] * g + P3_TO_SRGB[2] * b,
  g: P3_TO_SRGB[3] * r + P3_TO_SRGB[4] * g + P3_TO_SRGB[5] * b,
  b: P3_TO_SRGB[6] * r + P3_TO_SRGB[7] * g + P3_TO_SRGB[8] * b,
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

/** Differences of no more pixels than this are measured; of more, of every n-th: the root mean square stays. */
const MOST_MEASURED = 40_000;

/** Pixels of which light is known, whatever they were written in. */
interface Lights {
  readonly count: number;
  /** Linear sRGB. */
  lightOf(pixel: number): Rgb;
  isOpaque(pixel: number): boolean;
  /** Alike for pixels of one colour; undefined where few are alike. */
  keyOf(pixel: number): number | undefined;
}

/**
 * The colour of an area. Light is added, so its mean is taken in linear light.
 *
 * @param data - RGBA, straight alpha, 8 bits
 * @param mask - a byte a pixel: those of 0 are left out; undefined: all count
 * @returns undefined where nothing is opaque
 */
export const colourOfArea = (
  data: Uint8Array | Uint8ClampedArray,
  mask?: Uint8Array,
  space: PixelSpace = 'srgb',
): AreaColour | undefined =>
  colourOfLights(
    {
      count: data.length / 4,
      lightOf: (pixel) => {
        const at = pixel * 4;
        return linearSrgb(
          { r: LINEAR[data[at]!]!, g: LINEAR[data[at + 1]!]!, b: LINEAR[data[at + 2]!]! },
          space,
        );
      },
      isOpaque: (pixel) => data[pixel * 4 + 3]! >= 128,
      keyOf: (pixel) => (data[pixel * 4]! << 16) | (data[pixel * 4 + 1]! << 8) | data[pixel * 4 + 2]!,
    },
    mask,
  );

/** The same of linear light: RGBA, linear sRGB unbounded, straight alpha 0..1. */
export const colourOfLight = (data: Float32Array, mask?: Uint8Array): AreaColour | undefined =>
  colourOfLights(
    {
      count: data.length / 4,
      lightOf: (pixel) => ({ r: data[pixel * 4]!, g: data[pixel * 4 + 1]!, b: data[pixel * 4 + 2]! }),
      isOpaque: (pixel) => data[pixel * 4 + 3]! >= 0.5,
      keyOf: () => undefined,
    },
    mask,
  );

function colourOfLights(lights: Lights, mask: Uint8Array | undefined): AreaColour | undefined {
  const isIn = (pixel: number) => (mask === undefined || mask[pixel]! > 0) && lights.isOpaque(pixel);
  const sum = { r: 0, g: 0, b: 0 };
  let count = 0;
  for (let pixel = 0; pixel < lights.count; pixel += 1) {
    if (!isIn(pixel)) continue;
    const { r, g, b } = lights.lightOf(pixel);
    sum.r += r;
    sum.g += g;
    sum.b += b;
    count += 1;
  }
  if (count === 0) return undefined;
  const mean = encodedOf({ r: sum.r / count, g: sum.g / count, b: sum.b / count });
  return { mean, spread: spreadOf(lights, isIn, count, rgbToLab(mean)), count };
}

function spreadOf(lights: Lights, isIn: (pixel: number) => boolean, count: number, mean: Lab): number {
  const every = Math.max(1, Math.ceil(count / MOST_MEASURED));
  const known = new Map<number, number>();
  let squares = 0;
  let measured = 0;
  let seen = 0;
  for (let pixel = 0; pixel < lights.count; pixel += 1) {
    if (!isIn(pixel)) continue;
    seen += 1;
    if (seen % every !== 0 && every > 1) continue;
    const key = lights.keyOf(pixel);
    let square = key === undefined ? undefined : known.get(key);
    if (square === undefined) {
      square = deltaE2000(mean, rgbToLab(encodedOf(lights.lightOf(pixel)))) ** 2;
      if (key !== undefined) known.set(key, square);
    }
    squares += square;
    measured += 1;
  }
  return measured === 0 ? 0 : Math.sqrt(squares / measured);
}

/** Linear light as pixels to be looked at: 8 bits of sRGB, what lies beyond it cut off. */
export function pixelsOfLight(data: Float32Array): Uint8ClampedArray<ArrayBuffer> {
  const pixels = new Uint8ClampedArray(data.length);
  for (let at = 0; at < data.length; at += 4) {
    const { r, g, b } = encodedOf({ r: data[at]!, g: data[at + 1]!, b: data[at + 2]! });
    pixels.set([255 * r, 255 * g, 255 * b, 255 * data[at + 3]!], at);
  }
  return pixels;
}
