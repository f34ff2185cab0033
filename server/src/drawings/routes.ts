import { DRAWING_ROUTES } from '@miradero/core/contracts';
import { boardOf } from '../boards/board-of.ts';
import type { Knex } from '../database/connection.ts';
import { listDrawings } from '../database/drawings.ts';
import { type Route, routesFor } from '../requests/route.ts';

/** What is followed while it is made elsewhere. Versions come as pictures do, with what they are of beside them. */
export function drawingRoutes(knex: Knex): Route[] {
  return routesFor(DRAWING_ROUTES, {
    async 'GET /api/boards/:id/drawings'({ owner, parameters: { id } }) {
      await boardOf(knex, owner, id);
      return { drawings: await listDrawings(knex, owner, id) };
    },
  });
}
