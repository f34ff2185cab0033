import { readFile } from 'node:fs/promises';
import { histogramOfBytes } from '@miradero/core/colour';
import type { IntakeAnswer, KeptHistogram, Picture } from '@miradero/core/schema';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { withProfile } from '../pixels/decode-heic.ts';
import { startTestServer, type TestServer, until } from '../test/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

async function takeIn(name: string, bytes: Buffer): Promise<string> {
  const form = new FormData();
  form.append('file', new Blob([new Uint8Array(bytes)]), name);
  const answer = await server.ask('/api/pictures', { method: 'POST', body: form });
  const { id } = ((await answer.json()) as IntakeAnswer).pictures[0]!;
  await until(async () => (await pictureOf(id)).state === 'ready');
  return id;
}
const pictureOf = async (id: string) =>
  ((await (await server.ask(`/api/pictures/${id}`)).json()) as { picture: Picture }).picture;

async function haveExact(id: string): Promise<void> {
  expect((await server.send('POST', `/api/pictures/${id}/exact`, {})).status).toBe(202);
  await until(async () => (await pictureOf(id)).exact !== null, 60_000);
}
const ask = (id: string, part: string, as: string) =>
  server.ask(`/api/pictures/${id}/pixels?${part}&as=${as}`);
const lightAt = async (id: string, x: number, y: number) => [
  ...new Float32Array(await (await ask(id, `x=${x}&y=${y}&width=1&height=1`, 'light')).arrayBuffer()),
];

/** Made by the builder of the profile's own test: primaries of ITU-R BT.2020, straight curves. */
const PROFILE = new URL('../test/fixtures/bt2020-linear.icc', import.meta.url);

/** A picture of levels of 16 bits, by a profile with the primaries of ITU-R BT.2020 and a straight curve. */
async function wide(width: number, height: number, levelsAt: (x: number, y: number) => number[]) {
  const data = new Uint16Array(width * height * 3);
  for (let at = 0; at < width * height; at += 1)
    data.set(levelsAt(at % width, Math.floor(at / width)), at * 3);
  const png = await sharp(data, { raw: { width, height, channels: 3 } })
    .toColourspace('rgb16')
    .png({ compressionLevel: 1 })
    .toBuffer();
  return withProfile(png, await readFile(PROFILE));
}

