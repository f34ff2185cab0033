import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { createNote } from '@miradero/core/items';
import type { Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { openBoard, saved, TestBoard } from '../support/board.ts';
import { drop, withFiles } from '../support/drops.ts';
import { expect, test } from '../support/test.ts';

/** Saves the board in front as one file. @returns its path and name */
async function saveBoard(page: Page, choice?: string) {
  await page.locator('footer').first().getByRole('button', { name: 'take out', exact: true }).click();
  await page.locator('[data-action="save-board-file"]').click();
  const sheet = page.getByRole('dialog', { name: 'Save the board as one file' });
  if (choice) await sheet.getByRole('radio', { name: choice }).click();
  const downloading = page.waitForEvent('download');
  await sheet.getByRole('button', { name: 'Save', exact: true }).click();
  const download = await downloading;
  return { path: await download.path(), name: download.suggestedFilename() };
}

/** Hands a file in by the chooser. */
async function handIn(page: Page, name: string, buffer: Buffer): Promise<void> {
  await page.locator('#choose-files').setInputFiles({ name, mimeType: 'application/zip', buffer });
}

const note = (id: string, text: string) =>
  createNote({ id, stack: 'z0', centre: { x: 0, y: 300 }, width: 300, height: 60, text });

test('a board is saved as one file, which shows itself in a browser from a folder of the disk', async ({
  page,
  running,
  chromium,
}) => {
  const board = await TestBoard.create(running.address, 'Ferry: by hand');
  await board.place([1, 2]);
  await board.change([{ create: note('n', 'Never black, <script>alert(1)</script>') }]);
  await openBoard(page, board);
  await page.locator('footer').first().getByRole('button', { name: 'take out', exact: true }).click();
  await page.locator('[data-action="save-board-file"]').click();
  const sheet = page.getByRole('dialog', { name: 'Save the board as one file' });
  await expect(sheet.getByTestId('board-file-size')).toContainText('2 pictures');
  await page.keyboard.press('Escape');
  const { path, name } = await saveBoard(page);
  expect(name).toBe('Ferry by hand.board.zip');
  await expect(page.getByText('Saved as “Ferry by hand.board.zip”.')).toBeVisible();

  const folder = await mkdtemp(join(tmpdir(), 'board-file-'));
  const context = await chromium.newContext({ viewport: { width: 1000, height: 700 }, offline: true });
  try {
    for (const [entry, bytes] of Object.entries(unzipSync(await readFile(path)))) {
      await mkdir(dirname(join(folder, entry)), { recursive: true });
      await writeFile(join(folder, entry), bytes);
    }
    const viewer = await context.newPage();
    const troubles: string[] = [];
    viewer.on('pageerror', ({ message }) => troubles.push(message));
    viewer.on('console', (message) => message.type() === 'error' && troubles.push(message.text()));
    await viewer.goto(`file://${folder}/Ferry by hand/index.html`);
    await expect(viewer.getByRole('heading', { name: 'Ferry: by hand' })).toBeVisible();
    await expect(viewer.getByRole('listitem').filter({ hasText: 'Never black, <script>' })).toBeAttached();
    const canvas = viewer.locator('#board');
    const whole = async () => sharp(await canvas.screenshot());
    // Both pictures and the paper of the remark are there: much of the view is neither of the ground.
    await expect
      .poll(async () => {
        const { channels } = await (await whole()).stats();
        return channels[0]!.stdev;
      })
      .toBeGreaterThan(20);
    // All copies are there.
    await expect(viewer.locator('html')).toHaveAttribute('data-waiting', '0');
    const before = await (await whole()).raw().toBuffer();
    await canvas.hover({ position: { x: 300, y: 250 } });
    await viewer.mouse.wheel(0, -600);
    await viewer.mouse.down();
    await viewer.mouse.move(500, 400, { steps: 4 });
    await viewer.mouse.up();
    await expect.poll(async () => (await (await whole()).raw().toBuffer()).equals(before)).toBe(false);
    await viewer.getByRole('button', { name: 'whole board' }).click();
    await expect.poll(async () => (await (await whole()).raw().toBuffer()).equals(before)).toBe(true);
    // What is pressed says what it is.
    const { width, height } = (await canvas.boundingBox())!;
    await canvas.click({ position: { x: width * 0.3, y: height * 0.35 } });
    await expect(viewer.locator('#label')).toContainText('picture 1');
    expect(troubles).toEqual([]);
  } finally {
    await context.close();
    await rm(folder, { recursive: true, force: true });
  }
});

test('a board file is read back as a board of its own, or merged into the board that it left', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'Out and back');
  await board.place([3, 4]);
  await openBoard(page, board);
  const { path } = await saveBoard(page);
  const bytes = await readFile(path);
  // As a board of its own.
  await handIn(page, 'Out and back.board.zip', bytes);
  const sheet = page.getByRole('dialog', { name: '“Out and back”' });
  await expect(sheet).toContainText('2 things and 2 pictures');
  await expect(sheet).toContainText('Everything that was done to it is on “Out and back” already.');
  await sheet.getByRole('button', { name: 'Bring it in' }).click();
  await expect(sheet).toContainText('It is a board here now. 0 pictures came in.');
  await sheet.getByRole('button', { name: 'Open the board' }).click();
  await expect(page).not.toHaveURL(board.url);
  await expect(page).toHaveURL(/\/boards\/[0-9a-f-]{36}$/);
  const copy = new TestBoard(running.address, page.url().split('/').at(-1)!);
  expect((await copy.standing()).map(({ id }) => id).sort()).toEqual(['p3', 'p4']);

  // Altered there, handed out again, and merged into the first by whoever it was.
  await copy.change([{ create: note('late', 'From the studio') }]);
  await copy.change([{ item: 'p3', set: { turn: 20 } }]);
  await page.reload();
  await saved(page);
  const back = await readFile((await saveBoard(page)).path);
  await page.goto(board.url);
  await handIn(page, 'back.zip', back);
  await expect(sheet.getByRole('radio', { name: 'Merge into “Out and back” 2 changes' })).toBeChecked();
  await sheet.getByRole('textbox').fill('Mara Quill');
  await sheet.getByRole('button', { name: 'Merge' }).click();
  await expect(sheet).toContainText('2 changes were merged.');
  await sheet.getByRole('button', { name: 'Open the board' }).click();
  await expect
    .poll(async () => (await board.standing()).map(({ id }) => id).sort())
    .toEqual(['late', 'p3', 'p4']);
  expect((await board.item('p3')).turn).toBe(20);
  await page.keyboard.press('Alt+z');
  await expect(page.getByText('by “Mara Quill”')).toBeVisible();
});

