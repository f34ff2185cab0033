import { randomUUID } from 'node:crypto';
import type { IntakeAnswer, Picture } from '@miradero/core/schema';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { noisePicture, startTestServer, type TestServer, until } from '../test/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

async function taken(): Promise<Picture> {
  const bytes = await noisePicture(300, 200, 7).jpeg().toBuffer();
  const form = new FormData();
  form.append('file', new Blob([new Uint8Array(bytes)]), 'reed.jpg');
  const answer = (await (
    await server.ask('/api/pictures', { method: 'POST', body: form })
  ).json()) as IntakeAnswer;
  return until(async () => {
    const response = await server.ask(`/api/pictures/${answer.pictures[0]!.id}`);
    const { picture } = (await response.json()) as { picture: Picture };
    return picture.atlas !== null && picture;
  });
}

/** Everything of a picture that can be asked for. */
const waysTo = ({ id, sha256, levels, atlas }: Picture): string[] => [
  ...['', '/original', '/story', '/with-source'].map((what) => `/api/pictures/${id}${what}`),
  `/api/levels/${sha256}`,
  ...levels.map(({ hash }) => `/api/levels/${hash}`),
  `/api/atlases/${atlas!.hash32}`,
  `/api/atlases/${atlas!.hash64}`,
];
const statuses = (ways: readonly string[]) =>
  Promise.all(ways.map(async (way) => (await server.ask(way)).status));

it('shows nothing of a picture, its copies and its atlas to whom they do not belong', async () => {
  const picture = await taken();
  const ways = waysTo(picture);
  // Somebody else's from the beginning, as far as this process knows: nothing of it was asked for before.
  const other = randomUUID();
  await server.knex('owners').insert({ id: other, name: 'somebody else' });
  await server.knex('pictures').update({ owner: other });
  await server.knex('atlases').update({ owner: other });
  expect(new Set(await statuses(ways))).toEqual(new Set([404]));
  const [level] = picture.levels;
  const known = await server.ask(`/api/levels/${level!.hash}`, {
    headers: { 'If-None-Match': `"${level!.hash}"` },
  });
  expect(known.status).toBe(404);
  expect(known.headers.get('cache-control')).toBe('no-store');

  await server.knex('pictures').update({ owner: server.owner });
  await server.knex('atlases').update({ owner: server.owner });
  expect(new Set(await statuses(ways))).toEqual(new Set([200]));
});

it('hands out an atlas that another has taken the place of, as long as it is kept', async () => {
  const picture = await taken();
  const before = picture.atlas!.hash64;
  const [{ hash }] = (await server.knex('blobs').whereNot({ hash: before }).limit(1).select('hash')) as [
    { hash: string },
  ];
  await server.knex('atlases').where({ hash64: before }).update({ hash64: hash });
  expect(await statuses([`/api/atlases/${before}`])).toEqual([200]);
});
