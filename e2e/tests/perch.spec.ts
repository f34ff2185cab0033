import type { Page } from '@playwright/test';
import { dragOnBoard, openBoard, saved, TestBoard } from '../support/board.ts';
import { drop, withFiles } from '../support/drops.ts';
import { placementsOf } from '../support/gathering.ts';
import { testPicture } from '../support/pictures.ts';
import { expect, test } from '../support/test.ts';

/** Mean difference of the light square of a picture from its ground, as a perch shows it at a point. */
const colourIn = (perch: Page, x: number, y: number): Promise<number[]> =>
  perch.evaluate(
    ({ x, y }) => {
      const canvas = document.querySelector('canvas')!;
      const ratio = canvas.width / canvas.clientWidth;
      return [
        ...canvas
          .getContext('2d')!
          .getImageData(x * ratio, y * ratio, 1, 1)
          .data.slice(0, 3),
      ];
    },
    { x, y },
  );
const isColoured = ([r = 0, g = 0, b = 0]: number[]) => Math.max(r, g, b) - Math.min(r, g, b) > 25;
const zoomOf = (perch: Page) => perch.getByTestId('zoom').innerText();

/** As in a browser that has no floating windows: the perch opens as a popup. */
const withoutFloating = (page: Page) =>
  page.addInitScript(() => {
    Object.defineProperty(window, 'documentPictureInPicture', { value: undefined });
  });

async function openPerch(page: Page): Promise<Page> {
  const opening = page.context().waitForEvent('page');
  await page.keyboard.press('p');
  const perch = await opening;
  // A context with a fixed viewport would force its size on the floating window.
  await perch.setViewportSize({ width: 480, height: 360 });
  await perch.locator('[data-stage="sharp"]').waitFor();
  return perch;
}

test('the perch shows the board in a floating window, zooms, pans, comes close and takes its picture', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch');
  await board.place([1, 2]);
  await openBoard(page, board);
  const perch = await openPerch(page);
  const { width, height } = await perch.evaluate(() => ({ width: innerWidth, height: innerHeight }));
  expect(width).toBeGreaterThanOrEqual(400);
  await expect.poll(async () => isColoured(await colourIn(perch, width * 0.3, height / 2))).toBe(true);

  const before = await zoomOf(perch);
  await perch.mouse.move(width * 0.3, height / 2);
  await perch.mouse.wheel(0, -400);
  await expect.poll(() => zoomOf(perch)).not.toBe(before);
  // Its own camera: the board's stays.
  expect(await page.evaluate(() => window.miraderoStage!.camera.scale)).toBe(1);

  await perch.keyboard.press('0');
  await expect.poll(() => zoomOf(perch)).toBe(before);
  await perch.mouse.dblclick(width * 0.3, height / 2);
  await expect.poll(() => zoomOf(perch)).not.toBe(before);
  await perch.keyboard.press('f');
  await expect.poll(() => zoomOf(perch)).toBe(before);
  const picture = await perch.screenshot();
  expect(picture.length).toBeGreaterThan(5_000);
  await perch.close();
});

test('what changes on the board shows in the perch, while the hand is still dragging', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch follows');
  await board.place([1]);
  await openBoard(page, board);
  const perch = await openPerch(page);
  const { width, height } = await perch.evaluate(() => ({ width: innerWidth, height: innerHeight }));
  const middle = { x: width / 2, y: height / 2 };
  await expect.poll(async () => isColoured(await colourIn(perch, middle.x, middle.y))).toBe(true);
  await page.bringToFront();
  await page.mouse.move(657, 396);
  await page.mouse.down();
  await page.mouse.move(657, 700, { steps: 8 });
  await expect.poll(async () => isColoured(await colourIn(perch, middle.x, middle.y))).toBe(false);
  await page.keyboard.press('Escape');
  await expect.poll(async () => isColoured(await colourIn(perch, middle.x, middle.y))).toBe(true);
  await page.mouse.up();
  await perch.close();
});

