import { LEVELS, LINEAR, type Pixels, STEPS } from './pixels.ts';

/** Passes of a box that come close to a Gaussian. Source: Wells 1986, "Efficient synthesis of Gaussian filters by cascaded uniform filters". */
const PASSES = 3;
/** Pixels that stand for a square are so many to a standard deviation: nothing finer is left. */
const COARSE = 1.25;

/** Less than this, pixels, is not seen. */
const LEAST = 0.3;

const CHANNELS = 4;
/** What is missing to it is rounding. */
const OPAQUE = 0.9999;
/** Parts of a step of light that whole numbers of 31 bits hold. */
const FINE_BITS = 16;
const FINE = STEPS << FINE_BITS;
const HALF = 1 << (FINE_BITS - 1);

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
  // Averaging squares and going from one small pixel to the next blur by themselves.
  const radius = boxRadius((sigma ** 2 - (step ** 2 - 1) / 4) / step ** 2);
  for (let pass = 0; pass < PASSES; pass += 1) {
    blurRows(light, other, across, down, radius);
    blurColumns(other, light, across, down, radius);
  }
  return { light, across, down, step };
}

/**
 * Half the width, less half a pixel, of boxes that one after another blur by a variance in pixels squared. What whole pixels miss
 * of it is left to the two at the edges. Source: Gwosdek, Grewenig, Bruhn and Weickert 2011, "Theoretical foundations of Gaussian
 * convolution by extended box filtering", equation 10.
 */
function boxRadius(variance: number): number {
  const each = variance / PASSES;
  const whole = Math.floor((Math.sqrt(12 * each + 1) - 1) / 2);
  const width = 2 * whole + 1;
  const next = (whole + 1) ** 2;
  return whole + (width * (each - (whole * (whole + 1)) / 3)) / (2 * (next - each));
}

