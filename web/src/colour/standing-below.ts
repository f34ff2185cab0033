import { boundsOf, freeCentre } from '@miradero/core/board';
import { type Point, unionOf } from '@miradero/core/geometry';
import type { Item } from '@miradero/core/items';
import type { Desk } from '../desk/index.ts';

/** Space between what comes onto the board and what it is of, of its width. */
const GAP = 0.06;

/**
 * In free space, as near to below what it is of as can be.
 *
 * @param widthFor - board units, by the width of what it is of
 * @param aspect - its width by its height
 */
export function standingBelow(
  desk: Desk,
  below: readonly Item[],
  widthFor: (ofWidth: number) => number,
  aspect: number,
): { readonly centre: Point; readonly width: number } {
  const {
    x,
    y,
    width: ofWidth,
    height,
  } = unionOf(below.map(boundsOf)) ?? { x: 0, y: 0, width: 0, height: 0 };
  const width = widthFor(ofWidth);
  const high = width / aspect;
  const wanted = { x: x + ofWidth / 2, y: y + height + width * GAP + high / 2 };
  const standing = desk.session.standing.map(boundsOf);
  return { centre: freeCentre(wanted, { width, height: high }, standing, desk.gap), width };
}
