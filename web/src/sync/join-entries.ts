import { joinChanges } from '@miradero/core/board';
import { CHANGE_LIMITS } from '@miradero/core/schema';
import type { ChangeEntry, OutboxEntry } from './browser-database.ts';

/** Two entries in a row as one: changes of one burst of which nothing was sent. @returns undefined where they stay two */
export function joinEntries(first: OutboxEntry | undefined, next: OutboxEntry): ChangeEntry | undefined {
  if (first?.kind !== 'change' || next.kind !== 'change' || first.isTaken) return undefined;
  if (next.burst === undefined || first.burst !== next.burst || first.board !== next.board) return undefined;
  const change = joinChanges(first.change, next.change);
  return change && change.operations.length <= CHANGE_LIMITS.operations ? { ...first, change } : undefined;
}
