import { encodedOf, LINEAR_OF_LEVEL, linearToOklab, type Oklab, type Rgb } from '../colour/index.ts';

/** RGBA, straight alpha, sRGB, 8 bits, row-major. */
export interface Pixels {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array | Uint8ClampedArray;
}

export const LINEAR = LINEAR_OF_LEVEL;

/** Linear light of a pixel. */
export const lightAt = ({ data }: Pixels, pixel: number): Rgb => ({
  r: LINEAR[data[pixel * 4]!]!,
  g: LINEAR[data[pixel * 4 + 1]!]!,
  b: LINEAR[data[pixel * 4 + 2]!]!,
});
export const oklabAt = (pixels: Pixels, pixel: number): Oklab => linearToOklab(lightAt(pixels, pixel));
export const isOpaqueAt = ({ data }: Pixels, pixel: number): boolean => data[pixel * 4 + 3]! >= 128;

/** Mean in linear light, as encoded sRGB; undefined where there is none. */
export function meanOf(pixels: Pixels, which: Iterable<number>): Rgb | undefined {
  let [r, g, b, count] = [0, 0, 0, 0];
  for (const pixel of which) {
    const light = lightAt(pixels, pixel);
    r += light.r;
    g += light.g;
    b += light.b;
    count += 1;
  }
  return count === 0 ? undefined : encodedOf({ r: r / count, g: g / count, b: b / count });
}
