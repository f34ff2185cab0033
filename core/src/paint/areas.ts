import { boundsOfPoints, inflate, type Point, type Rectangle } from '../geometry/index.ts';
import { Coverage } from '../raster/index.ts';
import type { Filled } from './fill.ts';
import type { Layer } from './layers.ts';
import { COVERED, Mask } from './mask.ts';
import { type Paint, paintTile } from './paint-tile.ts';
import { tileArea, tilePlace } from './tiles.ts';
import { TouchedTiles } from './touched.ts';
import type { TileChange } from './undo.ts';

/**
 * What a lasso encloses, with smooth edges; what is gone around twice is left out.
 *
 * @param corners - pixels of the sheet
 * @param within - pixels of the sheet beyond which nothing is covered
 */
export function lassoMask(corners: readonly Point[], within: Rectangle): Mask {
  const mask = new Mask(within);
  if (corners.length < 3) return mask;
  const box = inflate(boundsOfPoints(corners), 1);
  const first = Math.max(0, Math.floor(box.x));
  const width = Math.ceil(box.x + box.width) - first;
  if (width <= 0) return mask;
  const coverage = new Coverage(corners, first, width);
  mask.cover(box, (y, left, right) => coverage.row(y)?.subarray(left - first, right - first));
  return mask;
}

/** What was filled, to be painted. @param width - of what was looked at, pixels; it begins at the sheet's corner */
export function filledMask({ mask: filled, box }: Filled, width: number, within: Rectangle): Mask {
  const mask = new Mask(within);
  mask.cover(box, (y, left, right) => filled.subarray(y * width + left, y * width + right));
  return mask;
}

/**
 * Paints all that a mask covers, as one action.
 *
 * @returns what it altered, for undo
 * @throws RangeError where the layer is locked
 */
export function paintArea(
  layer: Layer,
  mask: Mask,
  paint: Omit<Paint, 'keepsToPainted'>,
  within: Rectangle,
): TileChange[] {
  const touched = new TouchedTiles(layer, within);
  const all = { ...paint, keepsToPainted: layer.keepsToPainted };
  for (const key of mask.keys) {
    const covered = mask.get(key)!;
    if (!covered.some((share) => share > 0)) continue;
    touched.alter(tileArea(tilePlace(key)), ({ before, pixels, part }) =>
      paintTile(before, covered, all, pixels, part),
    );
  }
  return touched.end();
}

/** Share of what a mask may cover that it covers, 0..1. @param within - not empty */
export function coveredShare(mask: Mask, within: Rectangle): number {
  let sum = 0;
  for (const key of mask.keys) for (const share of mask.get(key)!) sum += share;
  return sum / (COVERED * within.width * within.height);
}
