import { randomUUID } from 'node:crypto';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { get } from 'node:http';
import { get as getSecurely } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createPlacement } from '@miradero/core/items';
import type {
  Board,
  BoardFileReading,
  BoardLink,
  BoardSnapshot,
  IntakeAnswer,
  LinkListening,
  Picture,
  ReceivedBoardFile,
} from '@miradero/core/schema';
import { generate } from 'selfsigned';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { freePort, noisePicture, startTestServer, type TestServer, until } from '../test/server.ts';
import { MAX_AREA } from './image-parts.ts';
import { LOOKING_LIMITS } from './looking.ts';

let server: TestServer;
let outside: string;
let shown: Picture;
let hidden: Picture;
const json = async <T>(response: Response | Promise<Response>) => (await (await response).json()) as T;

beforeAll(async () => {
  server = await startTestServer();
  const port = await freePort();
  const saved = await server.send('PATCH', '/api/settings', {
    links: { isOn: true, host: '127.0.0.1', port },
  });
  expect(saved.status).toBe(200);
  outside = `http://127.0.0.1:${port}`;
  [shown, hidden] = [await takeIn(1, 1_200, 800), await takeIn(2, 400, 300)];
});
afterAll(() => server.stop());

async function takeIn(seed: number, width: number, height: number): Promise<Picture> {
  const form = new FormData();
  const bytes = await noisePicture(width, height, seed).png().toBuffer();
  form.append('file', new Blob([new Uint8Array(bytes)]), `picture ${seed}.png`);
  const { pictures } = await json<IntakeAnswer>(server.ask('/api/pictures', { method: 'POST', body: form }));
  return until(async () => {
    const { picture } = await json<{ picture: Picture }>(server.ask(`/api/pictures/${pictures[0]!.id}`));
    return picture.state === 'ready' && picture;
  });
}

/** A board on which one picture stands, and another was. */
async function linkTo(more: object = {}) {
  const { board } = await json<{ board: Board }>(
    server.send('POST', '/api/boards', { name: 'For the partner' }),
  );
  const place = (id: string, picture: Picture) =>
    createPlacement({
      ...{ id, stack: 'a0', picture: picture.id, pictureWidth: picture.width, pictureHeight: picture.height },
      ...{ centre: { x: 0, y: 0 }, width: 300 },
    });
  const operations = [
    { create: place('p', shown) },
    { create: place('q', hidden) },
    { item: 'q', set: { removed: true } },
  ];
  await server.send('POST', `/api/boards/${board.id}/changes`, {
    changes: [{ id: randomUUID(), operations }],
  });
  const asked = await server.send('POST', '/api/links', {
    ...{ id: randomUUID(), board: board.id, withOriginals: false, ...more },
  });
  expect(asked.status).toBe(201);
  const { link } = await json<{ link: BoardLink }>(asked);
  return { board: board.id, link, at: `${outside}${link.path}` };
}

const say = (at: string, path: string, body: object, token = '') =>
  fetch(`${at}${path}`, {
    method: 'POST',
    body: JSON.stringify(body),
    headers: { 'Content-Type': 'application/json', ...(token ? { 'X-Guest': token } : {}) },
  });
const enter = async (at: string, name = 'Mara Quill') =>
  (await json<{ token: string }>(say(at, 'guests', { name }))).token;
const standing = async (board: string) =>
  (await json<BoardSnapshot>(server.ask(`/api/boards/${board}`))).items.filter(({ removed }) => !removed);

