import { tileGridOf } from '@miradero/core/picture';
import type { Picture, TileLevel } from '@miradero/core/schema';
import type { Knex } from './connection.ts';

export interface NewTile {
  /** 0 is full size; each further one halves. */
  readonly level: number;
  readonly row: number;
  readonly column: number;
  readonly hash: string;
}

/** Records every tile of a picture at once, and that it has them. */
export async function recordTiles(trx: Knex, picture: string, tiles: readonly NewTile[]): Promise<void> {
  await trx('picture_tiles').where({ picture }).delete();
  const rows = tiles.map((tile) => ({ picture, ...tile }));
  for (let from = 0; from < rows.length; from += 500)
    await trx('picture_tiles').insert(rows.slice(from, from + 500));
  await trx('pictures').where({ id: picture }).update({ has_tiles: true });
}

/** The pyramid of a picture, finest level first. */
export async function findTiles(knex: Knex, picture: Picture): Promise<TileLevel[]> {
  const rows: NewTile[] = await knex('picture_tiles')
    .where({ picture: picture.id })
    .orderBy(['level', 'row', 'column'])
    .select('level', 'hash');
  const levels = new Map<number, string[]>();
  for (const { level, hash } of rows) levels.set(level, [...(levels.get(level) ?? []), hash]);
  return [...levels].map(([level, hashes]) => ({
    ...tileGridOf(Math.ceil(picture.width / 2 ** level), Math.ceil(picture.height / 2 ** level)),
    hashes,
  }));
}
