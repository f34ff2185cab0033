/**
 * What two copies of one picture share, however they were scaled, saved or turned over: a *hash* to find candidates
 * among very many, and a *print* to decide between them.
 */

/** Sides of the two grids of a print: lightness, and each of two differences of colour. */
const SIDE = 32;
const COLOUR_SIDE = 8;
const CELLS = SIDE * SIDE;
const COLOUR_CELLS = COLOUR_SIDE * COLOUR_SIDE;

/** Bytes of a print: lightness row by row, then blue and red difference, each row by row, 128 for none. */
export const PRINT_BYTES = CELLS + 2 * COLOUR_CELLS;

export type Print = Uint8Array;

/** RGBA, straight alpha, sRGB, row by row. */
export interface SmallPixels {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array | Uint8ClampedArray;
}

/** Averages `channel` over the cells of a grid laid over the whole picture. */
function averaged({ width, height }: SmallPixels, side: number, channel: (at: number) => number) {
  const sums = new Float64Array(side * side);
  const weights = new Float64Array(side * side);
  for (let y = 0; y < height; y += 1) {
    const row0 = (y * side) / height;
    const row1 = ((y + 1) * side) / height;
    for (let x = 0; x < width; x += 1) {
      const value = channel((y * width + x) * 4);
      const column0 = (x * side) / width;
      const column1 = ((x + 1) * side) / width;
      for (let row = Math.floor(row0); row < row1; row += 1) {
        const down = Math.min(row1, row + 1) - Math.max(row0, row);
        for (let column = Math.floor(column0); column < column1; column += 1) {
          const share = down * (Math.min(column1, column + 1) - Math.max(column0, column));
          sums[row * side + column]! += value * share;
          weights[row * side + column]! += share;
        }
      }
    }
  }
  return sums.map((sum, index) => sum / (weights[index] || 1));
}

/**
 * The print of a picture, from a small copy of it (longest side 64 to 256 px is enough). Transparent pixels count as
 * middle grey. Lightness is luma, colours are Cb and Cr (ITU-R BT.601-7, 2.5), which survive JPEG as they are.
 */
export function printOf(pixels: SmallPixels): Print {
  const { data } = pixels;
  const over = (at: number, offset: number) => {
    const opaque = data[at + 3]! / 255;
    return data[at + offset]! * opaque + 128 * (1 - opaque);
  };
  const luma = (at: number) => 0.299 * over(at, 0) + 0.587 * over(at, 1) + 0.114 * over(at, 2);
  const print = new Uint8Array(PRINT_BYTES);
  print.set(averaged(pixels, SIDE, luma).map(Math.round));
  const blue = averaged(pixels, COLOUR_SIDE, (at) => 128 + 0.564 * (over(at, 2) - luma(at)));
  const red = averaged(pixels, COLOUR_SIDE, (at) => 128 + 0.713 * (over(at, 0) - luma(at)));
  print.set(blue.map(Math.round), CELLS);
  print.set(red.map(Math.round), CELLS + COLOUR_CELLS);
  return print;
}

/** Frequencies of the hash in each direction; the mean (0, 0) is left out in favour of (8, 0). */
const FREQUENCIES: readonly (readonly [number, number])[] = Array.from({ length: 64 }, (_, index) =>
  index === 0 ? ([8, 0] as const) : ([index % 8, Math.floor(index / 8)] as const),
);
const COSINES = Array.from({ length: 9 }, (_, frequency) =>
  Float64Array.from({ length: SIDE }, (_, at) => Math.cos((Math.PI * (at + 0.5) * frequency) / SIDE)),
);

/**
 * 64 signs of the lowest frequencies (DCT-II) of a print's lightness, 16 hexadecimal digits. Copies of one picture
 * differ in few of them.
 */
export function likenessHashOf(print: Print): string {
  const signs = FREQUENCIES.map(([across, down]) => {
    let sum = 0;
    for (let row = 0; row < SIDE; row += 1) {
      let line = 0;
      for (let column = 0; column < SIDE; column += 1)
        line += print[row * SIDE + column]! * COSINES[across]![column]!;
      sum += line * COSINES[down]![row]!;
    }
    return sum > 0 ? '1' : '0';
  });
  return BigInt(`0b${signs.join('')}`)
    .toString(16)
    .padStart(16, '0');
}

/** Bits whose pattern is odd across: they change sign in a mirror. */
const ODD_BITS = BigInt(`0b${FREQUENCIES.map(([across]) => across % 2).join('')}`);

/** The hash that the mirrored picture has. */
export const mirroredHash = (hash: string): string =>
  (BigInt(`0x${hash}`) ^ ODD_BITS).toString(16).padStart(16, '0');

/** In how many of 64 bits two hashes differ. */
export function hashDistance(one: string, other: string): number {
  let bits = BigInt(`0x${one}`) ^ BigInt(`0x${other}`);
  let count = 0;
  for (; bits > 0n; bits &= bits - 1n) count += 1;
  return count;
}