/** Linear light times alpha, and alpha, averaged over squares of `step` pixels. */
function shrink({ width, height, data }: Pixels, step: number, across: number, down: number): Float32Array {
  const small = new Float32Array(across * down * CHANNELS);
  const linear = LINEAR;
  for (let y = 0; y < height; y += 1) {
    let to = Math.floor(y / step) * across * CHANNELS;
    let at = y * width * 4;
    for (let end = at + width * 4; at < end; to += CHANNELS) {
      const right = Math.min(end, at + step * 4);
      let r = 0;
      let g = 0;
      let b = 0;
      let alpha = 0;
      for (; at < right; at += 4) {
        const solid = data[at + 3]!;
        if (solid === 0) continue;
        const here = solid === 255 ? 1 : solid / 255;
        r += linear[data[at]!]! * here;
        g += linear[data[at + 1]!]! * here;
        b += linear[data[at + 2]!]! * here;
        alpha += here;
      }
      small[to]! += r;
      small[to + 1]! += g;
      small[to + 2]! += b;
      small[to + 3]! += alpha;
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

/** Averages along each row over a box of 2·radius + 1; beyond the ends the last pixel goes on. */
function blurRows(from: Float32Array, to: Float32Array, across: number, down: number, radius: number): void {
  const whole = Math.floor(radius);
  const edge = radius - whole;
  const scale = 1 / (2 * radius + 1);
  const beyond = whole + 1;
  const length = across * CHANNELS;
  const far = (2 * beyond - 1) * CHANNELS;
  /** A row with what goes on beyond its ends. */
  const line = new Float32Array(length + 2 * beyond * CHANNELS);
  for (let row = 0; row < down; row += 1) {
    const start = row * length;
    line.set(from.subarray(start, start + length), beyond * CHANNELS);
    for (let index = 0; index < beyond; index += 1) {
      line.copyWithin(index * CHANNELS, beyond * CHANNELS, (beyond + 1) * CHANNELS);
      const end = length + beyond * CHANNELS;
      line.copyWithin(end + index * CHANNELS, end - CHANNELS, end);
    }
    for (let channel = 0; channel < CHANNELS; channel += 1) {
      let sum = 0;
      for (let at = channel + CHANNELS; at <= channel + far; at += CHANNELS) sum += line[at]!;
      let before = line[channel]!;
      let at = start + channel;
      for (let next = channel + far + CHANNELS; next < line.length; next += CHANNELS, at += CHANNELS) {
        const entering = line[next]!;
        const leaving = line[next - far]!;
        to[at] = (sum + edge * (entering + before)) * scale;
        sum += entering - leaving;
        before = leaving;
      }
    }
  }
}

/** The same down each column, a whole row at once: memory is gone through in its order. */
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
  const rows = gridOf(height, step, down);
  const line = new Float32Array(across * CHANNELS);
  for (let y = 0; y < height; y += 1) {
    const upper = rows.at[y]! * across * CHANNELS;
    const lower = rows.next[y]! * across * CHANNELS;
    const below = rows.share[y]!;
    let isOpaque = true;
    for (let index = 0; index < line.length; index += 1)
      line[index] = small[upper + index]! * (1 - below) + small[lower + index]! * below;
    for (let index = 3; index < line.length && isOpaque; index += CHANNELS) isOpaque = line[index]! > OPAQUE;
    growLine(line, step, data.subarray(y * width * 4, (y + 1) * width * 4), isOpaque);
  }
}

/** One row of it: what lies between two small pixels goes from the one to the other by equal parts. */
function growLine(line: Float32Array, step: number, row: Uint8ClampedArray, isOpaque: boolean): void {
  const levels = LEVELS;
  const last = line.length - CHANNELS;
  // Before the middle of the first small pixel, and beyond that of the last, nothing changes.
  let at = 0;
  for (let from = -CHANNELS; from <= last; from += CHANNELS) {
    const a = Math.max(0, from);
    const b = Math.min(last, from + CHANNELS);
    const left = (from / CHANNELS + 0.5) * step;
    const end = from === last ? row.length : Math.min(row.length, Math.ceil(left + step - 0.5) * 4);
    /** Pixels beyond the middle of the first of the two. */
    const beside = at / 4 + 0.5 - left;
    const toR = (line[b]! - line[a]!) / step;
    const toG = (line[b + 1]! - line[a + 1]!) / step;
    const toB = (line[b + 2]! - line[a + 2]!) / step;
    if (isOpaque) {
      // In whole parts of a step, which is quicker.
      let r = ((line[a]! + toR * beside) * FINE + HALF) | 0;
      let g = ((line[a + 1]! + toG * beside) * FINE + HALF) | 0;
      let blue = ((line[a + 2]! + toB * beside) * FINE + HALF) | 0;
      const moreR = (toR * FINE) | 0;
      const moreG = (toG * FINE) | 0;
      const moreB = (toB * FINE) | 0;
      for (; at < end; at += 4) {
        row[at] = levels[r >> FINE_BITS]!;
        row[at + 1] = levels[g >> FINE_BITS]!;
        row[at + 2] = levels[blue >> FINE_BITS]!;
        row[at + 3] = 255;
        r = (r + moreR) | 0;
        g = (g + moreG) | 0;
        blue = (blue + moreB) | 0;
      }
      continue;
    }
    let r = line[a]! + toR * beside;
    let g = line[a + 1]! + toG * beside;
    let blue = line[a + 2]! + toB * beside;
    const toAlpha = (line[b + 3]! - line[a + 3]!) / step;
    let alpha = line[a + 3]! + toAlpha * beside;
    for (; at < end; at += 4, r += toR, g += toG, blue += toB, alpha += toAlpha) {
      if (alpha > 0) {
        const scale = alpha > OPAQUE ? STEPS : STEPS / alpha;
        row[at] = levels[(r * scale + 0.5) | 0]!;
        row[at + 1] = levels[(g * scale + 0.5) | 0]!;
        row[at + 2] = levels[(blue * scale + 0.5) | 0]!;
      }
      row[at + 3] = alpha * 255;
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
