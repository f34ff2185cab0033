import { randomUUID } from 'node:crypto';
import { munsellValueToGrey8 } from '@miradero/core/colour';
import { bayAround, createBay, createNote, createPlacement, NOTE_TYPE } from '@miradero/core/items';
import type {
  Board,
  CreateExport,
  Export,
  IntakeAnswer,
  Item,
  Picture,
  Placement,
} from '@miradero/core/schema';
import { unzipSync } from 'fflate';
import sharp, { type Sharp } from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { noisePicture, startTestServer, type TestServer, until } from '../test/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const WHOLE_AS_PNG = { items: null, as: 'flat', type: 'image/png', side: null, ground: 'clear' } as const;

async function boardWith(...items: Item[]): Promise<string> {
  const made = await server.send('POST', '/api/boards', { name: 'Taken / out' });
  const { board } = (await made.json()) as { board: Board };
  const changes = [{ id: randomUUID(), operations: items.map((create) => ({ create })) }];
  await server.send('POST', `/api/boards/${board.id}/changes`, { changes });
  return board.id;
}

async function takeIn(picture: Sharp | Buffer, fileName: string): Promise<Picture> {
  const bytes = Buffer.isBuffer(picture) ? picture : await picture.png().toBuffer();
  const form = new FormData();
  form.append('file', new Blob([new Uint8Array(bytes)]), fileName);
  const answer = await server.ask('/api/pictures', { method: 'POST', body: form });
  const { id } = ((await answer.json()) as IntakeAnswer).pictures[0]!;
  return until(async () => {
    const { picture } = (await (await server.ask(`/api/pictures/${id}`)).json()) as { picture: Picture };
    return picture.state !== 'arriving' && picture;
  });
}

let stack = 0;
const standing = (picture: Picture, more: Partial<Placement> = {}): Placement =>
  createPlacement({
    ...{ id: randomUUID().slice(0, 20), stack: `a${stack++ % 10}`, picture: picture.id },
    ...{ pictureWidth: picture.width, pictureHeight: picture.height, width: picture.width },
    centre: { x: picture.width / 2, y: picture.height / 2 },
    ...more,
  });

async function ask(board: string, what: Partial<CreateExport>): Promise<Export> {
  const answer = await server.send('POST', `/api/boards/${board}/exports`, { ...WHOLE_AS_PNG, ...what });
  expect(answer.status).toBe(201);
  return ((await answer.json()) as { export: Export }).export;
}
const factsOf = async (id: string) =>
  ((await (await server.ask(`/api/exports/${id}`)).json()) as { export: Export }).export;

/** What is taken out: its facts and its file. */
async function taken(board: string, what: Partial<CreateExport> = {}) {
  const { id } = await ask(board, what);
  const answer = await server.ask(`/api/exports/${id}/file`);
  expect(answer.status).toBe(200);
  const bytes = Buffer.from(await answer.arrayBuffer());
  return { facts: await factsOf(id), bytes, headers: answer.headers };
}

/** The pixels of a file: RGBA. */
async function pixelsOf(bytes: Buffer) {
  const { data, info } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const at = (x: number, y: number) => [
    ...data.subarray((y * info.width + x) * 4, (y * info.width + x) * 4 + 4),
  ];
  return { data, width: info.width, height: info.height, at };
}

const grey = (value: number) => [...[1, 1, 1].map(() => munsellValueToGrey8(value)), 255];

