import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { munsellValueToGrey8 } from '@miradero/core/colour';
import type { Point } from '@miradero/core/geometry';
import { createNote, createPictureMark, createPlacement, NOTE_TYPE } from '@miradero/core/items';
import type { Board, BoardSnapshot, IntakeAnswer, Item, Picture, Placement } from '@miradero/core/schema';
import { create, type Font } from 'fontkit';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PREVIEW } from '../painting/paint-preview.ts';
import { startTestServer, type TestServer, until } from '../test/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

async function createBoard(name: string): Promise<string> {
  const { board } = (await (await server.send('POST', '/api/boards', { name })).json()) as { board: Board };
  return board.id;
}
async function boardOf(id: string): Promise<Board> {
  return ((await (await server.ask(`/api/boards/${id}`)).json()) as BoardSnapshot).board;
}
const place = (board: string, ...items: Item[]) =>
  server.send('POST', `/api/boards/${board}/changes`, {
    changes: [{ id: randomUUID(), operations: items.map((create) => ({ create })) }],
  });

/** A picture whose left half is ochre and whose right half is verdigris. */
async function twoGrounds(): Promise<string> {
  const drawing = Buffer.from(
    '<svg xmlns="http://www.w3.org/2000/svg" width="400" height="200"><rect width="200" height="200" fill="#b9791a"/><rect x="200" width="200" height="200" fill="#2c7a6b"/></svg>',
  );
  const form = new FormData();
  form.append('file', new Blob([new Uint8Array(await sharp(drawing).png().toBuffer())]), 'two.png');
  const response = await server.ask('/api/pictures', { method: 'POST', body: form });
  const { id } = ((await response.json()) as IntakeAnswer).pictures[0]!;
  // A preview shows what there is when it is painted; here there shall be pixels.
  await until(async () => {
    const { picture } = (await (await server.ask(`/api/pictures/${id}`)).json()) as { picture: Picture };
    return picture.state === 'ready';
  });
  return id;
}

/** r, g, b of the preview, waited for until it is another than `before`. */
async function previewOf(board: string, before: string | null = null) {
  const { preview } = await until(async () => {
    const now = await boardOf(board);
    return now.preview !== null && now.preview !== before && now;
  }, 120_000);
  const bytes = Buffer.from(await (await server.ask(`/api/levels/${preview}`)).arrayBuffer());
  const { data, info } = await sharp(bytes).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  expect(info).toMatchObject(PREVIEW);
  const at = (x: number, y: number) => [
    ...data.subarray((y * info.width + x) * 3, (y * info.width + x) * 3 + 3),
  ];
  return { preview, at };
}
const near = (colour: number[], wanted: readonly number[]) =>
  expect(Math.max(...colour.map((level, index) => Math.abs(level - wanted[index]!)))).toBeLessThan(14);

const OCHRE = [0xb9, 0x79, 0x1a];
const VERMILION = [0xbf, 0x41, 0x28];
const VERDIGRIS = [0x2c, 0x7a, 0x6b];
const grey = (value: number) => [1, 1, 1].map(() => munsellValueToGrey8(value));

