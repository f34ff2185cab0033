import { applyProjective, type Point, projectiveFromQuads, type Quad } from '../geometry/index.ts';
import type { SmallPixels } from './likeness.ts';

/** Pixels as they are changed here: RGBA, straight alpha, sRGB, row by row. */
export interface PaperPixels extends SmallPixels {
  readonly data: Uint8ClampedArray;
}

/** A sheet is looked for in a copy of at most so many pixels a side. */
const SEARCH_SIDE = 420;
/** A sheet covers at least this share of its photograph. */
const LEAST_SHARE = 0.08;

interface Tones {
  readonly width: number;
  readonly height: number;
  readonly luma: Uint8Array;
}

/** Luma of a copy whose longest side is at most `side`, each cell the mean of a block. Source: BT.601-7, 2.5.1. */
function tonesOf({ width, height, data }: SmallPixels, side: number): Tones {
  const step = Math.max(1, Math.ceil(Math.max(width, height) / side));
  const [across, down] = [Math.floor(width / step), Math.floor(height / step)];
  const luma = new Uint8Array(across * down);
  for (let row = 0; row < down; row += 1) {
    for (let column = 0; column < across; column += 1) {
      let sum = 0;
      for (let y = row * step; y < (row + 1) * step; y += 1)
        for (let x = column * step; x < (column + 1) * step; x += 1) {
          const at = (y * width + x) * 4;
          sum += 0.299 * data[at]! + 0.587 * data[at + 1]! + 0.114 * data[at + 2]!;
        }
      luma[row * across + column] = sum / step ** 2;
    }
  }
  return { width: across, height: down, luma };
}

/** The tone that parts a picture best in dark and light. Source: Otsu, IEEE Trans. SMC 9 (1), 1979. */
function partingTone(luma: Uint8Array): number {
  const counts = new Float64Array(256);
  for (const tone of luma) counts[tone]! += 1;
  let [sumAll, sumDark, dark, best, at] = [0, 0, 0, -1, 128];
  for (let tone = 0; tone < 256; tone += 1) sumAll += tone * counts[tone]!;
  for (let tone = 0; tone < 256; tone += 1) {
    dark += counts[tone]!;
    sumDark += tone * counts[tone]!;
    const light = luma.length - dark;
    if (dark === 0 || light === 0) continue;
    const between = dark * light * (sumDark / dark - (sumAll - sumDark) / light) ** 2;
    if (between > best) [best, at] = [between, tone];
  }
  return at;
}

/** Outline points (left- and rightmost of each row) of the largest light region. */
function largestLight({ width, height, luma }: Tones, tone: number): { points: Point[]; area: number } {
  const region = new Int32Array(luma.length);
  let best = { points: [] as Point[], area: 0 };
  for (let first = 0, label = 0; first < luma.length; first += 1) {
    if (luma[first]! <= tone || region[first] !== 0) continue;
    label += 1;
    const spans = new Map<number, [number, number]>();
    const waiting = [first];
    region[first] = label;
    let area = 0;
    for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
      area += 1;
      const [row, column] = [Math.floor(at / width), at % width];
      const span = spans.get(row);
      if (!span) spans.set(row, [column, column]);
      else spans.set(row, [Math.min(span[0], column), Math.max(span[1], column)]);
      for (const [next, isIn] of [
        [at - 1, column > 0],
        [at + 1, column < width - 1],
        [at - width, row > 0],
        [at + width, row < height - 1],
      ] as const) {
        if (!isIn || region[next] !== 0 || luma[next]! <= tone) continue;
        region[next] = label;
        waiting.push(next);
      }
    }
    if (area <= best.area) continue;
    const points = [...spans].flatMap(([row, [left, right]]) => [
      { x: left, y: row },
      { x: right + 1, y: row },
      { x: left, y: row + 1 },
      { x: right + 1, y: row + 1 },
    ]);
    best = { points, area };
  }
  return best;
}

const turnOf = (a: Point, b: Point, c: Point): number =>
  (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);

/** Convex hull, clockwise as seen with y down. Source: Andrew, Inf. Proc. Letters 9 (5), 1979. */
function hullOf(points: readonly Point[]): Point[] {
  const sorted = [...points].sort((one, other) => one.x - other.x || one.y - other.y);
  const half = (list: readonly Point[]) => {
    const chain: Point[] = [];
    for (const point of list) {
      while (chain.length >= 2 && turnOf(chain.at(-2)!, chain.at(-1)!, point) <= 0) chain.pop();
      chain.push(point);
    }
    return chain.slice(0, -1);
  };
  return [...half(sorted), ...half(sorted.reverse())];
}

