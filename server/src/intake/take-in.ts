import { isPostered, nameOfFile, pictureIdOf, REFUSALS, type RefusalCode } from '@miradero/core/picture';
import type { AboutPicture, IntakeAnswer, Picture, PictureFacts, RefusedFile } from '@miradero/core/schema';
import { cutText } from '@miradero/core/text';
import type { Knex } from '../database/connection.ts';
import { recordVersion } from '../database/drawings.ts';
import { notifyNews } from '../database/notify.ts';
import {
  addPicture,
  completeSource,
  findPicture,
  nameByTitle,
  recordFacts,
  recordPoster,
  takeUpGivenUp,
} from '../database/pictures.ts';
import { serveAsModel } from '../database/taken-of-model.ts';
import { LEVELS } from '../jobs/kinds.ts';
import type { Queue } from '../jobs/queue.ts';
import { DecodeError, type Decoding } from '../pixels/decoding/decoders.ts';
import type { Examined } from '../pixels/examine.ts';
import { storeFile } from '../storage/blob-store.ts';
import type { Accompanying, ReceivedFile } from './receive-upload.ts';

const refuse = (fileName: string, code: RefusalCode): RefusedFile => ({
  fileName,
  code,
  title: REFUSALS[code],
});

/** What intake works with. */
export interface Intake {
  readonly knex: Knex;
  readonly queue: Queue;
  readonly owner: string;
  /** Where files are looked at; what one does to its process, it does to nothing else. */
  readonly decoders: Decoding;
}

/** A file that may come in, and what stands for it where only a browser can show it. */
interface Admitted {
  readonly file: ReceivedFile;
  readonly facts: Examined;
  readonly about: AboutPicture;
  readonly poster: ReceivedFile | undefined;
}

/** What is known of a picture's taking beside its bytes. */
const toldFacts = ({ paperMm, taken }: AboutPicture): PictureFacts => ({
  ...(paperMm ? { paperMm } : {}),
  ...(taken ? { taken, ...(taken.lensMm === null ? {} : { focalLength35Mm: taken.lensMm }) } : {}),
});

/** Bytes, picture and the job that makes its levels: all of it, or nothing. What is here already learns its source. */
async function keep(
  { knex, queue, owner }: Intake,
  admitted: Admitted,
): Promise<{ picture: Picture; isKnown: boolean }> {
  const { file, about, poster } = admitted;
  const { triangles, ...rest } = admitted.facts;
  const id = pictureIdOf(owner, file.sha256);
  const isKnown = await knex.transaction(async (trx) => {
    await storeFile(trx, file.path, file.sha256, { bytes: file.bytes, type: rest.type });
    if (poster) await storeFile(trx, poster.path, poster.sha256, { bytes: poster.bytes, type: 'image/webp' });
    const isNew = await addPicture(trx, owner, {
      id,
      name: about.name ?? nameOfFile(file.fileName),
      fileName: cutText(file.fileName, 1000),
      bytes: file.bytes,
      sha256: file.sha256,
      source: about.source ?? {},
      facts: { ...toldFacts(about), ...(triangles ? { triangles } : {}) },
      ...(poster ? { poster: poster.sha256 } : {}),
      ...rest,
    });
    if (about.taken) {
      if (!isNew) await recordFacts(trx, id, toldFacts(about));
      await serveAsModel(trx, owner, id, about.taken);
    }
    const isPostered = !isNew && poster !== undefined && (await recordPoster(trx, id, poster.sha256));
    if (!isNew && about.source) await completeSource(trx, id, about.source);
    if (!isNew && about.source?.title) await nameByTitle(trx, id, about.source.title);
    if (about.drawing) await recordVersion(trx, owner, about.drawing, { id, bytes: file.bytes, isNew });
    // What was given up may have met a busy moment, or a server that reads less: whoever brings it again wants it read.
    const isToRead = isNew || isPostered || (await takeUpGivenUp(trx, id));
    if (isToRead) await queue.send(trx, LEVELS, { picture: id });
    if (isToRead || about.source) await notifyNews(trx, owner, { kind: 'picture', picture: id });
    return !isNew;
  });
  return { picture: (await findPicture(knex, owner, id))!, isKnown };
}

/** Looks at a file without taking it in. */
async function examineFile(decoders: Decoding, file: ReceivedFile): Promise<Examined | RefusalCode> {
  if (file.isCutOff) return 'too-many-bytes';
  return decoders.run('examine', file.path).catch((error: unknown) => {
    if (error instanceof DecodeError) return 'damaged' as const;
    throw error;
  });
}

/** A poster is made by our own interface as WebP; anything else is left aside, and the clip or model comes in without. */
async function usablePoster(
  decoders: Decoding,
  poster: ReceivedFile | undefined,
): Promise<ReceivedFile | undefined> {
  if (!poster) return undefined;
  const examined = await examineFile(decoders, poster);
  return typeof examined !== 'string' && examined.type === 'image/webp' ? poster : undefined;
}

/**
 * Takes in what can be taken of `files`, each alone; the same bytes are the same picture. What is known beside the bytes
 * (`about`, `poster`) belongs to a single file.
 */
export async function takeIn(
  intake: Intake,
  files: readonly ReceivedFile[],
  about: AboutPicture,
  { poster, tooMany }: Pick<Accompanying, 'poster' | 'tooMany'>,
): Promise<IntakeAnswer> {
  const pictures: Picture[] = [];
  const known: string[] = [];
  const refused: RefusedFile[] = [];
  const isSingle = files.length === 1;
  for (const file of files) {
    const facts = await examineFile(intake.decoders, file);
    if (typeof facts === 'string') {
      refused.push(refuse(file.fileName, facts));
      continue;
    }
    const own = isSingle && isPostered(facts.type) ? await usablePoster(intake.decoders, poster) : undefined;
    const { picture, isKnown } = await keep(intake, {
      ...{ file, facts, about: isSingle ? about : {}, poster: own },
    });
    pictures.push(picture);
    if (isKnown) known.push(picture.id);
  }
  if (tooMany) refused.push(refuse('', 'too-many-files'));
  return { pictures, refused, known };
}
