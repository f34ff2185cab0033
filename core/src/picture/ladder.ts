/** Longest sides of the copies kept of a picture, pixels. */
export const LADDER_SIDES: readonly number[] = [128, 256, 512, 1024, 2048];

/** Cell sides of the copies packed into atlases, pixels. */
export const ATLAS_CELLS = [32, 64] as const;

/** Cells along each side of an atlas: 32 × 32 cells hold 1,024 pictures in one request. */
export const ATLAS_CELLS_ACROSS = 32;

/** One stored copy: its longest side in pixels, the SHA-256 of its bytes (hex), their number. */
export interface Level {
  readonly side: number;
  readonly hash: string;
  readonly bytes: number;
}

/**
 * Longest sides of the ladder of a `width` × `height` picture (pixels, upright): none larger than the picture, the
 * top one native where the picture itself is 2048 or less.
 * @throws RangeError when a side is not a positive whole number
 */
export function ladderSidesOf(width: number, height: number): number[] {
  if (!(Number.isInteger(width) && Number.isInteger(height) && width > 0 && height > 0)) {
    throw new RangeError(`a picture has whole positive sides, got ${width} × ${height}`);
  }
  const longest = Math.max(width, height);
  const smaller = LADDER_SIDES.filter((side) => side < longest);
  const top = LADDER_SIDES[LADDER_SIDES.length - 1]!;
  return longest <= top
    ? [...smaller, longest]
    : smaller.length === LADDER_SIDES.length
      ? smaller
      : [...smaller, top];
}

/** Pixel size of a copy whose longest side is `side`; the shorter one is at least 1. */
export function sizeAtSide(width: number, height: number, side: number): { width: number; height: number } {
  const factor = side / Math.max(width, height);
  return {
    width: Math.max(1, Math.round(width * factor)),
    height: Math.max(1, Math.round(height * factor)),
  };
}

/** The smallest side that is ≥ `neededPx` device pixels, else the largest there is; `undefined` for none. */
export function sufficientSide(sides: readonly number[], neededPx: number): number | undefined {
  let best: number | undefined;
  for (const side of sides) {
    if (best === undefined) best = side;
    else if (best < neededPx ? side > best : side >= neededPx && side < best) best = side;
  }
  return best;
}

/** Top left corner, in pixels, of the cell with number `slot` (0 ..< 1,024) in an atlas with cells of `cell` px. */
export function atlasCellOrigin(slot: number, cell: number): { x: number; y: number } {
  if (!(Number.isInteger(slot) && slot >= 0 && slot < ATLAS_CELLS_ACROSS ** 2)) {
    throw new RangeError(`atlas slot out of range: ${slot}`);
  }
  return { x: (slot % ATLAS_CELLS_ACROSS) * cell, y: Math.floor(slot / ATLAS_CELLS_ACROSS) * cell };
}
