import { randomUUID } from 'node:crypto';
import { createPlacement, SHEET_ID } from '@miradero/core/items';
import type { Board, BoardSnapshot, Drawing, IntakeAnswer, Picture, Placement } from '@miradero/core/schema';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../test/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const json = async <T>(response: Response): Promise<T> => (await response.json()) as T;
const post = (path: string, body: object) =>
  server.ask(path, {
    method: 'POST',
    body: JSON.stringify(body),
    headers: { 'Content-Type': 'application/json' },
  });

const SHEET = {
  setup: { width: 12, height: 9.6, unit: 'in', ppi: 400, bleed: 0.125 },
  need: { width: 8, height: 10, unit: 'in', ppi: 300 },
};

async function makeBoard(sheet?: object): Promise<Board> {
  const response = await post('/api/boards', { name: 'The winch house', ...(sheet ? { sheet } : {}) });
  return (await json<{ board: Board }>(response)).board;
}
const snapshotOf = async (id: string) => json<BoardSnapshot>(await server.ask(`/api/boards/${id}`));

let shades = 0;
/** A drawing as it is saved: like no other. */
function saved(width = 40, height = 30): Promise<Buffer> {
  shades += 1;
  const background = { r: shades % 256, g: 255 - (shades % 256), b: Math.floor(shades / 256) };
  return sharp({ create: { width, height, channels: 3, background } })
    .png()
    .toBuffer();
}

async function send(bytes: Uint8Array, drawing: object): Promise<Picture> {
  const form = new FormData();
  form.append('about', JSON.stringify({ drawing }));
  form.append('file', new Blob([new Uint8Array(bytes)]), 'winch.png');
  const response = await server.ask('/api/pictures', { method: 'POST', body: form });
  expect(response.status).toBe(201);
  return (await json<IntakeAnswer>(response)).pictures[0]!;
}
const drawingsOf = async (board: string) =>
  (await json<{ drawings: Drawing[] }>(await server.ask(`/api/boards/${board}/drawings`))).drawings;
const aboutOf = (board: string, id: string = randomUUID(), savedAt = new Date()) => ({
  ...{ id, name: 'winch.png', board, savedAt: savedAt.toISOString() },
});

describe('a sheet', () => {
  it('is a board with paper beneath, told among the boards', async () => {
    const { id } = await makeBoard(SHEET);
    const { items } = await snapshotOf(id);
    expect(items).toHaveLength(1);
    // 12 × 9.6 in at 400 ppi and 50 px of bleed beyond each edge.
    expect(items[0]).toMatchObject({
      ...{ id: SHEET_ID, kind: 'sheet', width: 4900, height: 3940, centre: { x: 2400, y: 1920 } },
    });
    const { boards } = await json<{ boards: Board[] }>(await server.ask('/api/boards'));
    expect(boards.find((board) => board.id === id)?.sheet).toEqual(SHEET);
    expect((await makeBoard()).sheet).toBeNull();
  });

  it('that cannot be held is refused in words, and no board is made of it', async () => {
    const before = (await json<{ boards: Board[] }>(await server.ask('/api/boards'))).boards.length;
    const setup = { ...SHEET.setup, width: 2_000 };
    const response = await post('/api/boards', { name: 'Too large', sheet: { ...SHEET, setup } });
    expect(response.status).toBe(400);
    expect((await json<{ detail: string }>(response)).detail).toContain('at most 30,000 px a side');
    expect((await json<{ boards: Board[] }>(await server.ask('/api/boards'))).boards).toHaveLength(before);
  });

  it('asked for twice with one id is made once, with its paper', async () => {
    const id = randomUUID();
    const ask = () => post('/api/boards', { id, name: 'Once', sheet: SHEET });
    expect((await Promise.all([ask(), ask()])).map(({ status }) => status).sort()).toEqual([200, 201]);
    expect((await snapshotOf(id)).items).toHaveLength(1);
  });

  it('is not laid beneath a board that was begun without', async () => {
    const { id } = await makeBoard();
    const create = createPlacement({
      ...{ id: 'one', stack: 'a0', picture: randomUUID(), pictureWidth: 4, pictureHeight: 3 },
      ...{ centre: { x: 0, y: 0 }, width: 40 },
    });
    const picture = await send(await saved(), aboutOf(id));
    const operations = [{ create: { ...create, picture: picture.id } }];
    await post(`/api/boards/${id}/changes`, { changes: [{ id: randomUUID(), operations }] });
    expect((await post('/api/boards', { id, name: 'Once', sheet: SHEET })).status).toBe(200);
    expect((await snapshotOf(id)).items.map((item) => item.id)).toEqual(['one']);
  });
});

