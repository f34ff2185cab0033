import {
  type Affine,
  applyAffine,
  boundsOfPoints,
  compose,
  containsPoint,
  invertAffine,
  type Point,
  type Rectangle,
  rectangleAround,
  rotation,
  scaling,
  translation,
} from '../geometry/index.ts';
import type { Item, Placement } from '../schema/index.ts';

const UNIT: Rectangle = { x: 0, y: 0, width: 1, height: 1 };

/** Height of an item in board units; a placement's follows from the aspect of its trimmed part. */
export function heightOf(item: Item): number {
  if (item.kind === 'note') return item.height;
  return (item.width * item.trim.height * item.pictureHeight) / (item.trim.width * item.pictureWidth);
}

/** Maps the unit square onto an item as it stands: (0,0) is its top left corner before flip and turn. Board units. */
export function frameMatrix(item: Item): Affine {
  const height = heightOf(item);
  const flipX = item.kind === 'placement' && item.flipX ? -1 : 1;
  const flipY = item.kind === 'placement' && item.flipY ? -1 : 1;
  return compose(
    translation(item.centre.x, item.centre.y),
    rotation(item.turn),
    scaling(flipX, flipY),
    scaling(item.width, height),
    translation(-0.5, -0.5),
  );
}

/**
 * The matrix picture fraction → board, `T(centre) · R(turn) · F(flip) · S(size) · trim⁻¹`, where fractions 0..1 are of
 * the whole upright, unflipped picture.
 */
export function pictureToBoard(placement: Placement): Affine {
  const { x, y, width, height } = placement.trim;
  return compose(frameMatrix(placement), scaling(1 / width, 1 / height), translation(-x, -y));
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

export const isOnItem = (item: Item, pointBoard: Point): boolean =>
  containsPoint(UNIT, applyAffine(invertAffine(frameMatrix(item)), pointBoard));

/** How far a point lies from an item as it stands, board units; 0 on it. */
export function distanceToItem(item: Item, pointBoard: Point): number {
  const { x, y } = applyAffine(invertAffine(frameMatrix(item)), pointBoard);
  const outside = (share: number) => Math.max(-share, 0, share - 1);
  return Math.hypot(outside(x) * item.width, outside(y) * heightOf(item));
}
