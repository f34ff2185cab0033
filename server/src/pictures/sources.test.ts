import { readFile } from 'node:fs/promises';
import type { BoardSnapshot, IntakeAnswer, Picture, Problem } from '@miradero/core/schema';
import ExifReader from 'exifreader';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestServer, type TestServer, until } from '../test/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

type Answer = IntakeAnswer & Problem;
const demo = (name: string) => readFile(new URL(`../../../demo/pictures/${name}`, import.meta.url));

async function upload(name: string, bytes: Uint8Array, more: Record<string, string | Blob> = {}) {
  const form = new FormData();
  form.append('file', new Blob([new Uint8Array(bytes)]), name);
  for (const [field, value] of Object.entries(more)) form.append(field, value);
  const response = await server.ask('/api/pictures', { method: 'POST', body: form });
  return { ...((await response.json()) as Answer), status: response.status };
}
const pictureAt = async (id: string) =>
  ((await (await server.ask(`/api/pictures/${id}`)).json()) as { picture: Picture }).picture;
const settled = (id: string, isRight = (p: Picture) => p.state !== 'arriving') =>
  until(async () => {
    const picture = await pictureAt(id);
    return isRight(picture) && picture;
  });
const patch = (id: string, body: object) => server.send('PATCH', `/api/pictures/${id}`, body);

