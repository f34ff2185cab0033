import { copyBetween, likenessHashOf, type Print } from '@miradero/core/picture';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { findCandidates, recordCopy, recordLikeness } from '../database/picture-copies.ts';

/** Keeps a picture's likeness and collects what is nearly the same; nobody is asked anything. */
export async function findCopies(knex: Knex, owner: string, picture: string, print: Print): Promise<void> {
  const hash = likenessHashOf(print);
  await recordLikeness(knex, picture, hash, print);
  for (const candidate of await findCandidates(knex, owner, picture, hash)) {
    const copy = copyBetween(print, candidate.print);
    if (!copy) continue;
    await recordCopy(knex, picture, candidate.id, copy.isMirrored);
    for (const one of [picture, candidate.id])
      await notifyNews(knex, owner, { kind: 'picture', picture: one });
  }
}
