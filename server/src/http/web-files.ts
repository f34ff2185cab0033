import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import express, { type RequestHandler, Router } from 'express';

/** Names the built interface in `folder`: a digest of its one page, which names every file by its content. */
export async function buildOf(folder: string | undefined): Promise<string> {
  if (folder === undefined) return 'none';
  return digestOf(await readFile(join(folder, 'index.html'), 'utf8'));
}

const digestOf = (page: string): string => createHash('sha256').update(page).digest('hex').slice(0, 16);

const BOARD_PAGE = /^\/(?:boards|perch)\/([0-9a-f-]{36})$/;
const PAST_PAGE = /^\/boards\/([0-9a-f-]{36})\/history(?:\?at=(\d{1,15}))?$/;

/** What a page about a board asks for first. @param address - path and query */
function dataOf(address: string): string[] {
  const [, board] = BOARD_PAGE.exec(address.split('?')[0]!) ?? [];
  if (board) return [`/api/boards/${board}`, `/api/pictures?board=${board}`];
  const [, past, at] = PAST_PAGE.exec(address) ?? [];
  if (!past) return [];
  const segment = `/api/boards/${past}/history/segment${at === undefined ? '' : `?revision=${Number(at)}`}`;
  return [segment, `/api/pictures?board=${past}`];
}

/** What the interface says of itself: scripts that a page needs, by a pattern of its path, and fonts of the first paint. */
interface Preloads {
  readonly pages: readonly { readonly path: string; readonly scripts: readonly string[] }[];
  readonly fonts: readonly string[];
}

/** A folder in which nothing was built so says nothing. */
async function preloadsIn(folder: string): Promise<Preloads> {
  const text = await readFile(join(folder, 'preloads.json'), 'utf8').catch(() => undefined);
  return text === undefined ? { pages: [], fonts: [] } : (JSON.parse(text) as Preloads);
}

/** Lets the browser ask for what a page will need while it still reads the program. */
function withPreloads(page: string, { pages, fonts }: Preloads, address: string): string {
  const addresses = ['/api/session', ...dataOf(address)];
  const scripts = pages.find((one) => new RegExp(one.path).test(address.split('?')[0]!))?.scripts ?? [];
  const asked = addresses.map((address) => `<link rel="preload" as="fetch" crossorigin href="${address}" />`);
  // After the entry: a browser asks a server for six things at once, in the order in which they are named.
  const later = [
    ...scripts.map((file) => `<link rel="modulepreload" crossorigin href="/${file}" />`),
    ...fonts.map((file) => `<link rel="preload" as="font" type="font/woff2" crossorigin href="/${file}" />`),
  ];
  return page
    .replace('<title>', `${asked.join('\n    ')}\n    <title>`)
    .replace('</head>', `  ${later.join('\n    ')}\n  </head>`);
}

/** Files that are asked for together when a page opens, once read: a disk and a stream for each would take longer. */
function assetsIn(folder: string): RequestHandler {
  const known = new Map<string, Promise<Buffer | undefined>>();
  return async (request, response, next) => {
    const name = request.path.slice(1);
    if (!/^[\w.-]+\.(?:js|css|woff2)$/.test(name)) return next();
    const read = known.get(name) ?? readFile(join(folder, name)).catch(() => undefined);
    known.set(name, read);
    const bytes = await read;
    if (bytes === undefined) {
      known.delete(name);
      return next();
    }
    response.set('Cache-Control', 'public, max-age=31536000, immutable').type(name.split('.').at(-1)!);
    response.send(bytes);
  };
}

/**
 * The built interface: hashed files for ever, and the one page for every other address.
 *
 * @param onServed - told which build a page that was just asked for is of
 */
export function webFiles(folder: string, onServed: (build: string) => void): Router {
  const router = Router();
  router.use(
    '/assets',
    assetsIn(join(folder, 'assets')),
    express.static(join(folder, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }),
  );
  router.use(express.static(folder, { index: false, maxAge: 0 }));
  router.get('/{*path}', async (request, response) => {
    // Read anew each time: after a new build it names other files.
    const page = await readFile(join(folder, 'index.html'), 'utf8');
    const build = digestOf(page);
    onServed(build);
    const html = withPreloads(page, await preloadsIn(folder), request.originalUrl)
      .replaceAll('__NONCE__', response.locals.nonce)
      .replaceAll('__BUILD__', build);
    response.set('Cache-Control', 'no-store').type('html').send(html);
  });
  return router;
}
