import { spawnSync } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createPlacement } from '@miradero/core/items';
import type { Board, BoardSnapshot, IntakeAnswer, Picture } from '@miradero/core/schema';
import pg from 'pg';
import { expect, inject, it } from 'vitest';
import { startServer } from '../server.ts';
import { freePort, noisePicture, startTestServer, until } from '../test/server.ts';

const BIN = '/usr/lib/postgresql/15/bin';

function runTool(name: string, args: string[]): void {
  const { status, stderr } = spawnSync(join(BIN, name), args, { encoding: 'utf8' });
  expect(stderr).toBe('');
  expect(status).toBe(0);
}

it('a dump restored into an empty database is the same Miradero, byte for byte', async () => {
  const first = await startTestServer();
  const folder = await mkdtemp(join(tmpdir(), 'miradero-dump-'));
  const bytes = await noisePicture(600, 400, 8).jpeg().toBuffer();
  const form = new FormData();
  form.append('file', new Blob([new Uint8Array(bytes)]), 'reed.jpg');
  const { pictures } = (await (
    await first.ask('/api/pictures', { method: 'POST', body: form })
  ).json()) as IntakeAnswer;
  const { id } = pictures[0]!;
  const ready = await until(async () => {
    const { picture } = (await (await first.ask(`/api/pictures/${id}`)).json()) as { picture: Picture };
    return picture.atlas !== null && picture;
  });
  const { board } = (await (await first.send('POST', '/api/boards', { name: 'kept' })).json()) as {
    board: Board;
  };
  const create = createPlacement({
    ...{ id: 'p', stack: 'a0', picture: id, pictureWidth: 600, pictureHeight: 400 },
    ...{ centre: { x: 1.5, y: -2 }, width: 300, turn: 12.5, opacity: 0.4 },
  });
  await first.send('POST', `/api/boards/${board.id}/changes`, {
    changes: [{ id: '0e6b6a6e-0000-4000-8000-000000000001', operations: [{ create }] }],
  });

  const name = `restored${Date.now()}`;
  const restoredUrl = inject('databaseUrl').replace(/\/postgres$/, `/${name}`);
  const client = new pg.Client({ connectionString: inject('databaseUrl') });
  await client.connect();
  await client.query(`create database ${name}`);
  await client.end();
  runTool('pg_dump', ['-Fc', '-f', join(folder, 'miradero.dump'), first.databaseUrl]);
  runTool('pg_restore', ['--no-owner', '-d', restoredUrl, join(folder, 'miradero.dump')]);
  await rm(folder, { recursive: true });
  await first.stop();

  const second = await startServer({
    ...{ databaseUrl: restoredUrl, host: '127.0.0.1', port: await freePort() },
    ...{ webFolder: undefined, logLevel: 'silent', fetchesFrom: [], checksAnswers: true },
  });
  const ask = (path: string) => fetch(`${second.address}${path}`);
  const snapshot = (await (await ask(`/api/boards/${board.id}`)).json()) as BoardSnapshot;
  expect(snapshot.items).toEqual([create]);
  expect(snapshot.revision).toBe(1);
  const original = await ask(`/api/pictures/${id}/original`);
  expect(Buffer.from(await original.arrayBuffer()).equals(bytes)).toBe(true);
  for (const { hash } of ready.levels) expect((await ask(`/api/levels/${hash}`)).status).toBe(200);
  await second.stop();
});
