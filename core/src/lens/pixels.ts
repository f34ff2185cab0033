import { linearToSrgb, srgbToLinear } from '../colour/index.ts';

/** RGBA, straight alpha, sRGB, 8 bits, row-major. */
export interface Pixels {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray;
}

/** Linear light, 0..1, of each level of a channel. */
export const LINEAR = Float32Array.from({ length: 256 }, (_, level) => srgbToLinear(level / 255));

/** Steps of linear light: the darkest levels are a sixth of a level apart. */
export const STEPS = 20_000;
/** The level of a channel for each step, and for what rounding lays beyond the last. */
export const LEVELS = Uint8Array.from({ length: STEPS + 20 }, (_, step) =>
  Math.round(255 * linearToSrgb(Math.min(1, step / STEPS))),
);
