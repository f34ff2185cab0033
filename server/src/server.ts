import { createServer, type Server } from 'node:http';
import { createConnection, type Knex, migrateToLatest } from './database/connection.ts';
import { findDatabaseId, findLocalOwner } from './database/owner.ts';
import { createApp } from './http/app.ts';
import { buildOf } from './http/web-files.ts';
import { createQueue } from './jobs/queue.ts';
import { keepJobProcess } from './jobs/spawn.ts';
import type { Settings } from './settings.ts';

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
    owner: await findLocalOwner(knex),
    build: await buildOf(settings.webFolder),
  };
  const queue = await createQueue(settings.databaseUrl);
  const { app, stop, routes } = createApp({ settings, knex, queue, session });
  const server = createServer(app);
  await listen(server, settings);
  const jobs = keepJobProcess(settings.databaseUrl);
  return {
    knex,
    owner: session.owner,
    routes,
    address: `http://${settings.host}:${settings.port}`,
    async stop() {
      jobs.stop();
      await stop();
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await queue.stop();
      await knex.destroy();
    },
  };
}
