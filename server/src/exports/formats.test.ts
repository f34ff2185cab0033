import { randomUUID } from 'node:crypto';
import { PDFDocument } from '@cantoo/pdf-lib';
import { bayAround, createBay, createNote, createPlacement } from '@miradero/core/items';
import type { Board, CreateExport, Export, IntakeAnswer, Item, Picture } from '@miradero/core/schema';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { noisePicture, startTestServer, type TestServer, until } from '../test/server.ts';

let server: TestServer;
let red: Picture;
let noise: Picture;
beforeAll(async () => {
  server = await startTestServer();
  red = await takeIn(
    await sharp({ create: { width: 400, height: 200, channels: 3, background: '#c02010' } })
      .png()
      .toBuffer(),
    'Lamp & <chain>',
  );
  noise = await takeIn(await noisePicture(300, 300, 5).png().toBuffer(), 'Reeds');
});
afterAll(() => server.stop());

async function takeIn(bytes: Buffer, name: string): Promise<Picture> {
  const form = new FormData();
  form.append('about', JSON.stringify({ name }));
  form.append('file', new Blob([new Uint8Array(bytes)]), 'picture.png');
  const answer = await server.ask('/api/pictures', { method: 'POST', body: form });
  const { id } = ((await answer.json()) as IntakeAnswer).pictures[0]!;
  return until(async () => {
    const { picture } = (await (await server.ask(`/api/pictures/${id}`)).json()) as { picture: Picture };
    return picture.state === 'ready' && picture;
  });
}

async function boardWith(...items: Item[]): Promise<string> {
  const made = await server.send('POST', '/api/boards', { name: 'Out / of it' });
  const { board } = (await made.json()) as { board: Board };
  const changes = [{ id: randomUUID(), operations: items.map((create) => ({ create })) }];
  await server.send('POST', `/api/boards/${board.id}/changes`, { changes });
  return board.id;
}

async function taken(board: string, what: Partial<CreateExport>) {
  const asked = await server.send('POST', `/api/boards/${board}/exports`, {
    ...{ items: null, as: 'flat', type: 'image/png', side: null, ground: 'white', ...what },
  });
  const { export: one } = (await asked.json()) as { export: Export };
  const answer = await server.ask(`/api/exports/${one.id}/file`);
  expect(answer.status).toBe(200);
  const name = decodeURIComponent(
    /filename="?([^";]+)/.exec(answer.headers.get('content-disposition')!)![1]!,
  );
  return { bytes: Buffer.from(await answer.arrayBuffer()), name, type: answer.headers.get('content-type') };
}

const standing = (picture: Picture, more: Partial<Parameters<typeof createPlacement>[0]> = {}) =>
  createPlacement({
    ...{ id: randomUUID().slice(0, 18), stack: 'a0', picture: picture.id, width: picture.width },
    ...{ pictureWidth: picture.width, pictureHeight: picture.height },
    ...{ centre: { x: picture.width / 2, y: picture.height / 2 }, ...more },
  });

/** Two pictures, one of them turned, trimmed, mirrored, faded and multiplied with the other; and a remark. */
const scene = () => [
  standing(red),
  standing(noise, {
    ...{ stack: 'a1', centre: { x: 520, y: 180 }, width: 200, turn: 20, flipX: true, opacity: 0.6 },
    blend: 'multiply',
    trim: { x: 0.1, y: 0.2, width: 0.5, height: 0.6 },
  }),
  createNote({
    id: 'n',
    stack: 'a2',
    centre: { x: 150, y: 300 },
    width: 260,
    height: 60,
    text: 'Never <black>',
  }),
];

async function pixelsOf(bytes: Buffer, width: number, height: number): Promise<Buffer> {
  return sharp(bytes, { density: 72 })
    .resize(width, height, { fit: 'fill' })
    .flatten({ background: '#fff' })
    .removeAlpha()
    .raw()
    .toBuffer();
}
/** Mean difference of two pictures, levels of 255. */
function differenceOf(one: Buffer, other: Buffer): number {
  let sum = 0;
  for (const [index, value] of one.entries()) sum += Math.abs(value - other[index]!);
  return sum / one.length;
}

