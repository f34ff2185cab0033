import type { Knex } from './connection.ts';

/** Names, among advisory locks, the one that every job process holds a share of. Any number will do. */
export const ALIVE_LOCK = 7_142_301;

/** Whether some job process holds its share of the lock. */
export async function isJobProcessAlive(knex: Knex): Promise<boolean> {
  const { rows } = await knex.raw(
    `select exists (select from pg_locks where locktype = 'advisory' and granted
       and database = (select oid from pg_database where datname = current_database())
       and ((classid::bigint << 32) | objid::bigint) = ?) as alive`,
    [ALIVE_LOCK],
  );
  return rows[0].alive;
}

/** Jobs that nobody has begun yet. */
export async function countWaitingJobs(knex: Knex): Promise<number> {
  const { rows } = await knex.raw(
    "select count(*)::int as waiting from pgboss.job where state in ('created', 'retry')",
  );
  return rows[0].waiting;
}
