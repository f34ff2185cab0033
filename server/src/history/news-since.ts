import { addGists } from '@miradero/core/history';
import type { BoardNews, Gist } from '@miradero/core/schema';
import type { Knex } from '../database/connection.ts';
import { findTouchedSince, type TouchedItem, type Touches } from '../database/history.ts';

/** More are not shown one by one. */
const MOST_ITEMS = 2_000;

/** What became of an item, all in all; undefined where it came and went again. */
function gistOfItem({ kind, isGone, isNew, isBack, wasRemoved }: TouchedItem): Gist | undefined {
  if (isGone) return isNew || !wasRemoved ? undefined : { [kind]: { added: 0, removed: 1, altered: 0 } };
  const isAdded = isNew || isBack;
  return { [kind]: { added: isAdded ? 1 : 0, removed: 0, altered: isAdded ? 0 : 1 } };
}

/** What happened to a board, as it stands now. */
export async function newsSince(knex: Knex, touches: Touches, revision: number): Promise<BoardNews> {
  const touched = await findTouchedSince(knex, touches);
  const by = new Map<string | null, Gist>();
  for (const one of touched) {
    const gist = gistOfItem(one);
    if (gist) by.set(one.by, addGists(by.get(one.by) ?? {}, gist));
  }
  return {
    revision,
    by: [...by].map(([name, gist]) => ({ name, gist })),
    items: touched.flatMap(({ id, isGone }) => (isGone ? [] : [id])).slice(0, MOST_ITEMS),
  };
}
