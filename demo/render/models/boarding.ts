import type { Point } from '../camera.ts';
import { placed } from '../mesh.ts';
import { hash01 } from '../noise.ts';
import type { Workshop } from './parts.ts';

/** A hole in a wall; its lower left corner from the middle of the wall's foot, metres. */
export interface Opening {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly door?: boolean;
}

const ROW_M = 0.165;

/** Lapped boards on a wall that faces +z, its foot along x; `gable` is how far it goes on, narrowing, above. */
export function wallOfBoards(
  shop: Workshop,
  width: number,
  height: number,
  openings: readonly Opening[],
  gable = 0,
): void {
  for (let row = 0; row * ROW_M < height + gable - 0.05; row += 1) {
    const y = row * ROW_M;
    const above = Math.max(0, y + ROW_M / 2 - height);
    const half = (width / 2) * (gable > 0 ? 1 - above / gable : 1);
    for (const [from, to] of gapsIn(-half, half, y, openings)) {
      if (to - from < 0.04) continue;
      const skew = 0.35 * (hash01(row, Math.round(from * 50)) - 0.5);
      const centre: Point = [(from + to) / 2, y + ROW_M / 2, 0.012];
      shop.box('siding', centre, [to - from - 0.004, ROW_M + 0.02, 0.022], [-5, 0, skew], 0.005);
    }
  }
  for (const opening of openings) {
    if (opening.door) hangDoor(shop, opening);
    else fitWindow(shop, opening);
  }
}

/** What is left of a row of boards between openings. */
function gapsIn(
  from: number,
  to: number,
  y: number,
  openings: readonly Opening[],
): (readonly [number, number])[] {
  const cut = openings.filter((opening) => y + ROW_M > opening.y && y < opening.y + opening.height);
  const left: [number, number][] = [];
  let at = from;
  for (const { x, width } of cut) {
    left.push([at, x]);
    at = x + width;
  }
  left.push([at, to]);
  return left;
}

function frame(shop: Workshop, { x, y, width, height }: Opening): void {
  const bar = 0.055;
  shop.box('whitewash', [x, y + height / 2, 0.03], [bar, height + bar, 0.07]);
  shop.box('whitewash', [x + width, y + height / 2, 0.03], [bar, height + bar, 0.07]);
  shop.box('whitewash', [x + width / 2, y + height, 0.03], [width + bar, bar, 0.07]);
}

function fitWindow(shop: Workshop, opening: Opening): void {
  const { x, y, width, height } = opening;
  frame(shop, opening);
  shop.box('whitewash', [x + width / 2, y, 0.045], [width + 0.14, 0.05, 0.12]);
  shop.box('whitewash', [x + width / 2, y + height / 2, 0.005], [0.028, height, 0.035]);
  shop.box('whitewash', [x + width / 2, y + height / 2, 0.005], [width, 0.028, 0.035]);
  shop.box('pane', [x + width / 2, y + height / 2, -0.02], [width, height, 0.012]);
}

function hangDoor(shop: Workshop, opening: Opening): void {
  const { x, y, width, height } = opening;
  frame(shop, opening);
  const leaf = shop.within(placed(x + 0.02, y, 0.02, { turnDeg: [0, -24, 0] }));
  for (let index = 0; index < 5; index += 1) {
    const board = width / 5 - 0.012;
    leaf.box(
      'plank',
      [(index + 0.5) * (width / 5), height / 2, 0],
      [height - 0.04, board, 0.03],
      [0, 0, 90],
      0.004,
    );
  }
  for (const h of [0.25, height - 0.25])
    leaf.box('iron', [width * 0.36, h, 0.022], [width * 0.7, 0.05, 0.012]);
  leaf.ball('iron', [width - 0.1, height * 0.52, 0.05], 0.03, 8);
  shop.box('dark', [x + width / 2, y + height / 2, -0.05], [width, height, 0.02]);
}
