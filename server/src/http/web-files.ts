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

/** The built interface: hashed files for ever, and the one page for every other address. */
export function webFiles(folder: string): Router {
  const router = Router();
  router.use(
    '/assets',
    express.static(join(folder, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }),
  );
  router.use(express.static(folder, { index: false, maxAge: 0 }));
  router.get('/{*path}', async (_request, response) => {
    // Read anew each time: after a new build it names other files.
    const page = await readFile(join(folder, 'index.html'), 'utf8');
    const html = page.replaceAll('__NONCE__', response.locals.nonce).replaceAll('__BUILD__', digestOf(page));
    response.set('Cache-Control', 'no-store').type('html').send(html);
  });
  return router;
}
