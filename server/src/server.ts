import { createServer, type Server } from 'node:http';
import { createConnection, type Knex, migrateToLatest } from './database/connection.ts';
import { findDatabaseId, findLocalOwner } from './database/owner.ts';
import { createApp } from './http/app.ts';
import { buildOf } from './http/web-files.ts';
import { createQueue } from './jobs/queue.ts';
import { keepJobProcess } from './jobs/spawn.ts';
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
  const { app, stop, routes } = createApp({ settings, knex, queue, session, decoders });
  const server = createServer(app);
  await listen(server, settings);
  const jobs = keepJobProcess(settings.databaseUrl);
  return {
    knex,
    owner: await findLocalOwner(knex),
    routes,
    address: `http://${settings.host}:${settings.port}`,
    async stop() {
      await jobs.stop();
      decoders.stop();
      await stop();
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await queue.stop();
      await knex.destroy();
    },
  };
}
