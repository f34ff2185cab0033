import type { ServerEvent } from '@miradero/core/schema';
import type { Knex } from './connection.ts';

/** Channel of news between server processes; a payload may have 8,000 bytes, so it carries ids and revisions only. */
export const NEWS_CHANNEL = 'miradero_news';
export const JOBS_CHANNEL = 'miradero_jobs';

/** What a statement that tells on its way gives to `pg_notify`. */
export const newsOf = (owner: string, event: ServerEvent) => ({
  channel: NEWS_CHANNEL,
  news: JSON.stringify({ owner, event }),
});

/** Tells every server process; inside a transaction it is told at commit. */
export async function notifyNews(knex: Knex, owner: string, event: ServerEvent): Promise<void> {
  await knex.raw('select pg_notify(:channel, :news)', newsOf(owner, event));
}

/** Wakes the job process at commit, instead of leaving the job to its polling. */
export async function notifyJobs(knex: Knex, queue: string): Promise<void> {
  await knex.raw('select pg_notify(?, ?)', [JOBS_CHANNEL, queue]);
}
