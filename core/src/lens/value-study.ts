import { munsellValueToGrey8, naturalBreaks, valueDistribution, valuesOf } from '../colour/index.ts';
import { type Point, simplerLine } from '../geometry/index.ts';
import { joinIslands } from './islands.ts';
import { ALPHA, type Pixels, wordsOf } from './pixels.ts';

/** How a picture is put into few values. */
export interface StudyWish {
  /** 2 to 9. */
  readonly steps: number;
  /** At equal heights of value, or where the values part by themselves; or borders that were set, rising, 0..10. */
  readonly borders: 'equal' | 'natural' | readonly number[];
  /** Islands of fewer pixels join what they lie in. */
  readonly leastIsland: number;
}

/** A picture in few values. */
export interface ValueStudy {
  readonly width: number;
  readonly height: number;
  /** The step of each pixel, darkest 0, row by row; of clear ones the nearest of their neighbours'. */
  readonly labels: Uint8Array;
  /** Between the steps, rising, 0..10: one less than there are steps. */
  readonly borders: readonly number[];
  /** How much of the picture each step covers, 0..1, darkest first. */
  readonly shares: readonly number[];
  /** Grey that each step is seen as, a level of a channel: that of its middle. */
  readonly greys: readonly number[];
}

const BINS = 200;

function bordersOf(pixels: Pixels, { steps, borders }: StudyWish): number[] {
  if (typeof borders !== 'string') return [...borders];
  if (borders === 'natural') return naturalBreaks(valueDistribution(pixels, BINS), steps);
  return Array.from({ length: steps - 1 }, (_, index) => ((index + 1) * 10) / steps);
}

/** Puts a picture into few values. Clear pixels count as the darkest step and in no share. */
export function studyValues(pixels: Pixels, wish: StudyWish): ValueStudy {
  const borders = bordersOf(pixels, wish);
  const values = valuesOf(pixels);
  const labels = new Uint8Array(values.length);
  for (let at = 0; at < labels.length; at += 1) {
    const value = values[at]!;
    let step = 0;
    while (step < borders.length && value >= borders[step]!) step += 1;
    labels[at] = step;
  }
  if (wish.leastIsland > 1) joinIslands(labels, pixels.width, wish.leastIsland);
  const counts = new Array<number>(borders.length + 1).fill(0);
  let opaque = 0;
  for (let at = 0; at < labels.length; at += 1) {
    if (Number.isNaN(values[at]!)) continue;
    counts[labels[at]!]! += 1;
    opaque += 1;
  }
  const ends = [0, ...borders, 10];
  return {
    ...{ width: pixels.width, height: pixels.height, labels, borders },
    shares: counts.map((count) => (opaque === 0 ? 0 : count / opaque)),
    greys: counts.map((_, step) => munsellValueToGrey8((ends[step]! + ends[step + 1]!) / 2)),
  };
}

/** The study as pixels. */
export function pixelsOfStudy({ width, height, labels, greys }: ValueStudy): Pixels {
  const pixels = { width, height, data: new Uint8ClampedArray(width * height * 4) };
  const words = wordsOf(pixels);
  const seen = greys.map((grey) => ALPHA | (grey * 0x010101));
  for (let at = 0; at < labels.length; at += 1) words[at] = seen[labels[at]!]!;
  return pixels;
}

/** Closed lines along the sides of pixels, around all that are at least of a step; those of holes run the other way. */
export function shapesOf({ width, height, labels }: ValueStudy, step: number): Point[][] {
  const isIn = (x: number, y: number) =>
    x >= 0 && y >= 0 && x < width && y < height && labels[y * width + x]! >= step;
  /** Sides by where they begin: corners of the raster, `y * (width + 1) + x`; what is within lies on their right. */
  const sides = new Map<number, number[]>();
  const corner = (x: number, y: number) => y * (width + 1) + x;
  const add = (from: number, to: number) => {
    const known = sides.get(from);
    if (known) known.push(to);
    else sides.set(from, [to]);
  };
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      if (!isIn(x, y)) continue;
      if (!isIn(x, y - 1)) add(corner(x, y), corner(x + 1, y));
      if (!isIn(x + 1, y)) add(corner(x + 1, y), corner(x + 1, y + 1));
      if (!isIn(x, y + 1)) add(corner(x + 1, y + 1), corner(x, y + 1));
      if (!isIn(x - 1, y)) add(corner(x, y + 1), corner(x, y));
    }
  const pointOf = (at: number): Point => ({ x: at % (width + 1), y: Math.floor(at / (width + 1)) });
  const shapes: Point[][] = [];
  for (const start of sides.keys()) {
    while (sides.get(start)!.length > 0) {
      const shape: Point[] = [];
      let at = start;
      do {
        shape.push(pointOf(at));
        at = sides.get(at)!.pop()!;
      } while (at !== start);
      shapes.push(shape);
    }
  }
  return shapes;
}

/**
 * A closed line with fewer corners: none that was left out lies further off than `tolerance`.
 * Source: D. H. Douglas and T. K. Peucker, "Algorithms for the reduction of the number of points", 1973.
 */
export function simplified(shape: readonly Point[], tolerance: number): Point[] {
  if (shape.length < 4) return [...shape];
  // A closed line is parted where it is furthest from its first corner.
  const [first] = shape as [Point, ...Point[]];
  let far = 0;
  let most = 0;
  for (const [index, { x, y }] of shape.entries()) {
    const apart = Math.hypot(x - first.x, y - first.y);
    if (apart > most) {
      most = apart;
      far = index;
    }
  }
  const closed = [...shape, first];
  const [there, back] = [closed.slice(0, far + 1), closed.slice(far)].map((part) =>
    simplerLine(part, tolerance),
  );
  return [...there!.slice(0, -1), ...back!];
}

/** The study as shapes that lie on each other, the lightest on top. @param tolerance - how far edges may move, pixels */
export function studyToSvg(study: ValueStudy, tolerance: number): string {
  const { width, height, greys } = study;
  const colourOf = (step: number) => {
    const level = greys[step]!.toString(16).padStart(2, '0');
    return `#${level}${level}${level}`;
  };
  const paths = greys.slice(1).flatMap((_, index) => {
    const step = index + 1;
    const lines = shapesOf(study, step)
      .map((shape) => simplified(shape, tolerance))
      .filter((shape) => shape.length >= 3)
      .map((shape) => `M${shape.map(({ x, y }) => `${x} ${y}`).join('L')}Z`);
    return lines.length === 0
      ? []
      : [`  <path fill="${colourOf(step)}" fill-rule="evenodd" d="${lines.join('')}"/>`];
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">\n  <rect width="${width}" height="${height}" fill="${colourOf(0)}"/>\n${paths.join('\n')}\n</svg>\n`;
}
