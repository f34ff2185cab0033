import { centreOf, type Rectangle } from '../geometry/index.ts';
import type { Item } from '../items/index.ts';
import { boundsOf } from './item-geometry.ts';

/** Something in its row, as it is read. */
interface Stood {
  readonly id: string;
  readonly bounds: Rectangle;
}

export type WalkStep = 'left' | 'right' | 'up' | 'down';

/**
 * Items as a page is read: rows from top to bottom, each from left to right. Whatever begins above the middle of what begins a
 * row belongs to it.
 *
 * @returns ids, row by row
 */
export const rowsOf = (items: Iterable<Item>): string[][] =>
  rowsOfStood([...items].map((item) => ({ id: item.id, bounds: boundsOf(item) })));

function rowsOfStood(standing: Stood[]): string[][] {
  standing.sort((a, b) => a.bounds.y - b.bounds.y || a.bounds.x - b.bounds.x || (a.id < b.id ? -1 : 1));
  const rows: { middle: number; of: Stood[] }[] = [];
  for (const one of standing) {
    const row = rows.at(-1);
    const { y, height } = one.bounds;
    if (row && y < row.middle) row.of.push(one);
    else rows.push({ middle: y + height / 2, of: [one] });
  }
  return rows.map(({ of }) =>
    of.sort((a, b) => a.bounds.x - b.bounds.x || (a.id < b.id ? -1 : 1)).map(({ id }) => id),
  );
}

/**
 * The item to which a step leads: left and right go on in reading order, up and down to what stands nearest in the row
 * above or below.
 *
 * @param from - where one stands; undefined or gone: the first of all, or the last for a step back
 * @returns undefined where nothing stands, the same item where there is nothing further
 */
export function stepFrom(
  rows: readonly (readonly string[])[],
  boundsOfId: (id: string) => Rectangle,
  from: string | undefined,
  step: WalkStep,
): string | undefined {
  const all = rows.flat();
  const at = from === undefined ? -1 : all.indexOf(from);
  if (at < 0) return step === 'left' || step === 'up' ? all.at(-1) : all[0];
  if (step === 'left') return all[at - 1] ?? from;
  if (step === 'right') return all[at + 1] ?? from;
  const row = rows.findIndex((ids) => ids.includes(from!));
  const next = rows[row + (step === 'down' ? 1 : -1)];
  if (!next) return from;
  const { x } = centreOf(boundsOfId(from!));
  const away = (id: string) => Math.abs(centreOf(boundsOfId(id)).x - x);
  return next.reduce((best, id) => (away(id) < away(best) ? id : best));
}

const ACROSS = ['left', 'middle', 'right'] as const;
const DOWN = ['upper', 'middle', 'lower'] as const;

/** Where something stands on the whole, in words: "upper left", "middle". */
export function placeWords(bounds: Rectangle, whole: Rectangle): string {
  const third = (at: number, from: number, length: number) =>
    length <= 0 ? 1 : Math.min(2, Math.max(0, Math.floor(((at - from) / length) * 3)));
  const { x, y } = centreOf(bounds);
  const across = ACROSS[third(x, whole.x, whole.width)]!;
  const down = DOWN[third(y, whole.y, whole.height)]!;
  if (across === 'middle') return down === 'middle' ? 'middle' : `${down} middle`;
  return `${down} ${across}`;
}
