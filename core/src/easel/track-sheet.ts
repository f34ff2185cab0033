import type { Point, Rectangle } from '../geometry/index.ts';
import { type CapturedPixels, findSheet } from './find-sheet.ts';

/** Lightness, 0..255, row by row from the top; length width·height. */
interface Grey {
  readonly data: Uint8Array;
  readonly width: number;
  readonly height: number;
}

/** A small square of a captured window that is like no other near it: where its middle lay, and its pixels. */
interface Feature {
  readonly at: Point;
  readonly coarse: Uint8Array;
  readonly fine: Uint8Array;
}

/** Features are looked for in a picture of about this width first: a scroll by half a window is found in a moment. */
const COARSE_WIDTH = 160;
/** Half of a feature's side, pixels of the coarse and of the whole picture. */
const COARSE_HALF = 3;
const FINE_HALF = 7;
/** So many are kept, parted over so many cells each way: a scroll leaves some in view whichever way it goes. */
const CELLS = 6;
/** Variance below which a square is paper, levels². */
const LEAST_VARIANCE = 60;
/** A match differs by less on average, levels. */
const MOST_DIFFERENCE = 14;
/** In the coarse picture, where a scroll by part of a pixel alters every edge; so many places are looked at finely. */
const MOST_COARSE_DIFFERENCE = 40;
const CANDIDATES = 4;
/** So many features, and this share of all that moved, must have moved the same way. */
const LEAST_AGREEING = 5;
const LEAST_SHARE = 0.25;
/** Nothing moved where at least this share of all features is where it was. */
const LEAST_STILL = 0.7;
/** Moved the same way: within so many pixels of the whole picture. */
const SAME_PX = 2;

/** What is as near to something that stood still belongs to it. */
const NEAR_FIXED_PX = 24;

function greyOf({ data, width, height }: CapturedPixels): Grey {
  const grey = new Uint8Array(width * height);
  for (let at = 0; at < grey.length; at += 1)
    grey[at] = (54 * data[4 * at]! + 183 * data[4 * at + 1]! + 19 * data[4 * at + 2]!) >> 8;
  return { data: grey, width, height };
}

/** Means of squares of `step` pixels. */
function shrunk({ data, width, height }: Grey, step: number): Grey {
  const [w, h] = [Math.floor(width / step), Math.floor(height / step)];
  const small = new Uint8Array(w * h);
  for (let y = 0; y < h; y += 1)
    for (let x = 0; x < w; x += 1) {
      let sum = 0;
      for (let dy = 0; dy < step; dy += 1)
        for (let dx = 0; dx < step; dx += 1) sum += data[(y * step + dy) * width + x * step + dx]!;
      small[y * w + x] = sum / (step * step);
    }
  return { data: small, width: w, height: h };
}

const fits = ({ width, height }: Grey, x: number, y: number, half: number): boolean =>
  x >= half && y >= half && x + half < width && y + half < height;

function squareOf(grey: Grey, x: number, y: number, half: number): Uint8Array {
  const side = 2 * half + 1;
  const square = new Uint8Array(side * side);
  for (let dy = 0; dy < side; dy += 1)
    for (let dx = 0; dx < side; dx += 1)
      square[dy * side + dx] = grey.data[(y - half + dy) * grey.width + x - half + dx]!;
  return square;
}

/** Mean absolute difference, levels; stops early once it is above `most`. */
function difference(
  grey: Grey,
  x: number,
  y: number,
  half: number,
  square: Uint8Array,
  most: number,
): number {
  const side = 2 * half + 1;
  const limit = most * square.length;
  let sum = 0;
  for (let dy = 0; dy < side; dy += 1) {
    const row = (y - half + dy) * grey.width + x - half;
    for (let dx = 0; dx < side; dx += 1) sum += Math.abs(grey.data[row + dx]! - square[dy * side + dx]!);
    if (sum > limit) return Number.POSITIVE_INFINITY;
  }
  return sum / square.length;
}

