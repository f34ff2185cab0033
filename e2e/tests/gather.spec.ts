import { createHash } from 'node:crypto';
import { boundsOf } from '@miradero/core/board';
import { overlaps } from '@miradero/core/geometry';
import type { Placement } from '@miradero/core/schema';
import sharp from 'sharp';
import { colourAt, openBoard, saved, stageReady, TestBoard } from '../support/board.ts';
import { drop, withFiles } from '../support/drops.ts';
import { heavyPicture, testPicture } from '../support/pictures.ts';
import { expect, test } from '../support/test.ts';

test('dropped files stand at the pointer, beside each other, in free space, byte for byte', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'drop');
  const [standing] = await board.place([1]);
  await openBoard(page, board);
  const files = {
    'winch house.jpg': await testPicture(11, 800, 800),
    'reed.png': await sharp(await testPicture(12, 400, 300))
      .png()
      .toBuffer(),
    'oilskin.webp': await sharp(await testPicture(13, 300, 500))
      .webp()
      .toBuffer(),
  };
  await withFiles(files, async (paths) => {
    await drop(page, paths, 900, 400);
    await expect.poll(async () => (await board.standing()).length).toBe(4);
  });
  await saved(page);
  const placements = (await board.standing()) as Placement[];
  for (const [index, one] of placements.entries()) {
    for (const other of placements.slice(index + 1))
      expect(overlaps(boundsOf(one), boundsOf(other))).toBe(false);
    const { width, height } = boundsOf(one);
    expect(width * height).toBeCloseTo(300 * 200, 0);
    expect(one.pictureWidth / one.pictureHeight).toBeCloseTo(width / height, 3);
  }
  for (const bytes of Object.values(files)) {
    const sha256 = createHash('sha256').update(bytes).digest('hex');
    const { pictures } = (await (
      await fetch(`${running.address}/api/pictures?board=${board.id}`)
    ).json()) as {
      pictures: { id: string; sha256: string }[];
    };
    const picture = pictures.find((known) => known.sha256 === sha256)!;
    expect(placements.some((one) => one.picture === picture.id)).toBe(true);
    const original = await (
      await fetch(`${running.address}/api/pictures/${picture.id}/original`)
    ).arrayBuffer();
    expect(Buffer.from(original).equals(bytes)).toBe(true);
  }
  // All of a drop is one gesture.
  await page.keyboard.press('Control+z');
  await saved(page);
  expect((await board.standing()).map((item) => item.id)).toEqual([standing!.id]);
});

test('good files of a mixed drop come in, each bad one is named with its reason', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'mixed');
  await openBoardEmpty(page, board);
  const bomb = await sharp({
    create: { width: 13_000, height: 13_000, channels: 3, background: '#000' },
    limitInputPixels: false,
  })
    .png()
    .toBuffer();
  const files = {
    'empty.jpg': new Uint8Array(),
    'page.jpg': new TextEncoder().encode('<html>no picture</html>'),
    'bomb.png': bomb,
    'good.jpg': await testPicture(21),
  };
  await withFiles(files, async (paths) => {
    await drop(page, paths, 640, 400);
    await expect.poll(async () => (await board.standing()).length).toBe(1);
  });
  const notice = page.getByRole('status').filter({ hasText: 'not taken in' });
  await expect(notice).toContainText('3 files were not taken in');
  await expect(notice).toContainText('empty.jpg: The file is empty.');
  await expect(notice).toContainText('page.jpg: This is nothing that can be taken in');
  await expect(notice).toContainText('bomb.png: The picture has more than 120 million pixels.');
  await saved(page);
  expect(await board.standing()).toHaveLength(1);
});

test('a frame with the name stands at once, pixels before the upload has ended, progress is seen', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'frames');
  await openBoardEmpty(page, board);
  // Uploads are held back; everything that follows happens without the server.
  let release = () => {};
  const held = new Promise<void>((resolve) => {
    release = resolve;
  });
  await page.route('**/api/pictures', async (route) => {
    await held;
    await route.continue();
  });
  await page.setInputFiles('#choose-files', {
    name: 'storm lantern.jpg',
    mimeType: 'image/jpeg',
    buffer: await testPicture(31),
  });
  await expect(page.getByTestId('uploads')).toContainText('Sending 1 of 1');
  await expect.poll(async () => (await board.standing()).length).toBe(1);
  const [placement] = (await board.standing()) as Placement[];
  await stageReady(page);
  const [r, g, b] = await colourAt(page, {
    x: placement!.centre.x + placement!.width * 0.4,
    y: placement!.centre.y - 5,
  });
  expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeGreaterThan(30);
  await expect(page.getByTestId('saved')).toHaveText(/Kept on this computer · 1 picture to send/);
  release();
  await saved(page);
  await expect(page.getByTestId('uploads')).toBeHidden();
});

