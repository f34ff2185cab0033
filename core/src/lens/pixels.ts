import { linearToSrgb, srgbToLinear } from '../colour/index.ts';

/** RGBA, straight alpha, sRGB, 8 bits, row-major; `data` begins at a multiple of four bytes, as image data does. */
export interface Pixels {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray;
}

/** Alpha, within a word. */
export const ALPHA = 0xff << 24;

/**
 * The same pixels, each in one word, red lowest: altered so, they need one access where bytes need six.
 *
 * @throws RangeError where `data` does not begin at a multiple of four bytes
 */
export const wordsOf = ({ data }: Pixels): Int32Array =>
  new Int32Array(data.buffer, data.byteOffset, data.length >> 2);

/** Linear light, 0..1, of each level of a channel. */
export const LINEAR = Float32Array.from({ length: 256 }, (_, level) => srgbToLinear(level / 255));

/** Steps of linear light: the darkest levels are a sixth of a level apart. */
export const STEPS = 20_000;
/** The level of a channel for each step, and for what rounding lays beyond the last. */
export const LEVELS = Uint8Array.from({ length: STEPS + 20 }, (_, step) =>
  Math.round(255 * linearToSrgb(Math.min(1, step / STEPS))),
);
