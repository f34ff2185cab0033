import PgBoss from 'pg-boss';
import type { Knex } from '../database/connection.ts';
import { notifyJobs } from '../database/notify.ts';
import type { JobKind } from './define-job.ts';
import { JOB_KINDS } from './kinds.ts';

const RETRY_S = 2;

/** What nobody waits for asks so much later again while pictures are coming in, */
export const LATER_S = 3;
/** and so much more for each of them: three hundred that asked every three seconds would keep a core busy with asking. */
const LATER_EACH_S = 0.5;
const LATEST_S = 60;

/** Seconds after which to ask again, when so many pictures still wait for their levels. */
export const laterFor = (arriving: number): number =>
  Math.min(LATEST_S, Math.ceil(LATER_S + LATER_EACH_S * arriving));

type RawConnection = { query(text: string, values: unknown[]): Promise<{ rows: unknown[] }> };

/** Lets pg-boss write through the connection of a Knex transaction, so that a job exists exactly when its cause does. */
async function boundTo(trx: Knex.Transaction): Promise<PgBoss.Db> {
  const connection: RawConnection = await trx.client.acquireConnection();
  return {
    executeSql: async (text: string, values: unknown[]) => connection.query(text, values) as never,
  };
}

export interface SendMore {
  /** Not before so many seconds; asked for again meanwhile, it is one job. */
  readonly afterS?: number;
}

/** Background work, kept in PostgreSQL. */
export interface Queue {
  /**
   * Enqueues within `trx` and wakes the job process at commit.
   *
   * @throws TypeError for a payload that the kind cannot have
   */
  send<P extends object>(trx: Knex.Transaction, kind: JobKind<P>, payload: P, more?: SendMore): Promise<void>;
  stop(): Promise<void>;
}

/** How pg-boss is to be told of one job. @throws TypeError for a payload that the kind cannot have */
export function sendOptions<P extends object>(
  kind: JobKind<P>,
  payload: P,
  { afterS = kind.gathersS }: SendMore = {},
): PgBoss.SendOptions {
  if (!kind.isPayload(payload))
    throw new TypeError(`a job of kind ${kind.name} cannot be given: ${kind.why()}`);
  const isOne = kind.policy === 'once' || afterS !== undefined;
  return {
    ...(isOne ? { singletonKey: kind.keyOf(payload) } : {}),
    ...(afterS === undefined ? {} : { startAfter: afterS }),
  };
}

export async function createBoss(databaseUrl: string): Promise<PgBoss> {
  const boss = new PgBoss({ connectionString: databaseUrl, max: 4, application_name: 'miradero jobs' });
  boss.on('error', () => {
    // The database is away; pg-boss goes on polling and finds it again.
  });
  await boss.start();
  for (const { name, policy, attempts, expiresS } of JOB_KINDS)
    await boss.createQueue(name, {
      ...{ name, retryLimit: attempts - 1, retryDelay: RETRY_S, retryBackoff: true },
      expireInSeconds: expiresS,
      ...(policy === 'once' ? { policy: 'short' as const } : {}),
    });
  return boss;
}

/** What was asked for a moment ago by this process, and cannot have begun yet. */
class Waiting {
  readonly #until = new Map<string, number>();

  has(key: string): boolean {
    return (this.#until.get(key) ?? 0) > performance.now();
  }

  add(key: string, forMs: number): void {
    const now = performance.now();
    for (const [other, until] of this.#until) if (until <= now) this.#until.delete(other);
    this.#until.set(key, now + forMs);
  }
}

export async function createQueue(databaseUrl: string): Promise<Queue> {
  const boss = await createBoss(databaseUrl);
  const waiting = new Waiting();
  return {
    async send(trx, kind, payload, more) {
      const options = sendOptions(kind, payload, more);
      const { gathersS = 0 } = kind;
      const key = `${kind.name} ${kind.keyOf(payload)}`;
      // A burst asks once: the other half of the time is left to transactions that end late.
      const gathersMs = more ? 0 : gathersS * 500;
      if (gathersMs > 0 && waiting.has(key)) return;
      const made = await boss.send(kind.name, payload, { ...options, db: await boundTo(trx) });
      if (made !== null && gathersMs > 0)
        trx.executionPromise.then(
          () => waiting.add(key, gathersMs),
          () => {},
        );
      if (options.startAfter === undefined) await notifyJobs(trx, kind.name);
    },
    stop: () => boss.stop({ graceful: false, wait: false }),
  };
}
