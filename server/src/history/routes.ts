import { HISTORY_ROUTES } from '@miradero/core/contracts';
import { stretchesOf } from '@miradero/core/history';
import { cleanName } from '@miradero/core/picture';
import type { PastSegment } from '@miradero/core/schema';
import { boardOf } from '../boards/board-of.ts';
import type { Knex } from '../database/connection.ts';
import { findEntries, findNamedStates, findSegmentText, putNamedState } from '../database/history.ts';
import { notifyNews } from '../database/notify.ts';
import { ProblemError } from '../requests/problem.ts';
import { JsonText, type Route, routesFor } from '../requests/route.ts';
import { newsSince } from './news-since.ts';

/** What was done to boards, and how they were. */
export const historyRoutes = (knex: Knex): Route[] =>
  routesFor(HISTORY_ROUTES, {
    async 'GET /api/boards/:id/history'({ owner, parameters: { id } }) {
      const { revision } = await boardOf(knex, owner, id);
      const entries = await findEntries(knex, id);
      return { revision, stretches: stretchesOf(entries), named: await findNamedStates(knex, id) };
    },

    'GET /api/boards/:id/history/segment': ({ owner, parameters: { id }, query }) =>
      // States may be kept between two questions: both are asked of one moment.
      knex.transaction(
        async (trx) => {
          const board = await boardOf(trx, owner, id);
          const { revision = board.revision } = query;
          if (revision > board.revision) throw new ProblemError('ahead', `revision ${board.revision}`);
          return new JsonText<PastSegment>(await findSegmentText(trx, id, revision, board.revision));
        },
        { isolationLevel: 'repeatable read', readOnly: true },
      ),

    async 'GET /api/boards/:id/history/news'({ owner, parameters: { id }, query: { since, browser } }) {
      const board = await boardOf(knex, owner, id);
      if (since > board.revision) throw new ProblemError('ahead', `revision ${board.revision}`);
      return newsSince(knex, { board: id, since, browser }, board.revision);
    },

    async 'PATCH /api/named-states/:id'({ owner, parameters: { id }, body }) {
      await knex.transaction(async (trx) => {
        const board = await boardOf(trx, owner, body.board);
        const revision = body.revision ?? board.revision;
        if (revision > board.revision) throw new ProblemError('ahead', `revision ${board.revision}`);
        const name = body.name === undefined ? undefined : cleanName(body.name);
        if (name === '') throw new ProblemError('malformed', 'A state needs a name.');
        const { isPutAway } = body;
        const put = await putNamedState(trx, id, {
          ...{ board: board.id, revision },
          ...(name === undefined ? {} : { name }),
          ...(isPutAway === undefined ? {} : { isPutAway }),
        });
        if (!put) throw new ProblemError('named-state-missing');
        await notifyNews(trx, owner, { kind: 'board-facts', board: board.id });
      });
    },
  });
