import { once } from 'node:events';
import { readFile } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import express, { type Express, type Response } from 'express';
import sharp from 'sharp';
import { GALLERIES, type Gallery, LICENCES, type Licence, WORKS, workNamed } from './catalog.ts';
import {
  brokenPage,
  galleryPage,
  homePage,
  lazyPage,
  licencePage,
  oddPage,
  PREVIEW,
  page,
  type Size,
  searchPage,
  slowPage,
  THUMB,
  WIDTHS,
  workPage,
} from './pages.ts';

const PICTURES = fileURLToPath(new URL('../pictures/', import.meta.url));
const ENDLESS_PIECE = Buffer.alloc(16_384, 0x5a);
const ENDLESS_PAUSE_MS = 20;

/** How long the slow picture keeps one waiting, ms. */
export interface CommonsOptions {
  readonly slowMs?: number;
}

const held = new Map<string, Promise<Buffer>>();

/** A picture of the demo as a JPEG of at most `width` pixels across. */
function sized(file: string, width: number | 'full'): Promise<Buffer> {
  const key = `${width}/${file}`;
  const known = held.get(key);
  if (known) return known;
  const picture = sharp(`${PICTURES}${file}`).toColourspace('srgb');
  if (width !== 'full') picture.resize({ width, withoutEnlargement: true });
  const made = picture.jpeg({ quality: 80 }).toBuffer();
  held.set(key, made);
  return made;
}

async function sizeOf(file: string): Promise<Size> {
  const { width, height } = await sharp(`${PICTURES}${file}`).metadata();
  return { width, height };
}

/** *Tidewrack Commons*, an invented site on which everything that happens in the web happens. */
export function commons({ slowMs = 4_000 }: CommonsOptions = {}): Express {
  const site = express();
  site.disable('x-powered-by');
  const html = (response: Response, body: string) => response.type('html').send(body);
  site.get('/', (_request, response) => void html(response, homePage()));
  site.get('/gallery/:gallery', (request, response, next) => {
    const { gallery } = request.params;
    if (!Object.hasOwn(GALLERIES, gallery)) return next();
    // As many sites do, it lets nothing foreign in: no script, no frame, no request.
    response.set(
      'Content-Security-Policy',
      "default-src 'self'; style-src 'unsafe-inline'; script-src 'none'",
    );
    html(response, galleryPage(gallery as Gallery));
  });
  site.get('/work/:id', async (request, response, next) => {
    const work = workNamed(request.params.id);
    if (!work) return next();
    const origin = `${request.protocol}://${request.get('host')}`;
    html(response, workPage(work, origin, await sizeOf(work.file)));
  });
  site.get('/old/:id', (request, response) => response.redirect(301, `/work/${request.params.id}`));
  site.get('/search', (request, response) => void html(response, searchPage(String(request.query.q ?? ''))));
  site.get('/lazy', (_request, response) => void html(response, lazyPage()));
  site.get('/slow', (_request, response) => void html(response, slowPage()));
  site.get('/broken', (_request, response) => void html(response, brokenPage()));
  site.get('/odd', (_request, response) => void html(response, oddPage()));
  site.get('/licence/:licence', (request, response, next) => {
    const { licence } = request.params;
    if (!Object.hasOwn(LICENCES, licence)) return next();
    html(response, licencePage(licence as Licence));
  });
  addPictures(site, slowMs);
  site.use((_request, response) => {
    response.status(404);
    html(response, page('Not here', '<h1>Not here</h1><p>The tide took it.</p>'));
  });
  return site;
}

function addPictures(site: Express, slowMs: number): void {
  const jpeg = async (response: Response, file: string, width: number | 'full') =>
    response.type('jpeg').send(await sized(file, width));
  const [first] = WORKS as [(typeof WORKS)[number]];
  site.get('/crest.png', async (_request, response) => {
    const crest = `<svg xmlns='http://www.w3.org/2000/svg' width='32' height='32'><circle cx='16' cy='16' r='15' fill='#1f5a52'/><path d='M4 18q6-7 12 0t12 0' stroke='#eceee6' stroke-width='3' fill='none'/></svg>`;
    response.type('png').send(await sharp(Buffer.from(crest)).png().toBuffer());
  });
  site.get('/file/slow.jpg', async (_request, response) => {
    await new Promise((resolve) => setTimeout(resolve, slowMs));
    await jpeg(response, first.file, 1280);
  });
  site.get(
    '/file/failing.jpg',
    (_request, response) => void response.status(500).type('text').send('shelf fell'),
  );
  site.get('/file/torn.jpg', async (_request, response) => {
    const whole = await sized(first.file, 640);
    response.type('jpeg').send(whole.subarray(0, Math.round(whole.length * 0.45)));
  });
  site.get('/file/empty.jpg', (_request, response) => void response.type('jpeg').send(Buffer.alloc(0)));
  site.get('/file/moved.jpg', (_request, response) => response.redirect(301, '/file/moved-again.jpg'));
  site.get('/file/moved-again.jpg', (_request, response) =>
    response.redirect(302, `/file/1280/${first.file}`),
  );
  site.get('/file/around.jpg', (_request, response) => response.redirect(302, '/file/around-again.jpg'));
  site.get('/file/around-again.jpg', (_request, response) => response.redirect(302, '/file/around.jpg'));
  site.get('/file/lying.jpg', (_request, response) => {
    response.type('jpeg').send(Buffer.from(page('Not a picture', '<h1>Not a picture</h1>')));
  });
  site.get('/file/modest.txt', async (_request, response) => {
    response.type('text/plain').send(await sized(first.file, 640));
  });
  site.get('/file/endless.jpg', async (request, response) => {
    response.type('jpeg');
    response.write((await sized(first.file, 640)).subarray(0, 2_000));
    const pour = setInterval(() => response.write(ENDLESS_PIECE), ENDLESS_PAUSE_MS);
    request.on('close', () => clearInterval(pour));
  });
  site.get('/file/:width/:name', async (request, response, next) => {
    const { width, name } = request.params;
    const stem = name.replace(/\.\w+$/, '');
    const work = WORKS.find(({ file }) => file.replace(/\.\w+$/, '') === stem);
    const allowed = [...WIDTHS, THUMB, PREVIEW].map(String);
    // Of what costs something, only the small ones are there.
    const small = work?.offer === 'paid' ? [String(THUMB), '320', String(PREVIEW)] : [...allowed, 'full'];
    if (!work || !small.includes(width)) return next();
    await jpeg(response, work.file, width === 'full' ? 'full' : Number(width));
  });
}

export interface RunningCommons {
  readonly address: string;
  stop(): Promise<void>;
}

/** Serves the site on loopback; port 0 takes a free one. */
export async function startCommons(port: number, options: CommonsOptions = {}): Promise<RunningCommons> {
  await readFile(`${PICTURES}${WORKS[0]!.file}`);
  const server = commons(options).listen(port, '127.0.0.1');
  await once(server, 'listening');
  const { port: taken } = server.address() as AddressInfo;
  return {
    address: `http://127.0.0.1:${taken}`,
    async stop() {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
    },
  };
}
