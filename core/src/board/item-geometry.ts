import {
  type Affine,
  applyAffine,
  boundsOfPoints,
  compose,
  containsPoint,
  containsRectangle,
  invertAffine,
  overlaps,
  type Point,
  type Rectangle,
  rectangleAround,
  scaling,
} from '../geometry/index.ts';
import { flipOf, frameOf, heightOf, type Item, kindOf } from '../items/index.ts';

const UNIT: Rectangle = { x: 0, y: 0, width: 1, height: 1 };

/** Maps the unit square onto an item as it stands: (0,0) is its top left corner before flip and turn. Board units. */
export function frameMatrix(item: Item): Affine {
  const height = heightOf(item);
  return compose(frameOf(item, height, flipOf(item)), scaling(item.width, height));
}

/** The four corners of an item as it stands, clockwise from the one that is top left before flip and turn. */
export function cornersOf(item: Item): Point[] {
  const matrix = frameMatrix(item);
  return [
    { x: 0, y: 0 },
    { x: 1, y: 0 },
    { x: 1, y: 1 },
    { x: 0, y: 1 },
  ].map((corner) => applyAffine(matrix, corner));
}

/** The smallest upright rectangle around an item, board units. */
export const boundsOf = (item: Item): Rectangle =>
  item.turn === 0
    ? rectangleAround(item.centre, item.width, heightOf(item))
    : boundsOfPoints(cornersOf(item));

/** Whether an item is taken hold of at a point. */
export function isOnItem(item: Item, pointBoard: Point): boolean {
  const at = applyAffine(invertAffine(frameMatrix(item)), pointBoard);
  const kind = kindOf(item);
  if (kind.covers?.(item, at) === false) return false;
  const grip = kind.gripOf?.(item);
  return containsPoint(
    UNIT,
    grip
      ? {
          x: (at.x * item.width - grip.x) / grip.width,
          y: (at.y * heightOf(item) - grip.y) / grip.height,
        }
      : at,
  );
}

/** Whether a band takes an item: one that is taken hold of anywhere when it is touched, another when it is enclosed. */
export function isBanded(item: Item, band: Rectangle): boolean {
  const bounds = boundsOf(item);
  const grip = kindOf(item).gripOf?.(item);
  const isGround = grip !== undefined && (grip.width < item.width || grip.height < heightOf(item));
  return isGround ? containsRectangle(band, bounds) : overlaps(bounds, band);
}

/** How far a point lies from an item as it stands, board units; 0 on it. */
export function distanceToItem(item: Item, pointBoard: Point): number {
  const { x, y } = applyAffine(invertAffine(frameMatrix(item)), pointBoard);
  const outside = (share: number) => Math.max(-share, 0, share - 1);
  return Math.hypot(outside(x) * item.width, outside(y) * heightOf(item));
}
