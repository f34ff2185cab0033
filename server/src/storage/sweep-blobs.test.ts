import type { IntakeAnswer, Picture } from '@miradero/core/schema';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { noisePicture, startTestServer, type TestServer, until } from '../test/server.ts';
import { storeBytes } from './blob-store.ts';
import { sweepBlobs } from './sweep-blobs.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const isKept = async (hash: string) =>
  (await server.knex('blobs').where({ hash }).first('hash')) !== undefined;
const store = (text: string) =>
  server.knex.transaction((trx) => storeBytes(trx, Buffer.from(text), 'image/webp'));

it('takes what nothing names and is old enough, and nothing else', async () => {
  const form = new FormData();
  form.append(
    'file',
    new Blob([new Uint8Array(await noisePicture(300, 200, 3).jpeg().toBuffer())]),
    'reed.jpg',
  );
  const answer = (await (
    await server.ask('/api/pictures', { method: 'POST', body: form })
  ).json()) as IntakeAnswer;
  const picture = await until(async () => {
    const response = await server.ask(`/api/pictures/${answer.pictures[0]!.id}`);
    const { picture } = (await response.json()) as { picture: Picture };
    return picture.atlas !== null && picture;
  });
  const [orphan, renewed, fresh] = [await store('orphan'), await store('renewed'), await store('fresh')];
  await server.knex('blobs').whereNot({ hash: fresh }).update({ created_at: '2026-01-01' });
  await store('renewed');

  // Made long ago, but named until now: windows that are open may still ask for it.
  expect(await sweepBlobs(server.knex)).toBe(0);
  expect(await isKept(orphan)).toBe(true);
  await server.knex('blobs').whereNotNull('unnamed_since').update({ unnamed_since: '2026-01-02' });
  expect(await sweepBlobs(server.knex)).toBe(1);
  expect(await isKept(orphan)).toBe(false);
  expect(await isKept(renewed)).toBe(true);
  expect(await isKept(fresh)).toBe(true);
  for (const { hash } of picture.levels) expect(await isKept(hash)).toBe(true);
  expect(await isKept(picture.atlas!.hash64)).toBe(true);
  expect((await server.ask(`/api/pictures/${picture.id}/original`)).status).toBe(200);
});
