import type { Entry } from '@miradero/core/history';
import type { ItemKind, NamedState, PutNamedState } from '@miradero/core/schema';
import type { Knex } from './connection.ts';

/** What was done to a board, change by change, without what exactly; oldest first. */
export async function findEntries(knex: Knex, board: string): Promise<Entry[]> {
  const rows = await knex('board_changes')
    .where({ board })
    .orderBy('revision')
    .select('revision', 'made_at', 'made_by', 'gist');
  return rows.map((row) => ({
    revision: Number(row.revision),
    ...{ at: row.made_at, by: row.made_by, gist: row.gist },
  }));
}

/**
 * The piece of the past in which a revision lies, as a `PastSegment` in JSON: put together by the database, as the items of
 * today's board are. It begins at the state that was kept last before, and ends before the next one.
 *
 * @param latest - revision of the board now
 */
export async function findSegmentText(
  knex: Knex,
  board: string,
  revision: number,
  latest: number,
): Promise<string> {
  const { rows } = await knex.raw(
    `with base as (
       select revision, items from board_states where board = :board and revision <= :revision
       order by revision desc limit 1
     ), bounds as (
       select coalesce((select revision from base), 0) as base,
         coalesce(
           (select min(revision) - 1 from board_states where board = :board and revision > :revision), :latest
         ) as until
     )
     select bounds.base, bounds.until, coalesce((select items from base), '[]') as items,
       (select coalesce(string_agg(
          '{"revision":' || c.revision || ',"at":' || to_json(c.made_at)
          || ',"by":' || coalesce(to_json(c.made_by)::text, 'null')
          || ',"change":{"id":"' || c.change || '","operations":' || c.operations::text || '}}', ',' order by c.revision), '')
        from board_changes c where c.board = :board and c.revision > bounds.base and c.revision <= bounds.until) as changes
     from bounds`,
    { board, revision, latest } as never,
  );
  const { base, until, items, changes } = rows[0] as Record<'base' | 'until' | 'items' | 'changes', string>;
  return `{"base":${base},"until":${until},"items":${items},"changes":[${changes}]}`;
}

/** A state that is kept: the last one of a board. */
export interface KeptState {
  readonly revision: number;
  readonly bytes: number;
  /** An array of items, JSON. */
  readonly items: string;
}

export async function findLastState(knex: Knex, board: string): Promise<KeptState | undefined> {
  const row = await knex('board_states').where({ board }).orderBy('revision', 'desc').first();
  return row && { revision: Number(row.revision), bytes: row.bytes, items: row.items };
}

export async function keepState(
  knex: Knex,
  board: string,
  { revision, bytes, items }: KeptState,
): Promise<void> {
  await knex('board_states')
    .insert({ board, revision, bytes, items })
    .onConflict(['board', 'revision'])
    .ignore();
}

export async function findNamedStates(knex: Knex, board: string): Promise<NamedState[]> {
  const rows = await knex('named_states')
    .where({ board, is_put_away: false })
    .orderBy([{ column: 'revision' }, { column: 'named_at' }, { column: 'id' }])
    .select('id', 'revision', 'name', 'named_at');
  return rows.map((row) => ({
    ...{ id: row.id, name: row.name, revision: Number(row.revision) },
    namedAt: row.named_at.toISOString(),
  }));
}

/** Names a state, or alters its name. @returns false when another board has a name with that id */
export async function putNamedState(
  knex: Knex,
  id: string,
  { board, revision, name, isPutAway }: Omit<PutNamedState, 'revision'> & { revision: number },
): Promise<boolean> {
  const set = {
    ...(name === undefined ? {} : { name }),
    ...(isPutAway === undefined ? {} : { is_put_away: isPutAway }),
  };
  const known = await knex('named_states').where({ id }).first('board');
  if (known) {
    if (known.board !== board) return false;
    if (Object.keys(set).length > 0) await knex('named_states').where({ id }).update(set);
    return true;
  }
  if (name === undefined) return false;
  await knex('named_states')
    .insert({ id, board, revision, ...set })
    .onConflict('id')
    .ignore();
  return true;
}

/** What happened to an item since a revision, and whether it stands. */
export interface TouchedItem {
  readonly id: string;
  readonly kind: ItemKind;
  /** Who touched it last. */
  readonly by: string | null;
  readonly isGone: boolean;
  /** It was created since. */
  readonly isNew: boolean;
  /** It was removed, or brought back, since. */
  readonly wasRemoved: boolean;
  readonly isBack: boolean;
}

/** Which changes are meant. */
export interface Touches {
  readonly board: string;
  /** Those after this revision. */
  readonly since: number;
  /** Without those that were made in this browser. */
  readonly browser?: string | undefined;
}

/** Items that changes touched. */
export async function findTouchedSince(
  knex: Knex,
  { board, since, browser }: Touches,
): Promise<TouchedItem[]> {
  const { rows } = await knex.raw(
    `with touched as (
       select coalesce(o -> 'create' ->> 'id', o ->> 'item') as id, bool_or(jsonb_exists(o, 'create')) as is_new,
           coalesce(bool_or((o -> 'set' ->> 'removed') = 'true'), false) as was_removed,
           coalesce(bool_or((o -> 'set' ->> 'removed') = 'false'), false) as is_back,
           (array_agg(c.made_by order by c.revision desc))[1] as made_by
         from board_changes c, jsonb_array_elements(c.operations) o
         where c.board = :board and c.revision > :since and (:browser::uuid is null or c.made_in is distinct from :browser)
         group by 1
     )
     select t.id, i.kind, t.made_by as by, i.removed as "isGone", t.is_new as "isNew",
         t.was_removed as "wasRemoved", t.is_back as "isBack"
       from touched t join board_items i on i.board = :board and i.id = t.id
       order by t.id`,
    { board, since, browser: browser ?? null } as never,
  );
  return rows as TouchedItem[];
}
