import { isStateDue, replay } from '@miradero/core/history';
import type { Item } from '@miradero/core/schema';
import { findChangesSince } from '../database/board-changes.ts';
import type { Knex } from '../database/connection.ts';
import { findLastState, keepState } from '../database/history.ts';

/** Changes that are read at once. */
const PAGE = 200;

/** What is told of a change beside its operations: id, time, revision, names of all of it. */
const TOLD_BYTES = 160;

/** The job: goes on from the last state that is kept, and keeps those that are due. What it did before it was ended stays. */
export async function keepStates(knex: Knex, board: string): Promise<void> {
  const last = await findLastState(knex, board);
  const items = new Map((JSON.parse(last?.items ?? '[]') as Item[]).map((item) => [item.id, item]));
  let revision = last?.revision ?? 0;
  let stateBytes = last?.bytes ?? 0;
  let bytesSince = 0;
  for (;;) {
    const changes = await findChangesSince(knex, board, revision, PAGE);
    if (changes.length === 0) return;
    for (const { revision: at, change } of changes) {
      replay(items, change);
      revision = at;
      bytesSince += TOLD_BYTES + Buffer.byteLength(JSON.stringify(change.operations));
      if (!isStateDue(bytesSince, stateBytes)) continue;
      const text = JSON.stringify([...items.values()]);
      stateBytes = Buffer.byteLength(text);
      await keepState(knex, board, { revision, bytes: stateBytes, items: text });
      bytesSince = 0;
    }
  }
}
