import type { Change, LoggedChange } from '@miradero/core/schema';
import type { Knex } from './connection.ts';

/** The revisions of those of these changes that were accepted before. */
export async function findAccepted(
  trx: Knex,
  board: string,
  ids: readonly string[],
): Promise<Map<string, number>> {
  const rows = await trx('board_changes')
    .where({ board })
    .andWhereRaw('change = any(?::uuid[])', [ids as string[]])
    .select('change', 'revision');
  return new Map(rows.map((row) => [row.change, Number(row.revision)]));
}

export async function appendChanges(
  trx: Knex,
  board: string,
  entries: readonly LoggedChange[],
): Promise<void> {
  if (entries.length === 0) return;
  await trx.raw(
    `insert into board_changes (board, revision, change, operations)
     select ?, t.* from unnest(?::bigint[], ?::uuid[], ?::jsonb[]) as t`,
    [
      board,
      entries.map((entry) => entry.revision),
      entries.map((entry) => entry.change.id),
      entries.map((entry) => JSON.stringify(entry.change.operations)),
    ] as never,
  );
}

/** Id of the change that led to a revision; null where there is none. */
export async function findChangeAt(knex: Knex, board: string, revision: number): Promise<string | null> {
  const row = await knex('board_changes').where({ board, revision }).first('change');
  return row?.change ?? null;
}

/** Changes after `since`, in order, at most `limit`. */
export async function findChangesSince(
  knex: Knex,
  board: string,
  since: number,
  limit: number,
): Promise<LoggedChange[]> {
  const rows = await knex('board_changes')
    .where({ board })
    .andWhere('revision', '>', since)
    .orderBy('revision')
    .limit(limit)
    .select('revision', 'change', 'operations');
  return rows.map((row) => ({
    revision: Number(row.revision),
    change: { id: row.change, operations: row.operations } as Change,
  }));
}

/** Of these picture ids, those that belong to somebody else. */
export async function findForeignPictures(
  trx: Knex,
  owner: string,
  ids: readonly string[],
): Promise<Set<string>> {
  if (ids.length === 0) return new Set();
  const rows = await trx('pictures')
    .whereNot({ owner })
    .andWhereRaw('id = any(?::uuid[])', [ids as string[]])
    .select('id');
  return new Set(rows.map((row) => row.id));
}
