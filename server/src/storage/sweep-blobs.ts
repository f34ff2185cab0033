import type { Knex } from '../database/connection.ts';

/** Bytes that nothing names any more stay so long, for backups and slow readers. */
const GRACE = '24 hours';

/**
 * Deletes blobs that nothing names any more. A blob that is stored again meanwhile is renewed first (`claim`), and then no
 * longer old enough.
 *
 * @returns how many
 */
export async function sweepBlobs(knex: Knex, grace = GRACE): Promise<number> {
  return knex.transaction(async (trx) => {
    const { rows } = await trx.raw(
      `select b.hash from blobs b
       where b.created_at < now() - ?::interval
         and not exists (select from pictures p where p.sha256 = b.hash or p.reading = b.hash or p.poster = b.hash)
         and not exists (select from picture_levels l where l.hash = b.hash)
         and not exists (select from picture_tiles t where t.hash = b.hash)
         and not exists (select from atlases a where a.hash32 = b.hash or a.hash64 = b.hash)
         and not exists (select from boards o where o.preview = b.hash)
       limit 5000 for update skip locked`,
      [grace],
    );
    const hashes = (rows as { hash: string }[]).map(({ hash }) => hash);
    if (hashes.length === 0) return 0;
    await trx('blob_pieces').whereIn('hash', hashes).delete();
    await trx('blobs').whereIn('hash', hashes).delete();
    return hashes.length;
  });
}
