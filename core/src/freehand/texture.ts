import { type Point, turnPoint } from '../geometry/index.ts';

/** A point of the line along which a stroke lies. */
export interface LinePoint extends Point {
  /** Of the stroke there. */
  readonly width: number;
  /** 0..1 */
  readonly pressure: number;
}

/** Corners of small shapes, each closed. */
export type Shapes = readonly (readonly Point[])[];

/** A whole number from two, evenly spread over 32 bits. Source: Steele, Lea and Flood 2014, the finalizer. */
function mixed(seed: number, index: number): number {
  let bits = (Math.imul(seed + 1, 0x9e3779b1) + Math.imul(index + 1, 0x85ebca6b)) | 0;
  bits = Math.imul(bits ^ (bits >>> 16), 0x21f0aaad);
  bits = Math.imul(bits ^ (bits >>> 15), 0x735a2d97);
  return (bits ^ (bits >>> 15)) >>> 0;
}

/** The n-th of the chances that belong to a seed and an index, 0..1: the same at every call. */
const chance = (seed: number, index: number, which: number): number =>
  mixed(mixed(seed, which), index) / 2 ** 32;

/** A grain for so much of the pen's width along the way; so many of them at most. */
const GRAIN_STEP = 0.026;
const MOST_GRAINS = 6_000;
/** Sizes of grains, and how far from the middle they lie, of the pen's width and of the stroke's. */
const GRAIN = { least: 0.04, most: 0.15, reach: 0.58 } as const;
/** So many are left where the pen presses as hard as it can. */
const LEFT_UNDER_PRESSURE = 0.3;

/**
 * Grains of paper along a stroke: holes where they lie within it, crumbs beside it. What was drawn before keeps its grains while
 * a stroke grows.
 *
 * @param nib - the pen's width, in the units of the line
 */
export function grainsAlong(line: readonly LinePoint[], nib: number, seed: number): Shapes {
  const grains: Point[][] = [];
  let count = 0;
  let next = (nib * GRAIN_STEP) / 2;
  let passed = 0;
  for (let index = 1; index < line.length; index += 1) {
    const [from, to] = [line[index - 1]!, line[index]!];
    const length = Math.hypot(to.x - from.x, to.y - from.y);
    // As many for an area, and fewer closed, where the pen lies flat.
    const isWider = Math.max(1, to.width / nib);
    const closed = (1 - LEFT_UNDER_PRESSURE) * (to.pressure / isWider);
    for (; next < passed + length; next += (nib * GRAIN_STEP) / isWider) {
      count += 1;
      const part = (next - passed) / length;
      if (chance(seed, count, 0) > 1 - closed) continue;
      const across = (2 * chance(seed, count, 1) - 1) * GRAIN.reach * to.width;
      const along = (chance(seed, count, 2) - 0.5) * nib * 0.2;
      const [ux, uy] = [(to.x - from.x) / length, (to.y - from.y) / length];
      const middle = {
        x: from.x + (to.x - from.x) * part - uy * across + ux * along,
        y: from.y + (to.y - from.y) * part + ux * across + uy * along,
      };
      const size = nib * (GRAIN.least + (GRAIN.most - GRAIN.least) * chance(seed, count, 3) ** 2);
      const turn = chance(seed, count, 4) * 2 * Math.PI;
      grains.push(
        // Against the way in which outlines go around: within one it is a hole.
        [0, 1, 2, 3].map((corner) => {
          const reach = size * (0.5 + 0.9 * chance(seed, count, 5 + corner));
          const angle = turn - (corner * Math.PI) / 2;
          return { x: middle.x + reach * Math.cos(angle), y: middle.y + reach * Math.sin(angle) };
        }),
      );
    }
    passed += length;
  }
  let every = 1;
  while (grains.length / every > MOST_GRAINS) every *= 2;
  return every === 1 ? grains : grains.filter((_, index) => index % every === 0);
}

