import { openRasterFile } from '@miradero/core/formats';
import type { IntakeAnswer, Picture } from '@miradero/core/schema';
import { strToU8, type Zippable, zipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../test/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const COLOUR = { r: 180, g: 90, b: 30 };
const pngOf = (width: number, height: number, background = COLOUR) =>
  sharp({ create: { width, height, channels: 3, background } })
    .png()
    .toBuffer();

async function upload(bytes: Uint8Array) {
  const form = new FormData();
  form.append('file', new Blob([new Uint8Array(bytes)]), 'study.ora');
  const response = await server.ask('/api/pictures', { method: 'POST', body: form });
  return (await response.json()) as IntakeAnswer;
}
const TYPE = 'image/openraster';
/** An archive that says what it is, with one more file. */
function archive(path?: string, bytes?: Uint8Array, level: 0 | 1 = 0): Uint8Array {
  const files: Zippable = { mimetype: [strToU8(TYPE), { level: 0 }] };
  if (path && bytes) files[path] = [bytes, { level }];
  return zipSync(files);
}

describe('a file with layers', () => {
  it('comes in as what it shows, byte for byte, and has levels in its colours', async () => {
    const merged = await pngOf(600, 400);
    const layer = { name: 'ground', src: 'data/0.png', x: 0, y: 0, opacity: 1, blend: 'normal' } as const;
    const file = openRasterFile({ width: 600, height: 400 }, [{ ...layer, png: await pngOf(2, 2) }], {
      ...{ ppi: 300, merged, thumbnail: await pngOf(60, 40) },
    });
    const [picture] = (await upload(file)).pictures;
    expect(picture).toMatchObject({ type: TYPE, kind: 'still', width: 600, height: 400 });
    const original = await server.ask(`/api/pictures/${picture!.id}/original`);
    expect(new Uint8Array(await original.arrayBuffer())).toEqual(new Uint8Array(file));
    const now = async () =>
      ((await (await server.ask(`/api/pictures/${picture!.id}`)).json()) as { picture: Picture }).picture;
    await expect.poll(async () => (await now()).state, { timeout: 30_000 }).toBe('ready');
    const { levels } = await now();
    const level = await server.ask(`/api/levels/${levels.at(-1)!.hash}`);
    const { data } = await sharp(Buffer.from(await level.arrayBuffer()))
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const seen = [...data.subarray(0, 3)];
    for (const [part, value] of [COLOUR.r, COLOUR.g, COLOUR.b].entries())
      expect(Math.abs(seen[part]! - value)).toBeLessThan(6);
  });

  it('that shows nothing, is torn, or means something else is refused', async () => {
    const codeOf = async (bytes: Uint8Array) => (await upload(bytes)).refused[0]?.code;
    const merged = await pngOf(60, 40);
    const whole = archive('mergedimage.png', merged);
    expect(await codeOf(archive())).toBe('damaged');
    expect(await codeOf(whole.subarray(0, whole.length - 40))).toBe('damaged');
    expect(await codeOf(archive('mergedimage.png', strToU8('x'.repeat(500))))).toBe('damaged');
    expect(await codeOf(archive('../mergedimage.png', merged))).toBe('damaged');
    // 200 MB that were packed into little.
    expect(await codeOf(archive('mergedimage.png', new Uint8Array(200_000_000), 1))).toBe('damaged');
    const huge = Buffer.from(merged);
    huge.writeUInt32BE(20_000, 16);
    huge.writeUInt32BE(20_000, 20);
    expect(await codeOf(archive('mergedimage.png', huge))).toBe('too-many-pixels');
  });
});
