import { luminanceToMunsellValue } from './munsell-value.ts';
import { srgbToLinear } from './srgb.ts';

/** Pixels as they are read from a canvas: RGBA, straight alpha, sRGB, row-major, length 4 · width · height. */
export interface Pixels {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray;
}

/** Steps of the table from luminance to value; it is even in the square root of luminance, where the curve is steep. */
const TABLE_STEPS = 4096;

let linear: Float32Array | undefined;
let valueByRoot: Float32Array | undefined;

function tables(): { linear: Float32Array; valueByRoot: Float32Array } {
  linear ??= Float32Array.from({ length: 256 }, (_, level) => srgbToLinear(level / 255));
  valueByRoot ??= Float32Array.from({ length: TABLE_STEPS + 1 }, (_, step) =>
    luminanceToMunsellValue((step / TABLE_STEPS) ** 2 * 100),
  );
  return { linear, valueByRoot };
}

/**
 * Munsell values, 0..10, of pixels; by table, within 0.01 of `munsellValueOfSrgb`. Pixels less than half opaque are NaN.
 *
 * @returns length width · height, row-major
 */
export function valuesOf({ data }: Pixels): Float32Array {
  const { linear, valueByRoot } = tables();
  const values = new Float32Array(data.length / 4);
  for (let pixel = 0; pixel < values.length; pixel += 1) {
    const at = pixel * 4;
    if (data[at + 3]! < 128) {
      values[pixel] = Number.NaN;
      continue;
    }
    const luminance =
      0.2126 * linear[data[at]!]! + 0.7152 * linear[data[at + 1]!]! + 0.0722 * linear[data[at + 2]!]!;
    values[pixel] = valueByRoot[(Math.sqrt(luminance) * TABLE_STEPS + 0.5) | 0]!;
  }
  return values;
}

/** Munsell value, 0..10, of a relative luminance 0..1; by table, within 0.01. */
export const valueOfLuminance = (luminance: number): number =>
  tables().valueByRoot[Math.round(Math.sqrt(Math.min(1, Math.max(0, luminance))) * TABLE_STEPS)]!;

/**
 * How the value of pixels is distributed: shares, each 0..1, together 1 (all 0 when nothing is opaque).
 *
 * @param bins - number of equal steps over 0..10
 * @returns length `bins`, darkest first
 */
export function valueDistribution(pixels: Pixels, bins: number): Float32Array {
  if (!(Number.isInteger(bins) && bins > 0))
    throw new RangeError(`bins must be a positive integer, got ${bins}`);
  // A count in 32-bit floats would stand still at 16.8 million.
  const counts = new Float64Array(bins);
  let count = 0;
  const values = valuesOf(pixels);
  const scale = bins / 10;
  for (let at = 0; at < values.length; at += 1) {
    const value = values[at]!;
    if (!(value >= 0)) continue;
    counts[Math.min(bins - 1, Math.floor(value * scale))]! += 1;
    count += 1;
  }
  return Float32Array.from(counts, (one) => (count === 0 ? 0 : one / count));
}

/** The value below which the given share (0..1) of the pixels lies, read from a distribution with even spread within bins. */
export function valueAtShare(distribution: Float32Array, share: number): number {
  const step = 10 / distribution.length;
  let below = 0;
  for (const [bin, part] of distribution.entries()) {
    if (part > 0 && below + part >= share) return (bin + Math.max(0, share - below) / part) * step;
    below += part;
  }
  return 10;
}
