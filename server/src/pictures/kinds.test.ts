import { readFile } from 'node:fs/promises';
import type { IntakeAnswer, Picture, TileLevel } from '@miradero/core/schema';
import sharp, { type Sharp } from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { listenTo, startTestServer, type TestServer, until } from '../test/server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

async function upload(name: string, bytes: Uint8Array): Promise<IntakeAnswer> {
  const form = new FormData();
  form.append('file', new Blob([new Uint8Array(bytes)]), name);
  const response = await server.ask('/api/pictures', { method: 'POST', body: form });
  return (await response.json()) as IntakeAnswer;
}

/** Uploads one file that must be taken. @returns it when its levels are there, or when they cannot be made */
async function takeIn(name: string, bytes: Uint8Array): Promise<Picture> {
  const answer = await upload(name, bytes);
  expect(answer.refused).toEqual([]);
  return until(async () => {
    const response = await server.ask(`/api/pictures/${answer.pictures[0]!.id}`);
    const { picture } = (await response.json()) as { picture: Picture };
    return picture.state !== 'arriving' && picture;
  }, 60_000);
}

const bytesAt = async (path: string) => Buffer.from(await (await server.ask(path)).arrayBuffer());

/** r, g, b at fractions of the largest level. */
async function colourAt(picture: Picture, x: number, y: number): Promise<number[]> {
  const level = picture.levels[picture.levels.length - 1]!;
  return colourOf(await bytesAt(`/api/levels/${level.hash}`), x, y);
}
async function colourOf(bytes: Buffer, x: number, y: number): Promise<number[]> {
  const { data, info } = await sharp(bytes).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const at = (Math.floor(y * info.height) * info.width + Math.floor(x * info.width)) * info.channels;
  return [...data.subarray(at, at + 3)];
}
const near = (colour: number[], wanted: readonly number[], within = 8) => {
  expect(Math.max(...colour.map((level, index) => Math.abs(level - wanted[index]!)))).toBeLessThanOrEqual(
    within,
  );
};

const OCHRE = [0xb9, 0x79, 0x1a] as const;
const VERDIGRIS = [0x2c, 0x7a, 0x6b] as const;
const DRAWING =
  '<svg xmlns="http://www.w3.org/2000/svg" width="96" height="64"><rect width="48" height="64" fill="#b9791a"/><rect x="48" width="48" height="64" fill="#2c7a6b"/></svg>';
const grounds = (): Sharp => sharp(Buffer.from(DRAWING)).removeAlpha();

