import { randomUUID } from 'node:crypto';
import { buffer } from 'node:stream/consumers';
import { createCluster, createNote, createPlacement, isNote, isPlacement } from '@miradero/core/items';
import type {
  Board,
  BoardFile,
  BoardFileReading,
  BoardSnapshot,
  Change,
  CreateExport,
  IntakeAnswer,
  Item,
  Picture,
  ReceivedBoardFile,
} from '@miradero/core/schema';
import { unzipSync, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ZipFile } from 'yazl';
import { createQueue } from '../jobs/queue.ts';
import { Decoders } from '../pixels/decoding/decoders.ts';
import { noisePicture, startTestServer, type TestServer, until } from '../test/server.ts';
import { runReading } from './run-reading.ts';

/** Two computers. */
let home: TestServer;
let away: TestServer;
beforeAll(async () => {
  [home, away] = await Promise.all([startTestServer(), startTestServer()]);
});
afterAll(() => Promise.all([home.stop(), away.stop()]));

const json = async <T>(response: Response | Promise<Response>) => (await (await response).json()) as T;
const snapshotOf = (server: TestServer, board: string) =>
  json<BoardSnapshot>(server.ask(`/api/boards/${board}`));

async function takeIn(
  server: TestServer,
  seed: number,
  name: string,
): Promise<{ picture: Picture; bytes: Buffer }> {
  const bytes = await noisePicture(600, 400, seed).png().toBuffer();
  const form = new FormData();
  form.append('about', JSON.stringify({ name, source: { creator: 'Mara Quill', licence: 'CC BY 4.0' } }));
  form.append('file', new Blob([new Uint8Array(bytes)]), `${name}.png`);
  const { pictures } = await json<IntakeAnswer>(server.ask('/api/pictures', { method: 'POST', body: form }));
  const picture = await until(async () => {
    const asked = await json<{ picture: Picture }>(server.ask(`/api/pictures/${pictures[0]!.id}`));
    return asked.picture.state === 'ready' && asked.picture;
  });
  return { picture, bytes };
}

const at = (x: number, y = 0) => ({ centre: { x, y }, width: 300 });
const standing = (id: string, picture: Picture, x: number) =>
  createPlacement({
    ...{ id, stack: `a${id.length}`, picture: picture.id, ...at(x) },
    ...{ pictureWidth: picture.width, pictureHeight: picture.height },
  });
const made = (...operations: Change['operations']): Change => ({ id: randomUUID(), operations });
async function change(server: TestServer, board: string, ...changes: Change[]): Promise<void> {
  const { outcomes } = await json<{ outcomes: object[] }>(
    server.send('POST', `/api/boards/${board}/changes`, { changes }),
  );
  for (const outcome of outcomes) expect(outcome).toHaveProperty('revision');
}

/** A board with two pictures, a remark with everything in it, a mark and a cluster. */
async function boardAtHome(name: string) {
  const { board } = await json<{ board: Board }>(home.send('POST', '/api/boards', { name }));
  await home.send('PATCH', `/api/boards/${board.id}`, { surround: 3, question: 'How dark is the hull?' });
  const [one, two] = [await takeIn(home, 1, 'Hull'), await takeIn(home, 2, 'Lamp')];
  await home.send('PATCH', `/api/pictures/${one.picture.id}`, {
    ...{ useMark: 'work', note: 'Of the fender', tags: ['rust'] },
    purposes: [{ purpose: 'colour', isNot: false, region: { x: 0, y: 0, width: 0.5, height: 1 } }],
  });
  const text = {
    blocks: [{ runs: [{ text: '<b>Hull</b> & "chain"' }, { text: ' goes', marks: ['bold' as const] }] }],
  };
  await change(
    home,
    board.id,
    made(
      {
        create: createCluster({ id: 'c', stack: 'a0', ...at(0), height: 400, titleSize: 20, title: 'Lamps' }),
      },
      { create: { ...standing('p', one.picture, 0), turn: 12, flipX: true } },
      { create: { ...standing('pp', two.picture, 400), cluster: 'c' } },
      { create: createNote({ id: 'n', stack: 'b0', ...at(0, 300), height: 51, text }) },
      { create: createNote({ id: 'gone', stack: 'b1', ...at(0, 300), height: 51, text: 'Gone' }) },
    ),
    made({ item: 'gone', set: { removed: true } }),
  );
  return { id: board.id, one, two };
}

