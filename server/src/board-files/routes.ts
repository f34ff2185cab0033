import { randomUUID } from 'node:crypto';
import { BOARD_FILE_ROUTES } from '@miradero/core/contracts';
import { cleanName } from '@miradero/core/picture';
import type { BoardFile, BoardFileReading, ReceivedBoardFile } from '@miradero/core/schema';
import {
  addBoardFile,
  findBoardFile,
  findBoardsWithOrigin,
  findKnownChanges,
  type KeptBoardFile,
  recordBoardFile,
} from '../database/board-files.ts';
import type { Knex } from '../database/connection.ts';
import { findDatabaseId } from '../database/owner.ts';
import { withReceivedFiles } from '../intake/receive-upload.ts';
import { READ_BOARD_FILE } from '../jobs/kinds.ts';
import type { Queue } from '../jobs/queue.ts';
import { ProblemError } from '../requests/problem.ts';
import { type Route, routesFor } from '../requests/route.ts';
import { isUuid } from '../requests/validation.ts';
import { storeFile } from '../storage/blob-store.ts';
import { readBoardJson } from './board-json.ts';
import { mergeable } from './merging.ts';
import { OpenZip, ZipError } from './open-zip.ts';

/** A board file with the originals of thousands of pictures. */
const MOST_BYTES = 24 * 1024 ** 3;

/** Boards into which something of a file can be merged, those first that it most likely belongs to. */
async function mergesInto(
  knex: Knex,
  owner: string,
  file: BoardFile,
): Promise<ReceivedBoardFile['mergesInto']> {
  const database = await findDatabaseId(knex);
  const found: { board: string; name: string; changes: number }[] = [];
  for (const board of await findBoardsWithOrigin(knex, owner)) {
    const entries = mergeable(file, board, database);
    if (!entries) continue;
    const ids = entries.map(({ change }) => String((change as { id?: unknown }).id));
    const known = await findKnownChanges(knex, board.id, ids.filter(isUuid));
    found.push({ board: board.id, name: board.name, changes: entries.length - known.size });
  }
  return found.sort((a, b) => b.changes - a.changes);
}

async function lookAt(knex: Knex, owner: string, id: string, hash: string): Promise<ReceivedBoardFile> {
  const zip = await OpenZip.open(knex, hash);
  try {
    const { file } = await readBoardJson(zip);
    return {
      ...{ id, name: cleanName(file.board.name) || 'Board', savedAt: file.savedAt },
      items: file.items.filter((item) => (item as { removed?: unknown }).removed !== true).length,
      pictures: file.pictures.length,
      without: file.pictures.filter((picture) => picture.file === null).length,
      mergesInto: await mergesInto(knex, owner, file),
    };
  } finally {
    zip.close();
  }
}

/** @throws ProblemError `board-file-missing` */
async function ownFile(knex: Knex, owner: string, id: string): Promise<KeptBoardFile> {
  const kept = await findBoardFile(knex, id);
  if (kept?.owner !== owner) throw new ProblemError('board-file-missing');
  return kept;
}

const readingOf = ({ state, why, result }: KeptBoardFile): BoardFileReading => ({ state, why, result });

/** Boards that come back as files. */
export const boardFileRoutes = (knex: Knex, queue: Queue): Route[] =>
  routesFor(BOARD_FILE_ROUTES, {
    'POST /api/board-files': ({ owner, request }) =>
      withReceivedFiles(
        request,
        async ([file]) => {
          if (!file) throw new ProblemError('malformed', 'No file came under the name "file".');
          if (file.isCutOff) throw new ProblemError('no-board-file', 'It is larger than 24 GB.');
          const id = randomUUID();
          await knex.transaction(async (trx) => {
            await storeFile(trx, file.path, file.sha256, { bytes: file.bytes, type: 'application/zip' });
            await addBoardFile(trx, owner, id, file.sha256);
          });
          try {
            return { boardFile: await lookAt(knex, owner, id, file.sha256) };
          } catch (error) {
            await recordBoardFile(knex, id, { state: 'failed', hash: null });
            if (error instanceof ZipError) throw new ProblemError('no-board-file', error.message);
            throw error;
          }
        },
        MOST_BYTES,
      ),

    async 'POST /api/board-files/:id/readings'({ owner, parameters: { id }, body }) {
      await knex.transaction(async (trx) => {
        const kept = await ownFile(trx, owner, id);
        // The same twice is once.
        if (kept.request !== null) return;
        if (kept.hash === null) throw new ProblemError('no-board-file', kept.why ?? undefined);
        const by = body.by ? cleanName(body.by) || null : null;
        await recordBoardFile(trx, id, { request: { into: body.into, by } });
        await queue.send(trx, READ_BOARD_FILE, { boardFile: id });
      });
      return readingOf(await ownFile(knex, owner, id));
    },

    'GET /api/board-files/:id': async ({ owner, parameters: { id } }) =>
      readingOf(await ownFile(knex, owner, id)),
  });
