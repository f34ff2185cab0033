import { LEVELS, LINEAR, type Pixels, STEPS } from './pixels.ts';

/** Passes of a box that come close to a Gaussian. Source: Wells 1986, "Efficient synthesis of Gaussian filters by cascaded uniform filters". */
const PASSES = 3;
/** Pixels that stand for a square are so many to a standard deviation: nothing finer is left. */
const COARSE = 1.6;

/** Less than this, pixels, is not seen. */
const LEAST = 0.3;

const CHANNELS = 4;
/** What is missing to it is rounding. */
const OPAQUE = 0.9999;

/**
 * Blurs as half-closed eyes do: light is averaged as light, so that a bright edge spreads over a dark one.
 *
 * @param sigma - standard deviation, pixels
 */
export function squint(pixels: Pixels, sigma: number): void {
  if (!(sigma > LEAST)) return;
  const { width, height, data } = pixels;
  const { light, across, down, step } = blurred(pixels, sigma);
  grow(light, across, down, step, width, height, data);
}

/** Pixels each of which stands for a square of `step` along a side; those at the right and lower end stand for what is left. */
export interface CoarsePixels {
  readonly pixels: Pixels;
  readonly step: number;
}

/**
 * The same in fewer pixels: enlarged by `step` with each between its four nearest they differ from it by less than ten levels
 * of a channel, and that only beside the hardest edge there is, since what enlarges them does not do it in linear light.
 *
 * @returns undefined where that would be as many
 */
export function squintCoarsely(pixels: Pixels, sigma: number): CoarsePixels | undefined {
  if (stepOf(sigma) === 1) return undefined;
  const { light, across, down, step } = blurred(pixels, sigma);
  const data = new Uint8ClampedArray(light.length);
  for (let at = 0; at < light.length; at += CHANNELS) {
    const alpha = light[at + 3]!;
    if (alpha > 0) {
      const scale = alpha > OPAQUE ? STEPS : STEPS / alpha;
      for (let channel = 0; channel < 3; channel += 1)
        data[at + channel] = LEVELS[(light[at + channel]! * scale + 0.5) | 0]!;
    }
    data[at + 3] = alpha * 255;
  }
  return { pixels: { width: across, height: down, data }, step };
}

const stepOf = (sigma: number) => Math.max(1, Math.floor(sigma / COARSE));

/** Linear light, blurred, in as few pixels as it needs. */
function blurred(pixels: Pixels, sigma: number) {
  const step = stepOf(sigma);
  const across = Math.ceil(pixels.width / step);
  const down = Math.ceil(pixels.height / step);
  const light = shrink(pixels, step, across, down);
  const other = new Float32Array(light.length);
  for (const radius of boxRadii(sigma / step)) {
    blurRows(light, other, across, down, radius);
    blurColumns(other, light, across, down, radius);
  }
  return { light, across, down, step };
}

/**
 * Half the widths of boxes that together blur by a standard deviation: a box of 2r+1 has the variance ((2r+1)² − 1) / 12; the
 * fraction of a pixel that whole ones miss is left to the edges of the box.
 */
function boxRadii(sigma: number): number[] {
  const width = Math.sqrt((12 * sigma * sigma) / PASSES + 1);
  return Array.from({ length: PASSES }, () => (width - 1) / 2);
}

/** Linear light times alpha, and alpha, averaged over squares of `step` pixels. */
function shrink({ width, height, data }: Pixels, step: number, across: number, down: number): Float32Array {
  const small = new Float32Array(across * down * CHANNELS);
  const linear = LINEAR;
  const columns = new Int32Array(width);
  for (let x = 0; x < width; x += 1) columns[x] = Math.floor(x / step) * CHANNELS;
  for (let y = 0; y < height; y += 1) {
    const start = Math.floor(y / step) * across * CHANNELS;
    let at = y * width * 4;
    for (let x = 0; x < width; x += 1, at += 4) {
      const to = start + columns[x]!;
      const solid = data[at + 3]!;
      if (solid === 255) {
        small[to]! += linear[data[at]!]!;
        small[to + 1]! += linear[data[at + 1]!]!;
        small[to + 2]! += linear[data[at + 2]!]!;
        small[to + 3]! += 1;
      } else if (solid > 0) {
        const alpha = solid / 255;
        small[to]! += linear[data[at]!]! * alpha;
        small[to + 1]! += linear[data[at + 1]!]! * alpha;
        small[to + 2]! += linear[data[at + 2]!]! * alpha;
        small[to + 3]! += alpha;
      }
    }
  }
  for (let row = 0; row < down; row += 1) {
    const high = Math.min(height - row * step, step);
    for (let column = 0; column < across; column += 1) {
      const count = high * Math.min(width - column * step, step);
      const to = (row * across + column) * CHANNELS;
      for (let channel = 0; channel < CHANNELS; channel += 1) small[to + channel]! /= count;
    }
  }
  return small;
}