describe('a drawing', () => {
  it('shows what the flat picture shows, with its pictures in it, texts as outlines', async () => {
    const board = await boardWith(...scene());
    const flat = await taken(board, { side: 700 });
    const { width, height } = await sharp(flat.bytes).metadata();
    const { bytes, name, type } = await taken(board, { as: 'drawing' });
    expect([name, type]).toEqual(['Out of it.svg', expect.stringMatching(/^image\/svg\+xml/)]);
    const text = bytes.toString();
    expect(text).not.toMatch(/<text|<script|http:\/\/(?!www\.w3\.org)/);
    const [own, truth] = [
      await pixelsOf(bytes, width!, height!),
      await pixelsOf(flat.bytes, width!, height!),
    ];
    expect(differenceOf(own, truth)).toBeLessThan(3);
    // Without its pictures it would be another one.
    const without = Buffer.from(text.replace(/<use href="#i\d+"[^>]*>/g, ''));
    expect(differenceOf(await pixelsOf(without, width!, height!), truth)).toBeGreaterThan(20);
  });

  it('has its pictures beside it where that is wanted', async () => {
    const board = await boardWith(...scene());
    const { bytes, name } = await taken(board, { as: 'drawing', isLinked: true });
    const files = unzipSync(bytes);
    expect(name).toBe('Out of it.zip');
    const svg = Buffer.from(files['board.svg']!).toString();
    const links = [...svg.matchAll(/<image [^>]*href="([^"]+)"/g)].map(([, href]) =>
      decodeURIComponent(href!),
    );
    expect(links).toHaveLength(2);
    for (const link of links) expect(files[link], link).toBeDefined();
    expect(await sharp(Buffer.from(files[links[0]!]!)).metadata()).toMatchObject({ width: 400, height: 200 });
  });
});

describe('a layered picture', () => {
  it('is laid out as published, every placement a named layer, and comes to the merged picture', async () => {
    const board = await boardWith(...scene());
    const { bytes, name, type } = await taken(board, { as: 'layers', side: 700 });
    expect([name, type]).toEqual(['Out of it.ora', 'image/openraster']);
    // The kind is told by the first bytes: one stored entry of that name. Source: OpenRaster 0.0.6, "File layout".
    expect(bytes.subarray(30, 38 + 16).toString()).toBe('mimetypeimage/openraster');
    expect(bytes.readUInt16LE(8)).toBe(0);
    const files = unzipSync(bytes);
    const xml = Buffer.from(files['stack.xml']!).toString();
    const [, w, h] = /<image version="[\d.]+" w="(\d+)" h="(\d+)"/.exec(xml)!.map(Number);
    const layers = [...xml.matchAll(/<layer ([^>]*)\/>/g)].map(([, attributes]) =>
      Object.fromEntries(
        [...attributes!.matchAll(/([\w-]+)="([^"]*)"/g)].map(([, key, value]) => [key!, value!]),
      ),
    );
    expect(layers.map((layer) => layer.name)).toEqual([
      ...['Never &lt;black&gt;', 'Reeds', 'Lamp &amp; &lt;chain&gt;', 'Surround'],
    ]);
    expect(layers[1]!.opacity).toBe('0.6');
    expect(layers[1]!['composite-op']).toBe('svg:multiply');
    const own = Buffer.alloc(w! * h! * 3, 255);
    for (const { src, x, y, opacity, 'composite-op': how } of [...layers].reverse()) {
      const layer = sharp(Buffer.from(files[src!]!)).ensureAlpha().raw();
      const { data, info } = await layer.toBuffer({ resolveWithObject: true });
      for (let index = 0; index < info.width * info.height; index += 1) {
        const alpha = (data[index * 4 + 3]! / 255) * Number(opacity);
        const at = (Number(y) + Math.floor(index / info.width)) * w! + Number(x) + (index % info.width);
        for (let band = 0; band < 3; band += 1) {
          const below = own[at * 3 + band]!;
          const above = data[index * 4 + band]! * (how === 'svg:multiply' ? below / 255 : 1);
          own[at * 3 + band] = below * (1 - alpha) + above * alpha;
        }
      }
    }
    const merged = Buffer.from(files['mergedimage.png']!);
    expect(await sharp(merged).metadata()).toMatchObject({ width: w, height: h });
    expect(differenceOf(own, await pixelsOf(merged, w!, h!))).toBeLessThan(1);
    const small = await sharp(Buffer.from(files['Thumbnails/thumbnail.png']!)).metadata();
    expect(Math.max(small.width!, small.height!)).toBe(256);
  });
});