test('a picture is pasted from the clipboard, at the pointer', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'paste');
  await openBoardEmpty(page, board);
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write'], { origin: running.address });
  const png = (
    await sharp(await testPicture(41, 300, 200))
      .png()
      .toBuffer()
  ).toString('base64');
  await page.evaluate(async (base64) => {
    const bytes = Uint8Array.from(atob(base64), (character) => character.charCodeAt(0));
    await navigator.clipboard.write([
      new ClipboardItem({ 'image/png': new Blob([bytes], { type: 'image/png' }) }),
    ]);
  }, png);
  await page.mouse.move(800, 300);
  await page.keyboard.press('Control+v');
  await expect.poll(async () => (await board.standing()).length).toBe(1);
  const [placement] = await board.standing();
  const under = await page.evaluate(() => {
    const { camera, viewport, canvas } = window.miraderoStage!;
    const { left, top } = canvas.getBoundingClientRect();
    return {
      x: 800 - left - viewport.width / 2 + camera.centre.x,
      y: 300 - top - viewport.height / 2 + camera.centre.y,
    };
  });
  expect(placement!.centre.x).toBeCloseTo(under.x, 3);
  expect(placement!.centre.y).toBeCloseTo(under.y, 3);
  await expect(page.locator('footer')).toBeVisible();
});

test('a picture with EXIF orientation stands upright before and after its upload', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'exif');
  await openBoardEmpty(page, board);
  // Stored on its side: upright it is 600 × 900 with the light square top left.
  const upright = await sharp(await testPicture(51, 600, 900))
    .rotate(270)
    .jpeg()
    .withMetadata({ orientation: 6 })
    .toBuffer();
  let release = () => {};
  const held = new Promise<void>((resolve) => {
    release = resolve;
  });
  await page.route('**/api/pictures', async (route) => {
    await held;
    await route.continue();
  });
  await page.setInputFiles('#choose-files', { name: 'turned.jpg', mimeType: 'image/jpeg', buffer: upright });
  await expect.poll(async () => (await board.standing()).length).toBe(1);
  const [one] = (await board.standing()) as Placement[];
  expect([one!.pictureWidth, one!.pictureHeight]).toEqual([600, 900]);
  const { width, height } = boundsOf(one!);
  const square = { x: one!.centre.x - width * 0.25, y: one!.centre.y - height * 0.25 };
  const opposite = { x: one!.centre.x + width * 0.25, y: one!.centre.y - height * 0.25 };
  const isLight = async (point: { x: number; y: number }) => Math.min(...(await colourAt(page, point))) > 170;
  await stageReady(page);
  await expect.poll(() => isLight(square)).toBe(true);
  expect(await isLight(opposite)).toBe(false);
  release();
  await saved(page);
  await page.reload();
  await stageReady(page);
  await expect.poll(() => isLight(square)).toBe(true);
  expect(await isLight(opposite)).toBe(false);
});

test('a slow upload holds up no change', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'slow');
  await board.place([1]);
  await openBoard(page, board);
  await page.route('**/api/pictures', () => new Promise(() => {}));
  await page.setInputFiles('#choose-files', {
    name: 'slow.png',
    mimeType: 'image/png',
    buffer: await heavyPicture(61, 700),
  });
  await expect.poll(async () => (await board.standing()).length).toBe(2);
  await page.mouse.move(657, 396);
  await page.mouse.down();
  await page.mouse.move(657, 300, { steps: 3 });
  await page.mouse.up();
  await expect.poll(async () => (await board.item('p1')).centre.y).toBeLessThan(-50);
});

async function openBoardEmpty(page: import('@playwright/test').Page, board: TestBoard): Promise<void> {
  await page.goto(board.url);
  await expect(page.getByText('An empty board')).toBeVisible();
}
