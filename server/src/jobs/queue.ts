import PgBoss from 'pg-boss';
import type { Knex } from '../database/connection.ts';
import { notifyJobs } from '../database/notify.ts';

export const LEVELS_QUEUE = 'levels';
export const ATLAS_QUEUE = 'atlas';
export const TILES_QUEUE = 'tiles';
export const PREVIEW_QUEUE = 'preview';
export const COPIES_QUEUE = 'copies';
export const SWEEP_QUEUE = 'sweep';

export const QUEUES: readonly string[] = [
  ...[LEVELS_QUEUE, ATLAS_QUEUE, TILES_QUEUE, PREVIEW_QUEUE, COPIES_QUEUE, SWEEP_QUEUE],
];

export interface LevelsJob {
  readonly picture: string;
}
export interface CopiesJob {
  readonly picture: string;
}
export interface AtlasJob {
  readonly owner: string;
}

export interface TilesJob {
  readonly picture: string;
}
export interface PreviewJob {
  readonly board: string;
}

/** A job that takes longer than this counts as lost and is tried again. */
const EXPIRES_S = 120;
/** A blueprint of a hundred million pixels is cut in about a minute here. */
const TILES_EXPIRE_S = 900;

/** Changes within so long share one preview: painting it takes a moment of somebody's processor. */
const PREVIEW_AFTER_S = 8;

/** Asks for a new preview of a board; many changes in a row ask for one. */
export const queuePreview = (queue: Queue, trx: Knex.Transaction, board: string): Promise<void> =>
  queue.send(trx, PREVIEW_QUEUE, { board }, { singletonKey: board, startAfter: PREVIEW_AFTER_S });

/** Pictures that become ready within so long share one packing: it writes the whole atlas anew, which takes a second. */
const ATLAS_AFTER_S = 4;

/** What nobody waits for asks so much later again while pictures are coming in, */
export const LATER_S = 3;
/** and so much more for each of them: three hundred that asked every three seconds would keep a core busy with asking. */
const LATER_EACH_S = 0.5;
const LATEST_S = 60;

/** Seconds after which to ask again, when so many pictures still wait for their levels. */
export const laterFor = (arriving: number): number =>
  Math.min(LATEST_S, Math.ceil(LATER_S + LATER_EACH_S * arriving));

/** Asks for an owner's new pictures to be packed; they are shown by their levels until then. */
export const queueAtlas = (queue: Queue, trx: Knex.Transaction, owner: string): Promise<void> =>
  queue.send(trx, ATLAS_QUEUE, { owner }, { singletonKey: owner, startAfter: ATLAS_AFTER_S });

type RawConnection = { query(text: string, values: unknown[]): Promise<{ rows: unknown[] }> };

/** Lets pg-boss write through the connection of a Knex transaction, so that a job exists exactly when its cause does. */
async function boundTo(trx: Knex.Transaction): Promise<PgBoss.Db> {
  const connection: RawConnection = await trx.client.acquireConnection();
  return {
    executeSql: async (text: string, values: unknown[]) => connection.query(text, values) as never,
  };
}

/** Background work, kept in PostgreSQL. */
export interface Queue {
  /** Enqueues within `trx` and wakes the job process at commit. */
  send(trx: Knex.Transaction, queue: string, job: object, options?: PgBoss.SendOptions): Promise<void>;
  stop(): Promise<void>;
}

export async function createBoss(databaseUrl: string): Promise<PgBoss> {
  const boss = new PgBoss({ connectionString: databaseUrl, max: 4, application_name: 'miradero jobs' });
  boss.on('error', () => {
    // The database is away; pg-boss goes on polling and finds it again.
  });
  await boss.start();
  const options = { retryLimit: 3, retryDelay: 2, retryBackoff: true, expireInSeconds: EXPIRES_S };
  await boss.createQueue(LEVELS_QUEUE, { name: LEVELS_QUEUE, ...options });
  await boss.createQueue(COPIES_QUEUE, { name: COPIES_QUEUE, ...options });
  await boss.createQueue(ATLAS_QUEUE, { name: ATLAS_QUEUE, policy: 'short', ...options });
  await boss.createQueue(TILES_QUEUE, { name: TILES_QUEUE, ...options, expireInSeconds: TILES_EXPIRE_S });
  await boss.createQueue(SWEEP_QUEUE, { name: SWEEP_QUEUE, ...options, expireInSeconds: TILES_EXPIRE_S });
  await boss.createQueue(PREVIEW_QUEUE, { name: PREVIEW_QUEUE, policy: 'short', ...options });
  return boss;
}

export async function createQueue(databaseUrl: string): Promise<Queue> {
  const boss = await createBoss(databaseUrl);
  return {
    async send(trx, queue, job, options = {}) {
      await boss.send(queue, job, { ...options, db: await boundTo(trx) });
      if (options.startAfter === undefined) await notifyJobs(trx, queue);
    },
    stop: () => boss.stop({ graceful: false, wait: false }),
  };
}
