import { readFile } from 'node:fs/promises';
import { createServer } from 'node:http';
import { extname } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Item, Picture } from '@miradero/core/schema';
import type { PeerScene } from './peers/scene.ts';

const DIST = fileURLToPath(new URL('./dist', import.meta.url));
const TYPES: Record<string, string> = {
  '.html': 'text/html',
  '.js': 'text/javascript',
  '.json': 'application/json',
};

/** What has no levels yet cannot be shown by anybody: so long they are waited for, ms. */
const MEASURED_WITHIN_MS = 120_000;

async function shownOf(
  ask: <T>(path: string) => Promise<T>,
  board: string,
): Promise<{ id: string; hash: string }[]> {
  for (const end = performance.now() + MEASURED_WITHIN_MS; ; ) {
    const { pictures } = await ask<{ pictures: Picture[] }>(`/api/pictures?board=${board}`);
    const shown = pictures.flatMap(({ id, levels }) => {
      const hash = levels.find(({ side }) => side === 128)?.hash;
      return hash === undefined ? [] : [{ id, hash }];
    });
    if (shown.length === pictures.length) return shown;
    if (performance.now() > end)
      throw new Error(`${pictures.length - shown.length} pictures of the board have no levels yet`);
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
}

async function sceneOf(address: string, board: string): Promise<PeerScene> {
  const ask = async <T>(path: string) => (await (await fetch(`${address}${path}`)).json()) as T;
  const shown = await shownOf(ask, board);
  const { items } = await ask<{ items: Item[] }>(`/api/boards/${board}`);
  const indices = new Map(shown.map(({ id }, index) => [id, index]));
  return {
    images: shown.map(({ hash }) => `/levels/${hash}`),
    placements: items.flatMap((item) =>
      item.kind === 'placement' ? [[item.centre.x, item.centre.y, indices.get(item.picture)!] as const] : [],
    ),
  };
}

/** Serves the peer pages with the scene of a board, on a loopback port of its own. */
export async function servePeers(address: string, board: string): Promise<{ address: string; stop(): void }> {
  const scene = JSON.stringify(await sceneOf(address, board));
  const server = createServer(async (request, response) => {
    const path = new URL(request.url!, 'http://x').pathname;
    try {
      if (path === '/scene.json') response.setHeader('content-type', 'application/json').end(scene);
      else if (path.startsWith('/levels/')) {
        const level = await fetch(`${address}/api${path}`);
        response.setHeader('content-type', 'image/webp').end(Buffer.from(await level.arrayBuffer()));
      } else {
        const body = await readFile(`${DIST}${path}`);
        response.setHeader('content-type', TYPES[extname(path)] ?? 'application/octet-stream').end(body);
      }
    } catch {
      response.writeHead(404).end();
    }
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as { port: number };
  return { address: `http://127.0.0.1:${port}`, stop: () => server.close() };
}
