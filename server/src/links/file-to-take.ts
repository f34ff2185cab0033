import { createHash } from 'node:crypto';
import { portableName } from '@miradero/core/picture';
import { findBoardForFile } from '../database/board-files.ts';
import type { Knex } from '../database/connection.ts';
import {
  addExport,
  type ExportRequest,
  findExport,
  type KeptExport,
  removeExport,
} from '../database/exports.ts';
import type { Link } from '../database/links.ts';
import { EXPORT } from '../jobs/kinds.ts';
import type { Queue } from '../jobs/queue.ts';
import { LookingError } from './looking-error.ts';

/** Whether those who look may take the board along: with its originals, or as a class that has tasks. */
export const givesFile = ({ withOriginals, tasks }: Link): boolean => withOriginals || tasks !== '';

/** The board of a link as a file: made once for each state in which it was asked for, whoever asks. */
export interface FileToTake {
  readonly id: string;
  readonly state: 'waiting' | 'working' | 'done' | 'failed';
}

const NOT_GIVEN = 'This board is not given as a file.';

/** The same id for the same link and state, as a UUID: a class that asks at once asks for one file. */
function idOf(link: Link, revision: number): string {
  const hash = createHash('sha256').update(`${link.id} ${revision}`).digest('hex');
  return [
    hash.slice(0, 8),
    hash.slice(8, 12),
    `8${hash.slice(13, 16)}`,
    `8${hash.slice(17, 20)}`,
    hash.slice(20, 32),
  ].join('-');
}

const toldOf = ({ id, state }: KeptExport): FileToTake => ({
  id,
  state: state === 'stopped' ? 'failed' : state,
});

async function exportOf(knex: Knex, link: Link, id: string): Promise<KeptExport> {
  const kept = await findExport(knex, id);
  if (!givesFile(link) || kept?.request.link !== link.id) throw new LookingError(404, NOT_GIVEN);
  return kept;
}

/** Asks for the file of the board as it is now; what failed before is tried anew. @throws LookingError where none is given */
export async function askForFile(knex: Knex, queue: Queue, link: Link): Promise<FileToTake> {
  const board = givesFile(link) ? await findBoardForFile(knex, link.board) : undefined;
  if (!board) throw new LookingError(404, NOT_GIVEN);
  const id = idOf(link, board.revision);
  const request: ExportRequest = {
    ...{ items: null, as: 'board-file', type: 'image/png', side: null, ground: 'clear' },
    ...{ pictures: link.withOriginals ? 'originals' : 'copies', tasks: link.tasks, link: link.id },
  };
  const { owner, board: boardId } = link;
  await knex.transaction(async (trx) => {
    await removeExport(trx, id, ['failed', 'stopped']);
    if (
      await addExport(trx, {
        id,
        owner,
        board: boardId,
        name: portableName(link.title || board.name),
        request,
      })
    )
      await queue.send(trx, EXPORT, { export: id });
  });
  return toldOf(await exportOf(knex, link, id));
}

/** How far one is. @throws LookingError for one that is not this link's */
export const fileNow = async (knex: Knex, link: Link, id: string): Promise<FileToTake> =>
  toldOf(await exportOf(knex, link, id));

/** Its bytes, once it is done. @throws LookingError before */
export async function bytesOfFile(
  knex: Knex,
  link: Link,
  id: string,
): Promise<{ hash: string; name: string }> {
  const { hash, name } = await exportOf(knex, link, id);
  if (hash === null) throw new LookingError(404, 'It is not put together yet.');
  return { hash, name };
}
