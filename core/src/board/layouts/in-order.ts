import { areaOf, type Packing, type Size } from './packing.ts';

const TRIES = 24;
/** Widths lie about that of the wanted shape within so much of it. */
const REACH = 0.35;

/** The rows of a width whose heights sum up to least: for each size, where its row begins. */
function breakRows(sizes: readonly Size[], width: number): number[] {
  const best = new Float64Array(sizes.length + 1).fill(Number.POSITIVE_INFINITY);
  const begins = new Int32Array(sizes.length + 1);
  best[0] = 0;
  for (let end = 1; end <= sizes.length; end += 1) {
    let used = 0;
    let high = 0;
    for (let begin = end - 1; begin >= 0; begin -= 1) {
      used += sizes[begin]!.width;
      if (used > width && begin < end - 1) break;
      high = Math.max(high, sizes[begin]!.height);
      const total = best[begin]! + high;
      if (total < best[end]!) {
        best[end] = total;
        begins[end] = begin;
      }
    }
  }
  const rows: number[] = [];
  for (let end = sizes.length; end > 0; end = begins[end]!) rows.unshift(begins[end]!);
  return rows;
}

function packRows(sizes: readonly Size[], begins: readonly number[]): Packing {
  const at: { x: number; y: number }[] = [];
  let [width, y] = [0, 0];
  for (const [row, begin] of begins.entries()) {
    let [x, high] = [0, 0];
    for (let index = begin; index < (begins[row + 1] ?? sizes.length); index += 1) {
      at.push({ x, y });
      x += sizes[index]!.width;
      high = Math.max(high, sizes[index]!.height);
    }
    width = Math.max(width, x);
    y += high;
  }
  return { at, width, height: y };
}

/** Packs sizes in as many rows, in their order, as a width asks for. */
export const packRowsWithin = (sizes: readonly Size[], width: number): Packing =>
  packRows(sizes, breakRows(sizes, width));

/**
 * Packs sizes in rows that are read like lines of text, in their order. Where rows end is found for the whole, not line by line.
 *
 * Source: Knuth and Plass, "Breaking paragraphs into lines", 1981, for the least sum of heights instead of the least badness.
 *
 * @throws RangeError for none
 */
export function packInOrder(sizes: readonly Size[], aspect: number): Packing {
  if (sizes.length === 0) throw new RangeError('nothing to pack');
  const area = areaOf(sizes);
  let best: Packing | undefined;
  let bestCost = Number.POSITIVE_INFINITY;
  for (let index = 0; index < TRIES; index += 1) {
    const width = Math.sqrt(area * aspect) * (1 + REACH * ((2 * index) / (TRIES - 1) - 0.6));
    const packing = packRowsWithin(sizes, width);
    const off = Math.abs(Math.log(packing.width / packing.height / aspect));
    const cost = (packing.width * packing.height) / area + 0.5 * off;
    if (cost < bestCost) [best, bestCost] = [packing, cost];
  }
  return best!;
}
