import {
  boundsOf,
  duplicate,
  isSeen,
  keysOnTop,
  readCopied,
  withMarks,
  withMembers,
  writeCopied,
} from '@miradero/core/board';
import { centreOf, type Point, unionOf } from '@miradero/core/geometry';
import { isPictureMark, picturesOf, wordsOf } from '@miradero/core/items';
import type { Item } from '@miradero/core/schema';
import { alter, type Desk } from '../../desk/index.ts';

/** What is copied from a board carries this; browsers keep it within themselves. */
export const ITEMS_TYPE = 'application/x-miradero-items';

const selectedWithin = (desk: Desk): Item[] =>
  withMarks(desk.session.items, withMembers(desk.session.items, desk.selected));

/** Puts what is selected on the clipboard: as items for our boards, as words for everything else. @returns whether there was any */
export function copyItems(desk: Desk, transfer: DataTransfer): boolean {
  const items = selectedWithin(desk);
  if (items.length === 0) return false;
  transfer.setData(ITEMS_TYPE, writeCopied(items));
  const nameOf = (picture: string) => desk.sync.shelf.get(picture)?.name;
  transfer.setData(
    'text/plain',
    items
      .map((item) => wordsOf(item, nameOf))
      .filter(Boolean)
      .join('\n'),
  );
  const { length } = items.filter((item) => !isPictureMark(item));
  desk.say(length === 1 ? 'Copied.' : `${length} things are copied.`);
  return true;
}

/** The same, and takes them from the board. */
export function cutItems(desk: Desk, transfer: DataTransfer): boolean {
  if (!copyItems(desk, transfer)) return false;
  alter.remove(desk);
  return true;
}

/** Lets copied items stand about a point, with everything they carry. @returns whether the text holds any */
export function pasteItems(desk: Desk, text: string, at: Point): boolean {
  const items = readCopied(text);
  const bounds = items && unionOf(items.filter((item) => !isPictureMark(item)).map(boundsOf));
  if (!items || !bounds) return false;
  const middle = centreOf(bounds);
  const offset = { x: at.x - middle.x, y: at.y - middle.y };
  const sorted = [...items].sort((a, b) => (a.stack < b.stack ? -1 : a.stack > b.stack ? 1 : 0));
  const keys = keysOnTop(desk.session.items.values(), sorted.length);
  const created = duplicate(sorted, offset, () => crypto.randomUUID(), keys);
  desk.sync.shelf.want(created.flatMap(picturesOf).filter((id) => !desk.sync.shelf.get(id)));
  desk.session.commit(created.map((create) => ({ create })));
  const ids = new Set(created.map(({ id }) => id));
  desk.select(
    created
      .filter((item) => isSeen(desk.session.items, item) && !(item.cluster && ids.has(item.cluster)))
      .map(({ id }) => id),
  );
  return true;
}