test('several that come at once are asked about one after the other', async ({ page, running }) => {
  const [one, other] = [
    await TestBoard.create(running.address, 'One'),
    await TestBoard.create(running.address, 'Other'),
  ];
  const saves: Buffer[] = [];
  for (const board of [one, other]) {
    await board.change([{ create: note('n', 'Something') }]);
    await openBoard(page, board);
    saves.push(await readFile((await saveBoard(page)).path));
  }
  await withFiles({ 'one.zip': saves[0]!, 'other.zip': saves[1]! }, async ([first, second]) => {
    await drop(page, [first!, second!], 500, 300);
    const sheet = page.getByRole('dialog');
    await expect(sheet).toContainText('“One”');
    await expect(sheet).toContainText('After it: 1 more board.');
    await sheet.getByRole('button', { name: 'Leave' }).click();
    await expect(sheet).toContainText('“Other”');
    await sheet.getByRole('button', { name: 'Bring it in' }).click();
    await expect(sheet).toContainText('It is a board here now.');
    await sheet.getByRole('button', { name: 'Close' }).click();
    await expect(sheet).toHaveCount(0);
  });
});

test('what is no board file is refused in words, and other archives are still unpacked', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'Odd');
  await openBoard(page, board);
  const { zipSync } = await import('fflate');
  await handIn(
    page,
    'odd.zip',
    Buffer.from(zipSync({ 'board.json': Buffer.from('{"kind":"board","version":7}') })),
  );
  const sheet = page.getByRole('dialog', { name: 'A board as a file' });
  await expect(sheet.getByRole('alert')).toContainText('It is of version 7');
  await sheet.getByRole('button', { name: 'Close' }).click();
  await expect(sheet).toHaveCount(0);
  const picture = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#a05030' } })
    .png()
    .toBuffer();
  await handIn(
    page,
    'pictures.zip',
    Buffer.from(zipSync({ 'a/notes/board.json.txt': picture, 'lamp.png': picture })),
  );
  await expect.poll(async () => (await board.standing()).length).toBeGreaterThan(0);
});
