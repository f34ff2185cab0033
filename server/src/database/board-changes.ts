import type { Change, Gist, Item, LoggedChange } from '@miradero/core/schema';
import { COLUMN_TYPES, COLUMNS, type ItemRow, itemOf, rowsAsJson } from './board-items.ts';
import type { Knex } from './connection.ts';
import { newsOf } from './notify.ts';

/** What changes name, to be read before they are applied. */
export interface Named {
  readonly changes: readonly string[];
  readonly items: readonly string[];
  readonly pictures: readonly string[];
}

/** What is known of what changes name. */
export interface Known {
  /** The revisions of those that were accepted before. */
  readonly accepted: Map<string, number>;
  /** Those that are on the board, removed ones included. */
  readonly items: Item[];
  /** Pictures that belong to somebody else. */
  readonly foreign: Set<string>;
}

/** Reads all of it at once: while a board is locked each way to the database and back is somebody's wait. */
export async function readForChanges(trx: Knex, owner: string, board: string, named: Named): Promise<Known> {
  const { rows } = await trx.raw(
    `select
       (select coalesce(json_agg(c), '[]') from (
          select change, revision from board_changes where board = :board and change = any(:changes::uuid[])) c) as accepted,
       (select coalesce(json_agg(i), '[]') from (
          select ${COLUMNS.join(', ')} from board_items where board = :board and id = any(:items::text[])) i) as items,
       (select coalesce(json_agg(p.id), '[]') from pictures p
          where p.owner <> :owner and p.id = any(:pictures::uuid[])) as foreign_pictures`,
    { owner, board, ...named } as never,
  );
  const read = rows[0] as {
    accepted: { change: string; revision: number }[];
    items: ItemRow[];
    foreign_pictures: string[];
  };
  return {
    accepted: new Map(read.accepted.map(({ change, revision }) => [change, revision])),
    items: read.items.map(itemOf),
    foreign: new Set(read.foreign_pictures),
  };
}

/** A change with what it comes to. */
export interface AcceptedChange extends LoggedChange {
  readonly gist: Gist;
}

/** What changes that were accepted come to. */
export interface Written {
  /** In the order of their revisions, which follow those of the board. */
  readonly accepted: readonly AcceptedChange[];
  /** Pictures that they name. */
  readonly pictures: readonly string[];
  /** Who made them, where that was not the owner. */
  readonly by?: string | null;
  /** Items that were on the board before, as they are now. */
  readonly altered?: readonly Item[];
  readonly added?: readonly Item[];
}

/** Writes all of it at once, on a locked board or a new one, and tells it at commit. */
export async function writeChanges(
  trx: Knex,
  owner: string,
  board: string,
  { accepted, pictures, by = null, altered = [], added = [] }: Written,
): Promise<void> {
  const revision = accepted.at(-1)!.revision;
  await trx.raw(
    `with taken as (
       update boards set revision = :revision, changed_at = now() where id = :board
     ), altered as (
       update board_items i
       set stack = t.stack, removed = t.removed, picture = t.picture, properties = t.properties
       from jsonb_to_recordset(:altered::jsonb) as t (${COLUMN_TYPES}) where i.board = :board and i.id = t.id
     ), added as (
       insert into board_items (board, ${COLUMNS.join(', ')})
       select :board, t.* from jsonb_to_recordset(:added::jsonb) as t (${COLUMN_TYPES})
     ), logged as (
       insert into board_changes (board, made_by, revision, change, made_in, operations, gist)
       select :board, :by, t.*
         from unnest(:revisions::bigint[], :changes::uuid[], :browsers::uuid[], :operations::jsonb[], :gists::jsonb[]) as t
     ), shown as (
       insert into board_pictures (board, picture) select :board, unnest(:pictures::uuid[]) on conflict do nothing
     )
     select pg_notify(:channel, :news)`,
    {
      ...{ board, revision, by, pictures, altered: rowsAsJson(altered), added: rowsAsJson(added) },
      revisions: accepted.map((entry) => entry.revision),
      changes: accepted.map((entry) => entry.change.id),
      browsers: accepted.map((entry) => entry.change.browser ?? null),
      operations: accepted.map((entry) => JSON.stringify(entry.change.operations)),
      gists: accepted.map(({ gist }) => JSON.stringify(gist)),
      ...newsOf(owner, { kind: 'board', board, revision }),
    } as never,
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
