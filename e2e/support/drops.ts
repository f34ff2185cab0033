import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';

/** Files on disk for real drops. */
export async function withFiles(
  files: Record<string, Uint8Array>,
  use: (paths: string[]) => Promise<void>,
): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'miradero-drop-'));
  try {
    const paths: string[] = [];
    for (const [name, bytes] of Object.entries(files)) {
      paths.push(join(folder, name));
      await writeFile(join(folder, name), bytes);
    }
    await use(paths);
  } finally {
    await rm(folder, { recursive: true });
  }
}

/** Drops what another window would hand over: addresses and a piece of a page. */
export async function dropFromPage(
  page: Page,
  items: Readonly<Record<string, string>>,
  x: number,
  y: number,
): Promise<void> {
  const session = await page.context().newCDPSession(page);
  const data = {
    items: Object.entries(items).map(([mimeType, content]) => ({ mimeType, data: content })),
    dragOperationsMask: 1,
  };
  for (const type of ['dragEnter', 'dragOver', 'drop'] as const) {
    await session.send('Input.dispatchDragEvent', { type, x, y, data });
  }
}

/** Bit of CDP's `modifiers`. */
export const ALT = 1;

/** Drops files of the disk at a point of the page, as the system does. */
export async function drop(page: Page, paths: string[], x: number, y: number, modifiers = 0): Promise<void> {
  const session = await page.context().newCDPSession(page);
  const data = { items: [], files: paths, dragOperationsMask: 1 };
  for (const type of ['dragEnter', 'dragOver', 'drop'] as const) {
    await session.send('Input.dispatchDragEvent', { type, x, y, data, modifiers });
  }
}