for (const kind of ['a floating window', 'a popup']) {
  test(`closing ${kind} and opening it again keeps its camera`, async ({ page, running }) => {
    const board = await TestBoard.create(running.address, 'perch camera');
    await board.place([1]);
    if (kind === 'a popup') await withoutFloating(page);
    await openBoard(page, board);
    const perch = await openPerch(page);
    await perch.mouse.move(200, 100);
    const before = await zoomOf(perch);
    await perch.mouse.wheel(0, -350);
    await expect.poll(() => zoomOf(perch)).not.toBe(before);
    const zoom = await zoomOf(perch);
    // At once, before the camera has rested.
    const closed = perch.waitForEvent('close');
    await perch.evaluate(() => window.close());
    await closed;
    await page.bringToFront();
    const again = await openPerch(page);
    await expect.poll(() => zoomOf(again)).toBe(zoom);
    await again.close();
  });
}

test('where there is no floating window the perch is a popup with a page of its own, and survives its opener', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'popup');
  await board.place([1]);
  await withoutFloating(page);
  await openBoard(page, board);
  const perch = await openPerch(page);
  expect(perch.url()).toContain(`/perch?arrangement=${board.id}`);
  await dragOnBoard(page, { x: 0, y: 0 }, { x: 0, y: 260 });
  await saved(page);
  const { width, height } = await perch.evaluate(() => ({ width: innerWidth, height: innerHeight }));
  await expect.poll(async () => isColoured(await colourIn(perch, width / 2, height / 2))).toBe(false);
  await page.close();
  await perch.keyboard.press('0');
  await expect.poll(async () => isColoured(await colourIn(perch, width / 2, height / 2))).toBe(true);
});

test('what is dropped or pasted into the perch comes onto its board', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'dropped into the perch');
  await board.place([3]);
  await openBoard(page, board);
  const perch = await openPerch(page);
  await withFiles({ 'heron.jpg': await testPicture(871, 300, 200) }, async (paths) => {
    await drop(perch, paths, 240, 60);
    await expect.poll(async () => (await board.standing()).length).toBe(2);
  });
  await perch.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/plain', 'Oars first');
    document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }));
  });
  await expect.poll(async () => (await board.standing()).some(({ kind }) => kind === 'note')).toBe(true);
  await perch.close();
});

test('the tools of the board work in the perch, by its keys and under its pointer', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'tools in the perch');
  await board.place([4]);
  await openBoard(page, board);
  const perch = await openPerch(page);
  const { width, height } = await perch.evaluate(() => ({ width: innerWidth, height: innerHeight }));
  const middle = { x: width / 2, y: height / 2 };
  const standing = async () => (await placementsOf(board))[0]!;

  // A drag only pans while no tool is taken.
  const before = await standing();
  await perch.mouse.move(middle.x, middle.y);
  await perch.mouse.down();
  await perch.mouse.move(middle.x + 40, middle.y + 20, { steps: 4 });
  await perch.mouse.up();
  await perch.keyboard.press('0');

  // What was selected by a click is moved by a drag, and put back by undo.
  await perch.mouse.click(middle.x, middle.y);
  await perch.mouse.move(middle.x + 1, middle.y + 1);
  await perch.mouse.down();
  await perch.mouse.move(middle.x + 31, middle.y + 21, { steps: 4 });
  await perch.mouse.up();
  await expect.poll(async () => (await standing()).centre.x).toBeGreaterThan(before.centre.x + 10);
  await perch.keyboard.press('Control+z');
  await expect.poll(async () => (await standing()).centre).toEqual(before.centre);
  await perch.keyboard.press('Escape');
  await perch.keyboard.press('Escape');

  // A held key turns what is under the pointer.
  await perch.mouse.move(middle.x + 20, middle.y);
  await perch.keyboard.down('r');
  await perch.mouse.down();
  await perch.mouse.move(middle.x + 20, middle.y + 30, { steps: 4 });
  await perch.mouse.up();
  await perch.keyboard.up('r');
  await expect.poll(async () => (await standing()).turn).not.toBe(0);
  expect((await standing()).centre).toEqual(before.centre);
  await perch.keyboard.press('Control+z');
  await expect.poll(async () => (await standing()).turn).toBe(0);

  // And the trim marks what is kept, there as on the board.
  await perch.mouse.move(middle.x + 5, middle.y);
  await perch.keyboard.press('t');
  await perch.mouse.move(middle.x - 20, middle.y - 15);
  await perch.mouse.down();
  await perch.mouse.move(middle.x + 20, middle.y + 15, { steps: 4 });
  await perch.mouse.up();
  await expect.poll(async () => (await standing()).trim.width).toBeLessThan(1);
  await perch.keyboard.press('Escape');
  await expect(page.locator('.is-trimming')).toHaveCount(0);
  await perch.close();
});
