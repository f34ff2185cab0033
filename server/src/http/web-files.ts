import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import express, { Router } from 'express';

/** Names the built interface in `folder`: a digest of its one page, which names every file by its content. */
export async function buildOf(folder: string | undefined): Promise<string> {
  if (folder === undefined) return 'none';
  return digestOf(await readFile(join(folder, 'index.html'), 'utf8'));
}

const digestOf = (page: string): string => createHash('sha256').update(page).digest('hex').slice(0, 16);

const BOARD_PAGE = /^\/(?:boards|perch)\/([0-9a-f-]{36})$/;

/** Lets the browser ask for what a board's page will need while it still reads the program. */
function withPreloads(page: string, path: string): string {
  const board = BOARD_PAGE.exec(path)?.[1];
  const addresses = [
    '/api/session',
    ...(board ? [`/api/boards/${board}`, `/api/pictures?board=${board}`] : []),
  ];
  const links = addresses.map((address) => `<link rel="preload" as="fetch" crossorigin href="${address}" />`);
  return page.replace('<title>', `${links.join('\n    ')}\n    <title>`);
}

/** The built interface: hashed files for ever, and the one page for every other address. */
export function webFiles(folder: string): Router {
  const router = Router();
  router.use(
    '/assets',
    express.static(join(folder, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }),
  );
  router.use(express.static(folder, { index: false, maxAge: 0 }));
  router.get('/{*path}', async (request, response) => {
    // Read anew each time: after a new build it names other files.
    const page = await readFile(join(folder, 'index.html'), 'utf8');
    const html = withPreloads(page, request.path)
      .replaceAll('__NONCE__', response.locals.nonce)
      .replaceAll('__BUILD__', digestOf(page));
    response.set('Cache-Control', 'no-store').type('html').send(html);
  });
  return router;
}