describe('pages', () => {
  const mm = (points: number) => (points * 25.4) / 72;

  it('of a bay are as large as it is on paper', async () => {
    const region = { x: 0, y: 0, width: 400, height: 200 };
    const bay = createBay({ id: 'b', stack: 'a9', title: 'Spread', shape: '2 : 1', ...bayAround(region) });
    const board = await boardWith(...scene(), bay);
    const { bytes, name } = await taken(board, {
      ...{ items: ['b'], as: 'pages', print: { widthMm: 180, paper: null, overlapMm: 0, ppi: 150 } },
    });
    expect(name).toBe('Spread.pdf');
    const document = await PDFDocument.load(bytes);
    const [page, ...others] = document.getPages();
    expect(others).toEqual([]);
    expect([mm(page!.getWidth()), mm(page!.getHeight())]).toEqual([
      expect.closeTo(180, 3),
      expect.closeTo(90, 3),
    ]);
  });

  it('of a board are spread over sheets that overlap', async () => {
    const board = await boardWith(...scene());
    const { bytes } = await taken(board, {
      ...{ as: 'pages', print: { widthMm: 700, paper: 'A4', overlapMm: 10, ppi: 72 } },
    });
    const pages = (await PDFDocument.load(bytes)).getPages();
    // Lying: 281 mm a page of which 10 overlap; the height follows from the region.
    expect(pages.length).toBeGreaterThan(3);
    for (const page of pages)
      expect([mm(page.getWidth()), mm(page.getHeight())].map(Math.round).sort()).toEqual([210, 297]);
  });
});

describe('annotations', () => {
  it('tell what was said of pictures and their parts', async () => {
    await server.send('PATCH', `/api/pictures/${red.id}`, {
      note: 'Only the rim',
      purposes: [
        {
          purpose: 'light',
          isNot: false,
          region: { x: 0.25, y: 0.5, width: 0.5, height: 0.125 },
          word: 'the wick',
        },
        { purpose: 'colour', isNot: true, region: null },
      ],
    });
    const board = await boardWith(...scene());
    const { bytes, name } = await taken(board, { as: 'annotations' });
    expect(name).toBe('Out of it.jsonld');
    const told = JSON.parse(bytes.toString());
    expect(told).toMatchObject({
      ...{ '@context': 'http://www.w3.org/ns/anno.jsonld', type: 'AnnotationCollection', total: 3 },
      first: { type: 'AnnotationPage', startIndex: 0 },
    });
    const [about, light, colour] = told.first.items;
    expect(about.body[0]).toMatchObject({ value: 'Only the rim', purpose: 'describing' });
    expect(light).toMatchObject({
      ...{ type: 'Annotation', motivation: 'tagging' },
      body: [
        { value: 'light', purpose: 'tagging' },
        { value: 'the wick', purpose: 'describing' },
      ],
      target: {
        source: { id: `urn:sha256:${red.sha256}`, type: 'Image' },
        selector: { type: 'FragmentSelector', value: 'xywh=percent:25,50,50,12.5' },
      },
    });
    expect(colour.body[0].value).toBe('not colour');
    expect(colour.target.selector).toBeUndefined();
    expect(new Set(told.first.items.map(({ id }: { id: string }) => id)).size).toBe(3);
  });
});
