import type { Knex } from '../database/connection.ts';

/** Bytes that nothing names any more stay so long after they were named last, for open windows, backups and slow readers. */
const GRACE = '24 hours';

const IS_NAMED = `(exists (select from pictures p where p.sha256 = b.hash or p.reading = b.hash or p.poster = b.hash or p.exact = b.hash)
  or exists (select from picture_levels l where l.hash = b.hash)
  or exists (select from picture_tiles t where t.hash = b.hash)
  or exists (select from picture_exact_tiles t where t.hash = b.hash)
  or exists (select from atlases a where a.hash32 = b.hash or a.hash64 = b.hash)
  or exists (select from boards o where o.preview = b.hash)
  or exists (select from exports e where e.hash = b.hash)
  or exists (select from board_files f where f.hash = b.hash))`;

/**
 * Notes which blobs nothing names any more, and deletes those of which that was noted long enough ago. A blob that is
 * stored again meanwhile is renewed first (`claim`), and then counts as named.
 *
 * @returns how many were deleted
 */
export async function sweepBlobs(knex: Knex, grace = GRACE): Promise<number> {
  await knex.raw(`update blobs b set unnamed_since = null where unnamed_since is not null and ${IS_NAMED}`);
  // What was stored a moment ago is named when its transaction ends.
  await knex.raw(
    `update blobs b set unnamed_since = now()
     where unnamed_since is null and created_at < now() - interval '1 hour' and not ${IS_NAMED}`,
  );
  return knex.transaction(async (trx) => {
    const { rows } = await trx.raw(
      `select b.hash from blobs b where b.unnamed_since <= now() - ?::interval and not ${IS_NAMED}
       limit 5000 for update skip locked`,
      [grace],
    );
    const hashes = (rows as { hash: string }[]).map(({ hash }) => hash);
    if (hashes.length === 0) return 0;
    await trx('former_blobs').whereIn('hash', hashes).delete();
    await trx('blob_pieces').whereIn('hash', hashes).delete();
    await trx('blobs').whereIn('hash', hashes).delete();
    return hashes.length;
  });
}