describe('kinds of stills', () => {
  it.each([
    ['avif', () => grounds().avif({ lossless: true }).toBuffer(), 'image/avif', false],
    ['tiff', () => grounds().tiff({ compression: 'lzw' }).toBuffer(), 'image/tiff', true],
    ['gif', () => grounds().gif().toBuffer(), 'image/gif', false],
    [
      'heic',
      () => readFile(new URL('../test/fixtures/two-grounds.heic', import.meta.url)),
      'image/heic',
      true,
    ],
  ] as const)(
    '%s shows its pixels, and has a lossless copy where browsers cannot read it',
    async (kind, make, type, isCopied) => {
      const bytes = await make();
      const picture = await takeIn(`two grounds.${kind}`, bytes);
      expect(picture).toMatchObject({ state: 'ready', type, width: 96, height: 64 });
      near(await colourAt(picture, 0.25, 0.8), OCHRE);
      near(await colourAt(picture, 0.75, 0.8), VERDIGRIS);
      expect(picture.reading !== null).toBe(isCopied);
      if (picture.reading) {
        const copy = await bytesAt(`/api/levels/${picture.reading}`);
        expect(await sharp(copy).metadata()).toMatchObject({ format: 'webp', width: 96, height: 64 });
        near(await colourOf(copy, 0.25, 0.8), OCHRE, kind === 'heic' ? 6 : 0);
      }
      expect((await bytesAt(`/api/pictures/${picture.id}/original`)).equals(bytes)).toBe(true);
    },
  );

  it('shows the first frame of an animated picture at its own size', async () => {
    const frame = (colour: string) =>
      sharp({ create: { width: 40, height: 30, channels: 3, background: colour } })
        .png()
        .toBuffer();
    const bytes = await sharp([await frame('#b9791a'), await frame('#000000')], { join: { animated: true } })
      .gif({ delay: [100, 100] })
      .toBuffer();
    const picture = await takeIn('knot.gif', bytes);
    expect(picture).toMatchObject({ width: 40, height: 30 });
    near(await colourAt(picture, 0.5, 0.5), OCHRE);
  });

  it('keeps what a picture says of its own colour, and shows it right in sRGB', async () => {
    const deep = await grounds().toColourspace('rgb16').png().toBuffer();
    const wide = await grounds()
      .withIccProfile('p3')
      .jpeg({ quality: 98, chromaSubsampling: '4:4:4' })
      .toBuffer();
    const cmyk = await grounds()
      .toColourspace('cmyk')
      .withIccProfile('cmyk')
      .jpeg({ quality: 98, chromaSubsampling: '4:4:4' })
      .toBuffer();
    const cases = [
      ['sixteen.png', deep, { depth: 16, colour: 'sRGB' }, 4, false],
      ['wide.jpg', wide, { depth: 8, colour: expect.stringMatching(/P3/) }, 6, false],
      ['print.jpg', cmyk, { depth: 8, colour: expect.stringMatching(/^CMYK/) }, 26, true],
    ] as const;
    for (const [name, bytes, facts, within, isCopied] of cases) {
      const picture = await takeIn(name, bytes);
      expect(picture).toMatchObject(facts);
      near(await colourAt(picture, 0.25, 0.5), OCHRE, within);
      near(await colourAt(picture, 0.75, 0.5), VERDIGRIS, within);
      expect(picture.reading !== null).toBe(isCopied);
    }
  });

  it.each([1, 2, 3, 4, 5, 6, 7, 8])(
    'turns orientation %i upright, mirrored ones too',
    async (orientation) => {
      // Stored so that, turned upright, the corner at the top left is light and its right neighbour ochre.
      const upright = sharp(
        Buffer.from(
          '<svg xmlns="http://www.w3.org/2000/svg" width="90" height="60"><rect width="90" height="60" fill="#2c7a6b"/><rect width="45" height="30" fill="#fff"/><rect x="45" width="45" height="30" fill="#b9791a"/></svg>',
        ),
      );
      const stored: Record<number, ((image: Sharp) => Sharp)[]> = {
        1: [],
        2: [(image) => image.flop()],
        3: [(image) => image.rotate(180)],
        4: [(image) => image.flip()],
        5: [(image) => image.rotate(270), (image) => image.flip()],
        6: [(image) => image.rotate(270)],
        7: [(image) => image.rotate(90), (image) => image.flip()],
        8: [(image) => image.rotate(90)],
      };
      // One step at a time: within one pipeline they would be reordered.
      let pixels = await upright.png().toBuffer();
      for (const step of stored[orientation]!) pixels = await step(sharp(pixels)).png().toBuffer();
      const bytes = await sharp(pixels).withMetadata({ orientation }).jpeg({ quality: 95 }).toBuffer();
      const picture = await takeIn(`orientation ${orientation}.jpg`, bytes);
      expect(picture).toMatchObject({ width: 90, height: 60 });
      near(await colourAt(picture, 0.25, 0.25), [255, 255, 255]);
      near(await colourAt(picture, 0.75, 0.25), OCHRE, 12);
      near(await colourAt(picture, 0.25, 0.75), VERDIGRIS, 12);
    },
  );
});

