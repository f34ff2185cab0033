import { applyAffine, type Point } from '../geometry/index.ts';
import type { Item } from '../schema/index.ts';
import { frameMatrix } from './item-geometry.ts';

/** -1, 0 or 1 along x and y, as seen on the item before flip and turn: (-1,-1) is its own top left corner. */
export interface HandlePosition {
  readonly x: -1 | 0 | 1;
  readonly y: -1 | 0 | 1;
}

export const HANDLES: readonly HandlePosition[] = [
  { x: -1, y: -1 },
  { x: 0, y: -1 },
  { x: 1, y: -1 },
  { x: 1, y: 0 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
  { x: -1, y: 1 },
  { x: -1, y: 0 },
];

export const handlePoint = (item: Item, handle: HandlePosition): Point =>
  applyAffine(frameMatrix(item), { x: (handle.x + 1) / 2, y: (handle.y + 1) / 2 });
