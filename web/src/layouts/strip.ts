import { boardAfter, boundsOf, group, layInLine, outermost } from '@miradero/core/board';
import { centreOf, distance } from '@miradero/core/geometry';
import { isCluster, isNote, isPlacement } from '@miradero/core/items';
import type { Item } from '@miradero/core/schema';
import type { Desk } from '../desk/index.ts';
import { startTitling } from '../items/index.ts';
import { newGesture } from '../sync/index.ts';
import { lay } from './laying-out.ts';

/** When a picture was made or a remark was begun, as far as anybody knows, ISO 8601; '' where nobody does. */
function dateOf(desk: Desk, item: Item): string {
  if (isNote(item)) return item.begunAt ?? '';
  const known = isPlacement(item) ? desk.sync.shelf.get(item.picture)?.picture : undefined;
  return known?.facts.takenAt ?? known?.addedAt ?? '';
}

/**
 * The order of a strip from its head: pictures and remarks by date, the newest first; what has no date comes right after the
 * picture to which it stands nearest.
 */
export function stripOrder(desk: Desk, items: readonly Item[]): string[] {
  const dated = items
    .filter((item) => isPlacement(item) || dateOf(desk, item) !== '')
    .sort((a, b) => dateOf(desk, b).localeCompare(dateOf(desk, a)) || (a.id < b.id ? -1 : 1));
  const remarks = items.filter((item) => !dated.includes(item));
  const pictures = dated.filter(isPlacement);
  const nearest = (item: Item) =>
    pictures.reduce<{ id: string; away: number } | undefined>((best, { id, ...picture }) => {
      const away = distance(centreOf(boundsOf({ id, ...picture })), item.centre);
      return best && best.away <= away ? best : { id, away };
    }, undefined)?.id;
  const owners = new Map(remarks.map((item) => [item.id, nearest(item)]));
  const alone = remarks.filter(({ id }) => owners.get(id) === undefined);
  return [
    ...alone.map(({ id }) => id),
    ...dated.flatMap(({ id }) => [
      id,
      ...remarks.filter((item) => owners.get(item.id) === id).map((item) => item.id),
    ]),
  ];
}

/** Makes a strip of what is selected: one line, the newest at its head, into which what comes later joins. */
export function makeStrip(desk: Desk): void {
  const { items } = desk.session;
  const chosen = outermost(items, desk.selected).filter((item) => !isCluster(item) && !item.isFixed);
  if (chosen.length < 2) {
    desk.say('Nothing to lay out: strip.', ['Select the pictures and remarks of a piece of work.']);
    return;
  }
  const id = crypto.randomUUID();
  const made = group(items, chosen, id);
  const now = boardAfter(items, made);
  const cluster = now.get(id);
  if (!cluster || !isCluster(cluster)) return;
  const gesture = newGesture();
  const operations = [
    ...made,
    { item: id, set: { isStrip: true } },
    ...layInLine(now, cluster, stripOrder(desk, chosen), desk.gap),
  ];
  lay(desk, operations, gesture);
  desk.select([id]);
  startTitling(desk, id, gesture);
}
