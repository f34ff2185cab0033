import {
  centreOf,
  type Point,
  type Rectangle,
  subtractPoints,
  turnPoint,
  unionOf,
} from '../geometry/index.ts';
import { heightOf, isMultiplied, isPictureMark, isPlacement, kindOf } from '../items/index.ts';
import type { Item, Operation } from '../schema/index.ts';
import { boundsOf } from './item-geometry.ts';

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
 * Sizes items together by `factor` about the fixed point `anchor` (board units). Aspects stay.
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
      ...kindOf(item).sized?.(item, kept),
    },
  }));
}

/**
 * Draws an item whose words wrap `width` wide (board units): its upper edge stays, and the side that is not drawn.
 *
 * @param side - 1 where its right side is drawn, -1 for its left, as it stands itself
 * @returns undefined for what does not wrap
 */
export function wrapTo(item: Item, width: number, side: 1 | -1): Operation | undefined {
  const wrapped = kindOf(item).wrapped?.(item, width);
  if (!wrapped) return undefined;
  const before = { width: item.width, height: heightOf(item) };
  const moved = turnPoint(
    { x: (side * (wrapped.width - before.width)) / 2, y: (wrapped.height - before.height) / 2 },
    item.turn,
  );
  const centre = { x: item.centre.x + moved.x, y: item.centre.y + moved.y };
  return { item: item.id, set: { ...wrapped, centre } };
}

/** The smallest upright rectangle around all of them; its centre is what they turn and mirror about. @throws RangeError for none */
export function boundsOfItems(items: Iterable<Item>): Rectangle {
  const bounds = unionOf([...items].map(boundsOf));
  if (!bounds) throw new RangeError('no items have no bounds');
  return bounds;
}

/** An angle brought into (-180, 180] degrees. */
export function normalTurn(angleDeg: number): number {
  const turn = ((((angleDeg + 180) % 360) + 360) % 360) - 180;
  return turn === -180 ? 180 : turn;
}

/** Turns items together by `angleDeg` (clockwise) about `anchor`, board units. */
export const turnAbout = (items: Iterable<Item>, anchor: Point, angleDeg: number): Operation[] =>
  [...items].map((item) => {
    const away = turnPoint(subtractPoints(item.centre, anchor), angleDeg);
    return {
      item: item.id,
      set: {
        turn: normalTurn(item.turn + angleDeg),
        centre: { x: anchor.x + away.x, y: anchor.y + away.y },
      },
    };
  });

/** Angle from `from` to `to` as seen from `anchor`, degrees clockwise, in (-180, 180]. */
export const angleBetween = (anchor: Point, from: Point, to: Point): number => {
  const angleOf = (p: Point) => (Math.atan2(p.y - anchor.y, p.x - anchor.x) * 180) / Math.PI;
  return normalTurn(angleOf(to) - angleOf(from));
};

/**
 * Mirrors items together as they are seen: `flipX` left for right, `flipY` top for bottom, about their common centre.
 * What is not to be mirrored is only moved to its new place.
 */
export function mirror(items: Iterable<Item>, axis: 'flipX' | 'flipY'): Operation[] {
  const all = [...items];
  if (all.length === 0) return [];
  const middle = centreOf(boundsOfItems(all));
  return all.map((item) => ({
    item: item.id,
    set: {
      centre: {
        x: axis === 'flipX' ? 2 * middle.x - item.centre.x : item.centre.x,
        y: axis === 'flipY' ? 2 * middle.y - item.centre.y : item.centre.y,
      },
      turn: normalTurn(-item.turn),
      ...kindOf(item).mirrored?.(item, axis),
    },
  }));
}

/** The least opacity: what is fainter could no longer be found again. */
export const MIN_OPACITY = 0.05;

/** Fades items by `delta` (negative: fainter), each from its own opacity, within 0.05..1 in steps of 0.01. */
export const fadeBy = (items: Iterable<Item>, delta: number): Operation[] =>
  [...items].map((item) => ({ item: item.id, set: { opacity: opacityWithin(item.opacity + delta) } }));

export const opacityWithin = (opacity: number): number =>
  Math.round(Math.min(1, Math.max(MIN_OPACITY, opacity)) * 100) / 100;

/** Multiplies pictures with what lies below them; where all of them are, lets them cover it again. */
export function multiply(items: Iterable<Item>): Operation[] {
  const pictures = [...items].filter(isPlacement);
  const blend = pictures.every(isMultiplied) ? 'normal' : 'multiply';
  return pictures.map(({ id }) => ({ item: id, set: { blend } }));
}

/**
 * Gives pictures their original state back: upright, unflipped, untrimmed, opaque. Each stays where its visible part is
 * centred, and at its scale.
 */
export const restore = (items: Iterable<Item>): Operation[] =>
  [...items].map((item) => {
    const set = { turn: 0, opacity: 1, ...kindOf(item).restored?.(item) };
    return { item: item.id, set };
  });

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

/** Copies of items, shifted by `offset`, with new ids and stacking keys; copies of what lay in a cluster or on a picture lie in, and on, its copy. */
export function duplicate(
  items: readonly Item[],
  offset: Point,
  newId: () => string,
  stacks: readonly string[],
): Item[] {
  const ids = new Map(items.map(({ id }) => [id, newId()]));
  return items.map((item, index) => ({
    ...item,
    ...(item.cluster && { cluster: ids.get(item.cluster) ?? item.cluster }),
    id: ids.get(item.id)!,
    stack: stacks[index]!,
    // What is drawn on a picture goes where its picture goes.
    ...(isPictureMark(item)
      ? { on: ids.get(item.on) ?? item.on }
      : { centre: { x: item.centre.x + offset.x, y: item.centre.y + offset.y } }),
  }));
}

/** A note's or picture's size in board units. */
export const sizeOf = (item: Item): { width: number; height: number } => ({
  width: item.width,
  height: heightOf(item),
});