describe('a link to look', () => {
  it('shows a board and its pictures to whoever has it', async () => {
    const { at } = await linkTo();
    const page = await fetch(at);
    expect(page.status).toBe(200);
    expect(page.headers.get('content-security-policy')).toContain("default-src 'none'");
    expect(await page.text()).toContain('looker.js');
    for (const file of ['looker.js', 'looker.css']) expect((await fetch(`${at}${file}`)).status).toBe(200);
    const board = await json<{ items: { id: string }[]; pictures: Record<string, { small: string }> }>(
      fetch(`${at}board`),
    );
    expect(board.items.map(({ id }) => id)).toEqual(['p']);
    expect(Object.keys(board.pictures)).toEqual([shown.id]);
    const copy = await fetch(`${at}${board.pictures[shown.id]!.small}`);
    expect(await sharp(Buffer.from(await copy.arrayBuffer())).metadata()).toMatchObject({
      format: 'webp',
      width: 256,
    });
    // Without the stroke at its end it leads to it.
    const bare = await fetch(at.slice(0, -1), { redirect: 'manual' });
    expect([bare.status, bare.headers.get('location')]).toEqual([308, new URL(at).pathname]);
  });

  it('leads to nothing else: other pictures, other addresses, the interface of its owner', async () => {
    const { at, link } = await linkTo();
    const paths = [
      ...[`viewer/256/${hidden.id}.webp`, `viewer/2048/${shown.id}.webp`, `originals/${shown.id}`],
      ...[`iiif/${hidden.id}/info.json`, `iiif/${hidden.id}/full/max/0/default.jpg`, 'viewer/256/%00.webp'],
    ];
    for (const path of paths) expect((await fetch(`${at}${path}`)).status, path).toBe(404);
    for (const path of [
      '/',
      '/api/boards',
      '/api/session',
      `/api/levels/${shown.sha256}`,
      `/api/pictures/${shown.id}`,
      '/l/',
      '/l',
    ])
      expect((await fetch(`${outside}${path}`)).status, path).toBe(404);
    const secret = link.path.split('/')[2]!;
    for (const wrong of [
      secret.slice(0, -1),
      `${secret}A`,
      secret.toUpperCase(),
      secret.split('').reverse().join(''),
      '%27%20or%201%3D1',
    ])
      expect((await fetch(`${outside}/l/${wrong}/board`)).status, wrong).toBe(404);
    // The other way round: the owner's own listener knows no links.
    expect((await server.ask(link.path)).status).toBe(404);
    for (const header of ['access-control-allow-origin', 'x-powered-by', 'etag'])
      expect((await fetch(`${at}board`)).headers.get(header), header).toBeNull();
  });

  it('that was ended leads nowhere, also for those who looked', async () => {
    const { at, link } = await linkTo();
    const token = await enter(at);
    const ended = await server.send('PATCH', `/api/links/${link.id}`, { isEnded: true });
    expect((await json<{ link: BoardLink }>(ended)).link.endedAt).not.toBeNull();
    expect((await fetch(at)).status).toBe(404);
    for (const path of ['choices', 'remarks', 'sent'])
      expect((await say(at, path, { item: 'p', choice: 'yes', text: 'x' }, token)).status).toBe(404);
  });

  it('whose board is put away leads nowhere until that is brought back', async () => {
    const { at, board } = await linkTo();
    await server.send('PATCH', `/api/boards/${board}`, { putAway: true });
    expect((await fetch(`${at}board`)).status).toBe(404);
    await server.send('PATCH', `/api/boards/${board}`, { putAway: false });
    expect((await fetch(`${at}board`)).status).toBe(200);
  });

  it('gives originals only where that was said', async () => {
    const { at } = await linkTo({ withOriginals: true });
    const answer = await fetch(`${at}originals/${shown.id}`);
    expect(answer.headers.get('content-disposition')).toMatch(/^attachment/);
    expect((await answer.arrayBuffer()).byteLength).toBe(shown.bytes);
    expect((await fetch(`${at}originals/${hidden.id}`)).status).toBe(404);
  });
});

