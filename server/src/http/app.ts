import { methodOf, OWN_ROUTES, pathOf } from '@miradero/core/contracts';
import type { Session } from '@miradero/core/schema';
import compression from 'compression';
import express, { type Express, type Request, type Response, Router } from 'express';
import { pinoHttp } from 'pino-http';
import { boardFileRoutes } from '../board-files/routes.ts';
import { boardRoutes } from '../boards/routes.ts';
import { colourRoutes } from '../colours/routes.ts';
import type { Knex } from '../database/connection.ts';
import { drawingRoutes } from '../drawings/routes.ts';
import { eventRoutes } from '../events/routes.ts';
import { exportRoutes } from '../exports/routes.ts';
import { gatheringRoutes } from '../gathering/routes.ts';
import { AddressRules } from '../gathering/web-address.ts';
import { historyRoutes } from '../history/routes.ts';
import type { Queue } from '../jobs/queue.ts';
import { libraryRoutes } from '../library/routes.ts';
import type { LinkListener } from '../links/listener.ts';
import { linkRoutes } from '../links/routes.ts';
import { findAsker } from '../owners/find-asker.ts';
import { settingsRoutes } from '../owners/routes.ts';
import { pictureRoutes } from '../pictures/routes.ts';
import type { Decoders } from '../pixels/decoding/decoders.ts';
import { answerNotFound, answerProblems } from '../requests/problem.ts';
import { mountRoutes, type Route, routesFor } from '../requests/route.ts';
import type { Settings } from '../settings.ts';
import { subjectRoutes } from '../subjects/routes.ts';
import { guardDatabase, guardOrigin, securityHeaders } from './guard.ts';
import { healthOf } from './health.ts';
import { rememberAnswer } from './last-guard.ts';
import { openApiOf } from './openapi.ts';
import { webFiles } from './web-files.ts';

export interface Parts {
  readonly settings: Settings;
  readonly knex: Knex;
  readonly queue: Queue;
  /** Without who is working: that is found for each request. */
  readonly session: Omit<Session, 'owner'>;
  readonly decoders: Decoders;
  readonly links: LinkListener;
}

/** JSON for another machine; on this one packing takes longer than the way. */
const isWorthPacking = (request: Request, response: Response): boolean =>
  /json/.test(String(response.getHeader('Content-Type'))) && request.socket?.remoteAddress !== '127.0.0.1';

function ownRoutes({ knex, session }: Parts, all: () => readonly Route[]): Route[] {
  return routesFor(OWN_ROUTES, {
    'GET /api/openapi.json': async () => openApiOf(all()),

    async 'GET /api/health'({ response }) {
      const health = await healthOf(knex);
      response.status(health.isReady ? 200 : 503).set('Cache-Control', 'no-store');
      return health;
    },

    async 'GET /api/session'({ owner, response }) {
      response.set('Cache-Control', 'no-store');
      return { ...session, owner };
    },
  });
}

/** Wires the HTTP interface. @returns the app, what stops its open streams, and its routes as OpenAPI names them */
export function createApp(parts: Parts): {
  app: Express;
  stop(): Promise<void>;
  routes: readonly string[];
} {
  const { settings, knex, queue, session, decoders, links } = parts;
  const app = express();
  app.disable('x-powered-by');
  app.use(pinoHttp({ level: settings.logLevel, autoLogging: false }));
  app.use(rememberAnswer);
  app.use(guardOrigin(`${settings.host}:${settings.port}`));
  app.use(securityHeaders());
  app.use('/api', guardDatabase(session.databaseId));

  const asker = findAsker(knex);
  const events = eventRoutes(settings.databaseUrl, session);
  const routes: Route[] = [
    ...ownRoutes(parts, () => [...routes, ...events.routes]),
    ...boardRoutes(knex, queue),
    ...pictureRoutes({ knex, queue, decoders }),
    ...libraryRoutes(knex),
    ...exportRoutes(knex, queue),
    ...subjectRoutes(knex),
    ...gatheringRoutes({ knex, queue, decoders, rules: new AddressRules(settings.fetchesFrom) }),
    ...settingsRoutes(knex, (saved) => links.apply(saved.links)),
    ...drawingRoutes(knex),
    ...linkRoutes(knex, links),
    ...colourRoutes(knex),
    ...historyRoutes(knex),
    ...boardFileRoutes(knex, queue),
  ];
  const router = Router();
  // A stream is never packed: it would be held back until there is enough of it.
  mountRoutes(router, events.routes, asker);
  router.use(compression({ threshold: 2048, filter: isWorthPacking }));
  mountRoutes(router, routes, asker, settings.checksAnswers);
  app.use(router);
  app.use('/api', answerNotFound);
  if (settings.webFolder) {
    // Built anew under a running server: whoever opens a page from now on has the new one.
    app.use(webFiles(settings.webFolder, (build) => Object.assign(session, { build })));
  }
  app.use(answerNotFound);
  app.use(answerProblems);
  return {
    ...{ app, stop: events.stop },
    routes: [...routes, ...events.routes].map(
      ({ name }) => `${methodOf(name)} ${pathOf(name).replace(/:(\w+)/g, '{$1}')}`,
    ),
  };
}
