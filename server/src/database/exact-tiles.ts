import type { Knex } from './connection.ts';

export interface ExactTile {
  readonly row: number;
  readonly column: number;
  readonly hash: string;
}

/** Records the lossless tiles of a picture at once, and by what they are read. */
export async function recordExactTiles(
  trx: Knex,
  picture: string,
  tiles: readonly ExactTile[],
  exact: string,
): Promise<void> {
  await trx('picture_exact_tiles').where({ picture }).delete();
  const rows = tiles.map((tile) => ({ picture, ...tile }));
  for (let from = 0; from < rows.length; from += 500)
    await trx('picture_exact_tiles').insert(rows.slice(from, from + 500));
  await trx('pictures').where({ id: picture }).update({ exact });
}

/** What there is of a picture's lossless pixels. */
export async function findExact(
  knex: Knex,
  owner: string,
  picture: string,
): Promise<{ width: number; height: number; exact: string | null } | undefined> {
  return knex('pictures').where({ id: picture, owner }).first('width', 'height', 'exact');
}

/** Those of its tiles that lie from one column and row to another, both counted in. */
export async function findExactTiles(
  knex: Knex,
  picture: string,
  from: { readonly column: number; readonly row: number },
  to: { readonly column: number; readonly row: number },
): Promise<ExactTile[]> {
  return knex('picture_exact_tiles')
    .where({ picture })
    .whereBetween('row', [from.row, to.row])
    .whereBetween('column', [from.column, to.column])
    .select('row', 'column', 'hash');
}
