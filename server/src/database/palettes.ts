import { type KeptPalette, MOST_KEPT_PALETTES, type PutPalette } from '@miradero/core/schema';
import type { Knex } from './connection.ts';

/** Palettes on an owner's shelf, the latest first. */
export async function findPalettes(knex: Knex, owner: string): Promise<KeptPalette[]> {
  const rows = await knex('palettes')
    .where({ owner, is_put_away: false })
    .orderBy([
      { column: 'kept_at', order: 'desc' },
      { column: 'id', order: 'desc' },
    ])
    .limit(MOST_KEPT_PALETTES)
    .select('id', 'title', 'swatches', 'subject', 'viewpoint', 'is_put_away', 'kept_at');
  return rows.map(({ is_put_away, kept_at, ...row }) => ({
    ...row,
    ...{ isPutAway: is_put_away, keptAt: kept_at.toISOString() },
  }));
}

/** Keeps a palette, or alters it. @returns false when another owner has that id */
export async function putPalette(
  knex: Knex,
  owner: string,
  id: string,
  { title, swatches, subject, viewpoint, isPutAway }: PutPalette,
): Promise<boolean> {
  const set = {
    ...{ title: title.trim(), subject, is_put_away: isPutAway },
    swatches: JSON.stringify(swatches),
    viewpoint: viewpoint === null ? null : JSON.stringify(viewpoint),
  };
  if ((await knex('palettes').where({ owner, id }).update(set)) > 0) return true;
  const rows = await knex('palettes')
    .insert({ id, owner, ...set })
    .onConflict('id')
    .ignore()
    .returning('id');
  return rows.length > 0;
}
