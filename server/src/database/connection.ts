import { fileURLToPath } from 'node:url';
import knexModule, { type Knex } from 'knex';

export type { Knex };

/** A pool of connections to the database at `url`. */
export function createConnection(url: string, poolSize = 10): Knex {
  return knexModule({
    client: 'pg',
    connection: { connectionString: url, application_name: 'miradero' },
    pool: {
      min: 0,
      max: poolSize,
      // A connection that died while idle must not end the process; the pool makes a new one.
      afterCreate: (
        raw: { on(event: 'error', listener: () => void): void },
        done: (error?: Error) => void,
      ) => {
        raw.on('error', () => {});
        done();
      },
    },
    acquireConnectionTimeout: 10_000,
    migrations: {
      directory: fileURLToPath(new URL('./migrations', import.meta.url)),
      loadExtensions: ['.ts'],
      extension: 'ts',
    },
  });
}

export async function migrateToLatest(knex: Knex): Promise<void> {
  await knex.migrate.latest();
}
