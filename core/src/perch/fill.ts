import type { Rectangle, Viewport } from '../geometry/index.ts';

/** More are parted into rows evenly; fewer are tried in every way that keeps their order. */
const MOST_TRIED = 10;

/** Cuts a list of aspects into `rows` runs whose sums are as even as their order allows. */
function evenRows(aspects: readonly number[], rows: number): number[][] {
  const total = aspects.reduce((sum, aspect) => sum + aspect, 0);
  const cut: number[][] = [];
  let sum = 0;
  for (const [index, aspect] of aspects.entries()) {
    const middle = sum + aspect / 2;
    const row = Math.min(rows - 1, Math.floor((middle / total) * rows));
    const at = Math.max(0, cut.length - 1);
    if (cut.length === 0 || (row > at && cut.length < rows)) cut.push([index]);
    else cut[at]!.push(index);
    sum += aspect;
  }
  return cut;
}

/** Every way to cut so many into runs, in their order. */
function* allRows(count: number): Generator<number[][]> {
  for (let cuts = 0; cuts < 2 ** (count - 1); cuts += 1) {
    const rows: number[][] = [[0]];
    for (let index = 1; index < count; index += 1) {
      if (cuts & (1 << (index - 1))) rows.push([index]);
      else rows.at(-1)!.push(index);
    }
    yield rows;
  }
}

/** Rows of equal width, each as high as its pictures are then; scaled to fit, in the middle. */
function placeRows(
  rows: readonly (readonly number[])[],
  aspects: readonly number[],
  { width, height }: Viewport,
  gap: number,
): Rectangle[] | undefined {
  const gapsOf = (row: readonly number[]) => gap * (row.length - 1);
  const sumOf = (row: readonly number[]) => row.reduce((sum, index) => sum + aspects[index]!, 0);
  const room = height - gap * (rows.length - 1);
  if (room <= 0 || rows.some((row) => width <= gapsOf(row))) return undefined;
  const natural = rows.map((row) => (width - gapsOf(row)) / sumOf(row));
  const all = natural.reduce((sum, high) => sum + high, 0);
  const factor = Math.min(1, room / all);
  const heights = natural.map((high) => high * factor);
  let y = (height - (all * factor + gap * (rows.length - 1))) / 2;
  const places: Rectangle[] = [];
  for (const [at, row] of rows.entries()) {
    const high = heights[at]!;
    let x = (width - (sumOf(row) * high + gapsOf(row))) / 2;
    for (const index of row) {
      const wide = aspects[index]! * high;
      places[index] = { x, y, width: wide, height: high };
      x += wide + gap;
    }
    y += high + gap;
  }
  return places;
}

const areaOf = (places: readonly Rectangle[]) =>
  places.reduce((sum, { width, height }) => sum + width * height, 0);

/**
 * Lays pictures into a window as large as they can be in rows, in their order: of all ways to cut them into rows (of even
 * ones, where they are many) the one that leaves the least of the window empty.
 *
 * @param aspects - width by height of each, > 0
 * @param window - any unit; the places are in it
 * @param gap - space between them, the same unit; less where there is no room for it
 * @returns a place for each, within the window, none over another
 * @throws RangeError for an aspect or a window that is not positive
 */
export function fillWindow(aspects: readonly number[], window: Viewport, gap: number): Rectangle[] {
  const isWrong = (value: number) => !(value > 0 && Number.isFinite(value));
  if (isWrong(window.width) || isWrong(window.height) || aspects.some(isWrong))
    throw new RangeError('aspects and the sides of the window must be positive');
  if (aspects.length === 0) return [];
  const ways =
    aspects.length <= MOST_TRIED
      ? [...allRows(aspects.length)]
      : aspects.map((_, index) => evenRows(aspects, index + 1));
  let best: Rectangle[] | undefined;
  for (const rows of ways) {
    const places = placeRows(rows, aspects, window, gap);
    if (places && (!best || areaOf(places) > areaOf(best))) best = places;
  }
  return best ?? fillWindow(aspects, window, 0);
}