describe('a flat picture', () => {
  it('has the very pixels of pictures that stand at their own size, mirrored and turned by right angles, too', async () => {
    const noise = noisePicture(640, 420, 5);
    const picture = await takeIn(noise, 'noise.png');
    const original = await noise.ensureAlpha().raw().toBuffer();
    const colourOf = (x: number, y: number) => [
      ...original.subarray((y * 640 + x) * 4, (y * 640 + x) * 4 + 4),
    ];
    const board = await boardWith(
      standing(picture),
      standing(picture, { centre: { x: 960, y: 210 }, flipX: true }),
      standing(picture, { centre: { x: 210, y: 740 }, turn: 90 }),
    );
    const { facts, bytes, headers } = await taken(board);
    expect(facts).toMatchObject({
      state: 'done',
      width: 1280,
      height: 1060,
      missing: 0,
      bytes: bytes.length,
    });
    expect(facts.name).toBe('Taken out.png');
    expect(headers.get('content-disposition')).toMatch(/^attachment; filename="?Taken/);
    const { at } = await pixelsOf(bytes);
    for (const [x, y] of [
      [0, 0],
      [639, 419],
      [313, 77],
    ] as const) {
      expect(at(x, y)).toEqual(colourOf(x, y));
      expect(at(640 + x, y)).toEqual(colourOf(639 - x, y));
      expect(at(419 - y, 420 + x)).toEqual(colourOf(x, y));
    }
    expect(at(900, 800)).toEqual([0, 0, 0, 0]);
  });

  it('has grounds, notes above pictures, outlines and what leans', async () => {
    const plain = sharp({ create: { width: 400, height: 400, channels: 3, background: '#2c7a6b' } });
    const picture = await takeIn(plain, 'plain.png');
    const board = await boardWith(
      standing(picture, { stack: 'a0', trim: { x: 0, y: 0, width: 1, height: 1, outline: 'ellipse' } }),
      standing(picture, {
        ...{ stack: 'a1', centre: { x: 700, y: 200 }, width: 200 },
        trim: { x: 0.25, y: 0.25, width: 0.5, height: 0.5, lean: 20 },
      }),
      createNote({
        ...{ id: 'n', stack: 'a9', centre: { x: 200, y: 200 }, text: '\u2588' },
        ...{ width: NOTE_TYPE.width, height: NOTE_TYPE.lineHeight + 2 * NOTE_TYPE.padding },
      }),
    );
    const onGrey = await pixelsOf((await taken(board, { ground: 'surround', side: 800 })).bytes);
    expect(onGrey).toMatchObject({ width: 800, height: 400 });
    expect(onGrey.at(3, 3)).toEqual(grey(5));
    expect(onGrey.at(200, 60)).toEqual([0x2c, 0x7a, 0x6b, 255]);
    expect(onGrey.at(700, 200)).toEqual([0x2c, 0x7a, 0x6b, 255]);
    // A corner of its upright frame is full of picture; beside it is ground.
    expect(onGrey.at(602, 102)).toEqual([0x2c, 0x7a, 0x6b, 255]);
    expect(onGrey.at(598, 102)).toEqual(grey(5));
    // The note's paper lies over the middle of the ellipse.
    expect(onGrey.at(200, 200)).not.toEqual([0x2c, 0x7a, 0x6b, 255]);
    const clear = await pixelsOf((await taken(board, { side: 800 })).bytes);
    expect(clear.at(3, 3)[3]).toBe(0);
    const jpeg = await taken(board, { type: 'image/jpeg', side: 400 });
    expect(jpeg.facts.name).toBe('Taken out.jpg');
    expect(jpeg.bytes.subarray(0, 2)).toEqual(Buffer.from([0xff, 0xd8]));
    expect((await pixelsOf(jpeg.bytes)).at(1, 1)).toEqual([255, 255, 255, 255]);
    const webp = await taken(board, { type: 'image/webp', side: 400 });
    expect((await pixelsOf(webp.bytes)).at(1, 1)[3]).toBe(0);
  });

  it('reads what a camera turned, what is wide, deep or drawn, in sRGB', async () => {
    const turned = await sharp({ create: { width: 300, height: 500, channels: 3, background: '#fff' } })
      .composite([
        {
          input: { create: { width: 300, height: 100, channels: 3, background: '#b9791a' } },
          left: 0,
          top: 0,
        },
      ])
      .jpeg({ quality: 100, chromaSubsampling: '4:4:4' })
      .withMetadata({ orientation: 6 })
      .toBuffer();
    const deep = await sharp({ create: { width: 300, height: 300, channels: 3, background: '#4080c0' } })
      .toColourspace('rgb16')
      .png()
      .toBuffer();
    const drawn = Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" width="300" height="300"><rect width="300" height="300" fill="#bf4128"/><rect x="150" width="150" height="300" fill="#2c7a6b"/></svg>',
    );
    const [a, b, c] = [
      await takeIn(turned, 'turned.jpg'),
      await takeIn(deep, 'deep.png'),
      await takeIn(drawn, 'drawn.svg'),
    ];
    expect([a.width, a.height]).toEqual([500, 300]);
    const board = await boardWith(
      standing(a),
      standing(b, { centre: { x: 650, y: 150 }, width: 300 }),
      standing(c, { centre: { x: 950, y: 150 }, width: 300 }),
    );
    const { at, width } = await pixelsOf((await taken(board, { side: 1100 })).bytes);
    expect(width).toBe(1100);
    const near = (colour: number[], wanted: readonly number[], off = 3) =>
      expect(Math.max(...colour.map((level, index) => Math.abs(level - wanted[index]!)))).toBeLessThan(off);
    // The strip that the camera had above is on the right when it is upright.
    near(at(450, 150), [0xb9, 0x79, 0x1a, 255]);
    near(at(250, 150), [255, 255, 255, 255]);
    near(at(650, 150), [0x40, 0x80, 0xc0, 255], 1);
    near(at(810, 150), [0xbf, 0x41, 0x28, 255], 1);
    near(at(1090, 150), [0x2c, 0x7a, 0x6b, 255], 1);
  });

  it('of a bay shows its region and nothing of its frame, under its title', async () => {
    const picture = await takeIn(noisePicture(300, 300, 8), 'reed.png');
    const bay = createBay({
      ...{ id: 'bay', stack: 'a0', title: 'Left half' },
      ...bayAround({ x: 0, y: 0, width: 150, height: 300 }),
    });
    const board = await boardWith(standing(picture), bay);
    const { facts, bytes } = await taken(board, { items: ['bay'] });
    expect(facts).toMatchObject({ name: 'Left half.png', width: 150, height: 300 });
    const original = await noisePicture(300, 300, 8).ensureAlpha().raw().toBuffer();
    const { at } = await pixelsOf(bytes);
    expect(at(0, 0)).toEqual([...original.subarray(0, 4)]);
    expect(at(149, 299)).toEqual([...original.subarray((299 * 300 + 149) * 4, (299 * 300 + 149) * 4 + 4)]);
  });
});

