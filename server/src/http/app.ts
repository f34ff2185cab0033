import type { Session } from '@miradero/core/schema';
import compression from 'compression';
import express, { type Express, type Request, type Response } from 'express';
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
import type { Settings } from '../settings.ts';
import { subjectRoutes } from '../subjects/routes.ts';
import { guardOrigin, securityHeaders } from './guard.ts';
import { openApi } from './openapi.ts';
import { answerNotFound, answerProblems } from './problem.ts';
import { webFiles } from './web-files.ts';

export interface Parts {
  readonly settings: Settings;
  readonly knex: Knex;
  readonly queue: Queue;
  readonly session: Session;
}

/** JSON for another machine; on this one packing takes longer than the way. */
const isWorthPacking = (request: Request, response: Response): boolean =>
  /json/.test(String(response.getHeader('Content-Type'))) && request.socket?.remoteAddress !== '127.0.0.1';

/** Wires the HTTP interface. @returns the app and what stops its open streams */
export function createApp({ settings, knex, queue, session }: Parts): {
  app: Express;
  stop(): Promise<void>;
} {
  const app = express();
  app.disable('x-powered-by');
  app.use(pinoHttp({ level: settings.logLevel, autoLogging: false }));
  app.use(guardOrigin(`${settings.host}:${settings.port}`));
  app.use(securityHeaders());

  const events = eventRoutes(settings.databaseUrl, session);
  app.use('/api/events', events.router);
  app.use(compression({ threshold: 2048, filter: isWorthPacking }));
  app.get('/api/session', (_request, response) => {
    response.set('Cache-Control', 'no-store').json(session);
  });
  app.get('/api/openapi.json', (_request, response) => {
    response.json(openApi);
  });
  app.use('/api/boards', boardRoutes(knex, queue, session.owner));
  app.use('/api/settings', settingsRoutes(knex, session.owner));
  app.use('/api/pictures', pictureRoutes(knex, queue, session.owner));
  app.use('/api/library', libraryRoutes(knex, session.owner));
  app.use('/api/subjects', subjectRoutes(knex, session.owner));
  const rules = new AddressRules(settings.fetchesFrom);
  app.use('/api/gathering', gatheringRoutes({ knex, queue, owner: session.owner, rules }));
  app.use('/api/levels', blobRoutes(knex));
  app.use('/api/atlases', blobRoutes(knex));
  app.use('/api', answerNotFound);
  if (settings.webFolder) app.use(webFiles(settings.webFolder));
  app.use(answerNotFound);
  app.use(answerProblems);
  return { app, stop: events.stop };
}
