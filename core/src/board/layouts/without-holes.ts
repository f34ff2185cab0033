import { areaOf, pack, type ScaledPacking, type Size } from './packing.ts';
import { packScaled } from './scaled-strip.ts';
import { MOST_SLICED, slice } from './slicing.ts';

/** By how much sizes may vary: as little as leads to a rectangle of about the wanted shape. */
const SCALES = [1.1, 1.15, 1.2, 1.25, 1.3, 1.4, 1.6];
/** A shape is met when it is off by no more than this, as a logarithm. */
const SHAPE_MET = 0.25;
/** Of many sizes hardly any hole is left within the first of these, unless they are not so many. */
const SCALES_OF_MANY = [1.1, 1.2];
const DENSE = 0.988;

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

/** Packs sizes so that no hole is left (of very many: hardly any), by scaling each a little, its aspect kept. */
export function packWithoutHoles(sizes: readonly Size[], aspect: number): ScaledPacking {
  const packing = sizes.length <= MOST_SLICED ? sliceWell(sizes, aspect) : packDensely(sizes, aspect);
  if (packing) return packing;
  // Sizes too unlike each other to be joined: they keep theirs.
  const { at, width, height } = pack(sizes, { aspect });
  return { at: at.map((place) => ({ ...place, scale: 1 })), width, height };
}
