import { createHash } from 'node:crypto';
import { pictureIdOf } from '@miradero/core/picture';
import type { IntakeAnswer, Picture, Problem } from '@miradero/core/schema';
import sharp, { type Sharp } from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { noisePicture, startTestServer, type TestServer, until } from '../test/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

type Refused = IntakeAnswer & Problem;
async function upload(
  ...files: [name: string, bytes: Uint8Array][]
): Promise<{ status: number; body: Refused }> {
  const form = new FormData();
  for (const [name, bytes] of files) form.append('file', new Blob([new Uint8Array(bytes)]), name);
  const response = await server.ask('/api/pictures', { method: 'POST', body: form });
  return { status: response.status, body: (await response.json()) as Refused };
}

async function pictureWhen(id: string, isRight: (picture: Picture) => boolean): Promise<Picture> {
  return until(async () => {
    const response = await server.ask(`/api/pictures/${id}`);
    const { picture } = (await response.json()) as { picture: Picture };
    return picture && isRight(picture) && picture;
  });
}

const bytesAt = async (path: string) => Buffer.from(await (await server.ask(path)).arrayBuffer());

describe('intake', () => {
  it('keeps the original byte for byte under an id derived from owner and bytes', async () => {
    const bytes = await noisePicture(700, 400, 1).jpeg().toBuffer();
    const { status, body } = await upload(['winch house.jpg', bytes]);
    expect(status).toBe(201);
    const [picture] = body.pictures;
    const sha256 = createHash('sha256').update(bytes).digest('hex');
    expect(picture).toMatchObject({
      id: pictureIdOf(server.owner, sha256),
      name: 'winch house',
      width: 700,
      height: 400,
    });
    const original = await server.ask(`/api/pictures/${picture!.id}/original`);
    expect(original.headers.get('content-type')).toBe('image/jpeg');
    expect(Buffer.from(await original.arrayBuffer()).equals(bytes)).toBe(true);
  });

  it('makes ladder, thumbhash and atlas by jobs, with the right sides and the right pixels', async () => {
    const bytes = await sharp({ create: { width: 1300, height: 650, channels: 3, background: '#b9791a' } })
      .png()
      .toBuffer();
    const { body } = await upload(['ochre.png', bytes]);
    const picture = await pictureWhen(body.pictures[0]!.id, (p) => p.state === 'ready' && p.atlas !== null);
    expect(picture.levels.map(({ side }) => side)).toEqual([128, 256, 512, 1024, 1300]);
    expect(picture.thumbhash).toMatch(/^[A-Za-z0-9+/]+=*$/);
    for (const level of picture.levels) {
      const copy = await bytesAt(`/api/levels/${level.hash}`);
      expect(createHash('sha256').update(copy).digest('hex')).toBe(level.hash);
      expect(copy.length).toBe(level.bytes);
      expect(await sharp(copy).metadata()).toMatchObject({
        format: 'webp',
        width: level.side,
        height: level.side / 2,
      });
    }
    const { slot, hash64 } = picture.atlas!;
    const cell = { left: (slot % 32) * 64, top: Math.floor(slot / 32) * 64, width: 64, height: 32 };
    const { data } = await sharp(await bytesAt(`/api/atlases/${hash64}`))
      .extract(cell)
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    // Halved chroma reaches one pixel over the edge of a cell, not further.
    const errorAt = (x: number, y: number) =>
      Math.max(
        ...[0xb9, 0x79, 0x1a].map((level, channel) => Math.abs(data[(y * 64 + x) * 3 + channel]! - level)),
      );
    expect(errorAt(2, 2)).toBeLessThan(5);
    expect(errorAt(61, 16)).toBeLessThan(5);
    expect(errorAt(0, 0)).toBeLessThan(24);
  });

  it.each([1, 2, 3, 4, 5, 6, 7, 8])(
    'turns a picture with EXIF orientation %i upright',
    async (orientation) => {
      // The upright picture: its top left quarter is red, the rest black, 240 × 160.
      const red = await sharp({ create: { width: 120, height: 80, channels: 3, background: '#ff0000' } })
        .png()
        .toBuffer();
      const upright = await sharp({ create: { width: 240, height: 160, channels: 3, background: '#000000' } })
        .composite([{ input: red, left: 0, top: 0 }])
        .png()
        .toBuffer();
      // What a camera stores so that this orientation brings it upright. Source: Exif 2.32, 4.6.4, tag 0x0112.
      const stored = {
        1: (s: Sharp) => s,
        2: (s: Sharp) => s.flop(),
        3: (s: Sharp) => s.rotate(180),
        4: (s: Sharp) => s.flip(),
        5: (s: Sharp) => s.flop().rotate(270),
        6: (s: Sharp) => s.rotate(270),
        7: (s: Sharp) => s.flop().rotate(90),
        8: (s: Sharp) => s.rotate(90),
      }[orientation]!;
      const turned = await sharp(await stored(sharp(upright)).png().toBuffer())
        .jpeg()
        .withMetadata({ orientation })
        .toBuffer();
      const { body } = await upload([`${orientation}.jpg`, turned]);
      expect(body.pictures[0]).toMatchObject({ width: 240, height: 160 });
      const picture = await pictureWhen(body.pictures[0]!.id, (p) => p.state === 'ready');
      const copy = await bytesAt(`/api/levels/${picture.levels[picture.levels.length - 1]!.hash}`);
      const { data, info } = await sharp(copy).removeAlpha().raw().toBuffer({ resolveWithObject: true });
      expect([info.width, info.height]).toEqual([240, 160]);
      const redAt = (x: number, y: number) => data[(y * 240 + x) * 3]! > 128;
      expect([redAt(40, 30), redAt(200, 30), redAt(40, 130), redAt(200, 130)]).toEqual([
        true,
        false,
        false,
        false,
      ]);
    },
  );

  it('shows a wide-gamut picture in sRGB', async () => {
    const bytes = await sharp({ create: { width: 200, height: 100, channels: 3, background: '#40a060' } })
      .withIccProfile('p3')
      .png()
      .toBuffer();
    const { body } = await upload(['p3.png', bytes]);
    const picture = await pictureWhen(body.pictures[0]!.id, (p) => p.state === 'ready');
    const { data } = await sharp(await bytesAt(`/api/levels/${picture.levels[0]!.hash}`))
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const sameColour = [data[0]! - 0x40, data[1]! - 0xa0, data[2]! - 0x60].map(Math.abs);
    expect(Math.max(...sameColour)).toBeLessThan(6);
  });

  it('refuses bad files each with its reason, and takes the good ones of the same request', async () => {
    const good = await noisePicture(90, 60, 2).webp().toBuffer();
    const bomb = await sharp({
      create: { width: 15_000, height: 15_000, channels: 3, background: '#000' },
      limitInputPixels: false,
    })
      .png()
      .toBuffer();
    const { status, body } = await upload(
      ['empty.jpg', new Uint8Array()],
      ['page.png', new TextEncoder().encode('<!doctype html><title>no picture</title><svg></svg>')],
      ['bomb.png', bomb],
      ['head only.jpg', new Uint8Array([0xff, 0xd8, 0xff, 0xe0, 0, 16])],
      ['reed.webp', good],
    );
    expect(status).toBe(201);
    expect(body.pictures.map((picture) => picture.name)).toEqual(['reed']);
    expect(body.refused.map(({ fileName, code }) => [fileName, code])).toEqual([
      ['empty.jpg', 'empty'],
      ['page.png', 'unknown-kind'],
      ['bomb.png', 'too-many-pixels'],
      ['head only.jpg', 'damaged'],
    ]);
    for (const { title } of body.refused) expect(title).toMatch(/^[A-Z].*\.$/);
  });

  it('answers 422 with the reasons when all were refused', async () => {
    const { status, body } = await upload(['a.jpg', new Uint8Array([1, 2, 3])]);
    expect(status).toBe(422);
    expect(body).toMatchObject({
      code: 'all-refused',
      pictures: [],
      refused: [{ fileName: 'a.jpg', code: 'unknown-kind' }],
    });
  });

  it('keeps a truncated picture, and says that its pixels cannot be read', async () => {
    const whole = await noisePicture(600, 600, 3).png().toBuffer();
    const { body } = await upload(['cut.png', whole.subarray(0, whole.length / 2)]);
    const picture = await pictureWhen(body.pictures[0]!.id, (p) => p.state === 'failed');
    expect(picture.failure).toMatch(/kept.*cannot be read/);
    expect(picture.levels).toEqual([]);
  });

  it('reads what was given up once more when its file is brought in again', async () => {
    const file: [string, Uint8Array] = ['busy.png', await noisePicture(40, 30, 6).png().toBuffer()];
    const { body } = await upload(file);
    const { id } = body.pictures[0]!;
    await pictureWhen(id, (p) => p.state === 'ready');
    await server
      .knex('pictures')
      .where({ id })
      .update({ state: 'failed', failure: 'It took too long.', broken_decodes: 2 });
    const again = await upload(file);
    expect(again.body.pictures[0]).toMatchObject({ id, state: 'arriving', failure: null });
    await pictureWhen(id, (p) => p.state === 'ready');
    // What is ready is not read again.
    expect((await upload(file)).body.pictures[0]).toMatchObject({ id, state: 'ready' });
  });

  it('knows the same bytes again: one picture, whatever the file is called', async () => {
    const bytes = await noisePicture(100, 100, 4).png().toBuffer();
    const first = await upload(['first.png', bytes]);
    const again = await upload(['again.png', bytes]);
    expect(again.status).toBe(201);
    expect(again.body.pictures[0]!.id).toBe(first.body.pictures[0]!.id);
    expect(again.body.pictures[0]!.name).toBe('first');
  });

  it('takes names with folders, emoji and right-to-left marks for what they are: text', async () => {
    const bytes = await noisePicture(40, 40, 5).png().toBuffer();
    const { body } = await upload(['⛴️ ferry\u202Egpj.png', bytes]);
    expect(body.pictures[0]!.name).toBe('⛴️ ferry gpj');
  });

  it('refuses what is no form', async () => {
    const response = await server.send('POST', '/api/pictures', { file: 'x' });
    expect(response.status).toBe(415);
  });
});

