import { packInOrder } from './in-order.ts';
import { areaOf, pack, type ScaledPacking, type Size, unscaled } from './packing.ts';
import { packScaled } from './scaled-strip.ts';
import { MOST_SLICED, slice } from './slicing.ts';

/** By how much sizes may vary: as little as leads to a rectangle of about the wanted shape. */
const SCALES = [1.1, 1.15, 1.2, 1.25, 1.3, 1.4, 1.6];
/** A shape is met when it is off by no more than this, as a logarithm. */
const SHAPE_MET = 0.25;
/** Of many sizes hardly any hole is left within the first of these, unless they are not so many. */
const SCALES_OF_MANY = [1.1, 1.2];
const DENSE = 0.98;

const densityOf = (sizes: readonly Size[], { at, width, height }: ScaledPacking): number =>
  areaOf(at.map(({ scale }, index) => scaledBy(sizes[index]!, scale))) / (width * height);

const scaledBy = ({ width, height }: Size, by: number): Size => ({ width: width * by, height: height * by });

function packDensely(sizes: readonly Size[], aspect: number): ScaledPacking | undefined {
  let packing: ScaledPacking | undefined;
  for (const scale of SCALES_OF_MANY) {
    packing = packScaled(sizes, aspect, scale) ?? packing;
    if (packing && densityOf(sizes, packing) >= DENSE) break;
  }
  return packing;
}

function sliceWell(sizes: readonly Size[], aspect: number): ScaledPacking | undefined {
  let best: ScaledPacking | undefined;
  let bestOff = Number.POSITIVE_INFINITY;
  for (const scale of SCALES) {
    const packing = slice(sizes, aspect, scale);
    if (!packing) continue;
    const off = Math.abs(Math.log(packing.width / packing.height / aspect));
    if (off < bestOff) [best, bestOff] = [packing, off];
    if (off <= SHAPE_MET) return packing;
  }
  return best;
}

/** Sizes whose sides are less than so much of the usual one cannot fill a hole between the others. */
const DUST = 1 / 6;

/** Which sizes are so much smaller than the others that they are laid beside them. */
function dustAmong(sizes: readonly Size[]): boolean[] {
  const sides = sizes.map(({ width, height }) => Math.min(width, height));
  const usual = [...sides].sort((a, b) => a - b)[Math.floor(sides.length / 2)]!;
  return sides.map((side) => side < DUST * usual);
}

/** Two packings, one below the other, of the sizes that `isBelow` tells apart. */
function stacked(upper: ScaledPacking, lower: ScaledPacking, isBelow: readonly boolean[]): ScaledPacking {
  const next = [0, 0];
  const at = isBelow.map((below) => {
    const index = next[Number(below)]!;
    next[Number(below)] = index + 1;
    const place = (below ? lower : upper).at[index]!;
    return below ? { ...place, y: place.y + upper.height } : place;
  });
  return { at, width: Math.max(upper.width, lower.width), height: upper.height + lower.height };
}

/** Packs sizes so that no hole is left (of very many: hardly any), by scaling each a little, its aspect kept. */
export function packWithoutHoles(sizes: readonly Size[], aspect: number): ScaledPacking {
  const packing = sizes.length <= MOST_SLICED ? sliceWell(sizes, aspect) : packDensely(sizes, aspect);
  if (packing) return packing;
  const isDust = dustAmong(sizes);
  const others = sizes.filter((_, index) => !isDust[index]);
  // Sizes too unlike each other to be joined: they keep theirs.
  if (others.length === sizes.length || others.length === 0) return unscaled(pack(sizes, { aspect }));
  const upper = packWithoutHoles(others, aspect);
  const dust = sizes.filter((_, index) => isDust[index]);
  const row = Math.max(1, upper.width ** 2 / areaOf(dust));
  return stacked(upper, unscaled(packInOrder(dust, row)), isDust);
}
