import { copyBetween, likenessHashOf } from '@miradero/core/picture';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { findCandidates, recordCopy, recordLikeness } from '../database/picture-copies.ts';
import { printOfBytes } from '../pixels/print-of.ts';
import { readBytes } from '../storage/blob-store.ts';
import { COPIES_QUEUE, type Queue } from './queue.ts';

const LATER_S = 3;

/** Whether pictures that came lately still wait for their levels; one that got stuck holds nothing up for ever. */
const isIntakeBusy = async (knex: Knex, owner: string): Promise<boolean> =>
  (await knex('pictures')
    .where({ owner, state: 'arriving' })
    .andWhereRaw("added_at > now() - interval '5 minutes'")
    .first('id')) !== undefined;

/** The job: keeps a picture's likeness and collects what is nearly the same; nobody is asked anything. */
export async function runCopiesJob(knex: Knex, queue: Queue, picture: string): Promise<void> {
  const row = await knex('pictures as p')
    .join('picture_levels as l', 'l.picture', 'p.id')
    .where('p.id', picture)
    .orderBy('l.side')
    .first('p.owner', 'l.hash');
  if (!row) return;
  // What somebody waits to see comes first.
  if (await isIntakeBusy(knex, row.owner)) {
    await knex.transaction((trx) =>
      queue.send(trx, COPIES_QUEUE, { picture }, { startAfter: LATER_S, singletonKey: picture }),
    );
    return;
  }
  const { owner, hash: smallest } = row as { owner: string; hash: string };
  const print = await printOfBytes(await readBytes(knex, smallest));
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