describe('the board of a link as a file', () => {
  const taken = async (at: string) => {
    const asked = await Promise.all([1, 2, 3].map(() => say(at, 'file', {})));
    expect(asked.map(({ status }) => status)).toEqual([200, 200, 200]);
    const ids = new Set(
      (await Promise.all(asked.map((one) => json<{ id: string }>(one)))).map(({ id }) => id),
    );
    expect(ids.size).toBe(1);
    const [id] = ids;
    await until(async () => (await json<{ state: string }>(fetch(`${at}file/${id}`))).state === 'done');
    const answer = await fetch(`${at}file/${id}/bytes`);
    return { id, answer, bytes: Buffer.from(await answer.arrayBuffer()) };
  };

  it('is what a class begins its copies with, and holds nothing that the link does not show', async () => {
    const { at, board } = await linkTo({ tasks: 'Paint it with three values.', title: 'For the class' });
    await server.send('PATCH', `/api/pictures/${shown.id}`, {
      note: 'a secret to myself',
      tags: ['privately'],
    });
    const { answer, bytes, id } = await taken(at);
    expect(answer.headers.get('content-disposition')).toContain('For the class.board.zip');
    const text = bytes.toString('latin1');
    for (const no of ['a secret to myself', 'privately', hidden.id, hidden.name])
      expect(text, no).not.toContain(no);
    for (const yes of ['Paint it with three values.', shown.id, 'tasks.html', 'copies/'])
      expect(text).toContain(yes);
    // It was not handed out by its owner: what is done from now on has nobody to go to.
    expect(
      (await server.knex('boards').where({ id: board }).first('left_revision')).left_revision,
    ).toBeNull();
    const form = new FormData();
    form.append('file', new Blob([new Uint8Array(bytes)]), 'class.zip');
    const asked = server.ask('/api/board-files', { method: 'POST', body: form });
    const { boardFile } = await json<{ boardFile: ReceivedBoardFile }>(asked);
    await server.send('POST', `/api/board-files/${boardFile.id}/readings`, { into: null });
    const { result } = await until(async () => {
      const now = await json<BoardFileReading>(server.ask(`/api/board-files/${boardFile.id}`));
      return now.state === 'done' && now;
    });
    const kinds = (await standing(result!.board)).map(({ kind }) => kind).sort();
    expect(kinds).toEqual(['note', 'placement']);
    // Of another link it is nobody's.
    const other = await linkTo({ tasks: 'Other ones.' });
    expect((await fetch(`${other.at}file/${id}`)).status).toBe(404);
    expect((await fetch(`${other.at}file/${id}/bytes`)).status).toBe(404);
    for (const odd of ['x', '..%2f..', randomUUID()])
      expect((await fetch(`${at}file/${odd}`)).status).toBe(404);
  });

  it('has originals where those are given, is another one after a change, and is made anew where that failed', async () => {
    const { at, board } = await linkTo({ withOriginals: true });
    const first = await taken(at);
    expect(first.bytes.byteLength).toBeGreaterThan(shown.bytes);
    await server.knex('exports').where({ id: first.id }).update({ state: 'failed', hash: null });
    expect((await taken(at)).id).toBe(first.id);
    await server.send('POST', `/api/boards/${board}/changes`, {
      changes: [{ id: randomUUID(), operations: [{ item: 'p', set: { centre: { x: 5, y: 5 } } }] }],
    });
    expect((await taken(at)).id).not.toBe(first.id);
  });

  it('is not given where neither tasks nor originals are', async () => {
    const { at } = await linkTo();
    expect((await say(at, 'file', {})).status).toBe(404);
  });
});