async function fileOf(server: TestServer, board: string, more: Partial<CreateExport> = {}): Promise<Buffer> {
  const asked = await server.send('POST', `/api/boards/${board}/exports`, {
    ...{ items: null, as: 'board-file', type: 'image/png', side: null, ground: 'clear', ...more },
  });
  const { export: taken } = await json<{ export: { id: string } }>(asked);
  const answer = await server.ask(`/api/exports/${taken.id}/file`);
  expect(answer.status).toBe(200);
  return Buffer.from(await answer.arrayBuffer());
}

async function handIn(server: TestServer, bytes: Uint8Array): Promise<Response> {
  const form = new FormData();
  form.append('file', new Blob([new Uint8Array(bytes)]), 'board.zip');
  return server.ask('/api/board-files', { method: 'POST', body: form });
}

async function read(server: TestServer, bytes: Uint8Array, into: 'itself' | string | null, by?: string) {
  const { boardFile } = await json<{ boardFile: ReceivedBoardFile }>(handIn(server, bytes));
  const board = into === 'itself' ? boardFile.mergesInto[0]!.board : into;
  const begun = await server.send('POST', `/api/board-files/${boardFile.id}/readings`, {
    into: board,
    ...(by ? { by } : {}),
  });
  expect(begun.status).toBe(202);
  const reading = await until(async () => {
    const now = await json<BoardFileReading>(server.ask(`/api/board-files/${boardFile.id}`));
    return (now.state === 'done' || now.state === 'failed') && now;
  });
  return { boardFile, reading };
}

const unpacked = (bytes: Uint8Array) => unzipSync(new Uint8Array(bytes));
const textIn = (files: Record<string, Uint8Array>, ending: string) =>
  Buffer.from(Object.entries(files).find(([name]) => name.endsWith(ending))![1]).toString('utf8');
const boardIn = (bytes: Uint8Array) => JSON.parse(textIn(unpacked(bytes), '/board.json')) as BoardFile;
/** The same with another `board.json`. */
function withBoard(bytes: Uint8Array, alter: (file: Record<string, unknown>) => unknown): Uint8Array {
  const files = unpacked(bytes);
  const name = Object.keys(files).find((one) => one.endsWith('board.json'))!;
  files[name] = Buffer.from(JSON.stringify(alter(JSON.parse(Buffer.from(files[name]!).toString()))));
  return zipSync(files, { level: 0 });
}
const byId = (items: readonly Item[]) => [...items].sort((a, b) => (a.id < b.id ? -1 : 1));