/** Where the lines a–b and c–d meet. */
function meeting(a: Point, b: Point, c: Point, d: Point): Point | undefined {
  const across = (a.x - b.x) * (c.y - d.y) - (a.y - b.y) * (c.x - d.x);
  if (Math.abs(across) < 1e-9) return undefined;
  const [p, q] = [a.x * b.y - a.y * b.x, c.x * d.y - c.y * d.x];
  return { x: (p * (c.x - d.x) - (a.x - b.x) * q) / across, y: (p * (c.y - d.y) - (a.y - b.y) * q) / across };
}

/** Takes away the edge whose loss adds least, its neighbours made to meet, until four corners are left. */
function fourCorners(hull: readonly Point[]): Point[] {
  let corners = [...hull];
  while (corners.length > 4) {
    let best: { index: number; at: Point; added: number } | undefined;
    for (let index = 0; index < corners.length; index += 1) {
      const [before, from, to, after] = [-1, 0, 1, 2].map(
        (step) => corners[(index + step + corners.length) % corners.length]!,
      ) as [Point, Point, Point, Point];
      const at = meeting(before, from, to, after);
      // Neighbours that run apart would meet on the wrong side.
      if (!at || turnOf(from, at, to) * turnOf(before, from, to) <= 0) continue;
      const added = Math.abs(turnOf(from, at, to)) / 2;
      if (!best || added < best.added) best = { index, at, added };
    }
    if (!best) return [];
    const { index, at } = best;
    const next = (index + 1) % corners.length;
    corners = corners
      .map((corner, place) => (place === index ? at : corner))
      .filter((_, place) => place !== next);
  }
  return corners;
}

/** Begins with the corner nearest to the top left, and goes round clockwise. */
function inOrder(corners: readonly Point[]): Quad {
  const sums = corners.map(({ x, y }) => x + y);
  const first = sums.indexOf(Math.min(...sums));
  return [0, 1, 2, 3].map((step) => corners[(first + step) % 4]!) as unknown as Quad;
}

/**
 * The corners of a light sheet on a darker table, clockwise from the top left, pixels of the photograph; undefined where
 * none is to be seen. What is drawn on the sheet does not matter, nor do its bent corners.
 */
export function findPaper(pixels: SmallPixels): Quad | undefined {
  const tones = tonesOf(pixels, SEARCH_SIDE);
  const { points, area } = largestLight(tones, partingTone(tones.luma));
  if (area < LEAST_SHARE * tones.luma.length) return undefined;
  const corners = fourCorners(hullOf(points));
  if (corners.length !== 4) return undefined;
  const scale = pixels.width / tones.width;
  const within = (value: number, most: number) => Math.min(most, Math.max(0, value * scale));
  return inOrder(corners.map(({ x, y }) => ({ x: within(x, pixels.width), y: within(y, pixels.height) })));
}

/** Mean length of two opposite sides. */
const spanOf = (a: Point, b: Point, c: Point, d: Point): number =>
  (Math.hypot(b.x - a.x, b.y - a.y) + Math.hypot(d.x - c.x, d.y - c.y)) / 2;

/**
 * Pixel size at which a squared sheet keeps what its photograph shows.
 *
 * @param aspect - width by height of the sheet itself
 */
export function sizeOfPaper([a, b, c, d]: Quad, aspect: number): { width: number; height: number } {
  const [across, down] = [spanOf(a, b, d, c), spanOf(a, d, b, c)];
  const width = Math.max(across, down * aspect);
  return { width: Math.max(1, Math.round(width)), height: Math.max(1, Math.round(width / aspect)) };
}

/** The part of a photograph within `corners` as a rectangle, by linear interpolation. @throws RangeError as `projectiveFromQuads` */
export function squarePaper(
  pixels: SmallPixels,
  corners: Quad,
  { width, height }: { width: number; height: number },
): PaperPixels {
  const flat: Quad = [
    { x: 0, y: 0 },
    { x: width, y: 0 },
    { x: width, y: height },
    { x: 0, y: height },
  ];
  const back = projectiveFromQuads(flat, corners);
  const data = new Uint8ClampedArray(width * height * 4);
  const from = pixels.data;
  const [right, bottom] = [pixels.width - 1, pixels.height - 1];
  for (let row = 0; row < height; row += 1) {
    for (let column = 0; column < width; column += 1) {
      const { x, y } = applyProjective(back, { x: column + 0.5, y: row + 0.5 });
      const [px, py] = [Math.min(right, Math.max(0, x - 0.5)), Math.min(bottom, Math.max(0, y - 0.5))];
      const [left, top] = [Math.min(right - 1, Math.floor(px)), Math.min(bottom - 1, Math.floor(py))];
      const [fx, fy] = [px - left, py - top];
      const at = (top * pixels.width + left) * 4;
      const below = at + pixels.width * 4;
      const to = (row * width + column) * 4;
      for (let channel = 0; channel < 3; channel += 1) {
        const upper = from[at + channel]! * (1 - fx) + from[at + 4 + channel]! * fx;
        const lower = from[below + channel]! * (1 - fx) + from[below + 4 + channel]! * fx;
        data[to + channel] = upper * (1 - fy) + lower * fy;
      }
      data[to + 3] = 255;
    }
  }
  return { width, height, data };
}

