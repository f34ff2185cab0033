import {
  applyAffine,
  intersectionOf,
  invertAffine,
  type Point,
  type Rectangle,
  rectangleBetween,
} from '../geometry/index.ts';
import type { Item, Operation, Placement } from '../schema/index.ts';
import { frameMatrix, heightOf, pictureToBoard } from './item-geometry.ts';

/** The whole picture, untrimmed. */
export const WHOLE: Rectangle = { x: 0, y: 0, width: 1, height: 1 };
/** The smallest trim, as a fraction of a side: below it nothing could be grasped any more. */
const MIN_TRIM = 0.002;
const MIN_WIDTH = 1;

export const moveBy = (items: Iterable<Item>, delta: Point): Operation[] =>
  [...items].map((item) => ({
    item: item.id,
    set: { centre: { x: item.centre.x + delta.x, y: item.centre.y + delta.y } },
  }));

/** The dominant axis of a drag that is held to one axis. */
export const alongOneAxis = (delta: Point): Point =>
  Math.abs(delta.x) >= Math.abs(delta.y) ? { x: delta.x, y: 0 } : { x: 0, y: delta.y };

/**
 * Sizes items together by `factor` about the fixed point `anchor` (board units). Aspects stay; a note scales as a
 * picture does.
 */
export function sizeAbout(items: Iterable<Item>, anchor: Point, factor: number): Operation[] {
  const all = [...items];
  const smallest = Math.min(...all.map((item) => item.width));
  const kept = Math.max(factor, MIN_WIDTH / smallest);
  return all.map((item) => ({
    item: item.id,
    set: {
      centre: {
        x: anchor.x + (item.centre.x - anchor.x) * kept,
        y: anchor.y + (item.centre.y - anchor.y) * kept,
      },
      width: item.width * kept,
      ...(item.kind === 'note' ? { height: item.height * kept } : {}),
    },
  }));
}

/** Mirrors each placement in place: about its own upright axis as seen on screen. */
export const flip = (items: Iterable<Item>, axis: 'flipX' | 'flipY'): Operation[] =>
  [...items]
    .filter((item): item is Placement => item.kind === 'placement')
    .map((item) => ({ item: item.id, set: { [axis]: !item[axis] } }));

/**
 * Trims a placement to `trim` (fractions of the upright picture) so that what stays visible does not move on the
 * board and does not change its scale.
 */
export function trimTo(placement: Placement, trim: Rectangle): Operation {
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

/** The trim after dragging one of its handles to a board point; never beyond the picture, never turned inside out. */
export function trimByHandle(placement: Placement, handle: HandlePosition, toBoard: Point): Rectangle {
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

/**
 * The factor by which dragging a corner from `fromBoard` to `toBoard` sizes what is anchored at the opposite corner:
 * the drag projected on the diagonal, so that the corner follows the hand as closely as the aspect allows.
 */
export function sizeFactor(anchor: Point, fromBoard: Point, toBoard: Point): number {
  const diagonal = { x: fromBoard.x - anchor.x, y: fromBoard.y - anchor.y };
  const length2 = diagonal.x ** 2 + diagonal.y ** 2;
  if (length2 === 0) return 1;
  const to = { x: toBoard.x - anchor.x, y: toBoard.y - anchor.y };
  return Math.max(1e-4, (to.x * diagonal.x + to.y * diagonal.y) / length2);
}

/** Copies of items, shifted by `offset`, with new ids and stacking keys. */
export const duplicate = (
  items: readonly Item[],
  offset: Point,
  newId: () => string,
  stacks: readonly string[],
): Item[] =>
  items.map((item, index) => ({
    ...item,
    id: newId(),
    stack: stacks[index]!,
    centre: { x: item.centre.x + offset.x, y: item.centre.y + offset.y },
  }));

/** A note's or picture's size in board units. */
export const sizeOf = (item: Item): { width: number; height: number } => ({
  width: item.width,
  height: heightOf(item),
});
