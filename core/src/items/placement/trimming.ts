import {
  applyAffine,
  intersectionOf,
  invertAffine,
  type Point,
  type Rectangle,
  rectangleBetween,
} from '../../geometry/index.ts';
import { type Placement, pictureToBoard, WHOLE } from './placement.ts';

/** The smallest trim, as a fraction of a side: below it nothing could be grasped any more. */
const MIN_TRIM = 0.002;

/**
 * Trims a placement to `trim` (fractions of the upright picture) so that what stays visible does not move on the
 * board and does not change its scale.
 */
export function trimTo(
  placement: Placement,
  trim: Rectangle,
): { item: string; set: Pick<Placement, 'trim' | 'centre' | 'width'> } {
  const kept = intersectionOf(
    {
      x: Math.min(trim.x, 1 - MIN_TRIM),
      y: Math.min(trim.y, 1 - MIN_TRIM),
      width: Math.max(MIN_TRIM, trim.width),
      height: Math.max(MIN_TRIM, trim.height),
    },
    WHOLE,
  );
  const centre = applyAffine(pictureToBoard(placement), {
    x: kept.x + kept.width / 2,
    y: kept.y + kept.height / 2,
  });
  const width = (placement.width * kept.width) / placement.trim.width;
  return { item: placement.id, set: { trim: kept, centre, width } };
}

/** The trim, in fractions of the picture, that a drag between two board points marks; clipped to what is visible. */
export function trimBetween(placement: Placement, fromBoard: Point, toBoard: Point): Rectangle {
  const toFraction = invertAffine(pictureToBoard(placement));
  return intersectionOf(
    rectangleBetween(applyAffine(toFraction, fromBoard), applyAffine(toFraction, toBoard)),
    placement.trim,
  );
}

/** Which edges a handle moves: -1 the left or upper one, 1 the right or lower one, 0 neither. */
interface Side {
  readonly x: -1 | 0 | 1;
  readonly y: -1 | 0 | 1;
}

/** The trim after dragging one of its handles to a board point; never beyond the picture, never turned inside out. */
export function trimByHandle(placement: Placement, handle: Side, toBoard: Point): Rectangle {
  const at = applyAffine(invertAffine(pictureToBoard(placement)), toBoard);
  const { trim } = placement;
  const side = (sign: number, low: number, high: number, to: number): [number, number] => {
    if (sign < 0) return [Math.max(0, Math.min(to, high - MIN_TRIM)), high];
    if (sign > 0) return [low, Math.min(1, Math.max(to, low + MIN_TRIM))];
    return [low, high];
  };
  const [left, right] = side(handle.x, trim.x, trim.x + trim.width, at.x);
  const [top, bottom] = side(handle.y, trim.y, trim.y + trim.height, at.y);
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** Which side of a picture is meant. */
export type TrimSide = 'left' | 'right' | 'up' | 'down';

/**
 * The trim after one of its edges was moved by a share of the picture; never beyond the picture, never turned inside out.
 *
 * @param side - the edge
 * @param inward - what is cut off there, a share of the picture's side; negative gives back
 */
export function trimByStep({ trim }: Pick<Placement, 'trim'>, side: TrimSide, inward: number): Rectangle {
  const { x, y, width, height } = trim;
  const within = (by: number, least: number, most: number) => Math.max(least, Math.min(by, most));
  switch (side) {
    case 'left': {
      const by = within(inward, -x, width - MIN_TRIM);
      return { ...trim, x: x + by, width: width - by };
    }
    case 'up': {
      const by = within(inward, -y, height - MIN_TRIM);
      return { ...trim, y: y + by, height: height - by };
    }
    case 'right':
      return { ...trim, width: width - within(inward, x + width - 1, width - MIN_TRIM) };
    case 'down':
      return { ...trim, height: height - within(inward, y + height - 1, height - MIN_TRIM) };
  }
}
