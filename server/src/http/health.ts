import type { Health } from '@miradero/core/schema';
import type { Knex } from '../database/connection.ts';
import { countWaitingJobs, isJobProcessAlive } from '../database/health.ts';

/** An answer that takes longer than this is none. */
const PATIENCE_MS = 2_000;

async function within<T>(asked: Promise<T>): Promise<T> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new Error('no answer in time')), PATIENCE_MS);
  });
  try {
    return await Promise.race([asked, late]);
  } finally {
    clearTimeout(timer);
  }
}

/** Whether requests and background work are served right now, and why not. */
export async function healthOf(knex: Knex): Promise<Health> {
  try {
    const [isWorking, waiting] = await within(Promise.all([isJobProcessAlive(knex), countWaitingJobs(knex)]));
    return {
      isReady: isWorking,
      database: 'ready',
      jobs: isWorking ? 'ready' : 'away',
      waitingJobs: waiting,
    };
  } catch {
    return { isReady: false, database: 'away', jobs: 'unknown', waitingJobs: null };
  }
}
