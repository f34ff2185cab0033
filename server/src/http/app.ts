import type { Session } from '@miradero/core/schema';
import compression from 'compression';
import express, { type Express, type Request, type Response, Router } from 'express';
import { pinoHttp } from 'pino-http';
import { boardRoutes } from '../boards/routes.ts';
import type { Knex } from '../database/connection.ts';
import { eventRoutes } from '../events/routes.ts';
import { gatheringRoutes } from '../gathering/routes.ts';
import { AddressRules } from '../gathering/web-address.ts';
import type { Queue } from '../jobs/queue.ts';
import { libraryRoutes } from '../library/routes.ts';
import { settingsRoutes } from '../owners/routes.ts';
import { blobRoutes, pictureRoutes } from '../pictures/routes.ts';
import type { Decoders } from '../pixels/decoding/decoders.ts';
import type { Settings } from '../settings.ts';
import { subjectRoutes } from '../subjects/routes.ts';
import { guardDatabase, guardOrigin, securityHeaders } from './guard.ts';
import { healthOf } from './health.ts';
import { rememberAnswer } from './last-guard.ts';
import { openApi } from './openapi.ts';
import { answerNotFound, answerProblems } from './problem.ts';
import { webFiles } from './web-files.ts';

export interface Parts {
  readonly settings: Settings;
  readonly knex: Knex;
  readonly queue: Queue;
  readonly session: Session;
  readonly decoders: Decoders;
}

/** JSON for another machine; on this one packing takes longer than the way. */
const isWorthPacking = (request: Request, response: Response): boolean =>
  /json/.test(String(response.getHeader('Content-Type'))) && request.socket?.remoteAddress !== '127.0.0.1';

/** Every route as OpenAPI names it ("GET /api/boards/{id}"). */
function routesOf(rooms: Readonly<Record<string, Router>>): string[] {
  return Object.entries(rooms).flatMap(([at, { stack }]) =>
    stack.flatMap(({ route }) =>
      Object.keys((route as unknown as { methods?: object } | undefined)?.methods ?? {}).map((method) => {
        const path = `${at}${route!.path}`.replace(/\/$/, '').replace(/:(\w+)/g, '{$1}');
        return `${method.toUpperCase()} ${path}`;
      }),
    ),
  );
}

/** Wires the HTTP interface. @returns the app, what stops its open streams, and its routes */
export function createApp({ settings, knex, queue, session, decoders }: Parts): {
  app: Express;
  stop(): Promise<void>;
  routes: readonly string[];
} {
  const app = express();
  app.disable('x-powered-by');
  app.use(pinoHttp({ level: settings.logLevel, autoLogging: false }));
  app.use(rememberAnswer);
  app.use(guardOrigin(`${settings.host}:${settings.port}`));
  app.use(securityHeaders());

  const { owner } = session;
  app.use('/api', guardDatabase(session.databaseId));
  const events = eventRoutes(settings.databaseUrl, session);
  app.use('/api/events', events.router);
  app.use(compression({ threshold: 2048, filter: isWorthPacking }));
  const own = Router();
  own.get('/session', (_request, response) => {
    response.set('Cache-Control', 'no-store').json(session);
  });
  own.get('/health', async (_request, response) => {
    const health = await healthOf(knex);
    response
      .status(health.isReady ? 200 : 503)
      .set('Cache-Control', 'no-store')
      .json(health);
  });
  own.get('/openapi.json', (_request, response) => {
    response.json(openApi);
  });
  const rules = new AddressRules(settings.fetchesFrom);
  const rooms: Readonly<Record<string, Router>> = {
    '/api': own,
    '/api/boards': boardRoutes(knex, queue, owner),
    '/api/settings': settingsRoutes(knex, owner),
    '/api/pictures': pictureRoutes({ knex, queue, owner, decoders }),
    '/api/library': libraryRoutes(knex, owner),
    '/api/subjects': subjectRoutes(knex, owner),
    '/api/gathering': gatheringRoutes({ knex, queue, owner, decoders, rules }),
    '/api/levels': blobRoutes(knex),
    '/api/atlases': blobRoutes(knex),
  };
  for (const [path, router] of Object.entries(rooms)) app.use(path, router);
  app.use('/api', answerNotFound);
  if (settings.webFolder) app.use(webFiles(settings.webFolder));
  app.use(answerNotFound);
  app.use(answerProblems);
  return { app, stop: events.stop, routes: routesOf({ ...rooms, '/api/events': events.router }) };
}