/** Averages along a line over a box of 2·radius + 1; beyond the ends the last pixel goes on. */
function blurLine(
  from: Float32Array,
  to: Float32Array,
  start: number,
  length: number,
  stride: number,
  radius: number,
): void {
  const whole = Math.floor(radius);
  const edge = radius - whole;
  const scale = 1 / (2 * radius + 1);
  const last = start + (length - 1) * stride;
  for (let channel = 0; channel < CHANNELS; channel += 1) {
    let sum = from[start + channel]! * (whole + 1);
    for (let index = 1; index <= whole; index += 1)
      sum += from[Math.min(last, start + index * stride) + channel]!;
    for (let index = 0; index < length; index += 1) {
      const next = index + whole + 1;
      const before = index - whole - 1;
      const entering = from[(next >= length ? last : start + next * stride) + channel]!;
      const beyond = from[(before < 0 ? start : start + before * stride) + channel]!;
      const leaving = from[(before < -1 ? start : start + (before + 1) * stride) + channel]!;
      to[start + index * stride + channel] = (sum + edge * (entering + beyond)) * scale;
      sum += entering - leaving;
    }
  }
}

function blurRows(from: Float32Array, to: Float32Array, across: number, down: number, radius: number): void {
  for (let row = 0; row < down; row += 1)
    blurLine(from, to, row * across * CHANNELS, across, CHANNELS, radius);
}

/** The same from row to row, a whole row at once: memory is gone through in its order. */
function blurColumns(
  from: Float32Array,
  to: Float32Array,
  across: number,
  down: number,
  radius: number,
): void {
  const whole = Math.floor(radius);
  const edge = radius - whole;
  const scale = 1 / (2 * radius + 1);
  const length = across * CHANNELS;
  const startOf = (row: number) => Math.min(down - 1, Math.max(0, row)) * length;
  const sums = new Float32Array(length);
  for (let row = -whole; row <= whole; row += 1) {
    const start = startOf(row);
    for (let index = 0; index < length; index += 1) sums[index]! += from[start + index]!;
  }
  for (let row = 0; row < down; row += 1) {
    const here = row * length;
    const entering = startOf(row + whole + 1);
    const beyond = startOf(row - whole - 1);
    const leaving = startOf(row - whole);
    for (let index = 0; index < length; index += 1) {
      const sum = sums[index]!;
      const next = from[entering + index]!;
      to[here + index] = (sum + edge * (next + from[beyond + index]!)) * scale;
      sums[index] = sum + next - from[leaving + index]!;
    }
  }
}

/** Writes the small pixels back at full size, each between its four nearest. */
function grow(
  small: Float32Array,
  across: number,
  down: number,
  step: number,
  width: number,
  height: number,
  data: Uint8ClampedArray,
): void {
  const levels = LEVELS;
  const columns = gridOf(width, step, across);
  const rows = gridOf(height, step, down);
  const line = new Float32Array(across * CHANNELS);
  for (let y = 0; y < height; y += 1) {
    const upper = rows.at[y]! * across * CHANNELS;
    const lower = rows.next[y]! * across * CHANNELS;
    const below = rows.share[y]!;
    for (let index = 0; index < line.length; index += 1)
      line[index] = small[upper + index]! * (1 - below) + small[lower + index]! * below;
    let at = y * width * 4;
    for (let x = 0; x < width; x += 1, at += 4) {
      const a = columns.at[x]! * CHANNELS;
      const b = columns.next[x]! * CHANNELS;
      const beside = columns.share[x]!;
      const here = 1 - beside;
      const alpha = line[a + 3]! * here + line[b + 3]! * beside;
      if (alpha > 0) {
        const scale = alpha > OPAQUE ? STEPS : STEPS / alpha;
        data[at] = levels[((line[a]! * here + line[b]! * beside) * scale + 0.5) | 0]!;
        data[at + 1] = levels[((line[a + 1]! * here + line[b + 1]! * beside) * scale + 0.5) | 0]!;
        data[at + 2] = levels[((line[a + 2]! * here + line[b + 2]! * beside) * scale + 0.5) | 0]!;
      }
      data[at + 3] = alpha * 255;
    }
  }
}

/** Between which of the small pixels each full one lies, and how far on the way to the second. */
function gridOf(length: number, step: number, count: number) {
  const at = new Int32Array(length);
  const next = new Int32Array(length);
  const share = new Float32Array(length);
  for (let index = 0; index < length; index += 1) {
    const u = Math.min(count - 1, Math.max(0, (index + 0.5) / step - 0.5));
    at[index] = Math.floor(u);
    next[index] = Math.min(count - 1, at[index]! + 1);
    share[index] = u - at[index]!;
  }
  return { at, next, share };
}
