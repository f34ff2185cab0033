import type { Bulk } from '@miradero/core/schema';
import { ask } from './http.ts';
import type { Sync } from './sync.ts';

/**
 * Tells many pictures the same, at the server.
 *
 * @param words - what was done, as it is said when it is taken back
 * @returns how many were told
 * @throws what `ask` throws; nothing was altered then
 */
export async function tellMany({ steps }: Pick<Sync, 'steps'>, bulk: Bulk, words: string): Promise<number> {
  // Where it was asked for: by the time it is done another page may be in front.
  const at = location.pathname;
  const { before, after } = await ask('POST /api/library/bulk', { body: bulk });
  if (after.length > 0) steps.record({ kind: 'bulk', before, after }, { words, at });
  return after.length;
}
