import { isModelType } from '@miradero/core/model';
import { copyBetween, type IntakeType, likenessHashOf } from '@miradero/core/picture';
import type { Knex } from '../database/connection.ts';
import { recordHistogram } from '../database/histograms.ts';
import { notifyNews } from '../database/notify.ts';
import { findCandidates, recordCopy, recordLikeness } from '../database/picture-copies.ts';
import { recordMeasures } from '../database/picture-measures.ts';
import { countArriving } from '../database/pictures.ts';
import { DecodeError, type Decoding } from '../pixels/decoding/decoders.ts';
import { printOfBytes } from '../pixels/print-of.ts';
import { readBytes, withBlobFiles } from '../storage/blob-store.ts';
import { COPIES } from './kinds.ts';
import { laterFor, type Queue } from './queue.ts';

interface Shown {
  readonly type: IntakeType;
  readonly width: number;
  readonly height: number;
  readonly sha256: string;
  readonly poster: string | null;
}

/** What a decoder finds out about a picture; what cannot be read at full size goes without it. */
async function tried<T>(id: string, what: string, find: () => Promise<T>): Promise<T | undefined> {
  try {
    return await find();
  } catch (error) {
    // A database that goes away meanwhile fails the job, which is then done again.
    if (!(error instanceof DecodeError)) throw error;
    console.error(`jobs: ${what} of picture ${id}: ${error.message}`);
    return undefined;
  }
}

/** Takes a picture's measures, and counts its colours, so that many pictures are soon counted together. */
async function measure(
  knex: Knex,
  decoders: Decoding,
  id: string,
  shown: Shown,
  small: Buffer,
): Promise<void> {
  const { type, width, height, sha256, poster } = shown;
  const [measures, cells] = await withBlobFiles(knex, [sha256, poster], async ([path, posterPath]) => {
    const of = { path: path!, poster: posterPath, type, width, height };
    return [
      await tried(id, 'no measures', () => decoders.run('measures', { ...of, small })),
      await tried(id, 'no count of the colours', () => decoders.run('histogram', of)),
    ] as const;
  });
  if (measures) await recordMeasures(knex, id, measures);
  if (cells) await recordHistogram(knex, id, Buffer.from(cells));
}

/** The job: measures a picture, keeps its likeness and collects what is nearly the same; nobody is asked anything. */
export async function runCopiesJob(
  knex: Knex,
  queue: Queue,
  decoders: Decoding,
  picture: string,
): Promise<void> {
  const row = await knex('pictures as p')
    .join('picture_levels as l', 'l.picture', 'p.id')
    .where('p.id', picture)
    .orderBy('l.side')
    .first('p.owner', 'p.type', 'p.width', 'p.height', 'p.sha256', 'p.poster', 'p.facts', 'l.hash');
  if (!row) return;
  // What somebody waits to see comes first.
  const arriving = await countArriving(knex, row.owner);
  if (arriving > 0) {
    await knex.transaction((trx) => queue.send(trx, COPIES, { picture }, { afterS: laterFor(arriving) }));
    return;
  }
  const { owner } = row;
  const small = await readBytes(knex, row.hash);
  await measure(knex, decoders, picture, row, small);
  await notifyNews(knex, owner, { kind: 'picture', picture });
  // A view of a model says little about what else shows it; and views of one model are alike.
  if (isModelType(row.type) || row.facts.taken) return;
  const print = await printOfBytes(small);
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
