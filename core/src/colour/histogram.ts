import type { Oklab } from './spaces.ts';
import { linearToOklab } from './spaces.ts';
import { srgbToLinear } from './srgb.ts';

/** Colours and how much there is of each: the mean of every occupied cell of a grid over them. */
export interface ColourHistogram {
  /** Four numbers a cell: OKLab l, a, b, and weight. */
  readonly cells: Float64Array<ArrayBuffer>;
  /** Sum of the weights: opaque pixels, or whatever they were weighed by. */
  readonly total: number;
}

/** Bits of each channel that tell cells apart. */
const BITS = 6;
const CELLS = 1 << (3 * BITS);
/** Sums of the low bits of a cell are kept two to a number; so many pixels overflow none of them. */
const CHUNK = 16_000_000;
const FIELD = 2 ** 26;

/** Linear light of encoded levels in steps of 1/64 of one: means lie between levels. */
const FINE = 64;
const LINEAR = Float64Array.from({ length: 255 * FINE + 1 }, (_, step) => srgbToLinear(step / FINE / 255));

interface Sums {
  readonly weight: Float64Array;
  readonly r: Float64Array;
  readonly g: Float64Array;
  readonly b: Float64Array;
}

/** Adds opaque pixels, as fast as memory allows: one pass, two sums a pixel. */
function addOpaque(pixels: Uint32Array, mask: Uint8Array | undefined, offset: number, sums: Sums): boolean {
  const reds = new Float64Array(CELLS);
  const blues = new Float64Array(CELLS);
  let isOpaque = true;
  for (let index = 0; index < pixels.length; index += 1) {
    const pixel = pixels[index]!;
    if (pixel < 0xff000000) {
      isOpaque = false;
      continue;
    }
    if (mask !== undefined && mask[offset + index] === 0) continue;
    const cell = ((pixel >>> 2) & 0x3f) | ((pixel >>> 4) & 0xfc0) | ((pixel >>> 6) & 0x3f000);
    reds[cell]! += (pixel & 3) + ((pixel >>> 8) & 3) * FIELD;
    blues[cell]! += 1 + ((pixel >>> 16) & 3) * FIELD;
  }
  for (let cell = 0; cell < CELLS; cell += 1) {
    if (blues[cell] === 0) continue;
    const count = blues[cell]! % FIELD;
    const green = Math.floor(reds[cell]! / FIELD);
    const blue = Math.floor(blues[cell]! / FIELD);
    sums.weight[cell]! += count;
    sums.r[cell]! += (reds[cell]! % FIELD) + count * ((cell & 0x3f) << 2);
    sums.g[cell]! += green + count * (((cell >>> 6) & 0x3f) << 2);
    sums.b[cell]! += blue + count * (((cell >>> 12) & 0x3f) << 2);
  }
  return isOpaque;
}

/** Adds those that are neither opaque nor clear, by how opaque they are. */
function addClear(data: Uint8Array | Uint8ClampedArray, mask: Uint8Array | undefined, sums: Sums): void {
  for (let at = 0; at < data.length; at += 4) {
    const alpha = data[at + 3]!;
    if (alpha === 0 || alpha === 255 || mask?.[at / 4] === 0) continue;
    const [r, g, b] = [data[at]!, data[at + 1]!, data[at + 2]!];
    const cell = (r >>> 2) | ((g >>> 2) << 6) | ((b >>> 2) << 12);
    const weight = alpha / 255;
    sums.weight[cell]! += weight;
    sums.r[cell]! += r * weight;
    sums.g[cell]! += g * weight;
    sums.b[cell]! += b * weight;
  }
}

/** So few pixels are counted in as many cells as they have colours: going through all cells would take longer. */
const FEW = 1 << 15;
/** One more than the place of each cell that a few pixels are in; all 0 between times. */
const placeOf = new Int32Array(CELLS);

/** Sums of the cells that are occupied, in their order. */
function sumsOfFew(data: Uint8Array | Uint8ClampedArray, mask: Uint8Array | undefined): Sums {
  const cellAt = (at: number) =>
    data[at + 3] === 0 || mask?.[at / 4] === 0
      ? -1
      : (data[at]! >>> 2) | ((data[at + 1]! >>> 2) << 6) | ((data[at + 2]! >>> 2) << 12);
  const met: number[] = [];
  for (let at = 0; at < data.length; at += 4) {
    const cell = cellAt(at);
    if (cell < 0 || placeOf[cell] !== 0) continue;
    placeOf[cell] = 1;
    met.push(cell);
  }
  met.sort((one, other) => one - other);
  for (const [place, cell] of met.entries()) placeOf[cell] = place + 1;
  const plane = () => new Float64Array(met.length);
  const sums: Sums = { weight: plane(), r: plane(), g: plane(), b: plane() };
  for (let at = 0; at < data.length; at += 4) {
    const cell = cellAt(at);
    if (cell < 0) continue;
    const place = placeOf[cell]! - 1;
    const weight = data[at + 3]! / 255;
    sums.weight[place]! += weight;
    sums.r[place]! += data[at]! * weight;
    sums.g[place]! += data[at + 1]! * weight;
    sums.b[place]! += data[at + 2]! * weight;
  }
  for (const cell of met) placeOf[cell] = 0;
  return sums;
}