/** Of hatching, of the pen's width: how far its lines lie apart, and how thick they are at half the pressure. */
const HATCHING = { apart: 0.17, thick: 0.035, trembles: 0.02 } as const;
/** How lines lie, degrees. */
const LIES = -52;

/** From where to where a line, all points with y = `at`, is within `radius` of a side; undefined where it is nowhere. */
function withinReach(from: Point, to: Point, radius: number, at: number): [number, number] | undefined {
  let [least, most] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  const take = (x: number) => {
    least = Math.min(least, x);
    most = Math.max(most, x);
  };
  for (const end of [from, to]) {
    const off = radius ** 2 - (at - end.y) ** 2;
    if (off < 0) continue;
    take(end.x - Math.sqrt(off));
    take(end.x + Math.sqrt(off));
  }
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  if (length > 0 && to.y !== from.y)
    for (const side of [-radius, radius]) {
      const away = { x: (-(to.y - from.y) / length) * side, y: ((to.x - from.x) / length) * side };
      const part = (at - from.y - away.y) / (to.y - from.y);
      if (part >= 0 && part <= 1) take(from.x + away.x + (to.x - from.x) * part);
    }
  return least <= most ? [least, most] : undefined;
}

interface Stretch {
  from: number;
  to: number;
  /** Of the pen where it was found. */
  pressure: number;
}

/** Puts a stretch among others that do not touch each other. */
function joined(stretches: Stretch[], one: Stretch): void {
  for (let index = stretches.length - 1; index >= 0; index -= 1) {
    const known = stretches[index]!;
    if (known.to < one.from || one.to < known.from) continue;
    one.from = Math.min(one.from, known.from);
    one.to = Math.max(one.to, known.to);
    one.pressure = Math.max(one.pressure, known.pressure);
    stretches.splice(index, 1);
  }
  stretches.push(one);
}

/** Parallel lines of a stroke that is `nib` wide, thin at their ends. @param lies - degrees */
function linesWithin(line: readonly LinePoint[], nib: number, seed: number, lies: number): Point[][] {
  const apart = nib * HATCHING.apart;
  const turned = line.map((point) => ({ ...turnPoint(point, -lies), pressure: point.pressure }));
  const found = new Map<number, Stretch[]>();
  for (let index = 0; index < turned.length; index += 1) {
    const [from, to] = [turned[Math.max(0, index - 1)]!, turned[index]!];
    const first = Math.ceil((Math.min(from.y, to.y) - nib / 2) / apart);
    const last = Math.floor((Math.max(from.y, to.y) + nib / 2) / apart);
    for (let number = first; number <= last; number += 1) {
      const reach = withinReach(from, to, nib / 2, number * apart);
      if (!reach) continue;
      const stretches = found.get(number) ?? [];
      joined(stretches, { from: reach[0], to: reach[1], pressure: to.pressure });
      found.set(number, stretches);
    }
  }
  return [...found].flatMap(([number, stretches]) =>
    stretches.map(({ from, to, pressure }) => {
      const tremble = (which: number) =>
        (chance(seed, number & 0xffff, which) - 0.5) * nib * 2 * HATCHING.trembles;
      const y = number * apart;
      const thick = (nib * HATCHING.thick * (0.4 + 1.2 * pressure)) / 2;
      const middle = (from + to) / 2;
      return [
        { x: from, y: y + tremble(0) },
        { x: middle, y: y + tremble(1) - thick },
        { x: to, y: y + tremble(2) },
        { x: middle, y: y + tremble(1) + thick },
      ].map((point) => turnPoint(point, lies));
    }),
  );
}

/**
 * The lines of a hatched stroke: parallel, wherever the hand went, so that strokes side by side make one tone.
 *
 * @param nib - the pen's width, in the units of the line
 */
export const hatchingAlong = (
  line: readonly LinePoint[],
  nib: number,
  seed: number,
  isCrossed: boolean,
): Shapes => [
  ...linesWithin(line, nib, seed, LIES),
  ...(isCrossed ? linesWithin(line, nib, seed + 1, LIES + 90) : []),
];