describe('a drawing that is followed', () => {
  it('has a version for each save, the newest first, and none for bytes that are as they were', async () => {
    const { id: board } = await makeBoard(SHEET);
    const drawing = aboutOf(board);
    const [one, two] = [await saved(), await saved()];
    const first = await send(one, drawing);
    const second = await send(two, drawing);
    await send(two, drawing);
    const back = await send(one, drawing);
    expect(back.id).toBe(first.id);
    const [told] = await drawingsOf(board);
    expect(told).toMatchObject({ id: drawing.id, name: 'winch.png' });
    expect(told!.versions.map(({ number, picture }) => [number, picture])).toEqual([
      [3, first.id],
      [2, second.id],
      [1, first.id],
    ]);
  });

  it('has its versions in the order in which they were saved, in whichever they come', async () => {
    const [{ id: sheet }, { id: board }] = [await makeBoard(SHEET), await makeBoard()];
    const id = randomUUID();
    const at = (minute: number) => aboutOf(sheet, id, new Date(Date.UTC(2026, 10, 28, 9, minute)));
    const bytes = await Promise.all([1, 2, 3, 4, 5].map(() => saved()));
    const came: Picture[] = [];
    const order = [2, 5, 3, 1, 4];
    for (const minute of order) {
      came[minute] = await send(bytes[minute - 1]!, at(minute));
      if (minute !== 2) continue;
      const { id: picture, width, height } = came[minute]!;
      const create = createPlacement({
        ...{ id: 'there', stack: 'a0', picture, pictureWidth: width, pictureHeight: height, drawing: id },
        ...{ centre: { x: 0, y: 0 }, width: 40 },
      });
      await post(`/api/boards/${board}/changes`, {
        changes: [{ id: randomUUID(), operations: [{ create }] }],
      });
    }
    // One whose answer was lost is sent again.
    await send(bytes[2]!, at(3));
    const [told] = await drawingsOf(sheet);
    expect(told!.versions.map(({ number, picture }) => [number, picture])).toEqual(
      [5, 4, 3, 2, 1].map((minute) => [minute, came[minute]!.id]),
    );
    const { items } = await snapshotOf(board);
    expect((items[0] as Placement).picture).toBe(came[5]!.id);
  });

  it('is current wherever it stands; what shows a version of its own is left', async () => {
    const [{ id: sheet }, { id: board }] = [await makeBoard(SHEET), await makeBoard()];
    const drawing = aboutOf(sheet);
    const first = await send(await saved(), drawing);
    const standing = (id: string, more: object) =>
      createPlacement({
        ...{ id, stack: 'a0', picture: first.id, pictureWidth: 40, pictureHeight: 30 },
        ...{ centre: { x: 0, y: 0 }, width: 300, ...more },
      });
    const creates = [standing('follows', { drawing: drawing.id }), standing('stays', {})];
    const operations = creates.map((create) => ({ create }));
    await post(`/api/boards/${board}/changes`, { changes: [{ id: randomUUID(), operations }] });
    const second = await send(await saved(80, 60), drawing);
    const items = new Map((await snapshotOf(board)).items.map((item) => [item.id, item as Placement]));
    expect(items.get('follows')).toMatchObject({ picture: second.id, pictureWidth: 80, pictureHeight: 60 });
    expect(items.get('stays')?.picture).toBe(first.id);
  });

  it('stays out of the library and off the landing', async () => {
    const { id: board } = await makeBoard(SHEET);
    const version = await send(await saved(), aboutOf(board));
    const listed = async (path: string) =>
      (await json<{ pictures: Picture[] }>(await server.ask(path))).pictures.map(({ id }) => id);
    expect(await listed('/api/library?limit=500')).not.toContain(version.id);
    expect(await listed('/api/pictures?landing=true')).not.toContain(version.id);
    expect(await listed(`/api/pictures?ids=${version.id}`)).toEqual([version.id]);
  });

  it('keeps its last twenty versions and one an hour; what nothing shows is forgotten', async () => {
    const { id: board } = await makeBoard(SHEET);
    const id = randomUUID();
    const pictures: Picture[] = [];
    // One every twenty minutes: before the last twenty, the last of each hour.
    for (let index = 0; index < 26; index += 1)
      pictures.push(
        await send(await saved(), aboutOf(board, id, new Date(Date.UTC(2026, 10, 28, 0, 20 * index)))),
      );
    const [told] = await drawingsOf(board);
    const numbers = told!.versions.map(({ number }) => number);
    expect(numbers).toEqual([...Array.from({ length: 20 }, (_, index) => 26 - index), 6, 3]);
    const isThere = async ({ id }: Picture) => (await server.ask(`/api/pictures/${id}`)).status === 200;
    expect(await Promise.all(pictures.slice(0, 7).map(isThere))).toEqual([
      ...[false, false, true, false, false, true, true],
    ]);
  });

  it('of a board that is not there is a picture like any other', async () => {
    const drawing = aboutOf(randomUUID());
    const picture = await send(await saved(), drawing);
    expect(picture.state).toBe('arriving');
    const response = await server.ask(`/api/boards/${drawing.board}/drawings`);
    expect(response.status).toBe(404);
  });
});