/**
 * Bits in which copies may differ. Source: the demo's copies differ in 12 at most (a crop of a seventh); of pictures
 * that are none, one pair in a hundred differs in fewer than 16.
 */
export const CANDIDATE_BITS = 16;

/** How a part of one print lies on the other: shares of its sides. */
interface Cut {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Crops that are looked for: each side keeps at least 84 %, in steps of 4 %, anywhere within. */
const CUTS: readonly Cut[] = [1, 0.96, 0.92, 0.88, 0.84].flatMap((width) =>
  [1, 0.96, 0.92, 0.88, 0.84].flatMap((height) => {
    const places = (side: number) =>
      side === 1 ? [0] : [0, 0.25, 0.5, 0.75, 1].map((at) => at * (1 - side));
    return places(width).flatMap((x) => places(height).map((y) => ({ x, y, width, height })));
  }),
);
const COARSE_SIDE = 16;
/** Steps in which the best of them is then moved and sized, shares of a side. */
const FINE_STEPS = [0.02, 0.01, 0.005];
const MOST_FINE_MOVES = 12;

function mirrorPrint(print: Print): Print {
  const turned = new Uint8Array(PRINT_BYTES);
  for (const [from, side] of [
    [0, SIDE],
    [CELLS, COLOUR_SIDE],
    [CELLS + COLOUR_CELLS, COLOUR_SIDE],
  ] as const) {
    for (let row = 0; row < side; row += 1)
      for (let column = 0; column < side; column += 1)
        turned[from + row * side + column] = print[from + row * side + side - 1 - column]!;
  }
  return turned;
}

/** Lightness of a print, and what stands out in it: cell by cell the difference to its surroundings. */
interface Grid {
  readonly side: number;
  readonly cells: Float64Array;
}

function coarse(print: Print): Grid {
  const cells = new Float64Array(COARSE_SIDE ** 2);
  const step = SIDE / COARSE_SIDE;
  for (let index = 0; index < CELLS; index += 1) {
    const row = Math.floor(Math.floor(index / SIDE) / step);
    cells[row * COARSE_SIDE + Math.floor((index % SIDE) / step)]! += print[index]! / step ** 2;
  }
  return { side: COARSE_SIDE, cells };
}

const fine = (print: Print): Grid => ({ side: SIDE, cells: Float64Array.from(print.subarray(0, CELLS)) });

/** A grid seen through `cut`, by linear interpolation, as a grid of the same side. */
function seenThrough({ side, cells }: Grid, { x, y, width, height }: Cut): Grid {
  const seen = new Float64Array(side * side);
  const position = (index: number, from: number, share: number) =>
    Math.min(side - 1, Math.max(0, (from + ((index + 0.5) / side) * share) * side - 0.5));
  for (let row = 0; row < side; row += 1) {
    const down = position(row, y, height);
    const top = Math.min(side - 2, Math.floor(down));
    for (let column = 0; column < side; column += 1) {
      const across = position(column, x, width);
      const left = Math.min(side - 2, Math.floor(across));
      const at = top * side + left;
      const upper = cells[at]! + (cells[at + 1]! - cells[at]!) * (across - left);
      const lower = cells[at + side]! + (cells[at + side + 1]! - cells[at + side]!) * (across - left);
      seen[row * side + column] = upper + (lower - upper) * (down - top);
    }
  }
  return { side, cells: seen };
}

/** What stands out from the mean of the two cells around; two skies of one colour have nothing in common here. */
function details({ side, cells }: Grid): Float64Array {
  const out = new Float64Array(side * side);
  for (let row = 0; row < side; row += 1) {
    for (let column = 0; column < side; column += 1) {
      let sum = 0;
      let count = 0;
      for (let y = Math.max(0, row - 2); y <= Math.min(side - 1, row + 2); y += 1)
        for (let x = Math.max(0, column - 2); x <= Math.min(side - 1, column + 2); x += 1) {
          sum += cells[y * side + x]!;
          count += 1;
        }
      out[row * side + column] = cells[row * side + column]! - sum / count;
    }
  }
  return out;
}

/** Normalised correlation, -1..1; 0 where one of them is flat. */
function correlationOf(one: Float64Array, other: Float64Array): number {
  const count = one.length;
  let [a, b, aa, bb, ab] = [0, 0, 0, 0, 0];
  for (let index = 0; index < count; index += 1) {
    const p = one[index]!;
    const q = other[index]!;
    a += p;
    b += q;
    aa += p * p;
    bb += q * q;
    ab += p * q;
  }
  const spread = (aa - (a * a) / count) * (bb - (b * b) / count);
  return spread > 0 ? (ab - (a * b) / count) / Math.sqrt(spread) : 0;
}

const moved = ({ x, y, width, height }: Cut, step: number): Cut[] =>
  [
    { x: x + step, y, width, height },
    { x: x - step, y, width, height },
    { x, y: y + step, width, height },
    { x, y: y - step, width, height },
    { x, y, width: width + step, height },
    { x, y, width: width - step, height },
    { x, y, width, height: height + step },
    { x, y, width, height: height - step },
    { x: x - step / 2, y: y - step / 2, width: width + step, height: height + step },
    { x: x + step / 2, y: y + step / 2, width: width - step, height: height - step },
  ].filter((cut) => cut.x >= 0 && cut.y >= 0 && cut.x + cut.width <= 1.0001 && cut.y + cut.height <= 1.0001);

interface Laid {
  readonly correlation: number;
  /** Mean difference of lightness where it lies, 8-bit levels. */
  readonly tone: number;
}

/** How well `whole` through its best cut agrees with `part`: in its details, and in its tones. */
function bestCut(whole: Print, part: Print): Laid {
  const wholeCoarse = coarse(whole);
  const partCoarse = details(coarse(part));
  let cut = CUTS[0]!;
  let best = -1;
  for (const candidate of CUTS) {
    const found = correlationOf(details(seenThrough(wholeCoarse, candidate)), partCoarse);
    if (found > best) [best, cut] = [found, candidate];
  }
  const wholeFine = fine(whole);
  const partFine = details(fine(part));
  const measure = (candidate: Cut) => correlationOf(details(seenThrough(wholeFine, candidate)), partFine);
  best = measure(cut);
  for (const step of FINE_STEPS) {
    for (let moves = 0; moves < MOST_FINE_MOVES; moves += 1) {
      const before = best;
      for (const candidate of moved(cut, step)) {
        const found = measure(candidate);
        if (found > best) [best, cut] = [found, candidate];
      }
      if (best === before) break;
    }
  }
  const laid = seenThrough(wholeFine, cut).cells;
  const tone = laid.reduce((sum, cell, index) => sum + Math.abs(cell - part[index]!), 0) / CELLS;
  return { correlation: best, tone };
}

/** Mean difference of the coarse colours, 8-bit levels. */
function colourDifference(one: Print, other: Print): number {
  let sum = 0;
  for (let index = CELLS; index < PRINT_BYTES; index += 1) sum += Math.abs(one[index]! - other[index]!);
  return sum / (2 * COLOUR_CELLS);
}

export interface Likeness {
  /** Correlation of what stands out where one lies best on the other, -1..1. */
  readonly correlation: number;
  /** Mean difference of lightness there, 8-bit levels. */
  readonly tone: number;
  /** Mean difference of coarse colour, 8-bit levels of Cb and Cr. */
  readonly colour: number;
  readonly isMirrored: boolean;
}

/** How much two prints are alike at best: whole, cropped one from the other, or turned over. */
export function compareLikeness(one: Print, other: Print): Likeness {
  const hash = likenessHashOf(one);
  const otherHash = likenessHashOf(other);
  const isMirrored = hashDistance(mirroredHash(hash), otherHash) < hashDistance(hash, otherHash);
  const turned = isMirrored ? mirrorPrint(one) : one;
  const [there, back] = [bestCut(turned, other), bestCut(other, turned)];
  return {
    ...(there.correlation > back.correlation ? there : back),
    colour: colourDifference(turned, other),
    isMirrored,
  };
}

/**
 * Least correlation, and most difference of tone and colour, of two copies of one picture.
 * Source: the demo's copies of six pictures reach 0.88, 6.8 and 1.3 at worst. Of all others within `CANDIDATE_BITS`, the
 * lantern from opposite sides comes to 0.80, a head in two lights to 0.86, and that differs by 24 in tone at least.
 */
const COPY_CORRELATION = 0.84;
const COPY_TONE = 12;
const COPY_COLOUR = 4;

const isCopy = ({ correlation, tone, colour }: Likeness): boolean =>
  correlation >= COPY_CORRELATION && tone <= COPY_TONE && colour <= COPY_COLOUR;

/** Spread of lightness, 8-bit levels, below which a picture is a flat field: it is like every other one. */
const FLAT_SPREAD = 1.5;

function isFlat(print: Print): boolean {
  const cells = print.subarray(0, CELLS);
  const mean = cells.reduce((sum, cell) => sum + cell, 0) / CELLS;
  return cells.reduce((sum, cell) => sum + Math.abs(cell - mean), 0) / CELLS < FLAT_SPREAD;
}

/** Whether two prints are those of copies, turned over or not; undefined for different pictures, and for flat fields. */
export function copyBetween(one: Print, other: Print): Likeness | undefined {
  const hash = likenessHashOf(one);
  const otherHash = likenessHashOf(other);
  const bits = Math.min(hashDistance(hash, otherHash), hashDistance(mirroredHash(hash), otherHash));
  if (bits > CANDIDATE_BITS || isFlat(one) || isFlat(other)) return undefined;
  const isMirrored = hashDistance(hash, otherHash) !== bits;
  // What is decided quickly: laying one over the other takes a hundred times as long.
  if (colourDifference(isMirrored ? mirrorPrint(one) : one, other) > COPY_COLOUR) return undefined;
  const likeness = compareLikeness(one, other);
  return isCopy(likeness) ? likeness : undefined;
}
