import Flatbush from 'flatbush';
import {
  centreOf,
  distance,
  inflate,
  overlaps,
  type Point,
  type Rectangle,
  rectangleAround,
} from '../geometry/index.ts';

/** Space between pictures that arrive together, board units at zoom 1. */
const GAP = 12;
/** Neighbours whose size new pictures take on. */
const NEIGHBOURS = 5;
/** How many standing rectangles near the pointer are considered for edges to lie along. */
const EDGES_CONSIDERED = 60;

/** What overlaps by less than this, board units, touches: sums of halves are seldom exact. */
const TOUCH = 1e-6;

export interface Shape {
  readonly width: number;
  readonly height: number;
}

/** Share of the view, each way, that an arrival on an empty board fills at most. */
const FILL = 0.92;

/** Edge of a square with the median area of the pictures near the pointer, board units; undefined where there are none. */
function edgeOfNeighbours(
  pointer: Point,
  view: Rectangle,
  placements: readonly Rectangle[],
): number | undefined {
  const near = [...placements]
    .filter((placement) => overlaps(placement, inflate(view, Math.max(view.width, view.height))))
    .sort((a, b) => distance(centreOf(a), pointer) - distance(centreOf(b), pointer))
    .slice(0, NEIGHBOURS)
    .map((placement) => Math.sqrt(placement.width * placement.height))
    .sort((a, b) => a - b);
  return near[Math.floor(near.length / 2)];
}

/** Lays shapes of equal area in centred rows, the block of roughly the given aspect and centred on (0, 0). */
function rowsOf(shapes: readonly Shape[], edge: number, gap: number, aspect: number): Rectangle[] {
  const sizes = shapes.map(({ width, height }) => {
    const factor = edge / Math.sqrt(width * height);
    return { width: width * factor, height: height * factor };
  });
  const area = sizes.reduce((sum, size) => sum + (size.width + gap) * (size.height + gap), 0);
  const across = Math.sqrt(area * aspect) * 1.1;
  const rows: Shape[][] = [[]];
  let used = 0;
  for (const size of sizes) {
    if (used > 0 && used + size.width > across) {
      rows.push([]);
      used = 0;
    }
    rows[rows.length - 1]!.push(size);
    used += size.width + gap;
  }
  const heights = rows.map((row) => Math.max(...row.map((size) => size.height)));
  const total = heights.reduce((sum, height) => sum + height, 0) + gap * (rows.length - 1);
  const placed: Rectangle[] = [];
  let y = -total / 2;
  rows.forEach((row, index) => {
    let x = -(row.reduce((sum, size) => sum + size.width, 0) + gap * (row.length - 1)) / 2;
    for (const size of row) {
      placed.push({ x, y: y + (heights[index]! - size.height) / 2, ...size });
      x += size.width + gap;
    }
    y += heights[index]! + gap;
  });
  return placed;
}

/**
 * Centre for a `width` × `height` block, as near to `pointer` as it can lie without overlapping any of `standing`.
 * Exact for the rectangles near the pointer: the nearest free place touches edges of the standing ones grown by half
 * the block, or is the pointer itself.
 */
export function freeCentre(pointer: Point, shape: Shape, standing: readonly Rectangle[], gap: number): Point {
  if (standing.length === 0) return pointer;
  const grown = standing.map((r) =>
    rectangleAround(centreOf(r), r.width + shape.width + 2 * gap, r.height + shape.height + 2 * gap),
  );
  const index = new Flatbush(grown.length);
  for (const r of grown) index.add(r.x + TOUCH, r.y + TOUCH, r.x + r.width - TOUCH, r.y + r.height - TOUCH);
  index.finish();
  const isFree = ({ x, y }: Point) => index.search(x, y, x, y).length === 0;
  if (isFree(pointer)) return pointer;
  const near = index.neighbors(pointer.x, pointer.y, EDGES_CONSIDERED).map((at) => grown[at]!);
  const xs = [pointer.x, ...near.flatMap((r) => [r.x, r.x + r.width])];
  const ys = [pointer.y, ...near.flatMap((r) => [r.y, r.y + r.height])];
  const candidates = xs.flatMap((x) => ys.map((y) => ({ x, y })));
  candidates.sort((a, b) => distance(a, pointer) - distance(b, pointer));
  const found = candidates.find(isFree);
  if (found !== undefined) return found;
  const right = grown.reduce((most, r) => Math.max(most, r.x + r.width), pointer.x);
  return { x: right, y: pointer.y };
}

/** Size of the smallest rectangle about (0, 0) that holds them all. */
const blockOf = (rows: readonly Rectangle[]): Shape => ({
  width: 2 * Math.max(...rows.map((r) => Math.max(-r.x, r.x + r.width))),
  height: 2 * Math.max(...rows.map((r) => Math.max(-r.y, r.y + r.height))),
});

/**
 * Where pictures that arrive together stand: at the size (area) of their neighbours, beside each other, in free space
 * as near to the pointer as can be.
 *
 * @param shapes - pixel sizes of the upright pictures, both sides > 0
 * @param pointer - board units
 * @param view - the part of the board in view
 * @param placements - bounds of the standing pictures
 * @param standing - bounds of everything that stands on the board
 * @returns one rectangle a shape, in their order, aspect kept
 */
export function arrange(
  shapes: readonly Shape[],
  pointer: Point,
  view: Rectangle,
  placements: readonly Rectangle[],
  standing: readonly Rectangle[],
): Rectangle[] {
  if (shapes.length === 0) return [];
  // Nothing near: a quarter of the view for one; many share the view, so that all of them are seen at once.
  const neighbours = edgeOfNeighbours(pointer, view, placements);
  const edge = neighbours ?? Math.sqrt(view.width * view.height * Math.min(0.25, 0.8 / shapes.length));
  const gap = Math.min(GAP, edge * 0.08);
  let rows = rowsOf(shapes, edge, gap, view.width / view.height);
  let block = blockOf(rows);
  const excess = Math.max(block.width / (FILL * view.width), block.height / (FILL * view.height));
  if (neighbours === undefined && excess > 1) {
    rows = rows.map((r) => ({
      x: r.x / excess,
      y: r.y / excess,
      width: r.width / excess,
      height: r.height / excess,
    }));
    block = blockOf(rows);
  }
  const centre = freeCentre(pointer, block, standing, gap);
  return rows.map((r) => ({ ...r, x: r.x + centre.x, y: r.y + centre.y }));
}
