import type { Knex } from './connection.ts';

/** So many answers are remembered: bytes stay somebody's as long as anything of theirs names them. */
const MOST_KNOWN = 20_000;

/** Whose bytes these are: `owner hash`, in the order in which they were asked for last. */
const known = new Set<string>();

const OF_OWNER = `
  exists (select from picture_levels l join pictures p on p.id = l.picture where l.hash = :hash and p.owner = :owner)
  or exists (select from atlases a where (a.hash32 = :hash or a.hash64 = :hash) and a.owner = :owner)
  or exists (select from picture_tiles t join pictures p on p.id = t.picture where t.hash = :hash and p.owner = :owner)
  or exists (select from boards b where b.preview = :hash and b.owner = :owner)
  or exists (select from former_blobs f where f.hash = :hash and f.owner = :owner)
  or exists (
    select from pictures p
    where p.owner = :owner and (p.sha256 = :hash or p.reading = :hash or p.poster = :hash)
  )`;

/**
 * Whether something of the owner's names these bytes: a copy of one of their pictures, an atlas of their library, a
 * preview of one of their boards. Atlases hold pictures of one owner alone, so that a copy of one picture never shows others'.
 */
export async function mayRead(knex: Knex, owner: string, hash: string): Promise<boolean> {
  const key = `${owner} ${hash}`;
  if (!known.delete(key)) {
    const { rows } = await knex.raw(`select ${OF_OWNER} as may`, { owner, hash });
    if (!(rows as { may: boolean }[])[0]?.may) return false;
  }
  known.add(key);
  if (known.size > MOST_KNOWN) known.delete(known.values().next().value!);
  return true;
}
