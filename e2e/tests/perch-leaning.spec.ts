import type { Page } from '@playwright/test';
import { clickOnBoard, openBoard, TestBoard } from '../support/board.ts';
import { keptArrangement, openPerch, perchRests, tapKey, zoomOf } from '../support/perch.ts';
import { expect, test } from '../support/test.ts';

/** Where the corners of everything shown are in the window, CSS pixels. */
const cornersShown = (perch: Page) =>
  perch.evaluate(() => {
    const view = window.miraderoPanes!.get('a')!;
    const { x, y, width, height } = view.feed.extent!;
    const { camera, viewport } = view;
    return [
      [x, y],
      [x + width, y],
      [x, y + height],
      [x + width, y + height],
    ].map(([cornerX, cornerY]) =>
      view.onPage({
        x: (cornerX! - camera.centre.x) * camera.scale + viewport.width / 2,
        y: (cornerY! - camera.centre.y) * camera.scale + viewport.height / 2,
      }),
    );
  });

/** A point of the board, CSS pixels of the window. */
const inPerch = (perch: Page, point: { x: number; y: number }) =>
  perch.evaluate(({ x, y }) => {
    const view = window.miraderoPanes!.get('a')!;
    const { camera, viewport } = view;
    return view.onPage({
      x: (x - camera.centre.x) * camera.scale + viewport.width / 2,
      y: (y - camera.centre.y) * camera.scale + viewport.height / 2,
    });
  }, point);

test('a view leans by any angle: all of it stays in sight, what is read there is what is there, edges are those of the window', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch leaning');
  const [picture] = await board.place([3]);
  await openBoard(page, board);
  const perch = await openPerch(page);
  const at = { x: picture!.centre.x - 90, y: picture!.centre.y + 40 };
  const read = async () => {
    await perch.keyboard.press('Escape');
    const { x, y } = await inPerch(perch, at);
    await perch.mouse.move(x, y);
    await tapKey(perch, 'k');
    await perch.getByTestId('colour').waitFor();
    return perch.getByTestId('colour').innerText();
  };
  const upright = await read();
  await perch.keyboard.press('Escape');
  for (let press = 0; press < 7; press += 1) await perch.keyboard.press('Alt+]');
  await expect.poll(async () => (await keptArrangement(page, board)).panes.a!.orientation.degrees).toBe(35);
  await perch.keyboard.press('0');
  await perchRests(perch);
  for (const { x, y } of await cornersShown(perch)) {
    expect(x).toBeGreaterThanOrEqual(0);
    expect(y).toBeGreaterThanOrEqual(0);
    expect(x).toBeLessThanOrEqual(480);
    expect(y).toBeLessThanOrEqual(360);
  }
  expect(await read()).toBe(upright);
  await perch.keyboard.press('Escape');
  await perch.keyboard.press('Alt+m');
  expect(await read()).toBe(upright);
  await perch.keyboard.press('Escape');

  // Seen in the mirror and turned the right edge is still where a pen zooms.
  const session = await perch.context().newCDPSession(perch);
  const pen = (type: 'mousePressed' | 'mouseMoved' | 'mouseReleased', x: number, y: number) =>
    session.send('Input.dispatchMouseEvent', {
      ...{ type, x, y, pointerType: 'pen', force: 0.5, buttons: type === 'mouseReleased' ? 0 : 1 },
      ...(type === 'mouseMoved' ? {} : { button: 'left', clickCount: 1 }),
    });
  const before = Number.parseFloat(await zoomOf(perch));
  await pen('mousePressed', 474, 200);
  for (const y of [160, 120, 80]) await pen('mouseMoved', 474, y);
  await pen('mouseReleased', 474, 80);
  await expect.poll(async () => Number.parseFloat(await zoomOf(perch))).toBeGreaterThan(before * 1.3);

  await perch.keyboard.press('Alt+a');
  await expect.poll(async () => (await keptArrangement(page, board)).panes.a!.orientation.degrees).toBe(0);
  await perch.close();
});

test('what the key opens is set for a board: all of it, what was shown last, or its working set', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch opens');
  const [one] = await board.place([1, 2]);
  const plain = { removed: false, turn: 0, opacity: 1, centre: { x: 0, y: 0 }, width: 1 };
  await board.change([
    { create: { ...plain, kind: 'working-set', id: 'w', stack: 'b0', title: 'Lamp', members: ['p2'] } },
  ]);
  await openBoard(page, board);
  let perch = await openPerch(page);
  const shown = async () => (await keptArrangement(page, board)).panes.a!.shows.kind;
  const set = async (words: string) => {
    await perch.mouse.move(200, 100);
    await perch.mouse.move(200, 352);
    await perch.getByRole('button', { name: 'more' }).click();
    await perch.getByRole('radio', { name: words }).click();
    await perch.keyboard.press('Escape');
    // Kept a moment later.
    await perch.waitForTimeout(400);
  };
  const press = async () => {
    await page.bringToFront();
    const closing = perch.waitForEvent('close');
    await page.keyboard.press('p');
    await closing;
    perch = await openPerch(page);
  };
  await set('the working set');
  await perch.close();
  perch = await openPerch(page);
  await expect.poll(shown).toBe('stage');
  await expect(perch.getByRole('heading', { name: 'Lamp' })).toHaveCount(1);
  // Pressed again it closes: it shows what the key means.
  await press();
  expect(await shown()).toBe('stage');
  // What is selected is always meant by it.
  await page.bringToFront();
  await clickOnBoard(page, one!.centre);
  await page.keyboard.press('p');
  await expect.poll(shown).toBe('items');
  await page.keyboard.press('Escape');
  await set('what it showed last');
  await press();
  expect(await shown()).toBe('items');
  await set('the board');
  await perch.close();
  perch = await openPerch(page);
  await expect.poll(shown).toBe('board');
  await perch.close();
});
