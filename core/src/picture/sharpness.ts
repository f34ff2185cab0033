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
/** Noise differs from tile to tile: so much of it is taken off. */
const MARGIN = 1.6;
/** Share of the tiles that speak for a region: what is meant is sharp, the ground behind it need not be. */
const SPEAKING = 0.25;
/** Contrast energy below which a tile shows nothing, for luminance 0..1: half a level of 255. */
const NOTHING = (0.5 / 255) ** 2;

/**
 * The half-band low-pass (−1 0 9 16 9 0 −1) / 32, flat to the third order: a slope leaves no detail behind, and what is an
 * octave lower a ninth. Source: P. Burt and E. Adelson's pyramid (1983) with the filter of R. Ansari, C. Guillemot and J.
 * Kaiser, "Wavelet construction using Lagrange halfband filters", 1991, N = 2.
 */
const [MIDDLE, NEXT, FAR] = [16 / 32, 9 / 32, -1 / 32];
const SQUARES = MIDDLE ** 2 + 2 * NEXT ** 2 + 2 * FAR ** 2;
/** Of white noise of variance 1: what the low-pass leaves of it in two directions, and what detail holds. */
const NOISE_BELOW = SQUARES ** 2;
const NOISE_IN_DETAIL = 1 - 2 * MIDDLE ** 2 + NOISE_BELOW;

/** Filters every row; edges are repeated. */
function rowsFiltered({ width, height, data }: Plane): Float32Array {
  const filtered = new Float32Array(data.length);
  for (let y = 0; y < height; y += 1) {
    const row = y * width;
    const at = (x: number) => data[row + Math.min(width - 1, Math.max(0, x))]!;
    for (let x = 0; x < width; x += 1)
      filtered[row + x] =
        x >= 3 && x < width - 3
          ? MIDDLE * data[row + x]! +
            NEXT * (data[row + x - 1]! + data[row + x + 1]!) +
            FAR * (data[row + x - 3]! + data[row + x + 3]!)
          : MIDDLE * at(x) + NEXT * (at(x - 1) + at(x + 1)) + FAR * (at(x - 3) + at(x + 3));
  }
  return filtered;
}

interface Octave {
  /** Mean square of the detail in every tile. */
  readonly energy: Float64Array;
  /** What is left below it, at half the size. */
  readonly below: Plane;
}

/** Takes the uppermost octave off a plane. @param scale - pixels of the picture that one of the plane stands for */
function octaveOf(plane: Plane, columns: number, rows: number, scale: number): Octave {
  const { width, height, data } = plane;
  const across = rowsFiltered(plane);
  const sums = new Float64Array(columns * rows);
  const counts = new Float64Array(columns * rows);
  const [w, h] = [Math.ceil(width / 2), Math.ceil(height / 2)];
  const below = new Float32Array(w * h);
  const column = Int32Array.from({ length: width }, (_, x) =>
    Math.min(columns - 1, Math.floor((x * scale) / TILE_PX)),
  );
  const rowAt = (y: number) => Math.min(height - 1, Math.max(0, y)) * width;
  for (let y = 0; y < height; y += 1) {
    const tiles = Math.min(rows - 1, Math.floor((y * scale) / TILE_PX)) * columns;
    const [here, up, down, top, bottom] = [y, y - 1, y + 1, y - 3, y + 3].map(rowAt) as [
      ...[number, number, number, number, number],
    ];
    for (let x = 0; x < width; x += 1) {
      const low =
        MIDDLE * across[here + x]! +
        NEXT * (across[up + x]! + across[down + x]!) +
        FAR * (across[top + x]! + across[bottom + x]!);
      const detail = data[here + x]! - low;
      const tile = tiles + column[x]!;
      sums[tile]! += detail * detail;
      counts[tile]! += 1;
      if ((x & 1) === 0 && (y & 1) === 0) below[(y >> 1) * w + (x >> 1)] = low;
    }
  }
  return {
    energy: sums.map((sum, index) => (counts[index] ? sum / counts[index]! : 0)),
    below: { width: w, height: h, data: below },
  };
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
    const { energy, below } = octaveOf(level, columns, rows, 2 ** band);
    bands.push(energy);
    level = below;
  }
  // White noise leaves a known share in every octave. Where the calmest tiles hold more than that further down they
  // show a slope, not noise.
  const noiseIn = (band: number) => NOISE_IN_DETAIL * NOISE_BELOW ** band;
  const noise = Math.min(...bands.slice(0, 3).map((energy, band) => quantile(energy, CALM) / noiseIn(band)));
  return {
    ...{ columns, rows },
    bands: bands.map((energy, band) =>
      energy.map((value) => Math.max(0, value - MARGIN * noise * noiseIn(band))),
    ),
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
  // Tiles with the most fine detail speak: an even ground says nothing about focus.
  const speaking = [...tiles]
    .sort((one, two) => bands[1]![two]! + bands[0]![two]! - bands[1]![one]! - bands[0]![one]!)
    .slice(0, Math.max(1, Math.round(tiles.length * SPEAKING)));
  const energy = bands.map((band) => speaking.reduce((sum, tile) => sum + band[tile]!, 0) / speaking.length);
  const reference = Math.max(...energy);
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