describe('a board file', () => {
  it('holds the board in open parts, and is stored', async () => {
    const { id, one, two } = await boardAtHome('Ferry / form');
    const bytes = await fileOf(home, id);
    const files = unpacked(bytes);
    const names = Object.keys(files).map((name) => name.replace(/^Ferry form\//, ''));
    expect(names).toEqual(
      expect.arrayContaining([
        ...['board.json', 'index.html', 'viewer.js', 'credits.html', 'credits.csv', 'notes/n.html'],
        ...[`originals/${one.picture.id}.png`, `viewer/256/${two.picture.id}.webp`],
      ]),
    );
    expect(names.some((name) => name.includes('gone'))).toBe(false);
    expect(Buffer.from(files[`Ferry form/originals/${one.picture.id}.png`]!).equals(one.bytes)).toBe(true);
    expect(textIn(files, 'notes/n.html')).toContain(
      '&lt;b&gt;Hull&lt;/b&gt; &amp; &quot;chain&quot;<strong> goes</strong>',
    );
    expect(textIn(files, 'credits.csv')).toContain('Hull,Mara Quill,CC BY 4.0');
    const total = Object.values(files).reduce((sum, { length }) => sum + length, 0);
    expect(bytes.length).toBeGreaterThan(total);
  });

  it('read elsewhere is the same board, and its originals the same bytes', async () => {
    const { id, one, two } = await boardAtHome('To the studio');
    const { reading, boardFile } = await read(away, await fileOf(home, id), null);
    expect(boardFile).toMatchObject({
      name: 'To the studio',
      items: 4,
      pictures: 2,
      without: 0,
      mergesInto: [],
    });
    expect(reading).toMatchObject({ state: 'done', result: { pictures: 2, leftOut: [] } });
    const [there, here] = [await snapshotOf(home, id), await snapshotOf(away, reading.result!.board)];
    expect(here.board).toMatchObject({
      name: 'To the studio',
      surround: 3,
      question: 'How dark is the hull?',
    });
    const ids = new Map<string, string>();
    for (const item of there.items) {
      const same = here.items.find((other) => other.id === item.id)!;
      if (isPlacement(item) && isPlacement(same)) ids.set(item.picture, same.picture);
    }
    const own = there.items.map((item) =>
      isPlacement(item) ? { ...item, picture: ids.get(item.picture)! } : item,
    );
    expect(byId(here.items)).toEqual(byId(own));
    for (const { picture, bytes } of [one, two]) {
      const same = ids.get(picture.id)!;
      const original = await away.ask(`/api/pictures/${same}/original`);
      expect(Buffer.from(await original.arrayBuffer()).equals(bytes)).toBe(true);
      const told = await json<{ picture: Picture }>(away.ask(`/api/pictures/${same}`));
      const { name, source } = picture;
      expect(told.picture).toMatchObject({ name, source });
    }
    const hull = await json<{ picture: Picture }>(away.ask(`/api/pictures/${ids.get(one.picture.id)}`));
    expect(hull.picture).toMatchObject({ useMark: 'work', note: 'Of the fender', tags: ['rust'] });
    expect(hull.picture.purposes).toHaveLength(1);
  });

  it('is read as well in the form that it has above 4 GB', async () => {
    const { id } = await boardAtHome('Large');
    const zip = new ZipFile();
    const options = { compress: false, forceZip64Format: true };
    for (const [name, content] of Object.entries(unpacked(await fileOf(home, id))))
      zip.addBuffer(Buffer.from(content), name, options);
    zip.end({ forceZip64Format: true, comment: '' });
    const bytes = await buffer(zip.outputStream);
    // The record that the end of a ZIP64 has. Source: APPNOTE.TXT of the ZIP format, 4.3.14.
    expect(bytes.includes('PK\u0006\u0006')).toBe(true);
    const { reading } = await read(away, bytes, null);
    expect(reading).toMatchObject({ state: 'done', result: { leftOut: [] } });
    const { items } = await snapshotOf(away, reading.result!.board);
    expect(items.filter(({ removed }) => !removed)).toHaveLength(4);
  });

  it('carries copies of a width, or only what may go into the work', async () => {
    const { id, one, two } = await boardAtHome('Light luggage');
    const light = await fileOf(home, id, { pictures: 'copies', side: 512 });
    const told = boardIn(light).pictures.find((picture) => picture.id === one.picture.id)!;
    expect(told).toMatchObject({ copy: { width: 512, height: 341 }, original: { width: 600 } });
    const { reading } = await read(away, light, null);
    // Both are here since the last test, as originals: those stand, and not their copies.
    expect(reading.result).toMatchObject({ pictures: 0, leftOut: [] });
    const third = await startTestServer();
    try {
      const anew = await read(third, light, null);
      expect(anew.reading.result).toMatchObject({ pictures: 2, leftOut: [] });
      const { items } = await snapshotOf(third, anew.reading.result!.board);
      const hull = items.find((item) => item.id === 'p')!;
      expect(hull).toMatchObject({ pictureWidth: 512, pictureHeight: 341, width: 300 });
    } finally {
      await third.stop();
    }
    const work = boardIn(await fileOf(home, id, { pictures: 'work' }));
    expect(work.pictures.map((picture) => picture.id)).toEqual([one.picture.id]);
    expect(JSON.stringify(work)).not.toContain(two.picture.id);
  });
});

describe('a board for a class', () => {
  it('has its tasks as a sheet, and every copy of it begins with them as a list to check off', async () => {
    const { id } = await boardAtHome('Lesson');
    const bytes = await fileOf(home, id, { tasks: 'Squint first\nThen <draw> the shadow' });
    const sheet = textIn(unpacked(bytes), '/tasks.html');
    expect(sheet).toContain('<p>Then &lt;draw&gt; the shadow</p>');
    expect(sheet).toContain('Mara Quill');
    const copies = [await read(away, bytes, null), await read(away, bytes, null)];
    const boards = copies.map(({ reading }) => reading.result!.board);
    expect(new Set(boards).size).toBe(2);
    for (const board of boards) {
      const { items } = await snapshotOf(away, board);
      const lists = items.filter(
        (item) => isNote(item) && typeof item.text === 'object' && 'list' in item.text.blocks[0]!,
      );
      expect(lists).toMatchObject([
        { text: { blocks: [{ list: 'check', runs: [{ text: 'Squint first' }] }, { list: 'check' }] } },
      ]);
      expect(items.filter(({ removed }) => !removed)).toHaveLength(5);
    }
  });
});

describe('a board that was handed out', () => {
  it('is merged after changes on both sides: each once, what cannot be is listed', async () => {
    const { id } = await boardAtHome('To and fro');
    const { reading } = await read(away, await fileOf(home, id), null);
    const there = reading.result!.board;
    await change(
      home,
      id,
      made({ item: 'n', set: { opacity: 0.5 } }),
      made({ item: 'p', set: { width: 111 } }),
    );
    const lamp = await takeIn(away, 3, 'Mast lamp');
    await change(
      away,
      there,
      made({ create: standing('new', lamp.picture, 900) }),
      made({ item: 'pp', set: { turn: 33 } }),
    );
    const back = await fileOf(away, there);
    expect(boardIn(back).changes).toHaveLength(2);
    const merged = await read(home, back, 'itself', 'Mara Quill');
    expect(merged.boardFile.mergesInto[0]).toEqual({ board: id, name: 'To and fro', changes: 2 });
    expect(merged.reading.result).toMatchObject({
      board: id,
      pictures: 1,
      changes: 2,
      known: 0,
      leftOut: [],
    });
    const now = await snapshotOf(home, id);
    const item = (one: string) => now.items.find((each) => each.id === one)!;
    expect(item('new')).toMatchObject({ width: 300, removed: false });
    expect([item('pp').turn, item('p').width, item('n').opacity]).toEqual([33, 111, 0.5]);
    const placed = item('new') as { picture: string };
    const original = await home.ask(`/api/pictures/${placed.picture}/original`);
    expect(Buffer.from(await original.arrayBuffer()).equals(lamp.bytes)).toBe(true);
    const by = await home.knex('board_changes').where({ board: id }).pluck('made_by');
    expect(by.filter((name: string | null) => name === 'Mara Quill')).toHaveLength(2);

    // The same file once more: nothing is made twice.
    const again = await read(home, back, 'itself');
    expect(again.reading.result).toMatchObject({ changes: 0, known: 2 });
    expect((await snapshotOf(home, id)).revision).toBe(now.revision);

    // Back again: what was done at home comes, what came from here does not.
    const forth = await read(away, await fileOf(home, id), 'itself');
    expect(forth.boardFile.mergesInto[0]!.board).toBe(there);
    expect(forth.reading.result).toMatchObject({ changes: 2, known: 2, leftOut: [] });
    const both = [await snapshotOf(home, id), await snapshotOf(away, there)].map(({ items }) =>
      byId(items).map(({ id: one, width, turn, opacity, removed }) => ({
        one,
        width,
        turn,
        opacity,
        removed,
      })),
    );
    expect(both[0]).toEqual(both[1]);

    const odd = withBoard(back, (file) => ({
      ...file,
      changes: [
        {
          revision: 9,
          at: '2026-11-28T09:00:00Z',
          by: null,
          change: made({ item: 'nobody', set: { width: 9 } }),
        },
        { revision: 10, at: '2026-11-28T09:00:00Z', by: null, change: { id: 'x', operations: 'none' } },
        {
          revision: 11,
          at: '2026-11-28T09:00:00Z',
          by: 'Odra',
          change: made({ item: 'n', set: { turn: 5 } }),
        },
      ],
    }));
    const { result } = (await read(home, odd, id)).reading;
    expect(result!.changes).toBe(1);
    expect(result!.leftOut.map(({ what, why }) => [what, why.slice(0, 24)])).toEqual([
      ['A change of 2026-11-28, 09:00', 'The change concerns some'],
      ['A change of 2026-11-28, 09:00', 'The change holds somethi'],
    ]);
  });

  it('is not merged into a board that has another past', async () => {
    const [mine, other] = [await boardAtHome('Mine'), await boardAtHome('Other')];
    const { reading } = await read(home, await fileOf(home, mine.id), other.id);
    expect(reading).toMatchObject({ state: 'failed', why: expect.stringMatching(/^It shares no past/) });
  });
});

describe('a hostile board file', () => {
  const refusedWith = async (bytes: Uint8Array, words: RegExp) => {
    const answer = await handIn(home, bytes);
    const problem = await json<{ code?: string; detail?: string }>(answer);
    expect([answer.status, problem.code]).toEqual([422, 'no-board-file']);
    expect(problem.detail).toMatch(words);
  };
  let good: Buffer;
  beforeAll(async () => {
    good = await fileOf(home, (await boardAtHome('Good')).id);
  });

  it('is refused in words: no ZIP, cut off, no board, another thing, a later version', async () => {
    await refusedWith(Buffer.from('hello'), /no ZIP/);
    await refusedWith(good.subarray(0, good.length - 3_000), /no ZIP/);
    await refusedWith(zipSync({ 'a.txt': Buffer.from('x') }), /no “board.json”/);
    await refusedWith(zipSync({ 'board.json': Buffer.from('{') }), /damaged/);
    await refusedWith(zipSync({ 'board.json': Buffer.from('null') }), /something else/);
    await refusedWith(
      withBoard(good, (file) => ({ ...file, version: 2 })),
      /version 2, .* newer one/,
    );
    await refusedWith(
      withBoard(good, (file) => ({ ...file, kind: 'palette' })),
      /something else/,
    );
    await refusedWith(
      withBoard(good, (file) => ({ ...file, items: 'all' })),
      /damaged/,
    );
  });

  it('is refused where it names paths outside, or is packed to burst', async () => {
    for (const name of [
      '../board.json',
      '/board.json',
      'a/../../board.json',
      'C:\\board.json',
      'a\\board.json',
    ])
      await refusedWith(zipSync({ [name]: Buffer.from('{}') }), /names something|no “board.json”/);
    const bomb = zipSync({ 'board.json': new Uint8Array(20_000_000) }, { level: 6 });
    await refusedWith(bomb, /burst/);
  });

  it('brings in what is good of it: wrong bytes, scripts and impossible items are left out and named', async () => {
    const board = boardIn(good);
    const [first] = board.pictures;
    const odd = withBoard(good, (file) => ({
      ...file,
      pictures: [
        { ...first, original: { ...first!.original, sha256: 'f'.repeat(64) } },
        {
          ...first,
          id: randomUUID(),
          file: '../../../etc/passwd',
          original: { ...first!.original, sha256: 'e'.repeat(64) },
        },
      ],
      board: { name: '<script>alert(1)</script>\u0000', surround: 5 },
      items: [
        ...(file.items as object[]).filter((item) => (item as Item).id === 'n'),
        { id: 'n', kind: 'note' },
        { id: 'x', kind: 'poster' },
        { id: '__proto__', kind: 'placement', width: 1e300 },
      ],
    }));
    const { reading } = await read(home, odd, null);
    expect(reading.state).toBe('done');
    const { leftOut, board: id } = reading.result!;
    expect(leftOut.map(({ what }) => what)).toEqual([
      ...[`The picture “${first!.name}”`, `The picture “${first!.name}”`],
      ...['Item 2, “note”', 'Item 3, “poster”', 'Item 4, “placement”'],
    ]);
    expect((await snapshotOf(home, id)).items.map((item) => item.id)).toEqual(['n']);
  });

  it('read anew after its process ended in the middle goes on with the same board', async () => {
    const { boardFile, reading } = await read(home, good, null);
    const id = reading.result!.board;
    const before = await snapshotOf(home, id);
    const { hash } = await home.knex('exports').orderBy('created_at', 'desc').first('hash');
    await home
      .knex('board_files')
      .where({ id: boardFile.id })
      .update({ state: 'working', hash, result: null });
    const [queue, decoders] = [await createQueue(home.databaseUrl), new Decoders(1)];
    await runReading({ knex: home.knex, queue, decoders }, boardFile.id, () => {});
    decoders.stop();
    await queue.stop();
    const again = await json<BoardFileReading>(home.ask(`/api/board-files/${boardFile.id}`));
    expect(again).toMatchObject({ state: 'done', result: { board: id, leftOut: [] } });
    expect(await snapshotOf(home, id)).toEqual(before);
  });

  it('belongs to whom it was handed in by, and is read once', async () => {
    const { boardFile } = await json<{ boardFile: ReceivedBoardFile }>(handIn(home, good));
    expect((await away.ask(`/api/board-files/${boardFile.id}`)).status).toBe(404);
    const answers = await Promise.all(
      [1, 2, 3].map(() => home.send('POST', `/api/board-files/${boardFile.id}/readings`, { into: null })),
    );
    expect(answers.map(({ status }) => status)).toEqual([202, 202, 202]);
    const done = await until(async () => {
      const now = await json<BoardFileReading>(home.ask(`/api/board-files/${boardFile.id}`));
      return now.state === 'done' && now;
    });
    const { boards } = await json<{ boards: Board[] }>(home.ask('/api/boards'));
    expect(boards.filter(({ id }) => id === done.result!.board)).toHaveLength(1);
    expect(boards.filter(({ name }) => name === 'Good')).toHaveLength(3);
  });
});
