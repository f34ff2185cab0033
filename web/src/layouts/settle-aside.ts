import { type Items, type SettleWanted, settle } from '@miradero/core/board';
import type { Item, Operation } from '@miradero/core/schema';
import { wrap } from 'comlink';
import type { SettleWork } from './settle.worker.ts';

/** Up to so many are settled within a frame or two. */
const AT_ONCE = { tight: 400, 'in-order': 1_000, 'without-holes': 16 } as const;

/** Settles items: few at once, many in a worker, so that the hand does not wait. */
export async function settleAside(
  items: Items,
  chosen: readonly Item[],
  wanted: SettleWanted,
): Promise<readonly Operation[]> {
  if (chosen.length <= AT_ONCE[wanted.form]) return settle(items, chosen, wanted);
  const worker = new Worker(new URL('./settle.worker.ts', import.meta.url), { type: 'module' });
  try {
    const ids = new Set(chosen.map(({ id }) => id));
    const standing = [...items.values()].filter(({ removed }) => !removed);
    return await wrap<SettleWork>(worker).settle(standing, ids, wanted);
  } finally {
    worker.terminate();
  }
}
