import type { Rectangle } from '../../geometry/index.ts';
import { Skyline } from './skyline.ts';
import { Untaken } from './untaken.ts';

/** What is laid out, one unit throughout; the gap around it is part of it. */
export interface Size {
  readonly width: number;
  readonly height: number;
}

/** Where each size lies, in their order, in a rectangle whose upper left corner is (0, 0). */
export interface Packing extends Size {
  readonly at: readonly { readonly x: number; readonly y: number }[];
}

/** A packing of sizes that were scaled. */
export interface ScaledPacking extends Size {
  readonly at: readonly { readonly x: number; readonly y: number; readonly scale: number }[];
}

/** A packing of sizes that keep theirs. */
export const unscaled = ({ at, width, height }: Packing): ScaledPacking => ({
  at: at.map((place) => ({ ...place, scale: 1 })),
  width,
  height,
});

export const areaOf = (sizes: readonly Size[]): number =>
  sizes.reduce((sum, { width, height }) => sum + width * height, 0);

/** Sums of widths are seldom exact: what is too wide by less than this share of the strip fits. */
const EXACT = 1e-9;
/** So many of the widest that fit a step are compared. */
const COMPARED = 48;

/**
 * What a size is worth on a step: its area and its height (what is high is hard to place late), less what it leaves beside it.
 * Found by trying 288 of them on four kinds of sets of 500 sizes.
 */
const WORTH = { area: 0.2, height: 0.1, beside: 0.1, lost: 2 } as const;

interface Shapes {
  readonly widths: Float64Array;
  readonly heights: Float64Array;
  /** By falling width. */
  readonly order: Uint32Array;
  readonly area: number;
}

function shapesOf(sizes: readonly Size[]): Shapes {
  const widths = Float64Array.from(sizes, ({ width }) => width);
  const heights = Float64Array.from(sizes, ({ height }) => height);
  const order = Uint32Array.from(sizes.keys()).sort(
    (a, b) => widths[b]! - widths[a]! || heights[b]! - heights[a]! || a - b,
  );
  return { widths, heights, order, area: areaOf(sizes) };
}

/** What stands in the way above a stretch: how far down it is free, and the obstacle that ends it. */
function ceilingOver(obstacles: readonly Rectangle[], x: number, width: number, base: number) {
  let free = Number.POSITIVE_INFINITY;
  let by: Rectangle | undefined;
  for (const one of obstacles) {
    if (one.x >= x + width || one.x + one.width <= x || one.y + one.height <= base) continue;
    if (one.y - base >= free) continue;
    free = Math.max(0, one.y - base);
    by = one;
  }
  return { free, by };
}

/** The same without what is there by less than `exact`. */
const ceilingBeyond = (
  obstacles: readonly Rectangle[],
  x: number,
  width: number,
  base: number,
  exact: number,
) => ceilingOver(obstacles, x + exact, width - 2 * exact, base + exact);

/**
 * Packs into a strip of a width, downwards: again and again the step with most room gets what fits it best.
 *
 * Source: Burke, Kendall and Whitwell, "A new placement heuristic for the orthogonal stock-cutting problem", 2004; what fits
 * best is our own.
 *
 * @param width - of the strip, at least the widest size
 * @param obstacles - what nothing may lie on, in the strip's own frame
 */
function packStrip(shapes: Shapes, width: number, obstacles: readonly Rectangle[]): Packing {
  const { widths, heights, order, area } = shapes;
  const at = Array.from(widths, () => ({ x: 0, y: 0 }));
  const skyline = new Skyline(width);
  const untaken = new Untaken(widths, order);
  const exact = width * EXACT;
  const side = Math.sqrt(area / widths.length);
  let height = 0;
  while (untaken.count > 0) {
    const step = skyline.lowest;
    const room = skyline.width[step]!;
    const start = skyline.x[step]!;
    const base = skyline.y[step]!;
    const walls = skyline.walls(step);
    const isLeft = walls[0] >= walls[1];
    const { narrowest } = untaken;
    // What reaches into it by a rounding alone would be raised for ever without end: it is not over it.
    const over = obstacles.length > 0 ? ceilingBeyond(obstacles, start, room, base, exact) : undefined;
    let best = -1;
    let bestWorth = Number.NEGATIVE_INFINITY;
    let compared = 0;
    for (
      let place = untaken.notWiderThan(room + exact);
      place < order.length && compared < COMPARED;
      place = untaken.from(place + 1)
    ) {
      const index = order[place]!;
      const [wide, high] = [widths[index]!, heights[index]!];
      if (over?.by) {
        const x = isLeft ? start : start + room - wide;
        if (high > ceilingBeyond(obstacles, x, wide, base, exact).free + exact) continue;
      }
      compared += 1;
      const rest = Math.max(0, room - wide);
      // A rest into which nothing goes any more is lost, as high as the lower of what stands beside it.
      const isLost = rest > exact && rest < narrowest;
      const lost = isLost ? rest * Math.min(high, Math.min(...walls) - base) : 0;
      const worth =
        WORTH.area * wide * high +
        WORTH.height * side * high -
        WORTH.beside * rest * high -
        WORTH.lost * lost;
      if (worth > bestWorth) [best, bestWorth] = [place, worth];
    }
    if (best < 0) {
      if (over?.by) skyline.raisePart(step, over.by.x, over.by.x + over.by.width, over.by.y + over.by.height);
      else skyline.raise(step);
      continue;
    }
    const index = order[best]!;
    const isWhole = room - widths[index]! <= exact;
    const x = skyline.lay(step, isWhole ? room : widths[index]!, heights[index]!, isWhole || isLeft);
    at[index] = { x, y: base };
    height = Math.max(height, base + heights[index]!);
    untaken.take(best);
  }
  return { at, width, height };
}

