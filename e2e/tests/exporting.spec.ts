import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { clickOnBoard, openBoard, saved, TestBoard } from '../support/board.ts';
import { launchBrowser } from '../support/browser.ts';
import { testPicture } from '../support/pictures.ts';
import { expect, test } from '../support/test.ts';

/** Opens what is behind a word of the sill. */
const openFamily = (page: Page, name: string) =>
  page.locator('footer').first().getByRole('button', { name, exact: true }).click();

async function rgbAt(bytes: Uint8Array, x: number, y: number): Promise<number[]> {
  const region = { left: x, top: y, width: 1, height: 1 };
  return [...(await sharp(bytes).removeAlpha().extract(region).raw().toBuffer())];
}

test('a selection is saved as one picture at a chosen size and kind, and says so', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'Saved / as a picture');
  await board.place([1, 2]);
  await openBoard(page, board);
  await page.keyboard.press('Control+a');
  await page.keyboard.press('x');
  await openFamily(page, 'take out');
  await page.locator('[data-action="save-as-picture"]').click();
  const sheet = page.getByRole('dialog', { name: 'Save as a picture' });
  await expect(sheet).toContainText('2 things that are selected');
  // Two pictures of 900 pixels stand 40 board units apart, each 300 wide.
  await expect(sheet.getByTestId('export-size')).toContainText('1,920 × 600');
  await sheet.getByRole('button', { name: '1,024' }).click();
  await expect(sheet.getByTestId('export-size')).toContainText('1,024 × 320');
  await sheet.getByRole('radio', { name: 'JPEG' }).click();
  await expect(sheet.getByRole('radio', { name: 'nothing' })).toHaveCount(0);
  await sheet.getByRole('radio', { name: 'the grey of the board' }).click();
  const downloading = page.waitForEvent('download');
  await sheet.getByRole('button', { name: 'Save', exact: true }).click();
  const download = await downloading;
  expect(download.suggestedFilename()).toBe('Saved as a picture.jpg');
  const bytes = await readFile(await download.path());
  expect(await sharp(bytes).metadata()).toMatchObject({ width: 1024, height: 320, format: 'jpeg' });
  await expect(page.getByText('Saved as “Saved as a picture.jpg”.')).toBeVisible();
  // Mirrored on the board, it is mirrored in the file: the light square of each is on its right.
  const [left, right] = [await rgbAt(bytes, 150, 60), await rgbAt(bytes, 350, 60)];
  expect(right.reduce((a, b) => a + b)).toBeGreaterThan(left.reduce((a, b) => a + b) + 100);
});

test('what keys act on is put on the clipboard as a picture, as it stands', async ({ running }) => {
  // The clipboard is one of a whole browser.
  const browser = await launchBrowser();
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  await context.grantPermissions(['clipboard-read', 'clipboard-write'], { origin: running.address });
  const page = await context.newPage();
  const board = await TestBoard.create(running.address, 'Copied as a picture');
  const picture = await sharp(await testPicture(9_081))
    .png()
    .toBuffer();
  await board.placeFiles([{ id: 'p', name: 'reed.png', bytes: picture }]);
  await openBoard(page, board);
  await clickOnBoard(page, { x: 0, y: 0 });
  await page.keyboard.press('Alt+c');
  await expect(page.getByText('On the clipboard as a picture of 900 × 600')).toBeVisible({ timeout: 90_000 });
  const copied = await page.evaluate(async () => {
    const [item] = await navigator.clipboard.read();
    const blob = await item!.getType('image/png');
    return [...new Uint8Array(await blob.arrayBuffer())];
  });
  const bytes = Uint8Array.from(copied);
  expect(await rgbAt(bytes, 700, 100)).toEqual(await rgbAt(picture, 700, 100));
  expect(await rgbAt(bytes, 100, 100)).toEqual(await rgbAt(picture, 100, 100));
  // With nothing to act on it says so.
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.mouse.move(640, 60);
  await page.keyboard.press('Alt+c');
  await expect(page.getByText('Nothing to copy as a picture.')).toBeVisible();
  await browser.close();
});

