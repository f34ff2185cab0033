import pg from 'pg';
import type PgBoss from 'pg-boss';
import type { Knex } from '../database/connection.ts';
import { ALIVE_LOCK } from '../database/health.ts';
import { recordFailure } from '../database/pictures.ts';
import { JOB_KINDS, LEVELS } from './kinds.ts';

/** The connection that holds it. */
let alive: pg.Client | undefined;

/**
 * Holds a share of the lock for as long as this process lives.
 * @returns whether no other job process held one: then every job that is said to be in work is not
 */
async function isFirstAlive(databaseUrl: string): Promise<boolean> {
  // After a loss of the database the share of before is gone, or about to be: it is not somebody else's.
  await alive?.end().catch(() => {});
  const client = new pg.Client({ connectionString: databaseUrl, application_name: 'miradero alive' });
  client.on('error', () => {
    // The database went; when it is back, what was lost is taken up anew.
  });
  await client.connect();
  alive = client;
  const { rows } = await client.query('select pg_try_advisory_lock($1) as alone', [ALIVE_LOCK]);
  await client.query('select pg_advisory_lock_shared($1)', [ALIVE_LOCK]);
  if (rows[0].alone) await client.query('select pg_advisory_unlock($1)', [ALIVE_LOCK]);
  return rows[0].alone;
}

interface Job {
  readonly id: string;
  readonly name: string;
}

/**
 * Takes up what died with an earlier job process: its jobs are given out again, each counted, so that one that ends its
 * process is not tried for ever; a picture that waits without a job gets one. No start adds a second job for a picture.
 */
export async function takeUpLost(databaseUrl: string, knex: Knex, boss: PgBoss): Promise<void> {
  if (await isFirstAlive(databaseUrl)) {
    const active: Job[] = await knex('pgboss.job')
      .where({ state: 'active' })
      .whereIn(
        'name',
        JOB_KINDS.map(({ name }) => name),
      )
      .select('id', 'name');
    for (const { id, name } of active) await boss.fail(name, id, { why: 'its process ended' });
  }
  const arriving: { id: string; has_live: boolean; has_failed: boolean }[] = (
    await knex.raw(
      `select p.id,
         exists (select from pgboss.job j where j.name = :queue and j.data ->> 'picture' = p.id::text
           and j.state in ('created', 'retry', 'active')) as has_live,
         exists (select from pgboss.job j where j.name = :queue and j.data ->> 'picture' = p.id::text
           and j.state = 'failed') as has_failed
       from pictures p where p.state = 'arriving' and p.added_at < now() - interval '3 seconds'`,
      { queue: LEVELS.name },
    )
  ).rows;
  for (const { id, has_live, has_failed } of arriving) {
    if (has_live) continue;
    if (has_failed)
      await recordFailure(knex, id, 'The picture is kept, but it could not be prepared; it was given up.');
    else await boss.send(LEVELS.name, { picture: id });
  }
}
