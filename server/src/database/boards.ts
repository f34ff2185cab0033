import { SHEET_ID } from '@miradero/core/items';
import type { Board, PatchBoard } from '@miradero/core/schema';
import type { Knex } from './connection.ts';

interface BoardRow {
  id: string;
  name: string;
  surround: number;
  put_away: boolean;
  revision: string;
  created_at: Date;
  changed_at: Date;
  pictures: string;
  preview: string | null;
  for_whom: string;
  question: string;
  due: string | null;
  sheet: Board['sheet'];
}

const boardOf = (row: BoardRow): Board => ({
  id: row.id,
  name: row.name,
  surround: row.surround,
  putAway: row.put_away,
  revision: Number(row.revision),
  createdAt: row.created_at.toISOString(),
  changedAt: row.changed_at.toISOString(),
  pictures: Number(row.pictures),
  preview: row.preview,
  forWhom: row.for_whom,
  question: row.question,
  due: row.due,
  sheet: row.sheet,
});

const selectBoards = (knex: Knex, owner: string) =>
  knex('boards as b')
    .where('b.owner', owner)
    .select(
      'b.*',
      knex.raw(
        `(select count(*) from board_items i where i.board = b.id and i.kind = 'placement' and not i.removed) as pictures`,
      ),
      knex.raw(
        `(select jsonb_build_object('setup', s.properties -> 'setup', 'need', s.properties -> 'need')
          from board_items s where s.board = b.id and s.id = ? and not s.removed) as sheet`,
        SHEET_ID,
      ),
    );

export async function listBoards(knex: Knex, owner: string): Promise<Board[]> {
  const rows = await selectBoards(knex, owner).orderBy([
    { column: 'b.changed_at', order: 'desc' },
    { column: 'b.id' },
  ]);
  return rows.map(boardOf);
}

export async function findBoard(knex: Knex, owner: string, id: string): Promise<Board | undefined> {
  const row = await selectBoards(knex, owner).andWhere('b.id', id).first();
  return row && boardOf(row);
}

/** @returns false when the id is taken */
export async function addBoard(knex: Knex, owner: string, id: string, name: string): Promise<boolean> {
  const rows = await knex('boards').insert({ id, owner, name }).onConflict('id').ignore().returning('id');
  return rows.length > 0;
}

export async function updateBoard(
  knex: Knex,
  owner: string,
  id: string,
  patch: PatchBoard,
): Promise<boolean> {
  const { putAway, forWhom, ...rest } = patch;
  const values = {
    ...rest,
    ...(putAway !== undefined && { put_away: putAway }),
    ...(forWhom !== undefined && { for_whom: forWhom }),
  };
  return (await knex('boards').where({ owner, id }).update(values)) > 0;
}

/**
 * Locks the board until the transaction ends, so that revisions follow each other without a gap: a sequence would
 * show readers revision n + 1 before n. @returns its revision, undefined when the owner has no such board
 */
export async function lockBoard(trx: Knex, owner: string, id: string): Promise<number | undefined> {
  const row = await trx('boards').where({ owner, id }).forUpdate().first('revision');
  return row && Number(row.revision);
}

/** What the job that paints previews needs to know of a board, whoever owns it. */
export async function findBoardForPreview(
  knex: Knex,
  id: string,
): Promise<{ owner: string; surround: number; revision: number } | undefined> {
  const row = await knex('boards').where({ id }).first('owner', 'surround', 'revision');
  return row && { ...row, revision: Number(row.revision) };
}

/** Records the preview of a revision, unless one of a later revision is there. */
export async function recordPreview(
  knex: Knex,
  id: string,
  preview: string | null,
  revision: number,
): Promise<void> {
  await knex('boards')
    .where({ id })
    .andWhere((where) => where.whereNull('preview_revision').orWhere('preview_revision', '<=', revision))
    .update({ preview, preview_revision: revision });
}

/** Adds a board that holds what stands on another one, as its first change. @returns false when the id is taken */
export async function copyBoard(
  trx: Knex,
  owner: string,
  from: string,
  to: { readonly id: string; readonly name: string },
): Promise<boolean> {
  const added = await trx.raw(
    `insert into boards (id, owner, name, surround, preview, for_whom, question, due)
     select ?, owner, ?, surround, preview, for_whom, question, due from boards where id = ? and owner = ?
     on conflict (id) do nothing returning id`,
    [to.id, to.name, from, owner],
  );
  if (added.rows.length === 0) return false;
  await trx.raw(
    `insert into board_items (board, id, kind, stack, removed, picture, properties)
     select ?, id, kind, stack, removed, picture, properties from board_items where board = ? and not removed`,
    [to.id, from],
  );
  return true;
}
