import type PgBoss from 'pg-boss';
import sharp from 'sharp';
import { leaveReading, runReading } from './board-files/run-reading.ts';
import { removeOldBoardFiles } from './database/board-files.ts';
import { removePutAway } from './database/bulk.ts';
import { createConnection } from './database/connection.ts';
import { removeOldExports } from './database/exports.ts';
import { listenTo } from './database/listen.ts';
import { JOBS_CHANNEL } from './database/notify.ts';
import { findUnmeasured } from './database/picture-measures.ts';
import type { JobKind } from './jobs/define-job.ts';
import { runCopiesJob } from './jobs/find-copies.ts';
import { isInHaste } from './jobs/haste.ts';
import { keepStates } from './jobs/keep-states.ts';
import {
  ATLAS,
  COPIES,
  EXACT,
  EXPORT,
  LEVELS,
  PREVIEW,
  READ_BOARD_FILE,
  STATES,
  SWEEP,
  TILES,
} from './jobs/kinds.ts';
import { leaveExact, runExactJob } from './jobs/make-exact.ts';
import { leaveExport, runExportJob } from './jobs/make-export.ts';
import { leavePicture, runLevelsJob } from './jobs/make-levels.ts';
import { runPreviewJob } from './jobs/make-preview.ts';
import { runTilesJob } from './jobs/make-tiles.ts';
import { runAtlasJob } from './jobs/pack-atlas.ts';
import { type TellProgress, withProgress } from './jobs/progress.ts';
import { createBoss, createQueue, LATER_S, sendOptions } from './jobs/queue.ts';
import { takeUpLost } from './jobs/take-up-lost.ts';
import { yieldToOthers } from './jobs/yield-to-others.ts';
import { Decoders } from './pixels/decoding/decoders.ts';
import { endAtOnce, watchOverSelf } from './pixels/decoding/watchdog.ts';
import { sweepBlobs } from './storage/sweep-blobs.ts';
import { removeLeftFolders } from './storage/work-folders.ts';

/** What was put away can be brought back so long. */
const PUT_AWAY_FOR = '30 days';

/** Ends what this process started. */
let ending = () => {};

const hear = (error: unknown) =>
  console.error(`jobs: ${error instanceof Error ? error.message : String(error)}`);

/**
 * The job process: makes levels and atlases beside the server, so that requests stay quick. It ends with its parent.
 */
async function main(): Promise<void> {
  // Requests, and the browser on the same computer, come first.
  const isPatient = !isInHaste();
  if (isPatient) yieldToOthers();
  watchOverSelf(null);
  const databaseUrl = process.env.DATABASE_URL;
  if (!databaseUrl) throw new Error('DATABASE_URL is not set');
  sharp.cache(false);
  sharp.concurrency(1);
  // One that was ended for its memory may have left a large board half made.
  await removeLeftFolders().catch(hear);
  const knex = createConnection(databaseUrl, 6);
  const boss: PgBoss = await createBoss(databaseUrl);
  const queue = await createQueue(databaseUrl);

  const decoders = new Decoders(LEVELS.atOnce, { isPatient });
  ending = () => decoders.stop();

  const workers: { queue: string; id: string }[] = [];
  const options = {
    batchSize: 1,
    pollingIntervalSeconds: 2,
    includeMetadata: true,
  } as const;
  /** @param onGivenUp - after the last try of a job failed */
  const work = async <P extends object>(
    kind: JobKind<P>,
    run: (payload: P, tell: TellProgress) => Promise<void>,
    onGivenUp: (payload: P) => Promise<void> = async () => {},
  ) => {
    for (let index = 0; index < kind.atOnce; index += 1) {
      const id = await boss.work<P>(kind.name, options, async (jobs) => {
        for (const job of jobs) {
          // Of a version of the program that knew another form of it: nothing can be done, however often it is tried.
          const payload: unknown = job.data ?? {};
          if (!kind.isPayload(payload)) {
            hear(new TypeError(`a job of kind ${kind.name} makes no sense: ${kind.why()}`));
            continue;
          }
          await withProgress(knex, kind, payload, (tell) => run(payload, tell)).catch(async (error) => {
            if (job.retryCount >= job.retryLimit) await onGivenUp(payload);
            throw error;
          });
        }
        // Each worker takes the next job at once instead of at its next poll.
        boss.notifyWorker(id);
      });
      workers.push({ queue: kind.name, id });
    }
    if (kind.cron) await boss.schedule(kind.name, kind.cron);
  };
  await work(
    LEVELS,
    ({ picture }) => runLevelsJob(knex, queue, decoders, picture),
    ({ picture }) => leavePicture(knex, picture),
  );
  await work(COPIES, ({ picture }) => runCopiesJob(knex, queue, decoders, picture));
  await work(ATLAS, ({ owner }) => runAtlasJob(knex, owner, queue));
  await work(TILES, ({ picture }, tell) => runTilesJob(knex, decoders, picture, tell));
  await work(
    EXACT,
    ({ picture }, tell) => runExactJob(knex, decoders, picture, tell),
    ({ picture }) => leaveExact(knex, picture),
  );
  await work(PREVIEW, ({ board }) => runPreviewJob(knex, board));
  await work(STATES, ({ board }) => keepStates(knex, board));
  await work(
    EXPORT,
    (payload, tell) => runExportJob(knex, decoders, payload.export, tell),
    (payload) => leaveExport(knex, payload.export),
  );
  await work(
    READ_BOARD_FILE,
    ({ boardFile }, tell) => runReading({ knex, queue, decoders }, boardFile, tell),
    ({ boardFile }) => leaveReading(knex, boardFile),
  );
  await work(SWEEP, async () => {
    await removeOldBoardFiles(knex);
    await removeOldExports(knex);
    await removePutAway(knex, PUT_AWAY_FOR);
    await sweepBlobs(knex);
  });

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
    await boss.send(COPIES.name, { picture }, sendOptions(COPIES, { picture }, { afterS: LATER_S }));
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
