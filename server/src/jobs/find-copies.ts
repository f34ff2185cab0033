import { copyBetween, type IntakeType, likenessHashOf, type Measures } from '@miradero/core/picture';
import type { Knex } from '../database/connection.ts';
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

/** Takes a picture's measures; what cannot be read at full size goes without them. */
async function measure(
  knex: Knex,
  decoders: Decoding,
  id: string,
  shown: Shown,
  small: Buffer,
): Promise<void> {
  const { type, width, height, sha256, poster } = shown;
  let measures: Measures;
  try {
    measures = await withBlobFiles(knex, [sha256, poster], ([path, posterPath]) =>
      decoders.run('measures', { path: path!, poster: posterPath, type, width, height, small }),
    );
  } catch (error) {
    // A database that goes away meanwhile fails the job, which is then done again.
    if (!(error instanceof DecodeError)) throw error;
    console.error(`jobs: picture ${id} is not measured: ${error.message}`);
    return;
  }
  await recordMeasures(knex, id, measures);
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
    .first('p.owner', 'p.type', 'p.width', 'p.height', 'p.sha256', 'p.poster', 'l.hash');
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
  // A view of a model says little about what else shows it.
  if (row.type === 'model/gltf-binary') return;
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
