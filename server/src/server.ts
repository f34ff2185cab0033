import { createServer, type Server } from 'node:http';
import { createConnection, type Knex, migrateToLatest } from './database/connection.ts';
import { findDatabaseId, findLocalOwner } from './database/owner.ts';
import { findSettings } from './database/owner-settings.ts';
import { createApp } from './http/app.ts';
import { buildOf } from './http/web-files.ts';
import { createQueue } from './jobs/queue.ts';
import { keepJobProcess } from './jobs/spawn.ts';
import { LinkListener } from './links/listener.ts';
import { Decoders } from './pixels/decoding/decoders.ts';
import type { Settings } from './settings.ts';

/** Files of requests are only looked at: two at a time, so that a slow one holds up no other. */
const DECODERS = 2;

export interface RunningServer {
  readonly knex: Knex;
  readonly owner: string;
  /** As OpenAPI names them. */
  readonly routes: readonly string[];
  readonly address: string;
  stop(): Promise<void>;
}

function listen(server: Server, { host, port }: Settings): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, resolve);
  });
}

const KEEP_ALIVE_MS = 75_000;

/** The composition root: database, queue, job process, HTTP. */
export async function startServer(settings: Settings): Promise<RunningServer> {
  const knex = createConnection(settings.databaseUrl);
  await migrateToLatest(knex);
  const session = {
    databaseId: await findDatabaseId(knex),
    build: await buildOf(settings.webFolder),
  };
  const queue = await createQueue(settings.databaseUrl);
  const decoders = new Decoders(DECODERS);
  const links = new LinkListener({ knex, queue, decoders });
  const { app, stop, routes } = createApp({ settings, knex, queue, session, decoders, links });
  const server = createServer(app);
  // Longer than clients keep an idle connection: one that is closed here just as it is used again fails what was asked.
  server.keepAliveTimeout = KEEP_ALIVE_MS;
  await listen(server, settings);
  const jobs = keepJobProcess(settings.databaseUrl);
  const owner = await findLocalOwner(knex);
  await links.apply((await findSettings(knex, owner)).links);
  return {
    ...{ knex, owner },
    routes,
    address: `http://${settings.host}:${settings.port}`,
    async stop() {
      await jobs.stop();
      await links.stop();
      decoders.stop();
      await stop();
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await queue.stop();
      await knex.destroy();
    },
  };
}