describe('drawings in SVG', () => {
  it('are rasterised at a size worth looking at', async () => {
    const picture = await takeIn('two grounds.svg', Buffer.from(DRAWING));
    expect(picture).toMatchObject({ state: 'ready', type: 'image/svg+xml', width: 2048, height: 1365 });
    near(await colourAt(picture, 0.25, 0.5), OCHRE, 3);
  });

  it('leave as an attachment that can do nothing, and under no other address', async () => {
    const hostile = `<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>document.title='ran'</script><rect width="9" height="9" fill="#b9791a" onload="alert(1)"/></svg>`;
    const picture = await takeIn('scripted.svg', Buffer.from(hostile));
    expect(picture.state).toBe('ready');
    const original = await server.ask(`/api/pictures/${picture.id}/original`);
    expect(original.headers.get('content-disposition')).toMatch(/^attachment/);
    expect(original.headers.get('x-content-type-options')).toBe('nosniff');
    expect(original.headers.get('content-security-policy')).toMatch(/sandbox/);
    expect(await original.text()).toBe(hostile);
    expect((await server.ask(`/api/levels/${picture.sha256}`)).status).toBe(404);
  });

  it('read no file and no address from outside', async () => {
    const outside = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="40" height="40"><rect width="40" height="40" fill="#2c7a6b"/>
      <image xlink:href="file://${process.cwd()}/../web/public/mark.svg" width="40" height="40"/>
      <image xlink:href="${server.address}/api/session" width="40" height="40"/></svg>`;
    const picture = await takeIn('outside.svg', Buffer.from(outside));
    if (picture.state === 'ready') near(await colourAt(picture, 0.5, 0.5), VERDIGRIS, 3);
    else expect(picture.failure).toMatch(/cannot be read/);
  });

  it('that swell by their entities are refused or fail, and hold nothing up', async () => {
    const swelling = `<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaaaaaaaaaaaa">${[...'bcdefghi'].map((name, index) => `<!ENTITY ${name} "${`&${'abcdefghi'[index]};`.repeat(20)}">`).join('')}]><svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><text>&i;</text></svg>`;
    const answer = await upload('swelling.svg', Buffer.from(swelling));
    if (answer.pictures.length > 0) {
      const { id } = answer.pictures[0]!;
      const state = await until(async () => {
        const { picture } = (await (await server.ask(`/api/pictures/${id}`)).json()) as { picture: Picture };
        return picture.state !== 'arriving' && picture.state;
      }, 60_000);
      expect(['failed', 'ready']).toContain(state);
    }
    expect((await takeIn('after.png', await grounds().png().toBuffer())).state).toBe('ready');
  });

  it('whose filters are too much work are refused in words', async () => {
    const answer = await upload(
      'blurred.svg',
      Buffer.from(
        '<svg xmlns="http://www.w3.org/2000/svg" width="10000" height="10000"><filter id="a"><feGaussianBlur stdDeviation="900"/><feMorphology radius="900"/></filter><rect width="10000" height="10000" filter="url(#a)"/></svg>',
      ),
    );
    expect(answer.refused).toEqual([
      { fileName: 'blurred.svg', code: 'too-much-work', title: expect.stringContaining('filters') },
    ]);
  });

  it('that say no sensible size are refused', async () => {
    const answer = await upload(
      'nothing.svg',
      Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="0" height="9"/>'),
    );
    expect(answer.refused.map(({ code }) => code)).toEqual(['damaged']);
  });
});