describe('pictures', () => {
  it('are listed newest first, in pages', async () => {
    const ids: string[] = [];
    for (const seed of [20, 21, 22]) {
      const { body } = await upload([`${seed}.png`, await noisePicture(30, 20, seed).png().toBuffer()]);
      ids.unshift(body.pictures[0]!.id);
    }
    const page = async (query: string) => {
      const { pictures } = (await (await server.ask(`/api/pictures?${query}`)).json()) as {
        pictures: Picture[];
      };
      return pictures.map((picture) => picture.id);
    };
    const first = await page('limit=2');
    expect(first).toEqual(ids.slice(0, 2));
    expect((await page(`limit=1&after=${first[1]}`))[0]).toBe(ids[2]);
    expect((await page(`ids=${ids[1]}`))[0]).toBe(ids[1]);
  });

  it('are renamed; an empty name is refused in words', async () => {
    const { body } = await upload(['n.png', await noisePicture(30, 20, 30).png().toBuffer()]);
    const path = `/api/pictures/${body.pictures[0]!.id}`;
    const renamed = (await (await server.send('PATCH', path, { name: ' Reed  channel ' })).json()) as {
      picture: Picture;
    };
    expect(renamed.picture.name).toBe('Reed channel');
    const refused = await server.send('PATCH', path, { name: '  ' });
    expect(refused.status).toBe(400);
    expect(refused.headers.get('content-type')).toContain('application/problem+json');
  });

  it('that have not arrived are missing, and a level not made is not cached', async () => {
    expect((await server.ask('/api/pictures/00000000-0000-4000-8000-000000000000')).status).toBe(404);
    expect((await server.ask('/api/pictures/nonsense')).status).toBe(404);
    const level = await server.ask(`/api/levels/${'0'.repeat(64)}`);
    expect(level.status).toBe(404);
    expect(level.headers.get('cache-control')).toBe('no-store');
  });

  it('leave levels with a name for ever, and no way to act as a page', async () => {
    const { body } = await upload(['c.png', await noisePicture(300, 20, 31).png().toBuffer()]);
    const picture = await pictureWhen(body.pictures[0]!.id, (p) => p.levels.length > 0);
    const level = await server.ask(`/api/levels/${picture.levels[0]!.hash}`);
    expect(level.headers.get('cache-control')).toContain('immutable');
    expect(level.headers.get('content-security-policy')).toContain('sandbox');
    expect(level.headers.get('x-content-type-options')).toBe('nosniff');
  });
});
