import { areaOf, type ScaledPacking, type Size } from './packing.ts';
import { Skyline } from './skyline.ts';

const EXACT = 1e-9;
/** So many that can lie on a step are compared, widest first. */
const COMPARED = 160;

/**
 * What a size is worth on a step, as shares of a mean size: what it fills from wall to wall, what ends flush with a wall or at
 * the goal, and both; less what is lost beside it and what it is scaled by.
 */
const WORTH = { wall: 0.3, flush: 1, plug: 3, lost: 3, scaled: 0.2 } as const;
/** What its own size is worth; which of them leads to the densest cannot be told in advance. */
const SIZE_WORTHS = [2, 0.3];

/** Room lower than this share of a mean side takes nothing any more. */
const LOW = 0.4;

interface Lying {
  readonly place: number;
  readonly scale: number;
  readonly isLeft: boolean;
  readonly top: number;
}

/** Where something ends that ends at one of these but for rounding. */
function snapped(top: number, ends: readonly number[], exact: number): number | undefined {
  return ends.find((end) => Math.abs(end - top) <= exact);
}

/** Packs into `width` × `goal`, each size scaled so that it ends where others do; undefined where they do not all go in. */
class ScaledStrip {
  readonly #sizes: readonly Size[];
  readonly #left: number[];
  readonly #skyline: Skyline;
  readonly #goal: number;
  readonly #least: number;
  readonly #most: number;
  readonly #exact: number;
  readonly #mean: number;
  readonly #side: number;
  readonly #sizeWorth: number;
  readonly #at: { x: number; y: number; scale: number }[];

  constructor(sizes: readonly Size[], width: number, goal: number, mostScale: number, sizeWorth: number) {
    this.#sizes = sizes;
    this.#left = [...sizes.keys()].sort((a, b) => sizes[b]!.width - sizes[a]!.width || a - b);
    this.#skyline = new Skyline(width);
    this.#goal = goal;
    this.#sizeWorth = sizeWorth;
    this.#most = mostScale;
    this.#least = 1 / mostScale;
    this.#exact = width * EXACT;
    this.#mean = areaOf(sizes) / sizes.length;
    this.#side = Math.sqrt(this.#mean);
    this.#at = sizes.map(() => ({ x: 0, y: 0, scale: 1 }));
  }