/** Widths that are tried; fewer where there is much to pack. */
const TRIES = 24;
const PACKED_AT_MOST = 12_000;
/** Widths lie about that of the wanted shape within so much of it. */
const REACH = 0.06;
/** So few leave large holes by chance: they are tried more often, wider and narrower, and sideways, too. */
const FEW = 120;
const TRIES_OF_FEW = 80;
const REACH_OF_FEW = 0.3;
/** What a shape costs that is another than the wanted one: as much density as it is off, thus often. */
const SHAPE_COUNTS = 0.03;
const SHAPE_COUNTS_OF_FEW = 0.2;

export interface Wanted {
  /** Width by height of the whole. */
  readonly aspect: number;
  /** What nothing may lie on, in the frame of the packing. */
  readonly obstacles?: readonly Rectangle[];
}

const turned = <S extends Size>(size: S): S => ({ ...size, width: size.height, height: size.width });
const turnedAt = <R extends { readonly x: number; readonly y: number }>(at: R): R => ({
  ...at,
  x: at.y,
  y: at.x,
});

/** The best of several widths, with what it costs: 0 for one without holes and of the wanted shape. */
function packDown(
  sizes: readonly Size[],
  { aspect, obstacles = [] }: Wanted,
): { packing: Packing; cost: number } {
  const shapes = shapesOf(sizes);
  const isFew = sizes.length <= FEW;
  const widest = shapes.widths[shapes.order[0]!]!;
  const usual = Math.sqrt(shapes.area * aspect);
  const tries = isFew
    ? TRIES_OF_FEW
    : Math.max(3, Math.min(TRIES, Math.floor(PACKED_AT_MOST / sizes.length)));
  const reach = isFew ? REACH_OF_FEW : REACH;
  let best: Packing | undefined;
  let bestCost = Number.POSITIVE_INFINITY;
  for (let index = 0; index < tries; index += 1) {
    const width = Math.max(widest, usual * (1 + reach * ((2 * index) / (tries - 1) - 0.8)));
    const packing = packStrip(shapes, width, obstacles);
    const used = packing.at.reduce((most, { x }, size) => Math.max(most, x + shapes.widths[size]!), 0);
    const off = Math.abs(Math.log(used / packing.height / aspect));
    const cost =
      (used * packing.height) / shapes.area - 1 + (isFew ? SHAPE_COUNTS_OF_FEW : SHAPE_COUNTS) * off;
    if (cost < bestCost) [best, bestCost] = [{ ...packing, width: used }, cost];
  }
  return { packing: best!, cost: bestCost };
}

/** Pushes everything to the left as far as it goes: what leaned against the right wall leaves a hole between. */
function pushLeft(sizes: readonly Size[], packing: Packing): Packing {
  const at = packing.at.map((place) => ({ ...place }));
  const slack = packing.width * EXACT;
  const order = [...at.keys()].sort((a, b) => at[a]!.x - at[b]!.x);
  for (const [place, index] of order.entries()) {
    const [one, { height }] = [at[index]!, sizes[index]!];
    const beside = order.slice(0, place).filter((other) => {
      const { y } = at[other]!;
      return y < one.y + height - slack && one.y < y + sizes[other]!.height - slack;
    });
    one.x = beside.reduce((most, other) => Math.max(most, at[other]!.x + sizes[other]!.width), 0);
  }
  const width = at.reduce((most, { x }, index) => Math.max(most, x + sizes[index]!.width), 0);
  return { ...packing, at, width };
}

/**
 * Packs sizes as tightly as it can, in any order.
 *
 * @param sizes - both sides > 0
 * @throws RangeError for none
 */
export function pack(sizes: readonly Size[], wanted: Wanted): Packing {
  if (sizes.length === 0) throw new RangeError('nothing to pack');
  const down = packDown(sizes, wanted);
  if (sizes.length > FEW) return down.packing;
  const sideways = packDown(sizes.map(turned), {
    aspect: 1 / wanted.aspect,
    obstacles: (wanted.obstacles ?? []).map((one) => turnedAt(turned(one))),
  });
  const isDown = down.cost <= sideways.cost;
  const { packing } = isDown ? down : sideways;
  // Around obstacles everything stays where it was put.
  const isFree = (wanted.obstacles ?? []).length === 0;
  const pushed = isFree ? pushLeft(isDown ? sizes : sizes.map(turned), packing) : packing;
  return isDown ? pushed : turned({ ...pushed, at: pushed.at.map(turnedAt) });
}
