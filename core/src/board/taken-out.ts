import { intersectionOf, type Rectangle, unionOf } from '../geometry/index.ts';
import { type Item, isBay, regionOnBoard } from '../items/index.ts';
import { isSeen, withMembers } from './clusters.ts';
import { boundsOf } from './item-geometry.ts';
import { compareStacking } from './stacking.ts';

/** What of a board is taken out as pictures: its items, and the region that they fill, board units. */
export interface TakenOut {
  /** Lowest first. */
  readonly items: readonly Item[];
  readonly region: Rectangle;
}

/**
 * What is meant by some ids: items with what lies in them; by that of one bay, what is seen in its region; by null, all of it.
 *
 * @returns undefined where nothing of that is seen
 */
export function takenOut(
  items: ReadonlyMap<string, Item>,
  ids: readonly string[] | null,
): TakenOut | undefined {
  const seen = [...items.values()].filter((item) => isSeen(items, item)).sort(compareStacking);
  const only = ids?.length === 1 ? items.get(ids[0]!) : undefined;
  if (only && isBay(only) && !only.removed) {
    const region = regionOnBoard(only);
    const within = seen.filter((item) => {
      const { width, height } = intersectionOf(boundsOf(item), region);
      return item.id !== only.id && width > 0 && height > 0;
    });
    return within.length === 0 ? undefined : { items: within, region };
  }
  const named =
    ids &&
    new Set(
      withMembers(
        items,
        ids.flatMap((id) => items.get(id) ?? []),
      ).map(({ id }) => id),
    );
  const taken = named ? seen.filter(({ id }) => named.has(id)) : seen;
  const region = unionOf(taken.map(boundsOf));
  return region && { items: taken, region };
}
