import {
  type ColourDifference,
  compareColours,
  encodedOf,
  munsellValueOf,
  munsellValueToLuminance,
  oklabToLinear,
  rgbToOklab,
  valueOfLuminance,
} from '../colour/index.ts';
import type { Point } from '../geometry/index.ts';
import { LINEAR, oklabAt, type Pixels } from './pixels.ts';

/** A place where value or colour does not shift but jump. */
export interface Jump extends Point {
  /** Munsell steps. */
  readonly value: number;
  /** ΔE00. */
  readonly deltaE: number;
  /** So many steps between, each of them hardly seen, would soften it. */
  readonly softenedBy: number;
}

/** What is subtle within a region, stretched until it is seen. */
export interface Subtleties {
  readonly width: number;
  readonly height: number;
  /** The region, as narrow as it is, with its shifts enlarged and contour lines of value in it; clear around it. RGBA. */
  readonly data: Uint8ClampedArray<ArrayBuffer>;
  /** How many times value and colour were enlarged. */
  readonly gain: { readonly value: number; readonly colour: number };
  /** Munsell steps between the lines. */
  readonly lineStep: number;
  /** Munsell steps between its darkest and its lightest, but for a fiftieth on either end. */
  readonly valueRange: number;
  /** Where it shifts from and to, fractions 0..1 of the sides of what is shown, and by what. */
  readonly from: Point;
  readonly to: Point;
  readonly shift: ColourDifference;
  /** The strongest first. */
  readonly jumps: readonly Jump[];
}

/** What is left out on either end: specks are no subtlety. */
const ENDS = 0.02;
/** Stretched, the values of a region fill so many Munsell steps about the middle; its colours as much OKLab chroma. */
const FILLED = { value: 7, colour: 0.16 } as const;
const MOST_GAIN = 40;
const STEPS_OF_LINES = [0.05, 0.1, 0.2, 0.25, 0.5, 1, 2] as const;
/** No more lines than about so many. */
const LINES = 8;
/** A shift of value that is hardly seen, Munsell steps; and of colour, ΔE00. */
const HARDLY = { value: 0.2, deltaE: 2.3 } as const;
/** What jumps is more than this, and so many times what is usual there. */
const JUMP = { deltaE: 4, times: 4 } as const;
const MOST_JUMPS = 3;
/** Squares along the longest side in which shifts and jumps are looked for. */
const SQUARES = 36;

interface Square extends Point {
  readonly column: number;
  readonly row: number;
  readonly rgb: { readonly r: number; readonly g: number; readonly b: number };
  readonly value: number;
}

/** The region as squares: what is finer is no shift but texture. */
function squaresOf({ width, height, data }: Pixels, mask: Uint8Array, side: number): Square[] {
  const [wide, high] = [Math.ceil(width / side), Math.ceil(height / side)];
  /** Red, green, blue, and how many. */
  const sums = new Float64Array(wide * high * 4);
  for (let y = 0, pixel = 0; y < height; y += 1) {
    const row = Math.floor(y / side) * wide;
    for (let x = 0; x < width; x += 1, pixel += 1) {
      const at = pixel * 4;
      if (mask[pixel] === 0 || data[at + 3]! < 128) continue;
      const to = (row + Math.floor(x / side)) * 4;
      sums[to]! += LINEAR[data[at]!]!;
      sums[to + 1]! += LINEAR[data[at + 1]!]!;
      sums[to + 2]! += LINEAR[data[at + 2]!]!;
      sums[to + 3]! += 1;
    }
  }
  const squares: Square[] = [];
  for (let row = 0; row < high; row += 1)
    for (let column = 0; column < wide; column += 1) {
      const to = (row * wide + column) * 4;
      const count = sums[to + 3]!;
      const all =
        (Math.min(width, (column + 1) * side) - column * side) *
        (Math.min(height, (row + 1) * side) - row * side);
      // At the rim of the region a square is not all of it.
      if (count === 0 || count * 2 < all) continue;
      const rgb = encodedOf({
        ...{ r: sums[to]! / count, g: sums[to + 1]! / count, b: sums[to + 2]! / count },
      });
      squares.push({
        ...{ column, row, rgb, value: munsellValueOf(rgb) },
        ...{ x: ((column + 0.5) * side) / width, y: ((row + 0.5) * side) / height },
      });
    }
  return squares;
}