  pack(): ScaledPacking['at'] | undefined {
    const skyline = this.#skyline;
    while (this.#left.length > 0) {
      const step = skyline.lowest;
      if (skyline.y[step]! >= this.#goal - this.#exact) return undefined;
      const best = this.#bestOn(step);
      if (best) this.#lay(step, best);
      else if (Number.isFinite(Math.min(...skyline.walls(step)))) skyline.raise(step);
      else return undefined;
    }
    return this.#at;
  }

  /** The first of what is left whose width, made as small as can be, is no greater. */
  #firstWithin(width: number): number {
    let [low, high] = [0, this.#left.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.#sizes[this.#left[middle]!]!.width * this.#least > width) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  #bestOn(step: number): Lying | undefined {
    const sizes = this.#sizes;
    const goal = this.#goal;
    const exact = this.#exact;
    const mean = this.#mean;
    const least = this.#least - EXACT;
    const most = this.#most + EXACT;
    const room = this.#skyline.width[step]!;
    const base = this.#skyline.y[step]!;
    const walls = this.#skyline.walls(step);
    const leftEnd = Math.min(walls[0], goal);
    const rightEnd = Math.min(walls[1], goal);
    const lowerEnd = Math.min(leftEnd, rightEnd);
    const narrowest = sizes[this.#left.at(-1)!]!.width * this.#least;
    let best: Lying | undefined;
    let bestWorth = Number.NEGATIVE_INFINITY;
    let compared = 0;
    for (let place = this.#firstWithin(room + exact); place < this.#left.length; place += 1) {
      const { width, height } = sizes[this.#left[place]!]!;
      if (base + height * this.#least > goal + exact) continue;
      compared += 1;
      if (compared > COMPARED) break;
      for (let end = 0; end < 5; end += 1) {
        const scale =
          end === 0
            ? 1
            : end === 1
              ? room / width
              : ((end === 2 ? leftEnd : end === 3 ? rightEnd : goal) - base) / height;
        if (scale < least || scale > most) continue;
        const wide = width * scale;
        const top = base + height * scale;
        const rest = room - wide;
        if (rest < -exact || top > goal + exact) continue;
        const isWhole = rest <= exact;
        const isFlushLeft = Math.abs(top - leftEnd) <= exact;
        const isFlushRight = Math.abs(top - rightEnd) <= exact;
        const above = goal - top;
        let worth = this.#sizeWorth * width * height - WORTH.scaled * mean * Math.abs(Math.log(scale));
        if (isWhole) worth += WORTH.wall * mean;
        else if (rest < narrowest) worth -= WORTH.lost * rest * (Math.min(top, lowerEnd) - base);
        if (isFlushLeft || isFlushRight || above <= exact) worth += WORTH.flush * mean;
        if (isWhole && isFlushLeft && isFlushRight) worth += WORTH.plug * mean;
        // Above it there is room, but for nothing that is left.
        if (above > exact && above < LOW * this.#side) worth -= above * wide;
        if (worth <= bestWorth) continue;
        bestWorth = worth;
        const isLeft = isWhole || isFlushLeft || (!isFlushRight && walls[0] >= walls[1]);
        best = { place, scale, isLeft, top };
      }
    }
    return best;
  }

  #lay(step: number, { place, scale, isLeft, top }: Lying): void {
    const [index] = this.#left.splice(place, 1);
    const base = this.#skyline.y[step]!;
    const room = this.#skyline.width[step]!;
    const wide = this.#sizes[index!]!.width * scale;
    const isWhole = room - wide <= this.#exact;
    const end = snapped(top, [...this.#skyline.walls(step), this.#goal], this.#exact) ?? top;
    const x = this.#skyline.lay(step, isWhole ? room : wide, end - base, isLeft);
    this.#at[index!] = { x, y: base, scale };
  }
}

/** Shares of the whole that the sizes fill as they are: the fuller, the less there is to grow into, and the more must fit by chance. */
const FILLS = [0.98, 0.96, 0.94, 0.92, 0.9];
const SHAPES = 12;
const SHAPE_REACH = 0.05;
/** Sizes packed in all tries together, at most. */
const PACKED_AT_MOST = 60_000;

/**
 * Packs sizes with hardly a hole: each is scaled a little, its aspect kept, so that it ends where its neighbours do.
 *
 * @param sizes - many; of few, hardly any way has no hole
 * @param aspect - width by height of the whole
 * @param mostScale - the greatest factor, > 1, by which any may grow or shrink
 * @returns the densest that was found; undefined for none
 */
export function packScaled(
  sizes: readonly Size[],
  aspect: number,
  mostScale: number,
): ScaledPacking | undefined {
  const area = areaOf(sizes);
  const tries = FILLS.flatMap((fill) =>
    Array.from({ length: SHAPES }, (_, index) => {
      const width = Math.sqrt((area / fill) * aspect) * (1 + SHAPE_REACH * ((2 * index) / (SHAPES - 1) - 1));
      return { width, goal: area / fill / width };
    }),
  ).flatMap((shape) => SIZE_WORTHS.map((sizeWorth) => ({ ...shape, sizeWorth })));
  const every = Math.max(1, Math.ceil((tries.length * sizes.length) / PACKED_AT_MOST));
  let best: ScaledPacking | undefined;
  let bestDensity = 0;
  for (const [index, { width, goal, sizeWorth }] of tries.entries()) {
    if (index % every !== 0) continue;
    const at = new ScaledStrip(sizes, width, goal, mostScale, sizeWorth).pack();
    if (!at) continue;
    const used = { width, height: 0 };
    let covered = 0;
    for (const [size, { y, scale }] of at.entries()) {
      used.height = Math.max(used.height, y + sizes[size]!.height * scale);
      covered += areaOf([sizes[size]!]) * scale ** 2;
    }
    const density = covered / areaOf([used]);
    if (density > bestDensity) [best, bestDensity] = [{ at, ...used }, density];
  }
  return best;
}
