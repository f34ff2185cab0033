import {
  type Affine,
  applyAffine,
  boundsOfPoints,
  IDENTITY,
  inflate,
  type Point,
} from '@miradero/core/geometry';
import {
  isMark,
  isPictureMark,
  isPlacement,
  isRubbed,
  type Mark,
  type PictureMark,
  partsToBoard,
  type Rubber,
  rubberOn,
  wayOfMark,
} from '@miradero/core/items';
import type { Desk } from '../desk/index.ts';
import type { StageView } from '../stage/index.ts';

export type AnyMark = Mark | PictureMark;
export const isAnyMark = (item: { readonly kind: string }): item is AnyMark =>
  isMark(item) || isPictureMark(item);

/** The plane of a mark → the board; undefined where its picture is not seen. */
export function planeOf({ feed }: StageView, mark: AnyMark): Affine | undefined {
  if (isMark(mark)) return feed.isSeen(mark.id) ? IDENTITY : undefined;
  const picture = feed.board.items.get(mark.on);
  return picture && isPlacement(picture) && feed.isSeen(mark.on) && !feed.areMarksHidden
    ? partsToBoard(picture)
    : undefined;
}

/** Where the hand was that drew a mark, board units. */
export function wayOnBoard(view: StageView, mark: AnyMark): Point[] {
  const plane = planeOf(view, mark);
  return plane ? wayOfMark(mark).map((point) => applyAffine(plane, point)) : [];
}

interface MarkUnder {
  readonly mark: AnyMark;
  /** What rubs, on its plane. */
  readonly rubber: Rubber;
}

/** Marks that lie where something rubs on the board, on it or on its pictures, lowest first. */
export function marksUnder(desk: Desk, view: StageView, rubber: Rubber): MarkUnder[] {
  if (view.feed.areMarksHidden) return [];
  const near = inflate(boundsOfPoints(rubber.path), rubber.radius);
  const onPictures = new Map<string, PictureMark[]>();
  for (const item of desk.session.items.values()) {
    if (!isPictureMark(item) || item.removed) continue;
    onPictures.set(item.on, [...(onPictures.get(item.on) ?? []), item]);
  }
  return view.feed.itemsWithin(near).flatMap((item): MarkUnder[] => {
    if (isMark(item)) return isRubbed(item, rubber) ? [{ mark: item, rubber }] : [];
    const marks = onPictures.get(item.id);
    if (!marks || !isPlacement(item)) return [];
    const there = rubberOn(item, rubber);
    return marks.filter((mark) => isRubbed(mark, there)).map((mark) => ({ mark, rubber: there }));
  });
}
