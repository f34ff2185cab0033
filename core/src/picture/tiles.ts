/** Side of a tile, pixels. */
export const TILE_PX = 512;

/** A picture with more pixels, or a longer side, is shown by tiles beyond the ladder: no browser decodes it whole. */
const WHOLE_MOST_PIXELS = 26_000_000;
const WHOLE_MOST_SIDE = 8_000;

export const needsTiles = (width: number, height: number): boolean =>
  width * height > WHOLE_MOST_PIXELS || Math.max(width, height) > WHOLE_MOST_SIDE;

/** One level of a pyramid: pixels, and how many tiles they make. */
export interface TileGrid {
  readonly width: number;
  readonly height: number;
  readonly columns: number;
  readonly rows: number;
}

export const tileGridOf = (width: number, height: number): TileGrid => ({
  width,
  height,
  columns: Math.ceil(width / TILE_PX),
  rows: Math.ceil(height / TILE_PX),
});

/** Every level of a whole pyramid, finest first, down to the one that is a single tile. */
export function pyramidOf(width: number, height: number): TileGrid[] {
  const levels = [tileGridOf(width, height)];
  for (let last = levels[0]!; last.columns > 1 || last.rows > 1; last = levels.at(-1)!)
    levels.push(tileGridOf(Math.ceil(last.width / 2), Math.ceil(last.height / 2)));
  return levels;
}

/** Which tiles of a level a part of the picture touches. `part` is in fractions 0..1 of the picture. */
export function tilesWithin(
  grid: TileGrid,
  part: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
): { column: number; row: number }[] {
  const first = (at: number, size: number) => Math.max(0, Math.floor((at * size) / TILE_PX));
  const last = (at: number, size: number, count: number) =>
    Math.min(count - 1, Math.ceil((at * size) / TILE_PX) - 1);
  const tiles: { column: number; row: number }[] = [];
  for (
    let row = first(part.y, grid.height);
    row <= last(part.y + part.height, grid.height, grid.rows);
    row += 1
  ) {
    const end = last(part.x + part.width, grid.width, grid.columns);
    for (let column = first(part.x, grid.width); column <= end; column += 1) tiles.push({ column, row });
  }
  return tiles;
}

/** The part of the picture that a tile shows, fractions 0..1; tiles at the right and lower edges are smaller. */
export function tilePart(
  grid: TileGrid,
  column: number,
  row: number,
): { x: number; y: number; width: number; height: number } {
  const [left, top] = [column * TILE_PX, row * TILE_PX];
  return {
    x: left / grid.width,
    y: top / grid.height,
    width: Math.min(TILE_PX, grid.width - left) / grid.width,
    height: Math.min(TILE_PX, grid.height - top) / grid.height,
  };
}