/** The ends of the region along the way in which it shifts most. */
function endsOf(squares: readonly Square[]): readonly [readonly Square[], readonly Square[]] {
  const mean = (of: (square: Square) => number) =>
    squares.reduce((sum, square) => sum + of(square), 0) / squares.length;
  const [mx, my] = [mean(({ column }) => column), mean(({ row }) => row)];
  const labs = new Map(squares.map((square) => [square, rgbToOklab(square.rgb)]));
  const axes = [
    ({ value }: Square) => value / 10,
    (square: Square) => 2 * labs.get(square)!.a,
    (square: Square) => 2 * labs.get(square)!.b,
  ];
  // Of each axis of colour the slope over the region; the steepest decides which way.
  const slopes = axes.map((axis) => {
    const middle = mean(axis);
    const sx = mean((square) => (square.column - mx) * (axis(square) - middle));
    const sy = mean((square) => (square.row - my) * (axis(square) - middle));
    return { x: sx, y: sy };
  });
  const { x, y } = slopes.sort((one, other) => Math.hypot(other.x, other.y) - Math.hypot(one.x, one.y))[0]!;
  const ordered = [...squares].sort(
    (one, other) => one.column * x + one.row * y - (other.column * x + other.row * y),
  );
  const part = Math.max(1, Math.round(ordered.length / 5));
  return [ordered.slice(0, part), ordered.slice(-part)];
}

function middleOf(squares: readonly Square[]): Point & Pick<Square, 'rgb'> {
  const mean = (of: (square: Square) => number) =>
    squares.reduce((sum, square) => sum + of(square), 0) / squares.length;
  return {
    ...{ x: mean(({ x }) => x), y: mean(({ y }) => y) },
    rgb: { r: mean(({ rgb }) => rgb.r), g: mean(({ rgb }) => rgb.g), b: mean(({ rgb }) => rgb.b) },
  };
}

function jumpsOf(squares: readonly Square[]): Jump[] {
  const at = new Map(squares.map((square) => [`${square.column} ${square.row}`, square]));
  const steps = squares.flatMap((square) =>
    [
      [1, 0],
      [0, 1],
    ].flatMap(([dx, dy]) => {
      const other = at.get(`${square.column + dx!} ${square.row + dy!}`);
      if (!other) return [];
      const { value, deltaE } = compareColours(square.rgb, other.rgb);
      return [{ x: (square.x + other.x) / 2, y: (square.y + other.y) / 2, value, deltaE }];
    }),
  );
  const usual = steps.map(({ deltaE }) => deltaE).sort((a, b) => a - b)[steps.length >> 1] ?? 0;
  const found: Jump[] = [];
  for (const step of steps.sort((one, other) => other.deltaE - one.deltaE)) {
    if (step.deltaE < JUMP.deltaE || step.deltaE < JUMP.times * usual || found.length === MOST_JUMPS) break;
    if (found.some(({ x, y }) => Math.hypot(x - step.x, y - step.y) < 0.12)) continue;
    const softenedBy =
      Math.ceil(Math.max(Math.abs(step.value) / HARDLY.value, step.deltaE / HARDLY.deltaE)) - 1;
    found.push({ ...step, softenedBy });
  }
  return found;
}

/** The value of every pixel within the mask, a little smoothed, so that lines do not follow grain; NaN outside. */
function smoothValues(pixels: Pixels, mask: Uint8Array, radius: number): Float32Array {
  const { width, height, data } = pixels;
  const wide = width + 1;
  const sums = new Float64Array(wide * (height + 1));
  const counts = new Float64Array(wide * (height + 1));
  for (let y = 0, pixel = 0; y < height; y += 1) {
    let [sum, count] = [0, 0];
    for (let x = 0; x < width; x += 1, pixel += 1) {
      const at = pixel * 4;
      if (mask[pixel] !== 0 && data[at + 3]! >= 128) {
        sum +=
          0.2126 * LINEAR[data[at]!]! + 0.7152 * LINEAR[data[at + 1]!]! + 0.0722 * LINEAR[data[at + 2]!]!;
        count += 1;
      }
      const here = (y + 1) * wide + x + 1;
      sums[here] = sums[here - wide]! + sum;
      counts[here] = counts[here - wide]! + count;
    }
  }
  const values = new Float32Array(width * height).fill(Number.NaN);
  for (let y = 0, pixel = 0; y < height; y += 1) {
    const above = Math.max(0, y - radius) * wide;
    const below = Math.min(height, y + radius + 1) * wide;
    for (let x = 0; x < width; x += 1, pixel += 1) {
      if (mask[pixel] === 0) continue;
      const left = Math.max(0, x - radius);
      const right = Math.min(width, x + radius + 1);
      const count =
        counts[below + right]! - counts[above + right]! - counts[below + left]! + counts[above + left]!;
      if (count === 0) continue;
      const sum = sums[below + right]! - sums[above + right]! - sums[below + left]! + sums[above + left]!;
      values[pixel] = valueOfLuminance(sum / count);
    }
  }
  return values;
}

/** The stretched region is shown no larger than this, longest side. */
const SHOWN_SIDE = 720;

interface Stretched {
  readonly gain: Subtleties['gain'];
  readonly lineStep: number;
  /** What becomes the middle. */
  readonly middle: { readonly value: number; readonly a: number; readonly b: number };
}