/** Tones and forms that differ from seed to seed. */
function scene(seed: number, side: number): Promise<Buffer> {
  const bars = Array.from({ length: 12 }, (_, index) => {
    const at = (salt: number) => Math.abs((Math.sin(seed * 57 + index * 7.7 + salt * 31.1) * 9973.3) % 1);
    const tone = Math.round(255 * at(5));
    return `<rect x="${at(1) * 90}" y="${at(2) * 90}" width="${5 + at(3) * 40}" height="${5 + at(4) * 30}" fill="rgb(${tone},${255 - tone},${tone})"/>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" width="${side}" height="${side}"><rect width="100" height="100" fill="#777"/>${bars.join('')}</svg>`;
  return sharp(Buffer.from(svg)).png().toBuffer();
}

describe('kinds that move', () => {
  it.each([
    ['knot.gif', 'image/gif', 12],
    ['knot.webp', 'image/webp', 12],
  ])('%s is animated, all frames kept', async (name, type, frames) => {
    const truth = JSON.parse((await demo(`${name}.truth.json`)).toString());
    const { pictures } = await upload(name, await demo(name));
    expect(pictures[0]).toMatchObject({
      kind: 'animated',
      type,
      frames,
      width: truth.width,
      height: truth.height,
    });
    expect(pictures[0]!.durationMs).toBeGreaterThan(500);
    expect((await settled(pictures[0]!.id)).state).toBe('ready');
    expect(pictures[0]!.bytes).toBe((await demo(name)).length);
  });

  it.each([
    ['turning.avif', 'image/avif'],
    ['turning.apng.png', 'image/png'],
  ])('%s, as an independent encoder wrote it, is animated with all its frames', async (name, type) => {
    const bytes = await readFile(new URL(`../test/fixtures/${name}`, import.meta.url));
    const { pictures } = await upload(name, bytes);
    // Four frames of a fifth of a second, 64 × 48.
    expect(pictures[0]).toMatchObject({
      kind: 'animated',
      type,
      frames: 4,
      width: 64,
      height: 48,
      durationMs: 800,
    });
    expect((await settled(pictures[0]!.id)).state).toBe('ready');
  });

  it('a model stands by the view that a browser made of it, and waits for one', async () => {
    const bytes = await demo('ferry.glb');
    const { pictures } = await upload('ferry.glb', bytes);
    const { id } = pictures[0]!;
    expect(pictures[0]).toMatchObject({ kind: 'model', type: 'model/gltf-binary', width: 1200, height: 900 });
    expect(await settled(id)).toMatchObject({
      state: 'failed',
      failure: expect.stringContaining('no browser'),
    });
    const poster = await sharp({ create: { width: 1200, height: 900, channels: 3, background: '#797979' } })
      .webp()
      .toBuffer();
    await upload('ferry.glb', bytes, { poster: new Blob([new Uint8Array(poster)]) });
    expect(await settled(id, (p) => p.state === 'ready')).toMatchObject({ failure: null });
    const original = await server.ask(`/api/pictures/${id}/original`);
    expect(original.headers.get('content-type')).toBe('model/gltf-binary');
  });

  it('a poster that is none is left aside', async () => {
    const glb = await demo('ferry.glb');
    const spoilt = Buffer.concat([glb, Buffer.from('    ')]);
    const { status, pictures } = await upload('f.glb', spoilt, { poster: new Blob(['<script>']) });
    expect(status).toBe(201);
    expect((await settled(pictures[0]!.id)).state).toBe('failed');
  });

  it('a model that needs other files, or is none, is refused in words', async () => {
    const json = JSON.stringify({ asset: { version: '2.0' }, buffers: [{ uri: 'hull.bin', byteLength: 3 }] });
    const padded = json.padEnd(Math.ceil(json.length / 4) * 4);
    const glb = Buffer.alloc(20 + padded.length);
    glb.write('glTF');
    glb.writeUInt32LE(2, 4);
    glb.writeUInt32LE(glb.length, 8);
    glb.writeUInt32LE(padded.length, 12);
    glb.write('JSON', 16);
    glb.write(padded, 20);
    expect((await upload('hull.glb', glb)).refused[0]!.code).toBe('needs-other-files');
    expect((await upload('hull.glb', glb.subarray(0, 30))).refused[0]!.code).toBe('damaged');
    expect(
      (await upload('clip.mp4', Buffer.from('\0\0\0\x18ftypisom\0\0\0\0isommp42'))).refused[0]!.code,
    ).toBe('damaged');
  });

  it('originals are handed out in parts', async () => {
    const bytes = await demo('knot.gif');
    const { pictures } = await upload('knot.gif', bytes);
    const part = async (range: string) => {
      const response = await server.ask(`/api/pictures/${pictures[0]!.id}/original`, { headers: { range } });
      return { response, body: Buffer.from(await response.arrayBuffer()) };
    };
    const { response, body } = await part('bytes=249990-250020');
    expect(response.status).toBe(206);
    expect(response.headers.get('content-range')).toBe(`bytes 249990-250020/${bytes.length}`);
    expect(body.equals(bytes.subarray(249_990, 250_021))).toBe(true);
    expect((await part('bytes=-7')).body.equals(bytes.subarray(-7))).toBe(true);
    expect((await part(`bytes=${bytes.length}-`)).response.status).toBe(416);
    expect((await part('bytes=0-1,5-6')).response.status).toBe(200);
  });
});

describe('facts and sources', () => {
  it('are read from the file, and name what a camera called by number', async () => {
    const truth = JSON.parse((await demo('IMG_0412.JPG.truth.json')).toString());
    const picture = await settled((await upload('IMG_0412.JPG', await demo('IMG_0412.JPG'))).pictures[0]!.id);
    expect(picture.facts.focalLength35Mm).toBe(truth.camera.focalMm);
    expect(picture.facts.takenAt).toMatch(/^\d{4}-\d\d-\d\dT/);
  });

  it('tell a position only to those who asked for it', async () => {
    const placed = (hue: number) =>
      sharp({ create: { width: 60, height: 40, channels: 3, background: { r: hue, g: 80, b: 90 } } })
        .withExif({
          IFD3: {
            GPSLatitudeRef: 'N',
            GPSLatitude: '54/1 30/1 0/1',
            GPSLongitudeRef: 'W',
            GPSLongitude: '3/1 15/1 0/1',
          },
        })
        .jpeg()
        .toBuffer();
    const before = await settled((await upload('a.jpg', await placed(10))).pictures[0]!.id);
    expect(before.facts).not.toHaveProperty('position');
    await server.send('PATCH', '/api/settings', { positions: true });
    const after = await settled((await upload('b.jpg', await placed(90))).pictures[0]!.id);
    expect(after.facts.position).toEqual({ latitude: 54.5, longitude: -3.25 });
    await server.send('PATCH', '/api/settings', { positions: false });
  });

  it('absurd ones refuse nothing', async () => {
    const bytes = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#234' } })
      .withExif({
        IFD0: { Artist: 'x'.repeat(60_000), Copyright: '\u202eevil' },
        IFD2: { FocalLength: '0/0', DateTimeOriginal: '9999:99:99 99:99' },
      })
      .jpeg()
      .toBuffer();
    const picture = await settled((await upload('a.jpg', bytes)).pictures[0]!.id);
    expect(picture.state).toBe('ready');
    expect(picture.source.creator!.length).toBeLessThanOrEqual(2_000);
    expect(picture.facts).not.toHaveProperty('focalLengthMm');
  });

  it('are told by whoever brings it, and edited; what is not named stays', async () => {
    const about = JSON.stringify({
      name: 'Winch house',
      source: { page: 'http://site.example/work/7', creator: 'Orla Venn' },
    });
    const { pictures } = await upload('x.png', await scene(1, 300), { about });
    const { id } = pictures[0]!;
    expect(pictures[0]).toMatchObject({
      name: 'Winch house',
      source: { page: 'http://site.example/work/7', title: null },
    });
    expect((await patch(id, { source: { licence: 'free' }, useMark: 'look' })).status).toBe(200);
    expect(await pictureAt(id)).toMatchObject({
      useMark: 'look',
      source: { creator: 'Orla Venn', licence: 'free' },
    });
    await patch(id, { source: { creator: null }, useMark: null });
    expect(await pictureAt(id)).toMatchObject({ useMark: null, source: { creator: null, licence: 'free' } });
    for (const bad of [
      {},
      { useMark: 'sell' },
      { source: { page: 'javascript:alert(1)' } },
      { onlyFor: 'x' },
      { name: ' ' },
    ])
      expect((await patch(id, bad)).status, JSON.stringify(bad)).toBe(400);
    expect((await patch(id, { onlyFor: '00000000-0000-4000-8000-000000000000' })).status).toBe(404);
    expect((await upload('y.png', await scene(1, 90), { about: '{' })).status).toBe(400);
  });

  it('of what is here already are completed, never overwritten', async () => {
    const bytes = await scene(2, 200);
    const about = (source: object) => ({ about: JSON.stringify({ source }) });
    const { pictures } = await upload('IMG_1.png', bytes, about({ creator: 'Orla Venn' }));
    await upload('IMG_1.png', bytes, about({ creator: 'Somebody', title: 'Reed channel' }));
    expect(await pictureAt(pictures[0]!.id)).toMatchObject({
      name: 'Reed channel',
      source: { creator: 'Orla Venn', title: 'Reed channel' },
    });
  });
});

describe('near copies', () => {
  it('are collected quietly, with how they differ, until somebody decides', async () => {
    const large = (await upload('large.png', await scene(5, 800))).pictures[0]!;
    await settled(large.id);
    const small = (
      await upload(
        'small.jpg',
        await sharp(await scene(5, 240))
          .jpeg({ quality: 60 })
          .toBuffer(),
      )
    ).pictures[0]!;
    const turned = (
      await upload(
        'turned.png',
        await sharp(await scene(5, 500))
          .flop()
          .png()
          .toBuffer(),
      )
    ).pictures[0]!;
    const other = (await upload('other.png', await scene(6, 800))).pictures[0]!;
    const found = await settled(large.id, ({ copies }) => copies.length === 2);
    expect(found.copies).toEqual(
      expect.arrayContaining([
        { picture: small.id, isMirrored: false, scale: 0.3 },
        { picture: turned.id, isMirrored: true, scale: 0.625 },
      ]),
    );
    expect((await settled(other.id)).copies).toEqual([]);

    // The mirrored one is replaced everywhere, and looks on the board as before.
    const board = crypto.randomUUID();
    await server.send('POST', '/api/boards', { id: board, name: 'Copies' });
    const place = {
      ...{
        id: 'p',
        kind: 'placement',
        stack: 'a0',
        removed: false,
        centre: { x: 0, y: 0 },
        width: 200,
        turn: 0,
      },
      ...{
        opacity: 1,
        picture: turned.id,
        pictureWidth: 500,
        pictureHeight: 500,
        flipX: false,
        flipY: false,
      },
      trim: { x: 0.1, y: 0, width: 0.5, height: 1 },
    };
    await server.send('POST', `/api/boards/${board}/changes`, {
      changes: [{ id: crypto.randomUUID(), operations: [{ create: place }] }],
    });
    const answer = await server.send('POST', `/api/pictures/${large.id}/copies`, {
      other: turned.id,
      keep: 'this',
    });
    expect(await answer.json()).toMatchObject({ changes: [{ board }], putAway: expect.any(String) });
    const { items } = (await (await server.ask(`/api/boards/${board}`)).json()) as BoardSnapshot;
    expect(items[0]).toMatchObject({
      picture: large.id,
      pictureWidth: 800,
      flipX: true,
      trim: { x: 0.4, width: 0.5 },
    });
    expect((await pictureAt(turned.id)).isPutAway).toBe(true);
    await server.send('POST', `/api/pictures/${large.id}/copies`, { other: small.id, keep: 'both' });
    expect((await pictureAt(large.id)).copies).toEqual([]);
    expect(
      (await server.send('POST', `/api/pictures/${large.id}/copies`, { other: other.id, keep: 'both' }))
        .status,
    ).toBe(404);
  });
});

describe('the landing', () => {
  it('holds what stands nowhere, and empties as things are placed or put away', async () => {
    const landing = async () =>
      (
        (await (await server.ask('/api/pictures?landing=true')).json()) as { pictures: Picture[] }
      ).pictures.map(({ id }) => id);
    const [one, two] = [
      (await upload('o.png', await scene(8, 120))).pictures[0]!,
      (await upload('t.png', await scene(9, 120))).pictures[0]!,
    ];
    expect((await landing()).slice(0, 2)).toEqual([two.id, one.id]);
    await patch(two.id, { isPutAway: true });
    expect(await landing()).not.toContain(two.id);
    const board = crypto.randomUUID();
    await server.send('POST', '/api/boards', { id: board, name: 'Landing' });
    const create = {
      ...{
        id: 'q',
        kind: 'placement',
        stack: 'a0',
        removed: false,
        centre: { x: 0, y: 0 },
        width: 120,
        turn: 0,
        opacity: 1,
      },
      ...{ picture: one.id, pictureWidth: 120, pictureHeight: 120, flipX: false, flipY: false },
      trim: { x: 0, y: 0, width: 1, height: 1 },
    };
    const change = (operation: object) =>
      server.send('POST', `/api/boards/${board}/changes`, {
        changes: [{ id: crypto.randomUUID(), operations: [operation] }],
      });
    await change({ create });
    expect(await landing()).not.toContain(one.id);
    await change({ item: 'q', set: { removed: true } });
    expect(await landing()).toContain(one.id);
  });
});

describe('a copy with its source in it', () => {
  const told = {
    source: { creator: 'Ines Halloway', licence: 'Tidewrack Open', page: 'https://commons.example/work/12' },
    useMark: 'work',
  };

  it.each([
    ['jpeg', (side: number) => scene(side, 90).then((png) => sharp(png).jpeg().toBuffer())],
    ['png', (side: number) => scene(side, 90)],
    ['webp', (side: number) => scene(side, 90).then((png) => sharp(png).webp().toBuffer())],
    [
      'webp without loss',
      (side: number) => scene(side, 90).then((png) => sharp(png).webp({ lossless: true }).toBuffer()),
    ],
  ])('%s: read back by an independent reader, pixels untouched', async (kind, make) => {
    const bytes = await make(700 + kind.length);
    const { pictures } = await upload(`copy.${kind}`, bytes);
    const { id, name } = pictures[0]!;
    await patch(id, told);
    const response = await server.ask(`/api/pictures/${id}/with-source`);
    expect(response.headers.get('content-disposition')).toContain('attachment');
    const copy = Buffer.from(await response.arrayBuffer());
    const tags = ExifReader.load(copy, { expanded: true });
    expect(tags.xmp?.title?.description).toBe(name);
    expect(tags.xmp?.creator?.description).toBe('Ines Halloway');
    expect(tags.xmp?.rights?.description).toBe('Tidewrack Open');
    expect(tags.xmp?.WebStatement?.description).toBe('https://commons.example/work/12');
    const raw = (from: Buffer) => sharp(from).ensureAlpha().raw().toBuffer();
    expect((await raw(copy)).equals(await raw(bytes))).toBe(true);
    // Brought in again, it tells its source by itself.
    const again = await upload('again.bin', copy);
    expect((await settled(again.pictures[0]!.id)).source).toMatchObject({ creator: 'Ines Halloway' });
    // Written once more, there is one packet and not two.
    const twice = await server.ask(`/api/pictures/${again.pictures[0]!.id}/with-source`);
    const text = Buffer.from(await twice.arrayBuffer()).toString('latin1');
    expect(text.split('<rdf:RDF').length).toBe(2);
  });

  it('a kind that takes none comes with its source as a file of its own', async () => {
    const { pictures } = await upload('knot.gif', await demo('knot.gif'));
    await patch(pictures[0]!.id, told);
    const response = await server.ask(`/api/pictures/${pictures[0]!.id}/with-source`);
    expect(response.headers.get('content-disposition')).toContain('.xmp');
    expect(await response.text()).toContain('Ines Halloway');
  });
});
