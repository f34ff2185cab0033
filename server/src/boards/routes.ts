import { randomUUID } from 'node:crypto';
import { cleanName } from '@miradero/core/picture';
import {
  type BoardSnapshot,
  CHANGE_LIMITS,
  type CreateBoard,
  changesBodySchema,
  copyBoardSchema,
  createBoardSchema,
  type FindItemsQuery,
  findItemsQuerySchema,
  type PatchBoard,
  patchBoardSchema,
  type SinceQuery,
  sinceQuerySchema,
} from '@miradero/core/schema';
import { json, Router } from 'express';
import { appendChanges, findChangeAt, findChangesSince } from '../database/board-changes.ts';
import { findItems, findItemsByWords } from '../database/board-items.ts';
import {
  addBoard,
  copyBoard,
  findBoard,
  listBoards,
  takeRevisions,
  updateBoard,
} from '../database/boards.ts';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { ProblemError } from '../http/problem.ts';
import { bodyParser, parseUuid, queryParser } from '../http/validation.ts';
import { PREVIEW } from '../jobs/kinds.ts';
import type { Queue } from '../jobs/queue.ts';
import { acceptChanges } from './accept-changes.ts';

/** Log entries of one answer; a client that is further behind asks again. */
const LOG_PAGE = 500;

const parseCreate = bodyParser<CreateBoard>(createBoardSchema);
const parseCopy = bodyParser<CreateBoard>(copyBoardSchema);
const parsePatch = bodyParser<PatchBoard>(patchBoardSchema);
const parseChanges = bodyParser<{ changes: object[] }>(changesBodySchema);
const parseFind = queryParser<FindItemsQuery>(findItemsQuerySchema);
const parseSince = queryParser<SinceQuery>(sinceQuerySchema);

function nameFrom(given: string): string {
  const name = cleanName(given);
  if (name === '') throw new ProblemError('malformed', 'A board needs a name.');
  return name;
}

/** Everything under `/api/boards`. */
export function boardRoutes(knex: Knex, queue: Queue, owner: string): Router {
  const router = Router();
  const idOf = (request: { params: Record<string, string | string[]> }) =>
    parseUuid(request.params.id, 'board-missing');

  router.get('/', async (_request, response) => {
    response.json({ boards: await listBoards(knex, owner) });
  });

  router.post('/', json(), async (request, response) => {
    const body = parseCreate(request.body);
    const id = body.id ?? randomUUID();
    const added = await addBoard(knex, owner, id, nameFrom(body.name));
    const board = await findBoard(knex, owner, id);
    if (!board) throw new ProblemError('board-exists');
    if (added) await notifyNews(knex, owner, { kind: 'board-facts', board: id });
    response.status(added ? 201 : 200).json({ board });
  });

  router.get('/items', async (request, response) => {
    const { words, limit } = parseFind({ ...request.query });
    response.json({ items: await findItemsByWords(knex, owner, words, limit ?? 20) });
  });

  router.get('/:id', async (request, response) => {
    const id = idOf(request);
    // One snapshot for both reads: the items are exactly those of the revision.
    const snapshot = await knex.transaction(
      async (trx): Promise<BoardSnapshot> => {
        const board = await findBoard(trx, owner, id);
        if (!board) throw new ProblemError('board-missing');
        const lastChange = await findChangeAt(trx, id, board.revision);
        return { board, items: await findItems(trx, id), revision: board.revision, lastChange };
      },
      { isolationLevel: 'repeatable read', readOnly: true },
    );
    response.json(snapshot);
  });

  router.patch('/:id', json(), async (request, response) => {
    const id = idOf(request);
    const patch = parsePatch(request.body);
    const values = patch.name === undefined ? patch : { ...patch, name: nameFrom(patch.name) };
    await knex.transaction(async (trx) => {
      if (!(await updateBoard(trx, owner, id, values))) throw new ProblemError('board-missing');
      if (values.surround !== undefined) await queue.send(trx, PREVIEW, { board: id });
      await notifyNews(trx, owner, { kind: 'board-facts', board: id });
    });
    response.json({ board: await findBoard(knex, owner, id) });
  });

  router.post('/:id/copies', json(), async (request, response) => {
    const from = idOf(request);
    const body = parseCopy(request.body);
    const id = body.id ?? randomUUID();
    await knex.transaction(async (trx) => {
      if (!(await findBoard(trx, owner, from))) throw new ProblemError('board-missing');
      if (!(await copyBoard(trx, owner, from, { id, name: nameFrom(body.name) }))) return;
      const operations = (await findItems(trx, id)).map((create) => ({ create }));
      if (operations.length > 0) {
        const revision = await takeRevisions(trx, id, 1);
        await appendChanges(trx, id, [{ revision, change: { id: randomUUID(), operations } }]);
        await queue.send(trx, PREVIEW, { board: id });
      }
      await notifyNews(trx, owner, { kind: 'board-facts', board: id });
    });
    const board = await findBoard(knex, owner, id);
    if (!board) throw new ProblemError('board-exists');
    response.status(201).json({ board });
  });

  router.post('/:id/changes', json({ limit: CHANGE_LIMITS.bytes }), async (request, response) => {
    const { changes } = parseChanges(request.body);
    response.json({ outcomes: await acceptChanges(knex, queue, owner, idOf(request), changes) });
  });

  router.get('/:id/changes', async (request, response) => {
    const id = idOf(request);
    const { since, last } = parseSince({ ...request.query });
    const board = await findBoard(knex, owner, id);
    if (!board) throw new ProblemError('board-missing');
    if (since > board.revision) throw new ProblemError('ahead', `revision ${board.revision}`);
    // A database that was put back and has moved on counts the same revisions again, for other changes.
    if (last !== undefined && since > 0 && (await findChangeAt(knex, id, since)) !== last)
      throw new ProblemError('ahead', 'another change has that revision');
    response.json({ changes: await findChangesSince(knex, id, since, LOG_PAGE), revision: board.revision });
  });

  return router;
}