/** Least eigenvalue of the structure tensor over a square: high at corners, low along lines and on paper. Shi & Tomasi 1994. */
function cornerness(grey: Grey, x: number, y: number, half: number): number {
  let [xx, yy, xy] = [0, 0, 0];
  for (let dy = 1 - half; dy < half; dy += 1)
    for (let dx = 1 - half; dx < half; dx += 1) {
      const at = (y + dy) * grey.width + x + dx;
      const gx = grey.data[at + 1]! - grey.data[at - 1]!;
      const gy = grey.data[at + grey.width]! - grey.data[at - grey.width]!;
      xx += gx * gx;
      yy += gy * gy;
      xy += gx * gy;
    }
  const count = (2 * half - 1) ** 2;
  return ((xx + yy) / 2 - Math.hypot((xx - yy) / 2, xy)) / count;
}

/** The best corner of each cell of the part of the sheet that is in view. */
function featuresOf(fine: Grey, coarse: Grey, step: number, { x, y, width, height }: Rectangle): Feature[] {
  const features: Feature[] = [];
  const left = Math.max(x, 0);
  const top = Math.max(y, 0);
  const right = Math.min(x + width, fine.width);
  const bottom = Math.min(y + height, fine.height);
  const [w, h] = [(right - left) / CELLS, (bottom - top) / CELLS];
  for (let row = 0; row < CELLS; row += 1)
    for (let column = 0; column < CELLS; column += 1) {
      let best: Point | undefined;
      let most = LEAST_VARIANCE;
      const from = { x: Math.ceil((left + column * w) / step), y: Math.ceil((top + row * h) / step) };
      for (let cy = from.y; cy < (top + (row + 1) * h) / step; cy += 1)
        for (let cx = from.x; cx < (left + (column + 1) * w) / step; cx += 1) {
          if (!fits(coarse, cx, cy, COARSE_HALF + 1)) continue;
          const value = cornerness(coarse, cx, cy, COARSE_HALF);
          if (value <= most) continue;
          most = value;
          best = { x: cx, y: cy };
        }
      if (!best) continue;
      const at = {
        x: best.x * step + Math.floor(step / 2),
        y: best.y * step + Math.floor(step / 2),
      };
      if (!fits(fine, at.x, at.y, FINE_HALF)) continue;
      features.push({
        at,
        coarse: squareOf(coarse, best.x, best.y, COARSE_HALF),
        fine: squareOf(fine, at.x, at.y, FINE_HALF),
      });
    }
  return features;
}

/** The places at which a feature may lie, by the coarse picture, best first. */
function candidates(feature: Feature, coarse: Grey): Point[] {
  const best: { at: Point; away: number }[] = [];
  let worst = MOST_COARSE_DIFFERENCE;
  for (let y = COARSE_HALF; y < coarse.height - COARSE_HALF; y += 1)
    for (let x = COARSE_HALF; x < coarse.width - COARSE_HALF; x += 1) {
      const away = difference(coarse, x, y, COARSE_HALF, feature.coarse, worst);
      if (away >= worst) continue;
      // Of neighbours the better one.
      const near = best.findIndex(({ at }) => Math.abs(at.x - x) <= 1 && Math.abs(at.y - y) <= 1);
      if (near >= 0 && best[near]!.away <= away) continue;
      if (near >= 0) best.splice(near, 1);
      best.push({ at: { x, y }, away });
      best.sort((one, other) => one.away - other.away);
      if (best.length > CANDIDATES) best.pop();
      if (best.length === CANDIDATES) worst = best[CANDIDATES - 1]!.away;
    }
  return best.map(({ at }) => at);
}

/** Where a feature lies now; undefined where nothing in the window is like it. */
function found(feature: Feature, fine: Grey, coarse: Grey, step: number): Point | undefined {
  let exact: Point | undefined;
  let least = MOST_DIFFERENCE;
  for (const candidate of candidates(feature, coarse)) {
    const middle = Math.floor(step / 2);
    const around = { x: candidate.x * step + middle, y: candidate.y * step + middle };
    for (let y = around.y - 2 * step; y <= around.y + 2 * step; y += 1)
      for (let x = around.x - 2 * step; x <= around.x + 2 * step; x += 1) {
        if (!fits(fine, x, y, FINE_HALF)) continue;
        const away = difference(fine, x, y, FINE_HALF, feature.fine, least);
        if (away >= least) continue;
        least = away;
        exact = { x, y };
      }
  }
  return exact;
}