describe('damaged and absurd files', () => {
  it('are kept with a reason when only their pixels are broken', async () => {
    const whole = await grounds().resize(600, 400).tiff({ compression: 'lzw' }).toBuffer();
    const broken = Buffer.from(whole);
    broken.fill(0x55, 8, whole.length / 2);
    const answer = await upload('broken.tif', broken);
    if (answer.pictures.length === 0) expect(answer.refused[0]!.code).toBe('damaged');
    else {
      const { id } = answer.pictures[0]!;
      const picture = await until(async () => {
        const { picture } = (await (await server.ask(`/api/pictures/${id}`)).json()) as { picture: Picture };
        return picture.state !== 'arriving' && picture;
      });
      if (picture.state === 'failed') expect(picture.failure).toMatch(/^The picture is kept/);
    }
  });

  it('refuses a file with more frames than anyone looks at', async () => {
    const dot = await sharp({ create: { width: 1, height: 1, channels: 3, background: '#fff' } })
      .gif()
      .toBuffer();
    // Header and logical screen, then one image block over and over.
    const image = dot.indexOf(0x2c);
    const body = dot.subarray(image, dot.length - 1);
    const many = Buffer.concat([
      dot.subarray(0, image),
      ...Array.from({ length: 5_100 }, () => body),
      Buffer.from([0x3b]),
    ]);
    const answer = await upload('endless.gif', many);
    expect(answer.refused.map(({ code }) => code)).toEqual(['too-many-frames']);
  });

  it('takes absurd metadata for what it is', async () => {
    const bytes = await grounds()
      .withMetadata({ density: 99_999 })
      .withExif({ IFD0: { Artist: '\u202e<script>'.repeat(500), Copyright: 'x'.repeat(20_000) } })
      .jpeg()
      .toBuffer();
    expect(await takeIn('absurd.jpg', bytes)).toMatchObject({ state: 'ready', width: 96, height: 64 });
  });

  it('takes names of a thousand characters, with folders, in part; a zero byte in one is answered in words', async () => {
    const bytes = await grounds().webp().toBuffer();
    const answer = await upload(`../../etc/${'é'.repeat(1_200)}.png`, bytes);
    expect(answer.pictures[0]!.name).toBe('é'.repeat(200));
    expect(await upload('zero\u0000.png', bytes)).toMatchObject({ code: 'malformed', status: 400 });
  });
});

describe('a very large picture', () => {
  it('is cut into tiles that hold its full detail, beside the ladder', async () => {
    const [width, height] = [9_000, 1_300];
    const bytes = await sharp({ create: { width, height, channels: 3, background: '#2c7a6b' } })
      .composite([
        {
          input: { create: { width: 40, height: 40, channels: 3, background: '#b9791a' } },
          left: 8_600,
          top: 1_100,
        },
      ])
      .png()
      .toBuffer();
    const news = await listenTo(server);
    const { id } = await takeIn('blueprint.png', bytes);
    const picture = await until(async () => {
      const { picture } = (await (await server.ask(`/api/pictures/${id}`)).json()) as { picture: Picture };
      return picture.hasTiles && picture;
    }, 60_000);
    const told = () =>
      news.events.flatMap((event) =>
        event.kind === 'progress' && event.job === 'tiles' && event.of === id ? [event.share] : [],
      );
    const shares = await until(async () => told().includes(1) && told());
    news.stop();
    expect(shares.length).toBeGreaterThan(1);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(shares.filter((share) => share >= 1)).toEqual([1]);
    expect(picture.levels[picture.levels.length - 1]!.side).toBe(2048);
    const response = await server.ask(`/api/pictures/${id}/tiles`);
    const { levels } = (await response.json()) as { levels: TileLevel[] };
    expect(levels.map(({ width, height, hashes }) => [width, height, hashes.length])).toEqual([
      [9_000, 1_300, 18 * 3],
      [4_500, 650, 9 * 2],
      [2_250, 325, 5],
    ]);
    // The mark lies in the tile of column 16 (8,192 …), row 2 (1,024 …).
    const tile = await bytesAt(`/api/levels/${levels[0]!.hashes[2 * 18 + 16]}`);
    expect(await sharp(tile).metadata()).toMatchObject({ width: 512, height: 276 });
    near(await colourOf(tile, (8_620 - 8_192) / 512, (1_120 - 1_024) / 276), OCHRE, 12);
  });
});
