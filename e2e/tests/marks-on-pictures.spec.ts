import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import type { Point } from '@miradero/core/geometry';
import { isMark, isPictureMark, type PictureMark } from '@miradero/core/items';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import {
  byName,
  clickOnBoard,
  colourAt,
  dragOnBoard,
  onPage,
  openBoard,
  saved,
  stageReady,
  TestBoard,
} from '../support/board.ts';
import { killBrowser, launchBrowser, launchProfile } from '../support/browser.ts';
import { expect, test } from '../support/test.ts';

const marksOf = async (board: TestBoard): Promise<PictureMark[]> =>
  (await board.standing()).filter(isPictureMark);
const near = (value: number, by: number) => ({
  asymmetricMatch: (other: unknown) => Math.abs(Number(other) - value) <= by,
});
const isVermilion = ([r, g, b]: readonly number[]) => r! > 150 && g! < 110 && b! < 90;

async function take(page: Page): Promise<void> {
  await page.keyboard.press('g');
  const card = page.getByTestId('drawing-card');
  await card.getByRole('radio', { name: 'vermilion' }).click();
  await card.getByRole('radio', { name: 'wide' }).click();
}

const seesInk = (page: Page, at: Point) => expect.poll(async () => isVermilion(await colourAt(page, at)));

test('what is drawn on a picture belongs to it: moved, turned, mirrored, trimmed and copied with it', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'marks on a picture');
  await board.place([1]);
  await openBoard(page, board);
  await take(page);
  await dragOnBoard(page, { x: 20, y: 40 }, { x: 120, y: 40 });
  await saved(page);
  expect(await marksOf(board)).toMatchObject([{ on: 'p1', pen: 'hard-pencil' }]);
  // 300 board units are 10,000 parts.
  expect((await marksOf(board))[0]!.centre).toEqual({ x: near(7_333, 60), y: near(4_667, 60) });
  await seesInk(page, { x: 70, y: 40 }).toBe(true);
  // One that mostly lies elsewhere belongs to the board, and so does one that is said to.
  await dragOnBoard(page, { x: 100, y: 80 }, { x: 400, y: 80 });
  await page.getByTestId('drawing-card').getByRole('radio', { name: 'on the board' }).click();
  await dragOnBoard(page, { x: -100, y: 80 }, { x: -40, y: 80 });
  await expect.poll(async () => (await board.standing()).filter(isMark).length).toBe(2);
  expect(await marksOf(board)).toHaveLength(1);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Escape');

  await dragOnBoard(page, { x: -100, y: -60 }, { x: -100, y: 140 });
  await seesInk(page, { x: 70, y: 240 }).toBe(true);
  await page.keyboard.press('x');
  await seesInk(page, { x: -70, y: 240 }).toBe(true);
  await page.keyboard.press(']');
  await seesInk(page, { x: -40, y: 130 }).toBe(true);
  await page.keyboard.press('[');
  await page.keyboard.press('x');
  await page.keyboard.press('b');
  await seesInk(page, { x: 94, y: 264 }).toBe(true);
  await expect.poll(async () => (await marksOf(board)).length).toBe(2);
  const copy = (await board.standing()).find(({ kind, id }) => kind === 'placement' && id !== 'p1')!;
  expect((await marksOf(board)).map(({ on }) => on).sort()).toEqual([copy.id, 'p1'].sort());
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await marksOf(board)).length).toBe(1);

  // Trimmed to its left half the mark is cut off with it.
  await clickOnBoard(page, { x: -100, y: 140 });
  await saved(page);
  await board.change([
    {
      item: 'p1',
      set: { trim: { x: 0, y: 0, width: 0.75, height: 1 }, width: 225, centre: { x: -37, y: 200 } },
    },
  ]);
  await seesInk(page, { x: 60, y: 240 }).toBe(true);
  await seesInk(page, { x: 100, y: 240 }).toBe(false);
  await page.reload();
  await stageReady(page);
  await seesInk(page, { x: 60, y: 240 }).toBe(true);
});

