import { fileURLToPath } from 'node:url';
import type { Picture, Placement } from '@miradero/core/schema';
import type { Page } from '@playwright/test';
import { stageReady, TestBoard } from './board.ts';
import { expect } from './test.ts';

/** A file of the demo's pictures. */
export const demo = (name: string) => fileURLToPath(new URL(`../../demo/pictures/${name}`, import.meta.url));

export async function picturesOf(address: string, query: string): Promise<Picture[]> {
  return ((await (await fetch(`${address}/api/pictures?${query}`)).json()) as { pictures: Picture[] })
    .pictures;
}
export const placementsOf = async (board: TestBoard) =>
  (await board.standing()).filter((item): item is Placement => item.kind === 'placement');

/**
 * The picture of the only placement on a board, once the server has it: a placement may be there before the
 * file that it shows has been sent.
 */
export async function onlyPicture(address: string, board: TestBoard): Promise<Picture> {
  const [placement, ...others] = await placementsOf(board);
  expect(others).toEqual([]);
  await expect.poll(async () => (await picturesOf(address, `ids=${placement!.picture}`)).length).toBe(1);
  return (await picturesOf(address, `ids=${placement!.picture}`))[0]!;
}

export async function paste(page: Page, items: Readonly<Record<string, string>>): Promise<void> {
  await page.evaluate(async (given) => {
    const blobs = Object.entries(given).map(([type, text]) => [type, new Blob([text], { type })] as const);
    await navigator.clipboard.write([new ClipboardItem(Object.fromEntries(blobs))]);
  }, items);
  await page.mouse.move(700, 400);
  await page.keyboard.press('Control+v');
}

export async function emptyBoard(page: Page, address: string, name: string): Promise<TestBoard> {
  const board = await TestBoard.create(address, name);
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write'], { origin: address });
  await page.goto(board.url);
  await stageReady(page);
  return board;
}
