import { boundsOf, rowsOf, stepFrom, type WalkStep } from '@miradero/core/board';
import type { Desk } from './desk.ts';

/** Rows of what stands, until something on the board alters. */
const rows = new WeakMap<Desk, { readonly version: number; readonly rows: string[][] }>();

function rowsOn(desk: Desk): string[][] {
  const { version, standing } = desk.session;
  const known = rows.get(desk);
  if (known?.version === version) return known.rows;
  const fresh = { version, rows: rowsOf(standing) };
  rows.set(desk, fresh);
  return fresh.rows;
}

/** Goes a step from item to item, in reading order; the view follows. */
export function walk(desk: Desk, step: WalkStep): void {
  const { items } = desk.session;
  const to = stepFrom(rowsOn(desk), (id) => boundsOf(items.get(id)!), desk.now.walkedTo, step);
  if (to === undefined) {
    desk.say('Nothing stands here yet. Drop or paste pictures, or press C to choose files.');
    return;
  }
  desk.walkTo(to);
  desk.view?.reveal(boundsOf(items.get(to)!));
}

/** Begins to walk: where one stood before, else at the first of what is in view, else at the first of all. */
export function beginWalk(desk: Desk): void {
  if (desk.selection.size > 0 || desk.tool) return;
  const known = desk.now.walkedTo;
  if (known !== undefined && desk.session.items.get(known)?.removed === false) return;
  const seen = new Set(desk.view?.feed.itemsWithin(desk.view.view).map(({ id }) => id));
  const first = rowsOn(desk)
    .flat()
    .find((id) => seen.has(id));
  if (first === undefined) walk(desk, 'right');
  else desk.walkTo(first);
}

/** Brings the next picture close, or the one before it, in reading order; while one is close and nothing is selected. */
export function page(desk: Desk, step: WalkStep): void {
  const { view, session } = desk;
  const pictures = rowsOn(desk)
    .flat()
    .filter((id) => session.items.get(id)?.kind === 'placement');
  const at = view?.closeOn === undefined ? -1 : pictures.indexOf(view.closeOn);
  const to = pictures[at < 0 ? 0 : at + (step === 'right' || step === 'down' ? 1 : -1)];
  if (to === undefined)
    desk.say(at < 0 ? 'There is no picture to go on to.' : 'This is the last picture that way.');
  else view?.comeClose(to, boundsOf(session.items.get(to)!));
}
