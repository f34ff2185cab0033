import { isPostered, type Level, needsTiles } from '@miradero/core/picture';
import { findBoardsOfPicture } from '../database/board-items.ts';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { findSettings } from '../database/owner-settings.ts';
import {
  completeSource,
  countBrokenDecode,
  nameByTitle,
  recordFacts,
  recordFailure,
  recordLevels,
} from '../database/pictures.ts';
import { DecodeError, type Decoding } from '../pixels/decoding/decoders.ts';
import type { FileFacts } from '../pixels/read-facts.ts';
import type { Prepared } from '../pixels/tasks.ts';
import { storeBytes, withBlobFiles } from '../storage/blob-store.ts';
import { ATLAS, COPIES, PREVIEW, TILES } from './kinds.ts';
import type { Queue } from './queue.ts';

/** A picture that broke a limit of the process that read it, or the process itself, is tried so often. */
export const MOST_TRIES = 2;

/** What the file tells of itself; where a page or person said something already, that stays. */
async function keepFacts(
  knex: Knex,
  decoders: Decoding,
  owner: string,
  id: string,
  path: string,
): Promise<void> {
  const { positions = false } = await findSettings(knex, owner);
  const nothing: FileFacts = { facts: {}, source: {} };
  // Facts are never worth a picture: what cannot be read, or not in time, is not known.
  const { facts, source } = await decoders
    .run('facts', { path, keepsPosition: positions })
    .catch(() => nothing);
  await recordFacts(knex, id, facts);
  await completeSource(knex, id, source);
  if (source.title) await nameByTitle(knex, id, source.title);
}

/**
 * Records why a picture cannot be shown. What broke a limit may have met a busy moment: it is tried once more.
 * @throws DecodeError to be tried again
 */
async function giveUp(knex: Knex, owner: string, id: string, error: DecodeError): Promise<void> {
  let words = `The picture is kept, but its pixels cannot be read: ${error.message}`;
  if (error.reason !== 'unreadable') {
    const tries = await countBrokenDecode(knex, id);
    if (tries < MOST_TRIES) throw error;
    words = `The picture is kept, but it was given up after ${tries} tries. ${error.message} Bring its file in again to have it tried once more.`;
  }
  await recordFailure(knex, id, words);
  await notifyNews(knex, owner, { kind: 'picture', picture: id });
}

/** Its job failed for the last time, for whatever reason: the picture says so instead of waiting for ever. */
export async function leavePicture(knex: Knex, picture: string): Promise<void> {
  const row = await knex('pictures').where({ id: picture, state: 'arriving' }).first('owner');
  if (!row) return;
  await recordFailure(knex, picture, 'The picture is kept, but it could not be prepared; it was given up.');
  await notifyNews(knex, row.owner, { kind: 'picture', picture });
}

/** The job: makes and stores the levels of one picture, or records why that cannot be done. */
export async function runLevelsJob(
  knex: Knex,
  queue: Queue,
  decoders: Decoding,
  picture: string,
): Promise<void> {
  const row = await knex('pictures')
    .where({ id: picture })
    .first('owner', 'sha256', 'type', 'width', 'height', 'colour', 'state', 'poster');
  if (!row || row.state === 'ready') return;
  let made: Prepared | undefined;
  try {
    made = await withBlobFiles(knex, [row.sha256, row.poster], async ([path, poster]) => {
      await keepFacts(knex, decoders, row.owner, picture, path!);
      if (isPostered(row.type) && row.poster === null) return undefined;
      const { type, width, height, colour } = row;
      return decoders.run('levels', { path: path!, poster, type, width, height, colour });
    });
  } catch (error) {
    if (!(error instanceof DecodeError)) throw error;
    await giveUp(knex, row.owner, picture, error);
    return;
  }
  if (made === undefined) {
    await recordFailure(knex, picture, 'It is kept, but no browser has made a picture of it yet.');
    await notifyNews(knex, row.owner, { kind: 'picture', picture });
    return;
  }
  const { reading } = made;
  await knex.transaction(async (trx) => {
    const levels: Level[] = [];
    for (const { side, bytes } of made.levels) {
      levels.push({ side, bytes: bytes.length, hash: await storeBytes(trx, bytes, 'image/webp') });
    }
    const master = reading ? await storeBytes(trx, reading, 'image/webp') : null;
    await recordLevels(trx, picture, levels, made.thumbhash, master);
    await notifyNews(trx, row.owner, { kind: 'picture', picture });
    await queue.send(trx, ATLAS, { owner: row.owner });
    for (const board of await findBoardsOfPicture(trx, picture)) await queue.send(trx, PREVIEW, { board });
    if (needsTiles(row.width, row.height)) await queue.send(trx, TILES, { picture });
    await queue.send(trx, COPIES, { picture });
  });
}
