import { type BoardState, isStanding, sameValue, withMarks, withMembers } from '../board/index.ts';
import { propertyOf } from '../items/index.ts';
import type { Item, Operation } from '../schema/index.ts';

/** What makes an item what it was; undefined where it is that already. */
function itemBack(now: Item | undefined, was: Item): Operation | undefined {
  if (now === undefined) return was.removed ? undefined : { create: was };
  if (was.removed) return now.removed ? undefined : { item: was.id, set: { removed: true } };
  const set: Record<string, unknown> = {};
  for (const name of new Set([...Object.keys(was), ...Object.keys(now)])) {
    const before = propertyOf(was, name);
    if (before !== undefined && !sameValue(before, propertyOf(now, name))) set[name] = before;
  }
  return Object.keys(set).length > 0 ? { item: was.id, set } : undefined;
}

/** Makes a board what it was: what came since goes, what went stands again, what was altered is as it was. */
export function bringBackBoard(now: BoardState, then: BoardState): Operation[] {
  const back = [...then.values()].flatMap((was) => itemBack(now.get(was.id), was) ?? []);
  const since = [...now.values()].filter((item) => isStanding(item) && !then.has(item.id));
  return [...back, ...since.map(({ id }): Operation => ({ item: id, set: { removed: true } }))];
}

/**
 * Makes some items what they were, with what lay in them and what was drawn on them; the rest of the board stays as it is. A
 * cluster that stands no longer does not take them in.
 */
export function bringBackItems(now: BoardState, then: BoardState, ids: Iterable<string>): Operation[] {
  const chosen = [...ids].flatMap((id) => then.get(id) ?? []).filter(isStanding);
  const all = withMarks(then, withMembers(then, chosen));
  const coming = new Set(all.map(({ id }) => id));
  const stands = (id: string) => coming.has(id) || now.get(id)?.removed === false;
  return all.flatMap((was) => {
    const { cluster } = was;
    const isLoose = cluster !== undefined && cluster !== null && !stands(cluster);
    return itemBack(now.get(was.id), isLoose ? { ...was, cluster: null } : was) ?? [];
  });
}
