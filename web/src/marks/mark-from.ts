import { isOnItem, keysOnTop } from '@miradero/core/board';
import type { Point } from '@miradero/core/geometry';
import {
  createMark,
  createPictureMark,
  isMark,
  isPlacement,
  type Placement,
  type StrokeStart,
} from '@miradero/core/items';
import type { Desk } from '../desk/index.ts';
import type { AnyMark } from './under.ts';

/** So much of a stroke lies on the picture to which it belongs. */
const SHARE_ON_PICTURE = 0.9;

/**
 * The picture to which a stroke belongs: that on which it begins, where nearly all of it lies on it.
 *
 * @param points - on the board
 */
function pictureUnder({ feed }: Desk, points: readonly Point[]): Placement | undefined {
  const first = points[0]!;
  const item = feed
    .itemsWithin({ ...first, width: 0, height: 0 })
    .findLast((one) => !isMark(one) && isOnItem(one, first));
  if (!item || !isPlacement(item)) return undefined;
  let [on, all] = [0, 0];
  for (const [index, point] of points.entries()) {
    const before = points[index - 1] ?? point;
    const length = Math.hypot(point.x - before.x, point.y - before.y);
    all += length;
    if (isOnItem(item, point)) on += length;
  }
  return on >= SHARE_ON_PICTURE * all ? item : undefined;
}

/** A stroke as a mark on what it lies on: a picture, where it may belong to one, or the board. */
export function markFrom(desk: Desk, id: string, drawn: StrokeStart, isOnPictures: boolean): AnyMark {
  const start = { ...drawn, id, stack: keysOnTop(desk.session.items.values(), 1)[0]! };
  const picture = isOnPictures ? pictureUnder(desk, drawn.points) : undefined;
  return picture ? createPictureMark(picture, start) : createMark(start);
}
