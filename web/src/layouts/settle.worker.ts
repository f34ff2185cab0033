import { type SettleWanted, settle } from '@miradero/core/board';
import type { Item, Operation } from '@miradero/core/schema';
import { expose } from 'comlink';

/** Settling off the main thread: hundreds without a hole take most of a second. */
const work = {
  settle(items: readonly Item[], chosen: ReadonlySet<string>, wanted: SettleWanted): Operation[] {
    const all = new Map(items.map((item) => [item.id, item]));
    return settle(
      all,
      items.filter(({ id }) => chosen.has(id)),
      wanted,
    );
  },
};
export type SettleWork = typeof work;

expose(work);
