import { inflate, overlaps } from '../geometry/index.ts';
import { kindOf } from '../items/index.ts';
import type { Item, Operation } from '../schema/index.ts';
import { isSeen } from './clusters.ts';
import { boundsOf } from './item-geometry.ts';
import { keysBetween } from './stacking-keys.ts';

/** What overlaps by less than this, board units, touches: sums of halves are seldom exact. */
const TOUCH = 1e-6;

/** Lower first; by code unit (as PostgreSQL's `COLLATE "C"`), equal keys by item id. */
export const compareStacking = (
  a: { readonly stack: string; readonly id: string },
  b: { readonly stack: string; readonly id: string },
): number => (a.stack < b.stack ? -1 : a.stack > b.stack ? 1 : a.id < b.id ? -1 : a.id > b.id ? 1 : 0);

/** What takes part in the order of a board: nothing comes below what lies beneath it all. */
const stacked = (items: Iterable<Item>): Item[] => [...items].filter((item) => !kindOf(item).isGround);

/** `count` keys above everything in `items`. */
export function keysOnTop(items: Iterable<Item>, count: number): string[] {
  let top: string | null = null;
  for (const item of stacked(items)) if (top === null || item.stack > top) top = item.stack;
  return keysBetween(top, null, count);
}

/** `count` keys below everything in `items`. */
export function keysBelow(items: Iterable<Item>, count: number): string[] {
  let lowest: string | null = null;
  for (const item of stacked(items)) if (lowest === null || item.stack < lowest) lowest = item.stack;
  return keysBetween(null, lowest, count);
}

/**
 * Operations that put the items `moved` (in their present order) directly above `below`, or at the very bottom for
 * `null`. Items that share one key, so that nothing fits between them, are given new ones along the way.
 *
 * @param items - every item of the board, any order
 */
export function restack(
  items: Iterable<Item>,
  moved: ReadonlySet<string>,
  below: string | null,
): Operation[] {
  const all = stacked(items).sort(compareStacking);
  const hand = all.filter((item) => moved.has(item.id));
  const rest = all.filter((item) => !moved.has(item.id));
  const position = below === null ? 0 : rest.findIndex((item) => item.id === below) + 1;
  if (below !== null && position === 0) throw new RangeError(`no such item to stand above: ${below}`);

  const low = position === 0 ? null : rest[position - 1]!.stack;
  let end = position;
  while (end < rest.length && low !== null && rest[end]!.stack <= low) end += 1;
  const high = end < rest.length ? rest[end]!.stack : null;

  const rekeyed = [...hand, ...rest.slice(position, end)];
  const keys = keysBetween(low, high, rekeyed.length);
  return rekeyed.map((item, index) => ({ item: item.id, set: { stack: keys[index]! } }));
}

/**
 * Operations that raise (or lower) the items `moved` by one step: past the next item that overlaps one of them, or,
 * where none does, to the very top (bottom). None when they are there already.
 */
export function restackByStep(
  items: Iterable<Item>,
  moved: ReadonlySet<string>,
  direction: 'raise' | 'lower',
): Operation[] {
  const byId = new Map([...items].map((item) => [item.id, item]));
  const standing = stacked(byId.values())
    .filter((item) => !item.removed)
    .sort(compareStacking);
  const hand = standing.filter((item) => moved.has(item.id));
  // Past what is not seen no step leads.
  const rest = standing.filter((item) => !moved.has(item.id) && isSeen(byId, item));
  if (hand.length === 0) return [];
  // What lies edge to edge does not overlap, whatever rounding says.
  const bounds = hand.map((item) => inflate(boundsOf(item), -TOUCH));
  const touches = (item: Item) => bounds.some((b) => overlaps(b, boundsOf(item)));
  if (direction === 'raise') {
    const lowest = hand[0]!;
    const above = rest.filter((item) => compareStacking(item, lowest) > 0);
    const goal = above.find(touches) ?? above[above.length - 1];
    return goal === undefined ? [] : restack(standing, moved, goal.id);
  }
  const highest = hand[hand.length - 1]!;
  const below = rest.filter((item) => compareStacking(item, highest) < 0);
  const goal = below.findLast(touches) ?? below[0];
  if (goal === undefined) return [];
  const others = standing.filter(({ id }) => !moved.has(id));
  return restack(standing, moved, others[others.indexOf(goal) - 1]?.id ?? null);
}

/** A key for something new that shall stand right below the lowest of some, and what must be given new keys for it. */
export function keyBelow(
  items: Iterable<Item>,
  ids: ReadonlySet<string>,
): { readonly key: string; readonly rekeyed: Operation[] } {
  const all = stacked(items).sort(compareStacking);
  const at = all.findIndex(({ id }) => ids.has(id));
  if (at < 0) return { key: keysOnTop(all, 1)[0]!, rekeyed: [] };
  const below = all[at - 1]?.stack ?? null;
  const end = all.findIndex(({ stack }, index) => index >= at && (below === null || stack > below));
  const between = all.slice(at, end < 0 ? all.length : end);
  const [key, ...keys] = keysBetween(below, end < 0 ? null : all[end]!.stack, between.length + 1);
  return {
    key: key!,
    rekeyed: between.map(({ id }, index) => ({ item: id, set: { stack: keys[index]! } })),
  };
}
