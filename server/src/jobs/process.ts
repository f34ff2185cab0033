import { constants, setPriority } from 'node:os';
import type PgBoss from 'pg-boss';
import sharp from 'sharp';
import { removePutAway } from '../database/bulk.ts';
import { createConnection } from '../database/connection.ts';
import { listenTo } from '../database/listen.ts';
import { JOBS_CHANNEL } from '../database/notify.ts';
import { findUnmeasured } from '../database/picture-measures.ts';
import { Decoders } from '../pixels/decoding/decoders.ts';
import { endAtOnce, watchOverSelf } from '../pixels/decoding/watchdog.ts';
import { sweepBlobs } from '../storage/sweep-blobs.ts';
import { runCopiesJob } from './find-copies.ts';
import { leavePicture, runLevelsJob } from './make-levels.ts';
import { runPreviewJob } from './make-preview.ts';
import { runTilesJob } from './make-tiles.ts';
import { runAtlasJob } from './pack-atlas.ts';
import {
  ATLAS_QUEUE,
  type AtlasJob,
  COPIES_QUEUE,
  type CopiesJob,
  createBoss,
  createQueue,
  LATER_S,
  LEVELS_QUEUE,
  type LevelsJob,
  PREVIEW_QUEUE,
  type PreviewJob,
  SWEEP_QUEUE,
  TILES_QUEUE,
  type TilesJob,
} from './queue.ts';
import { takeUpLost } from './take-up-lost.ts';

/** What was put away can be brought back so long. */
const PUT_AWAY_FOR = '30 days';

/** Two pictures at a time: one decodes while the other waits for the database. */
const AT_ONCE = 2;

/** Ends what this process started. */
let ending = () => {};

const hear = (error: unknown) =>
  console.error(`jobs: ${error instanceof Error ? error.message : String(error)}`);

/**
 * The job process: makes levels and atlases beside the server, so that requests stay quick. It ends with its parent.
 */
async function main(): Promise<void> {
  // Requests, and the browser on the same computer, come first.
  const isPatient = process.env.JOBS_IN_HASTE === undefined;
  if (isPatient) setPriority(constants.priority.PRIORITY_LOW);
  watchOverSelf(null);
  const databaseUrl = process.env.DATABASE_URL;
  if (!databaseUrl) throw new Error('DATABASE_URL is not set');
  sharp.cache(false);
  sharp.concurrency(1);
  const knex = createConnection(databaseUrl, 6);
  const boss: PgBoss = await createBoss(databaseUrl);
  const queue = await createQueue(databaseUrl);

  const decoders = new Decoders(AT_ONCE, { isPatient });
  ending = () => decoders.stop();

  const workers: { queue: string; id: string }[] = [];
  const options = { batchSize: 1, pollingIntervalSeconds: 2, includeMetadata: true } as const;
  const work = async <T>(
    name: string,
    run: (job: T) => Promise<void>,
    count: number,
    onLastFailure: (job: T) => Promise<void> = async () => {},
  ) => {
    for (let index = 0; index < count; index += 1) {
      const id = await boss.work<T>(name, options, async (jobs) => {
        for (const job of jobs)
          await run(job.data).catch(async (error) => {
            if (job.retryCount >= job.retryLimit) await onLastFailure(job.data);
            throw error;
          });
        // Each worker takes the next job at once instead of at its next poll.
        boss.notifyWorker(id);
      });
      workers.push({ queue: name, id });
    }
  };
  await work<LevelsJob>(
    LEVELS_QUEUE,
    (job) => runLevelsJob(knex, queue, decoders, job.picture),
    AT_ONCE,
    (job) => leavePicture(knex, job.picture),
  );
  await work<CopiesJob>(COPIES_QUEUE, (job) => runCopiesJob(knex, queue, decoders, job.picture), 1);
  await work<AtlasJob>(ATLAS_QUEUE, (job) => runAtlasJob(knex, job.owner, queue), 1);

  await work<TilesJob>(TILES_QUEUE, (job) => runTilesJob(knex, decoders, job.picture), 1);

  await work<PreviewJob>(PREVIEW_QUEUE, (job) => runPreviewJob(knex, job.board), 1);
  await work(
    SWEEP_QUEUE,
    async () => {
      await removePutAway(knex, PUT_AWAY_FOR);
      await sweepBlobs(knex);
    },
    1,
  );
  await boss.schedule(SWEEP_QUEUE, '17 * * * *');

  const wake = (name: string) => {
    for (const worker of workers) if (name === '' || worker.queue === name) boss.notifyWorker(worker.id);
  };
  let isBegun = false;
  listenTo(databaseUrl, JOBS_CHANNEL, wake, () => {
    wake('');
    // The database was away: jobs that were in work could not say what became of them.
    if (isBegun) void takeUpLost(databaseUrl, knex, boss).then(() => wake(''), hear);
  });

  await takeUpLost(databaseUrl, knex, boss);
  isBegun = true;
  // Pictures of a time when nothing was measured.
  for (const picture of await findUnmeasured(knex, 5_000))
    await boss.send(COPIES_QUEUE, { picture }, { singletonKey: picture, startAfter: LATER_S });
  wake('');
  if (process.connected) process.send?.('ready');
}

// pg-boss rejects on its own when the database goes in the middle of a job: it is logged, and polling finds the database
// again, which also takes up what was lost.
process.on('uncaughtException', hear);
process.on('unhandledRejection', hear);
// At once: leaving politely would wait for the picture in work, and its decoders end with this process.
process.on('disconnect', endAtOnce);
process.on('error', endAtOnce);
// The parent may have gone while this program was still being read: no event tells of that.
if (process.send && !process.connected) endAtOnce();
process.on('SIGINT', () => {});
process.on('SIGTERM', () => {
  ending();
  endAtOnce();
});
await main().catch((error) => {
  // It cannot even begin: the parent starts another one.
  console.error(`jobs: ${error instanceof Error ? error.message : String(error)}; starting again`);
  process.exit(1);
});
