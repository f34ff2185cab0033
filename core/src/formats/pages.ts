/** Papers that printers hold, mm, upright. Sources: ISO 216:2007; ANSI/ASME Y14.1. */
export const PAPERS_MM = {
  A4: { width: 210, height: 297 },
  A3: { width: 297, height: 420 },
  A2: { width: 420, height: 594 },
  Letter: { width: 215.9, height: 279.4 },
  Tabloid: { width: 279.4, height: 431.8 },
} as const;
export type PaperName = keyof typeof PAPERS_MM;
export const PAPER_NAMES = Object.keys(PAPERS_MM) as PaperName[];

/** What no printer at home reaches, mm. */
export const PAGE_MARGIN_MM = 8;
/** PDF viewers of ISO 32000-1:2008, annex C, show pages of up to 14,400 units of 1/72 inch. */
export const MOST_PAGE_MM = 5_080;

/** One page of a picture that is larger than the paper; mm, y down. */
export interface PageTile {
  /** "B3": the column's letter, the row's number. */
  readonly name: string;
  /** The part of the picture that is on it. */
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** Of that part so much is on the page before it, too. */
  readonly left: number;
  readonly top: number;
}

export interface Tiling {
  /** Of a page, mm; it lies on its side where fewer are needed then. */
  readonly page: { readonly width: number; readonly height: number };
  readonly columns: number;
  readonly rows: number;
  /** Row by row. */
  readonly tiles: readonly PageTile[];
}

/** "A" … "Z", "AA" … */
function letters(index: number): string {
  const rest = String.fromCharCode(65 + (index % 26));
  return index < 26 ? rest : letters(Math.floor(index / 26) - 1) + rest;
}

const countOf = (length: number, room: number, overlap: number): number =>
  Math.max(1, Math.ceil((length - overlap) / (room - overlap) - 1e-9));

function tilingOn(
  size: { readonly width: number; readonly height: number },
  page: { readonly width: number; readonly height: number },
  overlap: number,
): Tiling {
  const room = { width: page.width - 2 * PAGE_MARGIN_MM, height: page.height - 2 * PAGE_MARGIN_MM };
  const columns = countOf(size.width, room.width, overlap);
  const rows = countOf(size.height, room.height, overlap);
  const tiles = Array.from({ length: columns * rows }, (_, index): PageTile => {
    const [column, row] = [index % columns, Math.floor(index / columns)];
    const [x, y] = [column * (room.width - overlap), row * (room.height - overlap)];
    return {
      ...{ name: `${letters(column)}${row + 1}`, x, y },
      width: Math.min(room.width, size.width - x),
      height: Math.min(room.height, size.height - y),
      ...{ left: column > 0 ? overlap : 0, top: row > 0 ? overlap : 0 },
    };
  });
  return { page, columns, rows, tiles };
}

/**
 * How a picture is spread over sheets of paper at its true size, neighbours overlapping so that they can be glued.
 *
 * @param size - of the picture, mm
 * @param overlap - mm; less than a third of the paper's shorter side
 * @throws RangeError for an overlap that leaves no room
 */
export function tilePages(
  size: { readonly width: number; readonly height: number },
  paper: PaperName,
  overlap: number,
): Tiling {
  const { width, height } = PAPERS_MM[paper];
  if (overlap < 0 || overlap > width / 3)
    throw new RangeError(`overlap ${overlap} mm on paper ${width} mm wide`);
  const upright = tilingOn(size, { width, height }, overlap);
  const lying = tilingOn(size, { width: height, height: width }, overlap);
  return lying.tiles.length < upright.tiles.length ? lying : upright;
}
