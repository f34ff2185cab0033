import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import express, { Router } from 'express';

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
    const html = page.replaceAll('__NONCE__', response.locals.nonce);
    response.set('Cache-Control', 'no-store').type('html').send(html);
  });
  return router;
}