test('marks are chosen one by one, on pictures, too: recoloured, moved, removed; rubbed out there, and hidden by a key', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'chosen marks');
  await board.place([2]);
  await openBoard(page, board);
  await take(page);
  await dragOnBoard(page, { x: 20, y: 40 }, { x: 120, y: 40 });
  await dragOnBoard(page, { x: -200, y: 200 }, { x: 200, y: 200 });
  await expect.poll(async () => (await marksOf(board)).length).toBe(1);
  await page.keyboard.press('Shift+D');
  const card = page.getByTestId('choosing-card');
  await expect(card).toContainText('No mark is chosen.');
  await clickOnBoard(page, { x: 70, y: 40 });
  await expect(card).toContainText('One mark is chosen.');
  await expect(card.getByRole('radio', { name: 'vermilion' })).toBeChecked();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations).toEqual([]);
  await card.getByRole('radio', { name: 'verdigris' }).click();
  await expect.poll(async () => (await marksOf(board))[0]!.ink).toBe('#2c7a6b');
  await dragOnBoard(page, { x: 70, y: 40 }, { x: 40, y: 10 });
  await expect
    .poll(async () => (await marksOf(board))[0]!.centre)
    .toEqual({ x: near(6_333, 80), y: near(3_667, 80) });
  // All that lie within what is drawn around.
  await dragOnBoard(page, { x: -230, y: -180 }, { x: 230, y: 230 });
  await expect(card).toContainText('2 marks are chosen.');
  await page.keyboard.press('Delete');
  await expect.poll(async () => (await board.standing()).map(({ id }) => id)).toEqual(['p2']);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await board.standing()).length).toBe(3);

  await page.keyboard.press('9');
  await seesInk(page, { x: 0, y: 200 }).toBe(false);
  await clickOnBoard(page, { x: 0, y: 200 });
  await expect(card).toContainText('No mark is chosen.');
  await page.keyboard.press('9');
  await seesInk(page, { x: 0, y: 200 }).toBe(true);

  await page.keyboard.press('d');
  await expect(page.getByRole('complementary', { name: 'Rub out' })).toBeVisible();
  await dragOnBoard(page, { x: 40, y: -40 }, { x: 40, y: 60 });
  await expect.poll(async () => (await marksOf(board)).length).toBe(2);
  expect((await board.item('p2')).removed).toBe(false);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await marksOf(board)).length).toBe(1);
});

test('a picture is taken out with what is drawn on it, or without', async ({ running }) => {
  // The clipboard is one of a whole browser.
  const browser = await launchBrowser();
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  await context.grantPermissions(['clipboard-read', 'clipboard-write'], { origin: running.address });
  const page = await context.newPage();
  const board = await TestBoard.create(running.address, 'marks taken out');
  await board.place([3]);
  await openBoard(page, board);
  await take(page);
  await dragOnBoard(page, { x: 20, y: 40 }, { x: 120, y: 40 });
  await saved(page);
  await page.keyboard.press('Escape');
  await clickOnBoard(page, { x: -100, y: 0 });
  /** The colour at a point of the picture on the clipboard, fractions. */
  const copied = async (x: number, y: number) => {
    const base64 = await page.evaluate(async () => {
      const [item] = await navigator.clipboard.read();
      const bytes = new Uint8Array(await (await item!.getType('image/png')).arrayBuffer());
      return btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''));
    });
    const { data, info } = await sharp(Buffer.from(base64, 'base64'))
      .raw()
      .toBuffer({ resolveWithObject: true });
    const at = (Math.floor(y * info.height) * info.width + Math.floor(x * info.width)) * info.channels;
    return [...data.subarray(at, at + 3)];
  };
  await page.keyboard.press('Alt+c');
  await expect(page.getByText('On the clipboard as a picture')).toBeVisible();
  expect(isVermilion(await copied(0.733, 0.7))).toBe(true);
  await byName(page, 'copy as a picture, without marks');
  await expect.poll(async () => isVermilion(await copied(0.733, 0.7))).toBe(false);
  await page.keyboard.press('Alt+p');
  await page.getByRole('dialog').getByRole('radio', { name: 'without them' }).click();
  const asked = page.waitForRequest((request) => request.url().endsWith('/exports'));
  await page.getByRole('dialog').getByRole('button', { name: 'Save' }).click();
  expect((await asked).postDataJSON()).toMatchObject({ withoutMarks: true });
  await browser.close();
});

test('a stroke that a killed browser cut off is there as far as it came, once', async ({ running }) => {
  const board = await TestBoard.create(running.address, 'cut off');
  await board.place([4]);
  const folder = await mkdtemp(join(tmpdir(), 'miradero-profile-'));
  try {
    const first = await launchProfile(folder);
    const page = first.pages()[0]!;
    await openBoard(page, board);
    await take(page);
    const from = await onPage(page, { x: 20, y: 40 });
    await page.mouse.move(from.x, from.y);
    await page.mouse.down();
    for (let step = 1; step <= 10; step += 1) {
      await page.mouse.move(from.x + step * 10, from.y);
      await page.waitForTimeout(40);
    }
    // So much may be lost of it.
    await page.waitForTimeout(400);
    await killBrowser(folder);
    expect(await marksOf(board)).toEqual([]);

    const second = await launchProfile(folder);
    const again = second.pages()[0]!;
    await openBoard(again, board);
    await expect(again.getByText('A stroke was cut off')).toBeVisible();
    await expect.poll(async () => (await marksOf(board)).length).toBe(1);
    const [mark] = await marksOf(board);
    expect(mark).toMatchObject({ on: 'p4', ink: '#bf4128' });
    // 100 of 300 board units, and the width of the pen.
    expect(mark!.width).toEqual(near(3_700, 250));
    await again.reload();
    await stageReady(again);
    await again.waitForTimeout(500);
    expect(await marksOf(board)).toHaveLength(1);
    await second.close();
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
});
