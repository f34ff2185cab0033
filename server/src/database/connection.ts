import knexModule, { type Knex } from 'knex';

import * as first from './migrations/20261124_first.ts';
import * as hand from './migrations/20261125_hand.ts';
import * as gather from './migrations/20261126_gather.ts';
import * as sort from './migrations/20261127_sort.ts';
import * as firm from './migrations/20261128_firm.ts';
import * as seams from './migrations/20261129_seams.ts';
import * as wordsOnPictures from './migrations/20261130_words.ts';
import * as brief from './migrations/20261201_brief.ts';
import * as exportsOfBoards from './migrations/20261202_exports.ts';
import * as colours from './migrations/20261203_colours.ts';
import * as exact from './migrations/20261204_exact.ts';
import * as history from './migrations/20261205_history.ts';
import * as boardFiles from './migrations/20261206_board_files.ts';
import * as links from './migrations/20261207_links.ts';
import * as easel from './migrations/20261208_easel.ts';
import * as madeIn from './migrations/20261209_made_in.ts';

export type { Knex };

/** Every migration in its order, by name; named here so that no loader has to find files. */
const MIGRATIONS: Knex.MigrationSource<[string, Knex.Migration]> = {
  getMigrations: async () => [
    ['20261124_first', first],
    ['20261125_hand', hand],
    ['20261126_gather', gather],
    ['20261127_sort', sort],
    ['20261128_firm', firm],
    ['20261129_seams', seams],
    ['20261130_words', wordsOnPictures],
    ['20261201_brief', brief],
    ['20261202_exports', exportsOfBoards],
    ['20261203_colours', colours],
    ['20261204_exact', exact],
    ['20261205_history', history],
    ['20261206_board_files', boardFiles],
    ['20261207_links', links],
    ['20261208_easel', easel],
    ['20261209_made_in', madeIn],
  ],
  getMigrationName: ([name]) => name,
  getMigration: async ([, migration]) => migration,
};

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
    migrations: { migrationSource: MIGRATIONS },
  });
}

export async function migrateToLatest(knex: Knex): Promise<void> {
  await knex.migrate.latest();
}