describe('what those who look say', () => {
  it('comes onto the board as a cluster of theirs, by their name', async () => {
    const { at, board, link } = await linkTo();
    const token = await enter(at);
    expect((await say(at, 'choices', { item: 'p', choice: 'yes' }, token)).status).toBe(200);
    expect((await say(at, 'remarks', { item: 'p', text: 'The hull, not the sky' }, token)).status).toBe(201);
    expect(await standing(board)).toHaveLength(1);
    expect((await say(at, 'sent', {}, token)).status).toBe(200);
    const now = await standing(board);
    expect(now.map((item) => ('title' in item ? item.title : item.kind)).sort()).toEqual([
      ...['Mara Quill: yes', 'note', 'placement', 'placement'],
    ]);
    const by = await server
      .knex('board_changes')
      .where({ board })
      .orderBy('revision', 'desc')
      .first('made_by');
    expect(by.made_by).toBe('Mara Quill');
    const { links } = await json<{ links: BoardLink[] }>(server.ask(`/api/boards/${board}/links`));
    expect(links.find(({ id }) => id === link.id)!.guests).toEqual([
      { name: 'Mara Quill', yes: 1, no: 0, remarks: 1, sentAt: expect.any(String) },
    ]);
    // Handed in again and again at once it stands there once.
    await say(at, 'remarks', { item: null, text: 'All too warm' }, token);
    const all = await Promise.all([1, 2, 3, 4].map(() => say(at, 'sent', {}, token)));
    expect(all.map(({ status }) => status)).toEqual([200, 200, 200, 200]);
    expect(await standing(board)).toHaveLength(5);
    // Handed in again without more it alters nothing.
    const { revision } = await json<BoardSnapshot>(server.ask(`/api/boards/${board}`));
    await say(at, 'sent', {}, token);
    expect((await json<BoardSnapshot>(server.ask(`/api/boards/${board}`))).revision).toBe(revision);
  });

  it('is refused in words where it makes no sense', async () => {
    const { at } = await linkTo();
    const token = await enter(at);
    const other = await linkTo();
    for (const [path, body, status] of [
      ...([
        ['guests', { name: ' \u202e ' }, 400],
        ['guests', {}, 400],
        ['guests', { name: { a: 1 } }, 400],
      ] as const),
      ...([
        ['choices', { item: 'q', choice: 'yes' }, 404],
        ['choices', { item: 'p', choice: 'maybe' }, 400],
      ] as const),
      ...([
        ['choices', { item: { $ne: 1 }, choice: 'no' }, 404],
        ['remarks', { item: 'p', text: ' ' }, 400],
      ] as const),
      ...([
        ['remarks', { item: 'p', text: 'x'.repeat(2_001) }, 413],
        ['remarks', { item: 'q', text: 'x' }, 404],
      ] as const),
      ...([['remarks', { item: null, text: 'x'.repeat(30_000) }, 413]] as const),
    ])
      expect((await say(at, path, body, token)).status, JSON.stringify(body).slice(0, 60)).toBe(status);
    expect((await say(at, 'remarks', { item: 'p', text: 'x' })).status).toBe(401);
    expect((await say(other.at, 'remarks', { item: 'p', text: 'x' }, token)).status).toBe(401);
    const bad = await fetch(`${at}remarks`, {
      method: 'POST',
      body: '{',
      headers: { 'Content-Type': 'application/json', 'X-Guest': token },
    });
    expect(bad.status).toBe(400);
    const said = await json<{ remarks: unknown[] }>(fetch(`${at}said`, { headers: { 'X-Guest': token } }));
    expect(said.remarks).toEqual([]);
  });

  it('is limited in number and rate', async () => {
    const { at, link } = await linkTo();
    const token = await enter(at);
    const [guest] = await server.knex('link_guests').where({ link: link.id });
    await server.knex('link_remarks').insert(
      Array.from({ length: LOOKING_LIMITS.remarks }, () => ({
        id: randomUUID(),
        guest: guest.id,
        item: 'p',
        text: 'x',
      })),
    );
    expect((await say(at, 'remarks', { item: 'p', text: 'one more' }, token)).status).toBe(429);
    const flood = await Promise.all(
      Array.from({ length: 80 }, () => say(at, 'choices', { item: 'p', choice: 'yes' }, token)),
    );
    const refused = flood.filter(({ status }) => status === 429);
    expect(refused.length).toBeGreaterThan(10);
    // The board is shown all the same, and the owner's own server is not held up.
    expect((await fetch(`${at}board`)).status).toBe(200);
    expect((await server.ask('/api/boards')).status).toBe(200);
  });
});

describe('parts of pictures', () => {
  it('are given by the published rules, under the secret alone, to viewers of other sites', async () => {
    const { at } = await linkTo();
    const base = `${at}iiif/${shown.id}`;
    const info = await fetch(`${base}/info.json`);
    expect(info.headers.get('access-control-allow-origin')).toBe('*');
    expect(info.headers.get('content-type')).toMatch(
      /^application\/ld\+json;\s*profile="http:\/\/iiif\.io\/api\/image\/3\/context\.json"/,
    );
    expect(await info.json()).toMatchObject({
      ...{ id: base, protocol: 'http://iiif.io/api/image', profile: 'level1', type: 'ImageService3' },
      ...{ width: 1_200, height: 800, maxArea: MAX_AREA },
    });
    const redirect = await fetch(base, { redirect: 'manual' });
    expect([redirect.status, redirect.headers.get('location')]).toEqual([303, `${base}/info.json`]);
    const part = await fetch(`${base}/100,200,300,400/150,/0/default.jpg`);
    expect([part.status, part.headers.get('content-type')]).toEqual([200, 'image/jpeg']);
    const bytes = Buffer.from(await part.arrayBuffer());
    expect(await sharp(bytes).metadata()).toMatchObject({ format: 'jpeg', width: 150, height: 200 });
    // It is cut from the original: its mean colour is that of the same part there.
    // Written first: what sharp tells of a picture is told of what it was opened from.
    const cut = await sharp(await noisePicture(1_200, 800, 1).png().toBuffer())
      .extract({ left: 100, top: 200, width: 300, height: 400 })
      .png()
      .toBuffer();
    const truth = await sharp(cut).stats();
    const own = await sharp(bytes).stats();
    for (const [band, { mean }] of own.channels.entries())
      expect(Math.abs(mean - truth.channels[band]!.mean)).toBeLessThan(4);
    for (const [path, status] of [
      ...([
        ['full/max/90/default.jpg', 501],
        ['full/max/0/default.png', 501],
        ['full/1201,/0/default.jpg', 400],
      ] as const),
      ...([
        ['1200,0,5,5/max/0/default.jpg', 400],
        ['full/max/0/default', 400],
        ['full/max/0/best.jpg', 400],
      ] as const),
    ])
      expect((await fetch(`${base}/${path}`)).status, path).toBe(status);
    const square = await fetch(`${base}/square/100,/0/default.jpg`);
    expect(await sharp(Buffer.from(await square.arrayBuffer())).metadata()).toMatchObject({
      width: 100,
      height: 100,
    });
  });
});

