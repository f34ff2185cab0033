import type { Pixels } from './pixels.ts';
import { blurPlane, lightnessOf } from './planes.ts';

/** Where nothing ends the picture is seen so faintly: 0 not at all. */
const LEFT = 0.22;
const PAPER = 236;
/** Less than this alters across a place and it is no edge: lightness, and colour without it, of 0..1. */
const LEAST = { light: 0.07, colour: 0.09 } as const;
/** An edge is hard that takes up no more than this of the width that is looked at. */
const HARD = 0.42;
/** Of hard, soft and lost edges. */
const TINTS: readonly (readonly [number, number, number])[] = [
  [22, 22, 20],
  [58, 110, 165],
  [196, 78, 40],
];
const LOST = 3;
/** An edge that alters by as much is drawn in full. */
const FULL = 0.3;

/** Where slopes within the square cancel each other it is grain and pattern: so much of them has to be left. */
const COHERENT = { from: 0.25, to: 0.55 } as const;

/** Half of the width that is looked at is told by no more squares than this. */
const SQUARES = 3;
type FixedPlanes = [
  Float32Array,
  Float32Array,
  Float32Array,
  Float32Array,
  Float32Array,
  Float32Array,
  Float32Array,
  Float32Array,
];

interface Slopes {
  /** How steep lightness, and colour without it, is at each pixel. */
  readonly here: Float32Array;
  readonly tintedHere: Float32Array;
  /** Means over squares: of lightness to the right, down, in length and squared; of red to green, and of blue to yellow, each to the right and down. */
  readonly sums: readonly Float32Array[];
}

/** Slopes from pixel to pixel, in one pass. */
function slopesOf(pixels: Pixels, every: number): Slopes {
  const { width, height, data } = pixels;
  const light = lightnessOf(pixels);
  const [here, tintedHere] = [new Float32Array(light.length), new Float32Array(light.length)];
  const [wide, high] = [Math.ceil(width / every), Math.ceil(height / every)];
  const sums = Array.from({ length: 8 }, () => new Float32Array(wide * high));
  const [sx, sy, sl, ss, rx, ry, bx, by] = sums;
  for (let y = 0, pixel = 0; y < height; y += 1) {
    const row = Math.floor(y / every) * wide;
    const down = y < height - 1 ? width : 0;
    for (let x = 0; x < width; x += 1, pixel += 1) {
      const right = x < width - 1 ? 1 : 0;
      const at = pixel * 4;
      const beside = at + right * 4;
      const below = at + down * 4;
      const dx = light[pixel + right]! - light[pixel]!;
      const dy = light[pixel + down]! - light[pixel]!;
      const red = data[at]! - data[at + 1]!;
      const yellow = (data[at]! + data[at + 1]!) / 2 - data[at + 2]!;
      const redX = (data[beside]! - data[beside + 1]! - red) / 510;
      const redY = (data[below]! - data[below + 1]! - red) / 510;
      const yellowX = ((data[beside]! + data[beside + 1]!) / 2 - data[beside + 2]! - yellow) / 510;
      const yellowY = ((data[below]! + data[below + 1]!) / 2 - data[below + 2]! - yellow) / 510;
      const square = dx * dx + dy * dy;
      const length = Math.sqrt(square);
      here[pixel] = length;
      tintedHere[pixel] =
        Math.sqrt(redX * redX + redY * redY) + Math.sqrt(yellowX * yellowX + yellowY * yellowY);
      const cell = row + Math.floor(x / every);
      sx![cell]! += dx;
      sy![cell]! += dy;
      sl![cell]! += length;
      ss![cell]! += square;
      rx![cell]! += redX;
      ry![cell]! += redY;
      bx![cell]! += yellowX;
      by![cell]! += yellowY;
    }
  }
  const area = every * every;
  for (const plane of sums) for (let cell = 0; cell < plane.length; cell += 1) plane[cell]! /= area;
  return { here, tintedHere, sums };
}

const clamp01 = (x: number): number => Math.min(1, Math.max(0, x));

/**
 * Where things end: hard (within a few pixels), soft (over many), lost (in colour alone: their values are alike). How wide a
 * transition is follows from its slopes: of a change h within w pixels the slopes sum to h and their squares to h² / w.
 *
 * @param withinPx - transitions are looked at over so many pixels
 */
export function seeEdges(pixels: Pixels, withinPx: number): void {
  const { width, height, data } = pixels;
  const radius = Math.max(1, withinPx / 2);
  const every = Math.max(1, Math.floor(radius / SQUARES));
  const { here, tintedHere, sums } = slopesOf(pixels, every);
  const [wide, high] = [Math.ceil(width / every), Math.ceil(height / every)];
  for (const plane of sums) blurPlane(plane, wide, high, Math.max(1, Math.round(radius / every)));
  const { kinds, slopes, strengths } = kindsOf(sums, 2 * radius + 1);
  for (let y = 0, pixel = 0; y < height; y += 1) {
    const row = Math.floor(y / every) * wide;
    const up = y > 0 ? width : 0;
    for (let x = 0; x < width; x += 1, pixel += 1) {
      const at = pixel * 4;
      const grey = 0.3 * data[at]! + 0.59 * data[at + 1]! + 0.11 * data[at + 2]!;
      const ground = PAPER + (grey - PAPER) * LEFT;
      const cell = row + ((x / every) | 0);
      const kind = kinds[cell]!;
      if (kind === 0) {
        data[at] = ground;
        data[at + 1] = ground;
        data[at + 2] = ground;
        continue;
      }
      const plane = kind === LOST ? tintedHere : here;
      const steep = Math.max(plane[pixel]!, plane[pixel - (x > 0 ? 1 : 0)]!, plane[pixel - up]!);
      // A line where it alters more than about; all of the way where it alters evenly.
      const part = clamp01((steep / slopes[cell]! - 0.5) / 0.9) * strengths[cell]!;
      const tint = TINTS[kind - 1]!;
      data[at] = ground + (tint[0] - ground) * part;
      data[at + 1] = ground + (tint[1] - ground) * part;
      data[at + 2] = ground + (tint[2] - ground) * part;
    }
  }
}

/** What kind of edge passes each square (0: none), the slope that is usual there, and how strongly it is drawn. */
function kindsOf(sums: readonly Float32Array[], over: number) {
  const [net, netDown, all, squares, red, redDown, yellow, yellowDown] = sums as unknown as FixedPlanes;
  const kinds = new Uint8Array(net.length);
  const slopes = new Float32Array(net.length);
  const strengths = new Float32Array(net.length);
  for (let cell = 0; cell < net.length; cell += 1) {
    const mean = Math.hypot(net[cell]!, netDown[cell]!);
    // Of a straight edge that crosses the square, every line of pixels has all of the change.
    const light = mean * over;
    if (light >= LEAST.light) {
      const total = all[cell]!;
      const share = (total * total) / Math.max(1e-9, squares[cell]!);
      const coherent = (mean / Math.max(1e-9, total) - COHERENT.from) / (COHERENT.to - COHERENT.from);
      kinds[cell] = share <= HARD ? 1 : 2;
      slopes[cell] = mean;
      strengths[cell] = clamp01(coherent) * clamp01(light / FULL);
      continue;
    }
    const about = Math.hypot(red[cell]!, redDown[cell]!) + Math.hypot(yellow[cell]!, yellowDown[cell]!);
    if (about * over < LEAST.colour) continue;
    kinds[cell] = LOST;
    slopes[cell] = about;
    strengths[cell] = clamp01((about * over) / FULL);
  }
  return { kinds, slopes, strengths };
}