/**
 * The colours of pixels, all of them counted.
 *
 * @param data - RGBA, straight alpha, sRGB, 8 bits
 * @param mask - a byte a pixel: those of 0 are left out; undefined: all count
 */
export function histogramOf(data: Uint8Array | Uint8ClampedArray, mask?: Uint8Array): ColourHistogram {
  if (data.length / 4 <= FEW) return fromSums(sumsOfFew(data, mask));
  const sums: Sums = {
    weight: new Float64Array(CELLS),
    ...{ r: new Float64Array(CELLS), g: new Float64Array(CELLS), b: new Float64Array(CELLS) },
  };
  // A view in words of four bytes must begin at one.
  const aligned = data.byteOffset % 4 === 0 ? data : data.slice();
  const words = new Uint32Array(aligned.buffer, aligned.byteOffset, aligned.length >>> 2);
  let isOpaque = true;
  for (let from = 0; from < words.length; from += CHUNK)
    isOpaque = addOpaque(words.subarray(from, from + CHUNK), mask, from, sums) && isOpaque;
  if (!isOpaque) addClear(data, mask, sums);
  return fromSums(sums);
}

function fromSums({ weight, r, g, b }: Sums): ColourHistogram {
  let count = 0;
  for (const one of weight) if (one > 0) count += 1;
  const cells = new Float64Array(count * 4);
  let total = 0;
  let at = 0;
  for (let cell = 0; cell < weight.length; cell += 1) {
    const of = weight[cell]!;
    if (of === 0) continue;
    const linear = (sum: number) => LINEAR[Math.round((sum / of) * FINE)]!;
    const colour = linearToOklab({ r: linear(r[cell]!), g: linear(g[cell]!), b: linear(b[cell]!) });
    cells.set([colour.l, colour.a, colour.b, of], at);
    at += 4;
    total += of;
  }
  return { cells, total };
}

/** Cells of a coarse grid along each of l, a, b: fine enough that a cell looks like one colour. */
const STEP = 0.025;

/** The same in fewer cells: what looks alike is one; sums stay as they are. */
export function coarsened({ cells, total }: ColourHistogram): ColourHistogram {
  const index = new Map<number, number>();
  const sums: number[] = [];
  for (let at = 0; at < cells.length; at += 4) {
    const [l, a, b, weight] = [cells[at]!, cells[at + 1]!, cells[at + 2]!, cells[at + 3]!];
    const key = (Math.round(l / STEP) * 64 + Math.round(a / STEP) + 32) * 64 + Math.round(b / STEP) + 32;
    let to = index.get(key);
    if (to === undefined) {
      to = sums.length;
      index.set(key, to);
      sums.push(0, 0, 0, 0);
    }
    sums[to]! += l * weight;
    sums[to + 1]! += a * weight;
    sums[to + 2]! += b * weight;
    sums[to + 3]! += weight;
  }
  const means = Float64Array.from(sums);
  for (let at = 0; at < means.length; at += 4)
    for (let axis = 0; axis < 3; axis += 1) means[at + axis]! /= means[at + 3]!;
  return { cells: means, total };
}

/**
 * Several histograms as one, each weighing as much as is said, whatever number of pixels it has.
 *
 * @param parts - `weight` for example the area on a board; such of 0 and empty ones count nothing
 */
export function mergedHistogram(
  parts: readonly { readonly histogram: ColourHistogram; readonly weight: number }[],
): ColourHistogram {
  const counted = parts.filter(({ histogram, weight }) => histogram.total > 0 && weight > 0);
  const cells = new Float64Array(counted.reduce((sum, { histogram }) => sum + histogram.cells.length, 0));
  let at = 0;
  let total = 0;
  for (const { histogram, weight } of counted) {
    const factor = weight / histogram.total;
    cells.set(histogram.cells, at);
    for (let to = at + 3; to < at + histogram.cells.length; to += 4) cells[to]! *= factor;
    at += histogram.cells.length;
    total += weight;
  }
  return coarsened({ cells, total });
}

/** The colours of a histogram one by one. */
export function* coloursIn({ cells }: ColourHistogram): Generator<Oklab & { readonly weight: number }> {
  for (let at = 0; at < cells.length; at += 4)
    yield { l: cells[at]!, a: cells[at + 1]!, b: cells[at + 2]!, weight: cells[at + 3]! };
}
