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
});

const selectBoards = (knex: Knex, owner: string) =>
  knex('boards as b')
    .where('b.owner', owner)
    .select(
      'b.*',
      knex.raw(
        `(select count(*) from board_items i where i.board = b.id and i.kind = 'placement' and not i.removed) as pictures`,
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
  const { putAway, ...rest } = patch;
  const values = putAway === undefined ? rest : { ...rest, put_away: putAway };
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

/** Takes the next `count` revisions of a locked board. @returns the last of them */
export async function takeRevisions(trx: Knex, id: string, count: number): Promise<number> {
  const rows = await trx('boards')
    .where({ id })
    .update({ revision: trx.raw('revision + ?', [count]), changed_at: trx.fn.now() })
    .returning('revision');
  return Number(rows[0].revision);
}