/** The region with its shifts enlarged, and lines where its value passes from step to step. */
function stretched(
  pixels: Pixels,
  values: Float32Array,
  { gain, lineStep, middle }: Stretched,
): Pick<Subtleties, 'width' | 'height' | 'data'> {
  const every = Math.max(1, Math.ceil(Math.max(pixels.width, pixels.height) / SHOWN_SIDE));
  const width = Math.ceil(pixels.width / every);
  const height = Math.ceil(pixels.height / every);
  const data = new Uint8ClampedArray(width * height * 4);
  const lineAt = (x: number, y: number) =>
    x < width && y < height
      ? Math.floor(values[y * every * pixels.width + x * every]! / lineStep)
      : Number.NaN;
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      const pixel = y * every * pixels.width + x * every;
      const value = values[pixel]!;
      if (Number.isNaN(value)) continue;
      const { a, b } = oklabAt(pixels, pixel);
      const shown = Math.min(9.7, Math.max(0.3, 5 + (value - middle.value) * gain.value));
      const line = lineAt(x, y);
      const isLine = [lineAt(x + 1, y), lineAt(x, y + 1)].some((one) => !Number.isNaN(one) && one !== line);
      // As light as a grey of that value.
      const l = Math.cbrt(munsellValueToLuminance(shown) / 100);
      const {
        r,
        g,
        b: blue,
      } = encodedOf(
        oklabToLinear({
          ...{ l: isLine ? (l > 0.6 ? l - 0.35 : l + 0.35) : l },
          ...{ a: (a - middle.a) * gain.colour, b: (b - middle.b) * gain.colour },
        }),
      );
      data.set([255 * r, 255 * g, 255 * blue, 255], (y * width + x) * 4);
    }
  return { width, height, data };
}

/** What lies within a mask, and no more around it than has to. */
function croppedTo(
  { width, height, data }: Pixels,
  mask: Uint8Array,
): { readonly pixels: Pixels; readonly mask: Uint8Array } | undefined {
  let [left, top, right, bottom] = [width, height, -1, -1];
  for (let pixel = 0; pixel < mask.length; pixel += 1) {
    if (mask[pixel] === 0) continue;
    const [x, y] = [pixel % width, Math.floor(pixel / width)];
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  }
  if (right < left) return undefined;
  const [wide, high] = [right - left + 1, bottom - top + 1];
  const part = new Uint8ClampedArray(wide * high * 4);
  const partMask = new Uint8Array(wide * high);
  for (let row = 0; row < high; row += 1) {
    const from = (top + row) * width + left;
    part.set(data.subarray(from * 4, (from + wide) * 4), row * wide * 4);
    partMask.set(mask.subarray(from, from + wide), row * wide);
  }
  return { pixels: { width: wide, height: high, data: part }, mask: partMask };
}

const quantile = (sorted: Float32Array, share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.max(0, Math.round(share * (sorted.length - 1))))]!;

/**
 * Stretches what shifts a little within a region until it can be seen, and says what it is.
 *
 * @param mask - a byte a pixel: 0 for what is not the region
 * @returns undefined where there is too little of it
 */
export function seeSubtle(all: Pixels, allMask: Uint8Array): Subtleties | undefined {
  const cropped = croppedTo(all, allMask);
  if (!cropped) return undefined;
  const { pixels, mask } = cropped;
  const { width, height } = pixels;
  const side = Math.max(1, Math.ceil(Math.max(width, height) / SQUARES));
  const squares = squaresOf(pixels, mask, side);
  if (squares.length < 4) return undefined;
  const values = smoothValues(pixels, mask, Math.max(1, side >> 2));
  const sorted = values.filter((value) => !Number.isNaN(value)).sort();
  const [low, high] = [quantile(sorted, ENDS), quantile(sorted, 1 - ENDS)];
  const labs = squares.map(({ rgb }) => rgbToOklab(rgb));
  const mean = { a: 0, b: 0 };
  for (const { a, b } of labs) {
    mean.a += a / labs.length;
    mean.b += b / labs.length;
  }
  const spreads = Float32Array.from(labs, ({ a, b }) => Math.hypot(a - mean.a, b - mean.b)).sort();
  const gain = {
    value: Math.min(MOST_GAIN, Math.max(1, FILLED.value / Math.max(1e-3, high - low))),
    colour: Math.min(MOST_GAIN, Math.max(1, FILLED.colour / 2 / Math.max(1e-4, quantile(spreads, 1 - ENDS)))),
  };
  const lineStep = STEPS_OF_LINES.find((step) => (high - low) / step <= LINES) ?? 2;
  const [first, last] = endsOf(squares).map(middleOf) as [
    ReturnType<typeof middleOf>,
    ReturnType<typeof middleOf>,
  ];
  return {
    ...stretched(pixels, values, { gain, lineStep, middle: { value: (low + high) / 2, ...mean } }),
    ...{ gain, lineStep, valueRange: high - low },
    ...{ from: { x: first.x, y: first.y }, to: { x: last.x, y: last.y } },
    shift: compareColours(first.rgb, last.rgb),
    jumps: jumpsOf(squares),
  };
}
