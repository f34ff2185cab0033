import type { Rectangle } from '../geometry/index.ts';

/** What was captured of a screen: RGBA, row by row from the top; length 4·width·height. */
export interface CapturedPixels {
  readonly data: Uint8ClampedArray;
  readonly width: number;
  readonly height: number;
}

export interface FoundSheet {
  /** Pixels of the capture. */
  readonly rectangle: Rectangle;
  /** Of the least certain side the share along which it is an edge with the desk beyond it, 0..1. */
  readonly certainty: number;
}

/** Neighbours that differ by more in sum of their channels lie on two sides of an edge, levels of 255. */
const EDGE = 24;
/** Beyond a sheet lies one colour, to within so much in sum of its channels. */
const DESK = 30;
/** Lines along which so many pixels are edges may be sides; of those the strongest are tried. */
const LEAST_SHARE = 0.12;
const MOST_LINES = 28;
/** A sheet that is seen smaller than this share of the window is none. */
const LEAST_SIDE = 0.2;
const SAMPLES = 72;
/** Corners are left out: programs round them and put marks there. */
const CORNER = 0.03;
const LEAST_CERTAINTY = 0.7;
/** Width and height are each shown to within so much, pixels. */
const ROUNDED = 1;

const differ = (data: Uint8ClampedArray, a: number, b: number): number =>
  Math.abs(data[a]! - data[b]!) +
  Math.abs(data[a + 1]! - data[b + 1]!) +
  Math.abs(data[a + 2]! - data[b + 2]!);

/** Lines at which most pixels differ from those before them: positions, the strongest first. */
function strongest(counts: Float64Array, along: number): number[] {
  return [...counts.keys()]
    .filter((at) => counts[at]! >= LEAST_SHARE * along)
    .sort((a, b) => counts[b]! - counts[a]!)
    .slice(0, MOST_LINES)
    .sort((a, b) => a - b);
}

function linesOf({ data, width, height }: CapturedPixels): { columns: number[]; rows: number[] } {
  const [columns, rows] = [new Float64Array(width), new Float64Array(height)];
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      const at = 4 * (y * width + x);
      if (x > 0 && differ(data, at, at - 4) > EDGE) columns[x]! += 1;
      if (y > 0 && differ(data, at, at - 4 * width) > EDGE) rows[y]! += 1;
    }
  return { columns: strongest(columns, height), rows: strongest(rows, width) };
}

/** One side: where its first pixel within lies, how far to the next one, how many, and how far to the one beyond the edge. */
interface Side {
  readonly from: number;
  readonly step: number;
  readonly count: number;
  readonly beyond: number;
}

function sidesOf({ width }: CapturedPixels, { x, y, width: w, height: h }: Rectangle): readonly Side[] {
  const [row, at] = [4 * width, 4 * (y * width + x)];
  return [
    { from: at, step: row, count: h, beyond: -4 },
    { from: at + 4 * (w - 1), step: row, count: h, beyond: 4 },
    { from: at, step: 4, count: w, beyond: -row },
    { from: at + row * (h - 1), step: 4, count: w, beyond: row },
  ];
}

/** A pixel within a side, at a share of its length. */
const pixelAt = ({ from, step, count }: Side, share: number): number =>
  from + step * Math.round((count - 1) * share);

/** Where the colour of the desk is asked: the pointer may lie over one of them. */
const ASKED = [0.4, 0.6] as const;

/** How far a rectangle is a sheet on a desk of one colour. */
function certaintyOf(pixels: CapturedPixels, rectangle: Rectangle): number {
  const { data } = pixels;
  const sides = sidesOf(pixels, rectangle);
  const beyondOf = (side: Side, share: number) => pixelAt(side, share) + side.beyond;
  // Most rectangles are none: one look at each side says so.
  const [first, ...others] = sides as [Side, ...Side[]];
  const desk = ASKED.map((share) => beyondOf(first, share)).find((at) =>
    others.every((side) => ASKED.some((share) => differ(data, at, beyondOf(side, share)) <= DESK)),
  );
  if (desk === undefined) return 0;
  let least = 1;
  for (const side of sides) {
    let good = 0;
    for (let sample = 0; sample < SAMPLES; sample += 1) {
      const within = pixelAt(side, CORNER + ((1 - 2 * CORNER) * sample) / (SAMPLES - 1));
      const beyond = within + side.beyond;
      if (differ(data, beyond, desk) <= DESK && differ(data, within, beyond) > EDGE) good += 1;
    }
    least = Math.min(least, good / SAMPLES);
    if (least < LEAST_CERTAINTY) return 0;
  }
  return least;
}

/**
 * Finds the sheet of another program in a picture of its window: an upright rectangle of its proportions with one colour
 * around it, all four sides in view. Where several are, the largest of those that are about as certain.
 *
 * @param aspect - width by height of the sheet: without it the desk, or a frame that is drawn, would be taken for it
 * @returns undefined where there is none
 */
export function findSheet(pixels: CapturedPixels, aspect: number): FoundSheet | undefined {
  const { width, height } = pixels;
  const { columns, rows } = linesOf(pixels);
  let best: FoundSheet | undefined;
  for (const x of columns)
    for (const right of columns) {
      const w = right - x;
      if (w < LEAST_SIDE * width || right >= width) continue;
      for (const y of rows)
        for (const bottom of rows) {
          const h = bottom - y;
          if (h < LEAST_SIDE * height || bottom >= height) continue;
          if (Math.abs(w - aspect * h) > ROUNDED * (1 + aspect)) continue;
          const rectangle = { x, y, width: w, height: h };
          const certainty = certaintyOf(pixels, rectangle);
          if (certainty >= LEAST_CERTAINTY && isBetter({ rectangle, certainty }, best))
            best = { rectangle, certainty };
        }
    }
  return best;
}

/** Certainties nearer to each other than this are the same. */
const SAME = 0.1;

function isBetter(one: FoundSheet, other: FoundSheet | undefined): boolean {
  if (!other) return true;
  const away = one.certainty - other.certainty;
  if (Math.abs(away) > SAME) return away > 0;
  const area = ({ rectangle: { width, height } }: FoundSheet) => width * height;
  return area(one) > area(other);
}