describe('pictures by themselves', () => {
  it('leave as they came where nothing was done to them, else as they stand', async () => {
    const bytes = await noisePicture(400, 300, 21).jpeg({ quality: 90 }).toBuffer();
    const picture = await takeIn(bytes, 'Heron at dusk.jpg');
    const one = standing(picture);
    const other = standing(picture, { width: 50, trim: { x: 0.5, y: 0, width: 0.5, height: 1 }, turn: 90 });
    const board = await boardWith(one, other);
    const untouched = await taken(board, { items: [one.id], as: 'each' });
    expect(untouched.bytes.equals(bytes)).toBe(true);
    expect(untouched.facts.name).toBe('Heron at dusk.jpg');
    const altered = await taken(board, { items: [other.id], as: 'each' });
    expect(altered.facts).toMatchObject({ name: 'Heron at dusk.png', width: 300, height: 200 });
    const decoded = await sharp(bytes).ensureAlpha().raw().toBuffer();
    const { at } = await pixelsOf(altered.bytes);
    expect(at(299, 0)).toEqual([...decoded.subarray(200 * 4, 200 * 4 + 4)]);
  });

  it('come as a ZIP where they are several, each under a name of its own that every system takes', async () => {
    const names = ['../../evil', 'a:b*c?', 'a:b*c?', '\u202Egnp.exe'];
    const items: Placement[] = [];
    for (const [index, name] of names.entries()) {
      const picture = await takeIn(noisePicture(80, 60, 30 + index), 'x.png');
      await server.send('PATCH', `/api/pictures/${picture.id}`, { name });
      items.push(standing(picture, { centre: { x: index * 100, y: 0 }, turn: index === 0 ? 90 : 0 }));
    }
    const board = await boardWith(...items);
    const { facts, bytes, headers } = await taken(board, { as: 'each' });
    expect(facts.name).toBe('Taken out.zip');
    expect(headers.get('content-type')).toBe('application/zip');
    const files = unzipSync(bytes);
    expect(Object.keys(files).sort()).toEqual(['a b c 2.png', 'a b c.png', 'evil.png', 'gnp.exe.png']);
    expect(await sharp(files['evil.png']).metadata()).toMatchObject({ width: 60, height: 80 });
  });
});

describe('taking out', () => {
  it('the same id twice is one; it is stopped, and then has no file', async () => {
    const picture = await takeIn(noisePicture(900, 900, 40), 'stopped.png');
    const board = await boardWith(standing(picture));
    const id = randomUUID();
    const first = await ask(board, { id, side: 16_000, ground: 'white' });
    const again = await server.send('POST', `/api/boards/${board}/exports`, { ...WHOLE_AS_PNG, id });
    expect(again.status).toBe(200);
    expect(((await again.json()) as { export: Export }).export.id).toBe(first.id);
    await server.send('PATCH', `/api/exports/${id}`, { stopped: true });
    expect((await factsOf(id)).state).toBe('stopped');
    const file = await server.ask(`/api/exports/${id}/file`);
    expect(file.status).toBe(409);
    expect(await file.json()).toMatchObject({ detail: 'It was stopped.' });
    // The next one does not wait for it.
    expect((await taken(board)).facts.state).toBe('done');
  });

  it('counts pictures whose pixels are not here, and refuses what shows nothing', async () => {
    const picture = await takeIn(noisePicture(60, 60, 41), 'here.png');
    const awaited = { ...picture, id: randomUUID() };
    const [here, away] = [standing(picture), standing(awaited, { centre: { x: 100, y: 30 } })];
    const board = await boardWith(here, away);
    expect((await taken(board)).facts).toMatchObject({ state: 'done', missing: 1, width: 130 });
    const refused = async (what: object) =>
      (await server.send('POST', `/api/boards/${board}/exports`, { ...WHOLE_AS_PNG, ...what })).status;
    expect(await refused({ items: ['nobody'] })).toBe(422);
    expect(await refused({ items: [] })).toBe(400);
    expect(await refused({ side: 16_001 })).toBe(400);
    expect(await refused({ type: 'image/gif' })).toBe(400);
    const empty = await boardWith();
    expect((await server.send('POST', `/api/boards/${empty}/exports`, WHOLE_AS_PNG)).status).toBe(422);
    expect((await server.ask(`/api/exports/${randomUUID()}`)).status).toBe(404);
    const only = await ask(board, { items: [away.id], as: 'each' });
    await until(async () => (await factsOf(only.id)).state === 'failed');
    expect((await server.ask(`/api/exports/${only.id}/file`)).status).toBe(409);
  });
});
