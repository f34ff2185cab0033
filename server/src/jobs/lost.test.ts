import { randomUUID } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import type { Picture } from '@miradero/core/schema';
import sharp from 'sharp';
import { afterEach, describe, expect, it } from 'vitest';
import { DecodeError, type Decoding } from '../pixels/decoding/decoders.ts';
import { storeBytes } from '../storage/blob-store.ts';
import { descendantsOf, isRunning } from '../test/processes.ts';
import { noisePicture, startTestServer, type TestServer, until } from '../test/server.ts';
import { LEVELS } from './kinds.ts';
import { runLevelsJob } from './make-levels.ts';
import { createBoss, createQueue } from './queue.ts';
import { takeUpLost } from './take-up-lost.ts';

let server: TestServer | undefined;
afterEach(() => server?.stop());

/** A picture whose bytes are here and whose levels nobody was asked for. */
async function waitingPicture({ knex, owner }: TestServer): Promise<string> {
  const bytes = await sharp({ create: { width: 30, height: 20, channels: 3, background: '#b9791a' } })
    .png()
    .toBuffer();
  const sha256 = await knex.transaction((trx) =>
    storeBytes(trx, Buffer.concat([bytes, Buffer.from(randomUUID())]), 'image/png'),
  );
  const [row] = await knex('pictures')
    .insert({
      ...{ id: randomUUID(), owner, sha256, name: 'Plank', file_name: 'plank.png', type: 'image/png' },
      ...{ bytes: bytes.length, width: 30, height: 20, source: '{}', facts: '{}' },
      added_at: '2026-01-01',
    })
    .returning('id');
  return row.id;
}

const jobsOf = async ({ knex }: TestServer): Promise<number> =>
  Number((await knex('pgboss.job').where({ name: LEVELS.name }).count({ count: '*' }))[0]?.count);

const stateOf = async ({ knex }: TestServer, id: string): Promise<Picture> =>
  knex('pictures').where({ id }).first('state', 'failure');

const failing = (error: Error): Decoding => ({ run: () => Promise.reject<never>(error) });

describe('a picture that breaks the process that reads it', () => {
  it('is tried twice, and says so', async () => {
    server = await startTestServer();
    const queue = await createQueue(server.databaseUrl);
    const id = await waitingPicture(server);
    const late = failing(new DecodeError('time', 'It takes more than 75 seconds to read.'));
    await expect(runLevelsJob(server.knex, queue, late, id)).rejects.toThrow('75 seconds');
    expect(await stateOf(server, id)).toMatchObject({ state: 'arriving' });
    await runLevelsJob(server.knex, queue, late, id);
    const given = await stateOf(server, id);
    expect(given.state).toBe('failed');
    expect(given.failure).toMatch(/after 2 tries.*75 seconds/);
    await queue.stop();
  });

  it('but is just damaged is not tried again', async () => {
    server = await startTestServer();
    const queue = await createQueue(server.databaseUrl);
    const id = await waitingPicture(server);
    await runLevelsJob(server.knex, queue, failing(new DecodeError('unreadable', 'bad seek')), id);
    expect((await stateOf(server, id)).state).toBe('failed');
    await queue.stop();
  });
});

describe('what was lost with a job process', () => {
  it('is taken up without a second job, however often one starts', async () => {
    server = await startTestServer();
    // Its own job process is held: these pictures wait.
    for (const pid of descendantsOf(process.pid)) process.kill(pid, 'SIGSTOP');
    const ids = await Promise.all([1, 2, 3].map(() => waitingPicture(server!)));
    const boss = await createBoss(server.databaseUrl);
    for (let start = 0; start < 4; start += 1) {
      await takeUpLost(server.databaseUrl, server.knex, boss);
      expect(await jobsOf(server)).toBe(ids.length);
    }
    // One that was in work again and again when its process ended is given up in the end.
    await server
      .knex('pgboss.job')
      .where({ name: LEVELS.name })
      .update({ state: 'failed', completed_on: new Date() });
    await takeUpLost(server.databaseUrl, server.knex, boss);
    expect(await jobsOf(server)).toBe(ids.length);
    for (const id of ids) expect((await stateOf(server, id)).state).toBe('failed');
    await boss.stop({ graceful: false, wait: false });
    for (const pid of descendantsOf(process.pid)) process.kill(pid, 'SIGCONT');
  });

  it('is done after a kill in the middle', { timeout: 90_000 }, async () => {
    server = await startTestServer();
    const form = new FormData();
    for (let index = 0; index < 4; index += 1) {
      const bytes = await noisePicture(3_000, 2_000, index).jpeg().toBuffer();
      form.append('file', new Blob([new Uint8Array(bytes)]), `plank ${index}.jpg`);
    }
    await server.ask('/api/pictures', { method: 'POST', body: form });
    await pause(300);
    for (const pid of descendantsOf(process.pid)) process.kill(pid, 'SIGKILL');
    await until(async () => {
      const { pictures } = (await (await server!.ask('/api/pictures')).json()) as { pictures: Picture[] };
      return pictures.length === 4 && pictures.every(({ state }) => state === 'ready');
    }, 80_000);
    expect(await jobsOf(server)).toBe(4);
  });
});

it('jobs go on after every connection of theirs was cut, in the middle and at rest', {
  timeout: 90_000,
}, async () => {
  server = await startTestServer();
  const { knex, ask } = server;
  const upload = async (seed: number) => {
    const form = new FormData();
    const bytes = await noisePicture(2_400, 1_600, seed).jpeg().toBuffer();
    form.append('file', new Blob([new Uint8Array(bytes)]), `plank ${seed}.jpg`);
    await ask('/api/pictures', { method: 'POST', body: form });
  };
  const areReady = async (count: number) => {
    const { pictures } = (await (await ask('/api/pictures')).json()) as { pictures: Picture[] };
    return pictures.filter(({ state }) => state === 'ready').length === count;
  };
  await upload(1);
  await until(() => areReady(1));
  const processes = descendantsOf(process.pid);
  const cut = () =>
    knex.raw(
      `select pg_terminate_backend(pid) from pg_stat_activity
       where datname = current_database() and pid <> pg_backend_pid() and backend_type = 'client backend'`,
    );
  await cut();
  await upload(2);
  await pause(150);
  await cut().catch(() => {});
  await upload(3);
  await until(() => areReady(3), 80_000);
  // Nothing ended and was started anew: what went was heard, and survived.
  expect(processes.filter(isRunning)).toEqual(processes);
});

it('stopping the server leaves no process, also while levels are being made', async () => {
  const stopped = await startTestServer();
  const form = new FormData();
  for (let index = 0; index < 4; index += 1) {
    const bytes = await noisePicture(4_000, 3_000, index).jpeg().toBuffer();
    form.append('file', new Blob([new Uint8Array(bytes)]), `plank ${index}.jpg`);
  }
  await stopped.ask('/api/pictures', { method: 'POST', body: form });
  await until(async () => descendantsOf(process.pid).length >= 3);
  await pause(1_000);
  const processes = descendantsOf(process.pid);
  expect(processes.length).toBeGreaterThanOrEqual(3);
  await stopped.stop();
  await until(async () => !processes.some(isRunning), 8_000);
});