/** The listener with a certificate: its own is served, one that is none or somebody else's is refused in words. */
async function serveSecurely(): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'miradero-certificate-'));
  const write = async (name: string, text: string) => {
    await writeFile(join(folder, name), text);
    return join(folder, name);
  };
  const [own, strange] = [
    await generate([{ name: 'commonName', value: 'localhost' }]),
    await generate([{ name: 'commonName', value: 'elsewhere' }]),
  ];
  const certificate = await write('own.pem', own.cert);
  const key = await write('own.key', own.private);
  const serve = async (paths: { certificate: string; key: string }) => {
    const links = { isOn: true, host: '127.0.0.1', port: await freePort(), ...paths };
    await server.send('PATCH', '/api/settings', { links });
    return (await json<{ listening: LinkListening }>(server.ask('/api/links'))).listening;
  };
  try {
    for (const [wrong, words] of [
      [{ certificate, key: await write('strange.key', strange.private) }, /do not belong together/],
      [{ certificate: await write('torn.pem', own.cert.slice(0, 200)), key }, /cannot be read/],
      [{ certificate: '/dev/zero', key }, /is no such file/],
      [{ certificate: folder, key }, /is no such file/],
    ] as const)
      expect((await serve(wrong)).why).toMatch(words);
    const now = await serve({ certificate, key });
    expect(now).toMatchObject({ isOn: true, why: null, address: expect.stringMatching(/^https:/) });
    const { link } = await linkTo();
    const status = await new Promise((resolve, reject) =>
      getSecurely(
        `${now.address}${link.path}board`,
        { ca: own.cert, servername: 'localhost', checkServerIdentity: () => undefined },
        (answer) => resolve(answer.resume().statusCode),
      ).on('error', reject),
    );
    expect(status).toBe(200);
  } finally {
    await rm(folder, { recursive: true });
  }
}

describe('the listener of links', () => {
  it('is off until it is said, tells why it cannot listen, and stops', async () => {
    const now = async () => (await json<{ listening: LinkListening }>(server.ask('/api/links'))).listening;
    expect(await now()).toEqual({ isOn: true, address: outside, why: null });
    const taken = Number(new URL(server.address).port);
    await server.send('PATCH', '/api/settings', { links: { isOn: true, host: '127.0.0.1', port: taken } });
    expect(await now()).toEqual({ isOn: false, address: null, why: 'Another program has that port.' });
    await server.send('PATCH', '/api/settings', {
      links: {
        isOn: true,
        host: '127.0.0.1',
        port: await freePort(),
        certificate: '/nowhere.pem',
        key: '/nowhere.key',
      },
    });
    expect((await now()).why).toMatch(/^The certificate/);
    const port = Number(new URL(outside).port);
    await serveSecurely();
    await server.send('PATCH', '/api/settings', { links: { isOn: false, host: '127.0.0.1', port } });
    expect(await now()).toEqual({ isOn: false, address: null, why: null });
    await expect(new Promise((resolve, reject) => get(outside, resolve).on('error', reject))).rejects.toThrow(
      /ECONNREFUSED/,
    );
    await server.send('PATCH', '/api/settings', { links: { isOn: true, host: '127.0.0.1', port } });
    expect(await now()).toMatchObject({ isOn: true, address: outside });
    expect(
      (await server.send('PATCH', '/api/settings', { links: { isOn: true, host: 'a b', port: 80 } })).status,
    ).toBe(400);
  });
});
