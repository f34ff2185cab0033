/** Luminance of a picture, 0..1 or any other scale, row by row. */
export interface Plane {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

/** Edge of a tile, pixels: holds several periods of the coarsest band. */
const TILE_PX = 32;
/** Octaves that are looked at; the finest covers 0.25 to 0.5 cycles per pixel, each further one half of that. */
const BANDS = 5;
/** Where the finest band has its middle, cycles per pixel (geometric mean of 0.25 and 0.5). */
const FINEST = Math.SQRT1_2 / 2;
/** Contrast left, by that of the coarse bands, at which detail counts as gone. Source: the ISO 12233 practice of MTF50, lower because tiles hold texture and not edges. */
const GONE = 0.3;
/** Share of the tiles from which noise is read: the calmest. */
const CALM = 0.1;
/** Share of the tiles that speak for a region: what is meant is sharp, the ground behind it need not be. */
const SPEAKING = 0.25;
/** Contrast energy below which a tile shows nothing, for luminance 0..1: half a level of 255. */
const NOTHING = (0.5 / 255) ** 2;

/** Halves a plane, each pixel the mean of four. */
function halved({ width, height, data }: Plane): Plane {
  const [w, h] = [Math.max(1, width >> 1), Math.max(1, height >> 1)];
  const half = new Float32Array(w * h);
  for (let y = 0; y < h; y += 1) {
    const [top, bottom] = [2 * y * width, Math.min(height - 1, 2 * y + 1) * width];
    for (let x = 0; x < w; x += 1) {
      const right = Math.min(width - 1, 2 * x + 1);
      half[y * w + x] =
        (data[top + 2 * x]! + data[top + right]! + data[bottom + 2 * x]! + data[bottom + right]!) / 4;
    }
  }
  return { width: w, height: h, data: half };
}

/**
 * Contrast energy of one octave in every tile: the mean square of what halving throws away (Haar details), which is
 * white for white noise: an octave further down holds a quarter of it.
 */
function energies(plane: Plane, columns: number, rows: number, scale: number): Float64Array {
  const sums = new Float64Array(columns * rows);
  const counts = new Float64Array(columns * rows);
  const { width, height, data } = plane;
  for (let y = 0; y + 1 < height; y += 2) {
    const row = Math.min(rows - 1, Math.floor((y * scale) / TILE_PX));
    for (let x = 0; x + 1 < width; x += 2) {
      const at = y * width + x;
      const [a, b, c, d] = [data[at]!, data[at + 1]!, data[at + width]!, data[at + width + 1]!];
      const mean = (a + b + c + d) / 4;
      const tile = row * columns + Math.min(columns - 1, Math.floor((x * scale) / TILE_PX));
      sums[tile]! += ((a - mean) ** 2 + (b - mean) ** 2 + (c - mean) ** 2 + (d - mean) ** 2) / 3;
      counts[tile]! += 1;
    }
  }
  return sums.map((sum, index) => (counts[index] ? sum / counts[index]! : 0));
}

/** Energies of the octaves in each tile of a picture, the finest first, with the noise already taken off. */
export interface Detail {
  readonly columns: number;
  readonly rows: number;
  readonly bands: readonly Float64Array[];
}

const quantile = (values: Float64Array, share: number): number =>
  Float64Array.from(values).sort()[Math.floor((values.length - 1) * share)] ?? 0;

/** Looks at the detail of a plane, 0..1, tile by tile. @throws RangeError for a plane without pixels */
export function detailOf(plane: Plane): Detail {
  const { width, height, data } = plane;
  if (!(width > 0 && height > 0) || data.length !== width * height)
    throw new RangeError(`A plane of ${width} × ${height} cannot have ${data.length} values`);
  const columns = Math.max(1, Math.round(width / TILE_PX));
  const rows = Math.max(1, Math.round(height / TILE_PX));
  const bands: Float64Array[] = [];
  let level = plane;
  for (let band = 0; band < BANDS; band += 1) {
    bands.push(energies(level, columns, rows, 2 ** band));
    level = halved(level);
  }
  // White noise of variance v leaves v in the finest band, v/4 in the next. Where the calmest tiles hold more than
  // that further down they show a slope, not noise.
  const noise = Math.min(...bands.slice(0, 3).map((energy, band) => quantile(energy, CALM) * 4 ** band));
  return {
    ...{ columns, rows },
    bands: bands.map((energy, band) => energy.map((value) => Math.max(0, value - noise / 4 ** band))),
  };
}

/** Part of a picture, 0..1 of its sides. */
export interface Part {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

const WHOLE_PART: Part = { x: 0, y: 0, width: 1, height: 1 };

/** Numbers of the tiles that lie in a part, at least one. */
function tilesIn({ columns, rows }: Detail, part: Part): number[] {
  const within = (count: number, from: number, size: number): [number, number] => {
    const first = Math.min(count - 1, Math.max(0, Math.round(from * count)));
    return [first, Math.max(first + 1, Math.min(count, Math.round((from + size) * count)))];
  };
  const [left, right] = within(columns, part.x, part.width);
  const [top, bottom] = within(rows, part.y, part.height);
  const tiles: number[] = [];
  for (let row = top; row < bottom; row += 1)
    for (let column = left; column < right; column += 1) tiles.push(row * columns + column);
  return tiles;
}

/**
 * How fine the detail of a part is: the frequency, in cycles per pixel (0.5 is the most that pixels can hold), up to
 * which contrast stands out of the picture's own noise. Natural surfaces hold about as much contrast in every octave
 * (D. J. Field, "Relations between the statistics of natural images", 1987), so an octave with far less than the
 * coarser ones has lost it.
 *
 * @returns cycles per pixel, 0 where there is nothing to see
 */
export function sharpnessOf(detail: Detail, part: Part = WHOLE_PART): number {
  const { bands } = detail;
  const tiles = tilesIn(detail, part);
  const coarse = (tile: number) =>
    bands[BANDS - 1]![tile]! + bands[BANDS - 2]![tile]! + bands[BANDS - 3]![tile]!;
  // Tiles with the most fine detail speak: an even ground says nothing about focus.
  const speaking = [...tiles]
    .sort((one, two) => bands[1]![two]! + bands[0]![two]! - bands[1]![one]! - bands[0]![one]!)
    .slice(0, Math.max(1, Math.round(tiles.length * SPEAKING)));
  const energy = bands.map((band) => speaking.reduce((sum, tile) => sum + band[tile]!, 0) / speaking.length);
  const reference = speaking.reduce((sum, tile) => sum + coarse(tile), 0) / speaking.length / 3;
  if (reference < NOTHING) return 0;
  const contrast = energy.map((value) => Math.sqrt(value / reference));
  // Into the finest octave as far as its contrast reaches that of the coarse ones.
  if (contrast[0]! >= GONE) return Math.min(0.5, FINEST * 2 ** (((contrast[0]! - GONE) / (1 - GONE)) * 0.5));
  // The octave where it goes, and how far into it, along a straight line of log frequency.
  for (let band = 1; band < BANDS; band += 1) {
    const [fine, coarser] = [contrast[band - 1]!, contrast[band]!];
    if (coarser < GONE) continue;
    const into = (coarser - GONE) / Math.max(1e-9, coarser - fine);
    return FINEST / 2 ** (band - into);
  }
  return FINEST / 2 ** (BANDS - 1);
}

/** Largest good print of so many pixels, inches: at `ppi`, by the pixels alone and by the detail that they hold. */
export function printInches(
  pixels: number,
  ppi: number,
  sharpness: number,
): { readonly byPixels: number; readonly byDetail: number } {
  if (!(ppi > 0)) throw new RangeError(`Pixels per inch must be above 0, got ${ppi}`);
  return { byPixels: pixels / ppi, byDetail: (pixels * Math.min(1, 2 * sharpness)) / ppi };
}