const isStill = ({ x, y }: Point): boolean => x === 0 && y === 0;

/** The largest group of ways that are the same. */
function largest(ways: readonly Point[]): readonly Point[] {
  let best: readonly Point[] = [];
  for (const way of ways) {
    const same = ways.filter(
      (other) => Math.abs(other.x - way.x) <= SAME_PX && Math.abs(other.y - way.y) <= SAME_PX,
    );
    if (same.length > best.length) best = same;
  }
  return best;
}

/**
 * The way that the sheet moved; undefined where it cannot be told. What of the other program lies around its canvas always
 * stands still: some that moved alike weigh more than all that did not.
 *
 * @param count - of the features that were looked for
 */
function commonWay(ways: readonly Point[], count: number): Point | undefined {
  const moving = ways.filter((way) => !isStill(way));
  const alike = largest(moving);
  if (alike.length >= LEAST_AGREEING && alike.length >= LEAST_SHARE * moving.length) {
    const middle = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
    return { x: middle(alike.map(({ x }) => x)), y: middle(alike.map(({ y }) => y)) };
  }
  const still = ways.length - moving.length;
  return still >= LEAST_AGREEING && still >= LEAST_STILL * count ? { x: 0, y: 0 } : undefined;
}

/**
 * Follows a sheet within a captured window: by its four sides where all are in view, whatever the zoom, else by what is drawn
 * on it, as long as that is only scrolled.
 */
export class SheetTracker {
  readonly #aspect: number;
  #rectangle: Rectangle;
  #seenIn: Rectangle;
  #features: readonly Feature[];
  /** What stood still while the sheet moved: the other program's own, over the sheet. */
  readonly #fixed: Point[] = [];

  /** @param rectangle - where the sheet lies in `pixels`; parts of it may be out of view @param aspect - its width by its height */
  constructor(pixels: CapturedPixels, rectangle: Rectangle, aspect: number) {
    this.#aspect = aspect;
    this.#rectangle = rectangle;
    this.#seenIn = rectangle;
    this.#features = this.#featuresIn(pixels, rectangle);
  }

  /** Where it was found last, pixels of the capture. */
  get rectangle(): Rectangle {
    return this.#rectangle;
  }

  /** Looks for it in what is shown now. @returns undefined where it cannot be told */
  see(pixels: CapturedPixels): Rectangle | undefined {
    const whole = findSheet(pixels, this.#aspect);
    if (whole) {
      this.#rectangle = whole.rectangle;
      this.#seenIn = whole.rectangle;
      this.#features = this.#featuresIn(pixels, whole.rectangle);
      return this.#rectangle;
    }
    const fine = greyOf(pixels);
    const step = stepOf(pixels);
    const coarse = shrunk(fine, step);
    const moves = this.#features.flatMap((feature) => {
      const now = found(feature, fine, coarse, step);
      return now ? [{ feature, way: { x: now.x - feature.at.x, y: now.y - feature.at.y } }] : [];
    });
    const ways = moves.map((move) => move.way);
    const way = commonWay(ways, this.#features.length);
    if (!way) return undefined;
    if (!isStill(way))
      for (const { feature, way: own } of moves) if (isStill(own)) this.#fixed.push(feature.at);
    const { x, y, width, height } = this.#seenIn;
    this.#rectangle = { x: x + way.x, y: y + way.y, width, height };
    // What came into view is followed from now on; what left it is no help any more.
    const features = featuresOf(fine, coarse, step, this.#rectangle).filter(
      ({ at }) => !this.#fixed.some((one) => Math.hypot(one.x - at.x, one.y - at.y) < NEAR_FIXED_PX),
    );
    if (features.length >= LEAST_AGREEING) {
      this.#features = features;
      this.#seenIn = this.#rectangle;
    }
    return this.#rectangle;
  }

  #featuresIn(pixels: CapturedPixels, rectangle: Rectangle): Feature[] {
    const fine = greyOf(pixels);
    const step = stepOf(pixels);
    return featuresOf(fine, shrunk(fine, step), step, rectangle);
  }
}

const stepOf = ({ width }: CapturedPixels): number => Math.max(1, Math.round(width / COARSE_WIDTH));