describe('exact pixels', () => {
  it('of a deep and wide picture come by its own profile, over the borders of tiles', async () => {
    const id = await takeIn(
      'wide.png',
      await wide(700, 600, (x, y) => (x === 511 ? [0, 65_535, 0] : [40 * x, 100 * y, 12_345])),
    );
    expect((await ask(id, 'x=0&y=0&width=1&height=1', 'light')).status).toBe(404);
    await haveExact(id);
    expect((await pictureOf(id)).exact).toBe('ready');
    // Source: ITU-R BT.2087-0, linear BT.2020 to BT.709.
    const green = await lightAt(id, 511, 40);
    for (const [at, value] of [-0.5876, 1.1329, -0.1006, 1].entries())
      expect(green[at]).toBeCloseTo(value, 2);
    const answer = await ask(id, 'x=510&y=511&width=3&height=2', 'light');
    const block = new Float32Array(await answer.arrayBuffer());
    expect(block.length).toBe(24);
    for (const [place, x, y] of [
      [0, 510, 511],
      [2, 512, 511],
      [3, 510, 512],
      [5, 512, 512],
    ] as const) {
      const [r, g, b] = [40 * x, 100 * y, 12_345].map((level) => level / 65_535) as [number, number, number];
      const light = block.subarray(place * 4, place * 4 + 3);
      // A 16th bit alters what no 8 bits would.
      expect(light[0]).toBeCloseTo(1.6605 * r - 0.5876 * g - 0.0728 * b, 2);
      expect(light[1]).toBeCloseTo(-0.1246 * r + 1.1329 * g - 0.0083 * b, 2);
      expect(light[2]).toBeCloseTo(-0.0182 * r - 0.1006 * g + 1.1187 * b, 2);
    }
    const one = (await lightAt(id, 100, 0))[0]!;
    const next = (await lightAt(id, 101, 0))[0]!;
    expect((next - one) * 65_535).toBeCloseTo(1.6605 * 40, 0);
  });

  it('of a very large picture are those of its file, to the level', async () => {
    const [width, height] = [9_000, 700];
    const data = Buffer.alloc(width * height * 3);
    for (let at = 0; at < width * height; at += 1) data.set([at % 251, (at >> 8) % 253, at % 7], at * 3);
    const png = await sharp(data, { raw: { width, height, channels: 3 } })
      .png({ compressionLevel: 1 })
      .toBuffer();
    const id = await takeIn('plan.png', png);
    await haveExact(id);
    const [x, y, across, down] = [8_690, 500, 300, 190];
    const answer = await ask(id, `x=${x}&y=${y}&width=${across}&height=${down}`, 'srgb8');
    const pixels = new Uint8Array(await answer.arrayBuffer());
    let differing = 0;
    for (let place = 0; place < across * down; place += 1) {
      const from = ((y + Math.floor(place / across)) * width + x + (place % across)) * 3;
      for (let channel = 0; channel < 3; channel += 1)
        if (pixels[place * 4 + channel] !== data[from + channel]) differing += 1;
    }
    expect(differing).toBe(0);
  });

  it('of inks come by way of Display P3; transparent ones stay so', async () => {
    const cmyk = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#2c7a6b' } })
      .toColourspace('cmyk')
      .jpeg({ quality: 100 })
      .toBuffer();
    const id = await takeIn('inks.jpg', cmyk);
    await haveExact(id);
    const [r, g, b] = (await lightAt(id, 20, 15)) as [number, number, number];
    expect(g).toBeGreaterThan(r);
    expect(g).toBeGreaterThan(b);
    const clear = await takeIn(
      'clear.png',
      await sharp({
        create: { width: 9, height: 9, channels: 4, background: { r: 255, g: 0, b: 0, alpha: 0.5 } },
      })
        .png()
        .toBuffer(),
    );
    await haveExact(clear);
    expect((await lightAt(clear, 4, 4))[3]).toBeCloseTo(0.5, 2);
  });

  it('are turned upright as the picture is', async () => {
    const bytes = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#000' } })
      .composite([
        { input: { create: { width: 10, height: 10, channels: 3, background: '#fff' } }, left: 0, top: 0 },
      ])
      .withMetadata({ orientation: 6 })
      .tiff()
      .toBuffer();
    const id = await takeIn('turned.tif', bytes);
    await haveExact(id);
    expect((await lightAt(id, 35, 5))[0]).toBeGreaterThan(0.99);
    expect((await lightAt(id, 5, 5))[0]).toBeLessThan(0.01);
  });

  it('are nobody else’s, and no more than are handed out at once', async () => {
    const id = await takeIn(
      'small.png',
      await sharp({ create: { width: 20, height: 10, channels: 3, background: '#777' } })
        .png()
        .toBuffer(),
    );
    await haveExact(id);
    for (const part of ['x=19&y=0&width=2&height=1', 'x=0&y=9&width=1&height=2'])
      expect((await ask(id, part, 'srgb8')).status).toBe(416);
    for (const part of ['x=-1&y=0&width=1&height=1', 'x=0&y=0&width=0&height=1', 'x=a&y=0&width=1&height=1'])
      expect((await ask(id, part, 'srgb8')).status).toBe(400);
    const [other] = await server.knex('owners').insert({ name: 'somebody else' }).returning('id');
    await server.knex('pictures').where({ id }).update({ owner: other.id });
    expect((await ask(id, 'x=0&y=0&width=1&height=1', 'light')).status).toBe(404);
    expect((await server.send('POST', `/api/pictures/${id}/exact`, {})).status).toBe(404);
  });
});

describe('colours that were counted', () => {
  it('are told for many pictures at once: every pixel, and of one owner alone', async () => {
    const bytes = await sharp({ create: { width: 100, height: 80, channels: 3, background: '#143ca0' } })
      .composite([
        { input: { create: { width: 50, height: 40, channels: 3, background: '#e8d24a' } }, left: 0, top: 0 },
      ])
      .png()
      .toBuffer();
    const id = await takeIn('two.png', bytes);
    const counted = async () => {
      const answer = await server.send('POST', '/api/colours/histograms', { pictures: [id] });
      return ((await answer.json()) as { histograms: KeptHistogram[] }).histograms[0];
    };
    const { cells, picture } = await until(counted);
    expect(picture).toBe(id);
    const histogram = histogramOfBytes(Buffer.from(cells, 'base64'));
    expect(histogram.total).toBe(8_000);
    const shares = [3, 7].map((at) => histogram.cells[at]! / 8_000).sort();
    expect(shares).toEqual([0.25, 0.75]);
    await server
      .knex('pictures')
      .where({ id })
      .update({ owner: (await server.knex('owners').insert({ name: 'x' }).returning('id'))[0].id });
    expect(await counted()).toBeUndefined();
    expect((await server.send('POST', '/api/colours/histograms', { pictures: [] })).status).toBe(400);
  });
});