test('a handle drags one out as its file and several as a ZIP, made while the hand is on its way', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'Dragged out');
  const bytes = await testPicture(9_082);
  await board.placeFiles([
    { id: 'a', name: 'Heron at dusk.jpg', bytes },
    { id: 'b', name: 'Reed.jpg', bytes: await testPicture(9_083) },
  ]);
  await openBoard(page, board);
  const dragOut = async () => {
    await openFamily(page, 'take out');
    const transfer = await page.evaluateHandle(() => new DataTransfer());
    await page.getByTestId('drag-out').dispatchEvent('dragstart', { dataTransfer: transfer });
    const told = await transfer.evaluate((data) => data.getData('DownloadURL'));
    await page.keyboard.press('Escape');
    const [, type, name, address] = /^([^:]+):([^:]+):(.+)$/.exec(told)!;
    const answer = await fetch(address!);
    expect(answer.status).toBe(200);
    return { type, name, bytes: new Uint8Array(await answer.arrayBuffer()) };
  };
  await clickOnBoard(page, { x: -170, y: 0 });
  const one = await dragOut();
  expect(one.name).toBe('Heron at dusk.jpg');
  expect(one.type).toBe('image/jpeg');
  expect(Buffer.from(one.bytes).equals(bytes)).toBe(true);
  await page.keyboard.press('Control+a');
  const several = await dragOut();
  expect(several).toMatchObject({ name: 'Dragged out.zip', type: 'application/zip' });
  expect(Object.keys(unzipSync(several.bytes)).sort()).toEqual(['Heron at dusk.jpg', 'Reed.jpg']);
  await page.keyboard.press('x');
  await saved(page);
  await clickOnBoard(page, { x: 0, y: 300 });
  await clickOnBoard(page, { x: -170, y: 0 });
  const altered = await dragOut();
  expect(altered).toMatchObject({ name: 'Reed.png', type: 'image/png' });
});

test('the server away is said, and nothing is lost', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'Not taken out');
  await board.place([1]);
  await openBoard(page, board);
  await page.route('**/api/boards/*/exports', (route) => route.abort());
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Alt+p');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  const line = page.getByTestId('exporting');
  await line.getByRole('button', { name: '1 not taken out' }).click();
  await expect(page.getByText('The server cannot be reached.')).toBeVisible();
  await page.getByRole('button', { name: 'I have read it' }).click();
  await expect(line).toBeHidden();
});

test('a board is saved as a drawing, in layers, and on sheets of paper', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'For other programs');
  await board.place([1, 2]);
  await openBoard(page, board);
  const save = async (form: string, choose: () => Promise<void> = async () => {}) => {
    await openFamily(page, 'take out');
    await page.locator('[data-action="save-for-others"]').click();
    const sheet = page.getByRole('dialog', { name: 'Save for other programs' });
    await sheet.getByRole('radio', { name: form }).click();
    await choose();
    const downloading = page.waitForEvent('download');
    await sheet.getByRole('button', { name: 'Save', exact: true }).click();
    const download = await downloading;
    return { name: download.suggestedFilename(), bytes: await readFile(await download.path()) };
  };
  const drawing = await save('drawing');
  expect(drawing.name).toBe('For other programs.svg');
  // Two pictures of 300, 40 apart; each is turned or not as it stands.
  expect(await sharp(drawing.bytes, { density: 72 }).metadata()).toMatchObject({ width: 640, height: 200 });
  const layers = await save('layers', () => page.getByRole('button', { name: '1,024' }).click());
  expect(layers.name).toBe('For other programs.ora');
  const files = unzipSync(layers.bytes);
  expect(Buffer.from(files['stack.xml']!).toString()).toMatch(/name="picture 2".*\n.*name="picture 1"/);
  const pages = await save('pages', async () => {
    await page.getByRole('textbox', { name: 'Width on paper' }).fill('500');
    await page.keyboard.press('Tab');
    await page.getByRole('button', { name: 'A4' }).click();
    // 500 mm are two sheets that lie on their side, 10 mm of each on the other.
    await expect(page.getByTestId('pages-size')).toContainText('500 × 156 mm, 2 sheets');
  });
  expect(pages.name).toBe('For other programs.pdf');
  expect(pages.bytes.subarray(0, 5).toString()).toBe('%PDF-');
});