describe('previews of boards', () => {
  it('show what stands where: trimmed, mirrored, turned and faded, on the surround', {
    timeout: 60_000,
  }, async () => {
    const picture = await twoGrounds();
    const board = await createBoard('previewed');
    const base = { picture, pictureWidth: 400, pictureHeight: 200, width: 200 };
    const corner = (id: string, x: number, y: number) =>
      createNote({ id, stack: 'a0', centre: { x, y }, width: 4, height: 4, text: '' });
    const mirrored = createPlacement({
      ...{ ...base, id: 'mirrored', stack: 'a2', centre: { x: 360, y: 100 }, flipX: true },
    });
    const trimmed = createPlacement({
      ...{ ...base, id: 'trimmed', stack: 'a5', centre: { x: 560, y: 100 }, width: 100 },
      trim: { x: 0.5, y: 0, width: 0.5, height: 1 },
    });
    const drawn = (on: Placement, id: string, from: Point, to: Point) =>
      createPictureMark(on, {
        ...{ id, stack: 'a6', pen: 'hard-pencil', ink: '#bf4128', nib: 14, smoothing: 0, seed: 1 },
        points: [from, to].map((point) => ({ ...point, pressure: 0.5 })),
      });
    await place(
      board,
      // The extent is 684 × 414 board units: one unit is one pixel of the preview.
      corner('tl', 2, 2),
      corner('br', 682, 412),
      createPlacement({ ...base, id: 'plain', stack: 'a1', centre: { x: 120, y: 100 } }),
      mirrored,
      drawn(mirrored, 'on-it', { x: 300, y: 130 }, { x: 420, y: 130 }),
      createPlacement({ ...base, id: 'turned', stack: 'a3', centre: { x: 120, y: 290 }, turn: 90 }),
      createPlacement({ ...base, id: 'faded', stack: 'a4', centre: { x: 360, y: 290 }, opacity: 0.5 }),
      trimmed,
      drawn(trimmed, 'beyond-it', { x: 530, y: 65 }, { x: 650, y: 65 }),
    );
    const { at } = await previewOf(board);
    const on = (x: number, y: number) => at(x + 18, y + 18);
    near(on(70, 100), OCHRE);
    near(on(170, 100), VERDIGRIS);
    near(on(310, 100), VERDIGRIS);
    near(on(410, 100), OCHRE);
    near(on(120, 240), OCHRE);
    near(on(120, 340), VERDIGRIS);
    near(
      on(310, 290),
      OCHRE.map((level, index) => (level + grey(5)[index]!) / 2),
    );
    near(on(540, 100), VERDIGRIS);
    // What is drawn on a picture is cut off with it.
    near(on(360, 130), VERMILION);
    near(on(570, 65), VERMILION);
    near(on(630, 65), grey(5));
    near(on(240, 200), grey(5));
  });

  it('show the letters of a note where they stand, as the serif draws them', {
    timeout: 60_000,
  }, async () => {
    const board = await createBoard('lettered');
    // One unit is one pixel; the type is 2.85 times its plain size.
    const scale = 684 / NOTE_TYPE.width;
    const note = createNote({
      ...{ id: 'n', stack: 'a0', centre: { x: 342, y: 207 }, width: 684, height: 414 },
      text: '\u2014\n\u6e21',
    });
    await place(board, note);
    const { at } = await previewOf(board);
    const file = createRequire(import.meta.url).resolve(
      '@fontsource-variable/newsreader/files/newsreader-latin-wght-normal.woff2',
    );
    const font = create(readFileSync(file)) as Font;
    const { minX, maxX, minY, maxY } = font.glyphForCodePoint(0x2014).path.bbox;
    const unit = (NOTE_TYPE.fontSize * scale) / font.unitsPerEm;
    const baseline = (NOTE_TYPE.padding + NOTE_TYPE.fontSize) * scale;
    const on = (xFont: number, yFont: number) =>
      at(Math.round(18 + NOTE_TYPE.padding * scale + xFont * unit), Math.round(18 + baseline - yFont * unit));
    const lightness = (x: number, y: number) => on(x, y)[0]!;
    const middle = (minY + maxY) / 2;
    for (const share of [0.1, 0.5, 0.9])
      expect(lightness(minX + share * (maxX - minX), middle)).toBeLessThan(120);
    expect(lightness((minX + maxX) / 2, maxY + 300)).toBeGreaterThan(235);
    expect(lightness((minX + maxX) / 2, minY - 300)).toBeGreaterThan(235);
    expect(lightness(maxX + 200, middle)).toBeGreaterThan(235);
    // What the serif lacks is a box, hollow.
    const below = -(NOTE_TYPE.lineHeight / NOTE_TYPE.fontSize) * font.unitsPerEm;
    expect(lightness(1_000, below + 600)).toBeGreaterThan(235);
    const across = Array.from({ length: 400 }, (_, step) => lightness(step, below + 600));
    expect(Math.min(...across)).toBeLessThan(200);
  });

  it('follow the board and its surround', { timeout: 90_000 }, async () => {
    const picture = await twoGrounds();
    const board = await createBoard('followed');
    const item = createPlacement({
      ...{ id: 'p', stack: 'a0', picture, pictureWidth: 400, pictureHeight: 200 },
      ...{ centre: { x: 0, y: 0 }, width: 200 },
    });
    await place(board, item);
    const first = await previewOf(board);
    near(first.at(5, 5), grey(5));
    await server.send('PATCH', `/api/boards/${board}`, { surround: 2 });
    const second = await previewOf(board, first.preview);
    near(second.at(5, 5), grey(2));
  });
});

describe('a copy of a board', () => {
  it('holds what stands there, alone, with a history that begins with it', async () => {
    const board = await createBoard('Ferry: form');
    const note = createNote({
      id: 'n',
      stack: 'a0',
      centre: { x: 0, y: 0 },
      width: 9,
      height: 9,
      text: 'kept',
    });
    await place(board, note, { ...note, id: 'gone', removed: true });
    const response = await server.send('POST', `/api/boards/${board}/copies`, { name: 'Ferry: form, copy' });
    expect(response.status).toBe(201);
    const { board: copy } = (await response.json()) as { board: Board };
    const snapshot = (await (await server.ask(`/api/boards/${copy.id}`)).json()) as BoardSnapshot;
    expect(snapshot).toMatchObject({ revision: 1, board: { name: 'Ferry: form, copy' }, items: [note] });
    const log = await server.ask(`/api/boards/${copy.id}/changes?since=0`);
    expect(await log.json()).toMatchObject({
      changes: [{ revision: 1, change: { operations: [{ create: note }] } }],
    });
    await place(copy.id, { ...note, id: 'other' });
    expect(((await (await server.ask(`/api/boards/${board}`)).json()) as BoardSnapshot).items).toHaveLength(
      2,
    );
  });

  it('is made of no board that is not there', async () => {
    expect((await server.send('POST', `/api/boards/${randomUUID()}/copies`, { name: 'x' })).status).toBe(404);
  });
});
