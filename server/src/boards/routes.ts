import { randomUUID } from 'node:crypto';
import { BOARD_ROUTES } from '@miradero/core/contracts';
import { faultOfNeed, faultOfSheet } from '@miradero/core/easel';
import { gistOf } from '@miradero/core/history';
import { createSheet } from '@miradero/core/items';
import { cleanName } from '@miradero/core/picture';
import type { BoardSnapshot } from '@miradero/core/schema';
import { findChangeAt, findChangesSince, writeChanges } from '../database/board-changes.ts';
import { findItems, findItemsByWords, findItemsText } from '../database/board-items.ts';
import { addBoard, copyBoard, findBoard, listBoards, updateBoard } from '../database/boards.ts';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { PREVIEW, STATES } from '../jobs/kinds.ts';
import type { Queue } from '../jobs/queue.ts';
import { ProblemError } from '../requests/problem.ts';
import { JsonText, type Route, routesFor } from '../requests/route.ts';
import { acceptChanges, picturesNamedBy } from './accept-changes.ts';
import { boardOf } from './board-of.ts';
import { ChangeGroups } from './change-groups.ts';

/** Log entries of one answer; a client that is further behind asks again. */
const LOG_PAGE = 500;
/** Things found by their words, where nobody says how many. */
const FOUND = 20;

function nameFrom(given: string): string {
  const name = cleanName(given);
  if (name === '') throw new ProblemError('malformed', 'A board needs a name.');
  return name;
}

/** Everything under `/api/boards`. */
export function boardRoutes(knex: Knex, queue: Queue): Route[] {
  const groups = new ChangeGroups((owner, board, changes) =>
    acceptChanges(knex, queue, owner, board, changes),
  );
  return routesFor(BOARD_ROUTES, {
    'GET /api/boards': async ({ owner }) => ({ boards: await listBoards(knex, owner) }),

    async 'POST /api/boards'({ owner, body, response }) {
      const id = body.id ?? randomUUID();
      const fault =
        body.sheet && (faultOfSheet(body.sheet.setup) ?? (body.sheet.need && faultOfNeed(body.sheet.need)));
      if (fault) throw new ProblemError('malformed', fault);
      const added = await addBoard(knex, owner, id, nameFrom(body.name));
      if (body.sheet) {
        const { setup, ...more } = body.sheet;
        // Asked for twice it is made once; a board that was made and lost its paper gets it now, one that was begun does not.
        const change = { id: randomUUID(), operations: [{ create: createSheet(setup, more) }] };
        const known = added ? undefined : await findBoard(knex, owner, id);
        if (added || (known && !known.sheet && known.revision === 0))
          await groups.accept(owner, id, [change]);
      }
      const board = await findBoard(knex, owner, id);
      if (!board) throw new ProblemError('board-exists');
      if (added) await notifyNews(knex, owner, { kind: 'board-facts', board: id });
      else response.status(200);
      return { board };
    },

    'GET /api/boards/items': async ({ owner, query: { words, limit = FOUND } }) => ({
      items: await findItemsByWords(knex, owner, words, limit),
    }),

    // One snapshot for both reads: the items are exactly those of the revision.
    'GET /api/boards/:id': ({ owner, parameters: { id } }) =>
      knex.transaction(
        async (trx) => {
          const board = await boardOf(trx, owner, id);
          const lastChange = await findChangeAt(trx, id, board.revision);
          const rest = JSON.stringify({ board, revision: board.revision, lastChange });
          const items = await findItemsText(trx, id);
          return new JsonText<BoardSnapshot>(`${rest.slice(0, -1)},"items":${items}}`);
        },
        { isolationLevel: 'repeatable read', readOnly: true },
      ),

    async 'PATCH /api/boards/:id'({ owner, parameters: { id }, body }) {
      const values = body.name === undefined ? body : { ...body, name: nameFrom(body.name) };
      await knex.transaction(async (trx) => {
        if (!(await updateBoard(trx, owner, id, values))) throw new ProblemError('board-missing');
        if (values.surround !== undefined) await queue.send(trx, PREVIEW, { board: id });
        await notifyNews(trx, owner, { kind: 'board-facts', board: id });
      });
      return { board: await boardOf(knex, owner, id) };
    },

    async 'POST /api/boards/:id/copies'({ owner, parameters: { id: from }, body }) {
      const id = body.id ?? randomUUID();
      await knex.transaction(async (trx) => {
        await boardOf(trx, owner, from);
        if (!(await copyBoard(trx, owner, from, { id, name: nameFrom(body.name) }))) return;
        const operations = (await findItems(trx, id)).map((create) => ({ create }));
        if (operations.length > 0) {
          const change = { id: randomUUID(), operations };
          const accepted = [{ revision: 1, change, gist: gistOf(change, () => undefined) }];
          await writeChanges(trx, owner, id, { accepted, pictures: picturesNamedBy([change]) });
          await queue.send(trx, PREVIEW, { board: id });
          await queue.send(trx, STATES, { board: id });
        }
        await notifyNews(trx, owner, { kind: 'board-facts', board: id });
      });
      const board = await findBoard(knex, owner, id);
      if (!board) throw new ProblemError('board-exists');
      return { board };
    },

    'POST /api/boards/:id/changes': async ({ owner, parameters: { id }, body }) => ({
      outcomes: await groups.accept(owner, id, body.changes),
    }),

    async 'GET /api/boards/:id/changes'({ owner, parameters: { id }, query: { since, last } }) {
      const board = await boardOf(knex, owner, id);
      if (since > board.revision) throw new ProblemError('ahead', `revision ${board.revision}`);
      // A database that was put back and has moved on counts the same revisions again, for other changes.
      if (last !== undefined && since > 0 && (await findChangeAt(knex, id, since)) !== last)
        throw new ProblemError('ahead', 'another change has that revision');
      return { changes: await findChangesSince(knex, id, since, LOG_PAGE), revision: board.revision };
    },
  });
}
