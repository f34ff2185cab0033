import { CANDIDATE_BITS, mirroredHash, PRINT_BYTES, type Print } from '@miradero/core/picture';
import type { Knex } from './connection.ts';

/** 16 hexadecimal digits as PostgreSQL reads 64 bits. */
const bits = (hash: string): string => `x${hash}`;

/** How many candidates are looked at closely; more than this of one look is a series, not a copy. */
const MOST_CANDIDATES = 24;

export async function recordLikeness(trx: Knex, id: string, hash: string, print: Print): Promise<void> {
  await trx.raw('update pictures set likeness = ?::bit(64), print = ? where id = ?', [
    bits(hash),
    Buffer.from(print),
    id,
  ]);
}

/** Prints of an owner's pictures whose hash, or mirrored hash, differs in few bits, the nearest first. */
export async function findCandidates(
  trx: Knex,
  owner: string,
  id: string,
  hash: string,
): Promise<{ id: string; print: Print }[]> {
  const { rows } = await trx.raw(
    `select id, print from (
       select id, print,
         least(bit_count(likeness # ?::bit(64)), bit_count(likeness # ?::bit(64))) as differing
       from pictures where owner = ? and id <> ? and likeness is not null and print is not null and not is_version
     ) p where differing <= ? order by differing, id limit ?`,
    [bits(hash), bits(mirroredHash(hash)), owner, id, CANDIDATE_BITS, MOST_CANDIDATES],
  );
  return (rows as { id: string; print: Buffer }[])
    .filter(({ print }) => print.length === PRINT_BYTES)
    .map(({ id, print }) => ({ id, print: new Uint8Array(print) }));
}

export async function recordCopy(trx: Knex, one: string, two: string, isMirrored: boolean): Promise<void> {
  const [picture, other] = one < two ? [one, two] : [two, one];
  await trx('picture_copies')
    .insert({ picture, other, is_mirrored: isMirrored })
    .onConflict(['picture', 'other'])
    .ignore();
}

export async function findCopy(
  knex: Knex,
  one: string,
  two: string,
): Promise<{ isMirrored: boolean } | undefined> {
  const [picture, other] = one < two ? [one, two] : [two, one];
  const row = await knex('picture_copies').where({ picture, other }).first('is_mirrored');
  return row && { isMirrored: row.is_mirrored };
}

/** Says no more about these two, or again. */
export async function settleCopies(knex: Knex, one: string, two: string, isSettled = true): Promise<void> {
  const [picture, other] = one < two ? [one, two] : [two, one];
  await knex('picture_copies').where({ picture, other }).update({ is_settled: isSettled });
}
