import type { Rectangle } from '../geometry/index.ts';

/** Pixels that are looked at for a fill: RGBA, straight alpha, 8 bits, row-major, as the sheet is seen. */
export interface SeenPixels {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray;
}

export interface FillWish {
  /** Pixel at which it begins. */
  readonly x: number;
  readonly y: number;
  /** How far a colour may be from the one where it begins, 0..255 in each channel. */
  readonly tolerance: number;
  /** Openings of lines up to so many pixels are taken for closed; 0: none are. */
  readonly gapPx: number;
}

/** What is filled: 1 or 0 a pixel, row-major; and the box around it. */
export interface Filled {
  readonly mask: Uint8Array;
  readonly box: Rectangle;
}

/** How a pixel lies: to be filled, in the way of that. */
const FREE = 1;

/** Pixels whose colour is near to that of the one where it begins. */
function alike({ width, height, data }: SeenPixels, { x, y, tolerance }: FillWish): Uint8Array {
  const at = (y * width + x) * 4;
  const [red, green, blue, alpha] = data.subarray(at, at + 4) as unknown as [number, number, number, number];
  const free = new Uint8Array(width * height);
  for (let pixel = 0, part = 0; pixel < free.length; pixel += 1, part += 4)
    if (
      Math.abs(data[part]! - red) <= tolerance &&
      Math.abs(data[part + 1]! - green) <= tolerance &&
      Math.abs(data[part + 2]! - blue) <= tolerance &&
      Math.abs(data[part + 3]! - alpha) <= tolerance
    )
      free[pixel] = FREE;
  return free;
}

/**
 * Squared distance of each pixel from the nearest one that is 0, px². Source: Felzenszwalb and Huttenlocher 2012, "Distance
 * Transforms of Sampled Functions", algorithm 1, along columns, then rows.
 */
export function squaredDistances(mask: Uint8Array, width: number, height: number): Float32Array {
  const out = new Float32Array(width * height);
  for (let at = 0; at < out.length; at += 1) out[at] = mask[at] ? FAR : 0;
  const longest = Math.max(width, height);
  const row = new Float32Array(longest);
  const parabolas = new Int32Array(longest);
  const borders = new Float32Array(longest + 1);
  const along = (start: number, step: number, count: number) => {
    let last = 0;
    parabolas[0] = 0;
    borders[0] = Number.NEGATIVE_INFINITY;
    borders[1] = Number.POSITIVE_INFINITY;
    for (let q = 0; q < count; q += 1) row[q] = out[start + q * step]!;
    for (let q = 1; q < count; q += 1) {
      let meet = crossing(row, q, parabolas[last]!);
      while (meet <= borders[last]!) {
        last -= 1;
        meet = crossing(row, q, parabolas[last]!);
      }
      last += 1;
      parabolas[last] = q;
      borders[last] = meet;
      borders[last + 1] = Number.POSITIVE_INFINITY;
    }
    for (let q = 0, k = 0; q < count; q += 1) {
      while (borders[k + 1]! < q) k += 1;
      const from = parabolas[k]!;
      out[start + q * step] = (q - from) ** 2 + row[from]!;
    }
  };
  for (let x = 0; x < width; x += 1) along(x, width, height);
  for (let y = 0; y < height; y += 1) along(y * width, 1, width);
  return out;
}
/** Farther than any pixel; finite, so that differences of two are. */
const FAR = 1e9;

/** Where the parabolas over two places cross. */
const crossing = (row: Float32Array, q: number, p: number): number =>
  (row[q]! + q * q - (row[p]! + p * p)) / (2 * q - 2 * p);

/** All that can be reached from a pixel through others that may be entered, by edges. */
function flooded(
  width: number,
  height: number,
  start: number,
  mayEnter: (at: number) => boolean,
): Uint8Array {
  const mask = new Uint8Array(width * height);
  const waiting = [start];
  while (waiting.length > 0) {
    let at = waiting.pop()!;
    if (mask[at]) continue;
    const row = at - (at % width);
    while (at > row && !mask[at - 1] && mayEnter(at - 1)) at -= 1;
    let [isAbove, isBelow] = [false, false];
    for (; at < row + width && !mask[at] && mayEnter(at); at += 1) {
      mask[at] = FREE;
      const above = at >= width && !mask[at - width] && mayEnter(at - width);
      if (above && !isAbove) waiting.push(at - width);
      isAbove = above;
      const below = at + width < mask.length && !mask[at + width] && mayEnter(at + width);
      if (below && !isBelow) waiting.push(at + width);
      isBelow = below;
    }
  }
  return mask;
}

function boxOf(mask: Uint8Array, width: number, height: number): Rectangle {
  let [left, top, right, bottom] = [width, height, 0, 0];
  for (let y = 0, at = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1, at += 1) {
      if (!mask[at]) continue;
      left = Math.min(left, x);
      right = Math.max(right, x + 1);
      top = Math.min(top, y);
      bottom = y + 1;
    }
  return { x: left, y: top, width: Math.max(0, right - left), height: Math.max(0, bottom - top) };
}

/**
 * Fills what has the colour at a place, up to lines. With `gapPx`, lines that leave an opening are taken for closed: only what
 * is farther from any line than half the opening is flooded, and then grown back up to the lines.
 *
 * @throws RangeError where it begins beyond the pixels
 */
export function fillFrom(seen: SeenPixels, wish: FillWish): Filled {
  const { width, height } = seen;
  const { x, y, gapPx } = wish;
  if (!(x >= 0 && y >= 0 && x < width && y < height)) throw new RangeError(`${x}, ${y} is not on the sheet`);
  const free = alike(seen, wish);
  const start = y * width + x;
  const plain = () => flooded(width, height, start, (at) => free[at] === FREE);
  if (gapPx <= 0) return filledWith(plain(), width, height);
  const near = squaredDistances(free, width, height);
  // Beyond half of it no opening can be passed: its middle is half of it away from either end.
  const half = (gapPx + 1) / 2;
  if (near[start]! <= half * half) return filledWith(plain(), width, height);
  const core = flooded(width, height, start, (at) => near[at]! > half * half);
  const grown = squaredDistances(
    core.map((one) => 1 - one),
    width,
    height,
  );
  // Back to the lines but not through them, and out of an opening no further than was given up.
  const reach = (half + 1) ** 2;
  const mask = flooded(width, height, start, (at) => free[at] === FREE && grown[at]! <= reach);
  return filledWith(mask, width, height);
}

const filledWith = (mask: Uint8Array, width: number, height: number): Filled => ({
  mask,
  box: boxOf(mask, width, height),
});
