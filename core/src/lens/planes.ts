import { linearToSrgb } from '../colour/index.ts';
import { LINEAR, type Pixels } from './pixels.ts';

let lightness: Float32Array | undefined;

/** How light every pixel looks, 0..1: its luminance, encoded as sRGB. */
export function lightnessOf({ width, height, data }: Pixels): Float32Array {
  lightness ??= Float32Array.from({ length: 1025 }, (_, step) => linearToSrgb(step / 1024));
  const light = new Float32Array(width * height);
  for (let pixel = 0; pixel < light.length; pixel += 1) {
    const at = pixel * 4;
    const luminance =
      0.2126 * LINEAR[data[at]!]! + 0.7152 * LINEAR[data[at + 1]!]! + 0.0722 * LINEAR[data[at + 2]!]!;
    light[pixel] = lightness[(luminance * 1024 + 0.5) | 0]!;
  }
  return light;
}

/** Mean along rows of a plane within `radius` pixels, written turned, so that twice is both ways. */
function blurRows(from: Float32Array, to: Float32Array, width: number, height: number, radius: number): void {
  const across = 2 * radius + 1;
  for (let y = 0; y < height; y += 1) {
    const row = y * width;
    let sum = 0;
    for (let x = -radius; x <= radius; x += 1) sum += from[row + Math.min(width - 1, Math.max(0, x))]!;
    for (let x = 0; x < width; x += 1) {
      to[x * height + y] = sum / across;
      sum += from[row + Math.min(width - 1, x + radius + 1)]! - from[row + Math.max(0, x - radius)]!;
    }
  }
}

/** Means of a plane over squares of `2 · radius + 1`, in place. @param passes - three are nearly a Gaussian */
export function blurPlane(
  plane: Float32Array,
  width: number,
  height: number,
  radius: number,
  passes = 1,
): void {
  if (radius < 1) return;
  const turned = new Float32Array(plane.length);
  for (let pass = 0; pass < passes; pass += 1) {
    blurRows(plane, turned, width, height, radius);
    blurRows(turned, plane, height, width, radius);
  }
}

/** A map in fewer pixels than what it is of: one for each square of `every`. */
export interface CoarseMap {
  readonly width: number;
  readonly height: number;
  readonly every: number;
  readonly data: Float32Array;
}

/** Means of planes over squares of `every` pixels. */
export function meansOf(
  planes: readonly Float32Array[],
  { width, height }: { readonly width: number; readonly height: number },
  every: number,
): { readonly width: number; readonly height: number; readonly planes: readonly Float32Array[] } {
  if (every === 1) return { width, height, planes: planes.map((plane) => plane.slice()) };
  const [wide, high] = [Math.ceil(width / every), Math.ceil(height / every)];
  const means = planes.map((plane) => {
    const sums = new Float32Array(wide * high);
    for (let y = 0, at = 0; y < height; y += 1) {
      const row = Math.floor(y / every) * wide;
      for (let cell = row, x = 0; x < width; cell += 1) {
        const end = Math.min(width, x + every);
        let sum = 0;
        for (; x < end; x += 1, at += 1) sum += plane[at]!;
        sums[cell]! += sum;
      }
    }
    for (let row = 0, cell = 0; row < high; row += 1)
      for (let column = 0; column < wide; column += 1, cell += 1)
        sums[cell]! /=
          (Math.min(width, (column + 1) * every) - column * every) *
          (Math.min(height, (row + 1) * every) - row * every);
    return sums;
  });
  return { width: wide, height: high, planes: means };
}

/** Reads a coarse map at pixels of what it is of, between its squares in a straight line. */
export function samplerOf({ width, height, every, data }: CoarseMap): (x: number, y: number) => number {
  if (every === 1) return (x, y) => data[y * width + x]!;
  return (x, y) => {
    const u = Math.min(width - 1, Math.max(0, (x + 0.5) / every - 0.5));
    const v = Math.min(height - 1, Math.max(0, (y + 0.5) / every - 0.5));
    const column = u | 0;
    const row = v | 0;
    const right = column < width - 1 ? 1 : 0;
    const below = row < height - 1 ? width : 0;
    const at = row * width + column;
    const above = data[at]! + (u - column) * (data[at + right]! - data[at]!);
    const under = data[at + below]! + (u - column) * (data[at + below + right]! - data[at + below]!);
    return above + (v - row) * (under - above);
  };
}