/** Cells in which the light on the paper is taken; smaller than a shadow, larger than a stroke. */
const LIGHT_CELLS = 24;
/** Of the pixels of a cell, so many are darker than its paper: strokes cover less than half of any cell. */
const PAPER_RANK = 0.85;
/** What paper becomes: white, with a little grain of it left above. */
const WHITE = 252;

/** The tone of the bare paper in each cell, by channel; a cell without any takes that of its neighbours. */
function lightOnPaper({ width, height, data }: SmallPixels): Float64Array {
  const light = new Float64Array(LIGHT_CELLS * LIGHT_CELLS * 3);
  for (let row = 0; row < LIGHT_CELLS; row += 1) {
    for (let column = 0; column < LIGHT_CELLS; column += 1) {
      const [x0, x1] = [column, column + 1].map((at) => Math.floor((at * width) / LIGHT_CELLS)) as [
        number,
        number,
      ];
      const [y0, y1] = [row, row + 1].map((at) => Math.floor((at * height) / LIGHT_CELLS)) as [
        number,
        number,
      ];
      for (let channel = 0; channel < 3; channel += 1) {
        const tones: number[] = [];
        for (let y = y0; y < Math.max(y1, y0 + 1); y += 1)
          for (let x = x0; x < Math.max(x1, x0 + 1); x += 1) tones.push(data[(y * width + x) * 4 + channel]!);
        tones.sort((one, other) => one - other);
        light[(row * LIGHT_CELLS + column) * 3 + channel] =
          tones[Math.floor((tones.length - 1) * PAPER_RANK)]!;
      }
    }
  }
  return spread(light);
}

/** Each cell becomes the largest of itself and the mean around: a dark patch of drawing is not taken for dark paper. */
function spread(light: Float64Array): Float64Array {
  const out = light.slice();
  for (let row = 0; row < LIGHT_CELLS; row += 1)
    for (let column = 0; column < LIGHT_CELLS; column += 1)
      for (let channel = 0; channel < 3; channel += 1) {
        let [sum, count] = [0, 0];
        for (let y = Math.max(0, row - 2); y <= Math.min(LIGHT_CELLS - 1, row + 2); y += 1)
          for (let x = Math.max(0, column - 2); x <= Math.min(LIGHT_CELLS - 1, column + 2); x += 1) {
            sum += light[(y * LIGHT_CELLS + x) * 3 + channel]!;
            count += 1;
          }
        const at = (row * LIGHT_CELLS + column) * 3 + channel;
        out[at] = Math.max(light[at]!, sum / count, 1);
      }
  return out;
}

/** Divides out the light on the paper: it becomes white, shadows go, strokes keep their own tone against it. */
export function whitenPaper(pixels: SmallPixels): PaperPixels {
  const { width, height, data } = pixels;
  const light = lightOnPaper(pixels);
  const out = new Uint8ClampedArray(data.length);
  const position = (at: number, length: number) =>
    Math.min(LIGHT_CELLS - 1, Math.max(0, ((at + 0.5) / length) * LIGHT_CELLS - 0.5));
  for (let y = 0; y < height; y += 1) {
    const down = position(y, height);
    const top = Math.min(LIGHT_CELLS - 2, Math.floor(down));
    for (let x = 0; x < width; x += 1) {
      const across = position(x, width);
      const left = Math.min(LIGHT_CELLS - 2, Math.floor(across));
      const [fx, fy] = [across - left, down - top];
      const at = (y * width + x) * 4;
      for (let channel = 0; channel < 3; channel += 1) {
        const cell = (top * LIGHT_CELLS + left) * 3 + channel;
        const below = cell + LIGHT_CELLS * 3;
        const paper =
          (light[cell]! * (1 - fx) + light[cell + 3]! * fx) * (1 - fy) +
          (light[below]! * (1 - fx) + light[below + 3]! * fx) * fy;
        out[at + channel] = (data[at + channel]! / paper) * WHITE;
      }
      out[at + 3] = 255;
    }
  }
  return { width, height, data: out };
}
