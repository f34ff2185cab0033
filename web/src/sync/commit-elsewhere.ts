import { recordDone } from '@miradero/core/board';
import type { Change, Item, Operation } from '@miradero/core/schema';
import { ask } from './http.ts';
import { boardAt } from './steps/index.ts';
import type { Sync } from './sync.ts';

/**
 * Alters a board that is not in front: one change, which undo takes back.
 *
 * @param make - from what stands on it
 * @param from - the board on which one stays when it is taken back; by default one goes to the altered one
 */
export async function commitElsewhere(
  sync: Sync,
  board: string,
  make: (items: readonly Item[]) => readonly Operation[],
  from = board,
): Promise<void> {
  const { items } = await ask('GET /api/boards/:id', { parameters: { id: board } });
  const change: Change = { id: crypto.randomUUID(), operations: [...make(items)] };
  const done = recordDone(new Map(items.map((item) => [item.id, item])), change);
  sync.steps.record({ kind: 'change', board, done }, { at: boardAt(from) });
  sync.channel.post({ kind: 'queued', board, change });
  await sync.outbox.put({ kind: 'change', board, change });
}
