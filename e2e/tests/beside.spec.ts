import type { Page } from '@playwright/test';
import { byName, lookAt, openBoard, saved, stageReady, TestBoard } from '../support/board.ts';
import { testPicture } from '../support/pictures.ts';
import { expect, test } from '../support/test.ts';

const paneOf = (page: Page, name: string) => page.getByRole('region', { name, exact: true });

/** Drags a tab to a share of the width of what the boards fill. */
async function dragTab(page: Page, name: string, share: number): Promise<void> {
  const tab = page.getByRole('navigation', { name: 'Open boards' }).getByRole('link', { name });
  const from = (await tab.boundingBox())!;
  const { width, height } = page.viewportSize()!;
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  const to = { x: 34 + share * (width - 34), y: height / 2 };
  for (const step of [0.2, 0.6, 0.9, 1])
    await page.mouse.move(from.x + (to.x - from.x) * step, from.y + (to.y - from.y) * step);
  await page.mouse.move(to.x + 1, to.y);
  await page.mouse.up();
}

/** Two boards that stand open, the second in front; each with one picture in its middle. */
async function twoOpen(page: Page, address: string, of = ''): Promise<[TestBoard, TestBoard]> {
  const hull = await TestBoard.create(address, `Hull${of}`);
  await hull.placeFiles([{ id: 'h', name: 'hull.jpg', bytes: await testPicture(9_201) }]);
  const lamp = await TestBoard.create(address, `Lamp${of}`);
  await lamp.placeFiles([{ id: 'l', name: 'lamp.jpg', bytes: await testPicture(9_202) }]);
  await openBoard(page, hull);
  await openBoard(page, lamp);
  return [hull, lamp];
}

test('a tab dragged to an edge lays its board beside; keys act on the one that was pressed last, each has its camera', async ({
  page,
  running,
}) => {
  const [hull, lamp] = await twoOpen(page, running.address);
  await dragTab(page, 'Hull', 0.95);
  await expect(paneOf(page, 'Hull')).toBeVisible();
  await expect(page).toHaveURL(`${hull.url}?panes=${lamp.id},${hull.id}`);
  const [left, right] = [
    (await paneOf(page, 'Lamp').boundingBox())!,
    (await paneOf(page, 'Hull').boundingBox())!,
  ];
  expect(left.x + left.width).toBeLessThanOrEqual(right.x + 1);
  expect(Math.abs(left.width - right.width)).toBeLessThan(3);
  await stageReady(page);

  // The one that was laid there is in front: keys are its.
  await lookAt(page, { centre: { x: 0, y: 0 }, scale: 0.5 });
  await page.mouse.click(right.x + right.width / 2, right.y + right.height / 2);
  await page.keyboard.press('x');
  await saved(page);
  expect(await hull.item('h')).toMatchObject({ flipX: true });
  expect(await lamp.item('l')).toMatchObject({ flipX: false });

  // A press on the other brings it to the front, and does there what it would.
  await page.mouse.click(left.x + left.width / 2, left.y + left.height / 2);
  await expect(page).toHaveURL(`${lamp.url}?panes=${lamp.id},${hull.id}`);
  await page.keyboard.press(']');
  await saved(page);
  expect(await lamp.item('l')).toMatchObject({ turn: 90 });
  expect(await hull.item('h')).toMatchObject({ turn: 0 });
  await page.keyboard.press('Control+z');
  await saved(page);
  expect(await lamp.item('l')).toMatchObject({ turn: 0 });

  // Zoomed here, the other stays as it was; and back by a key.
  const scaleNow = () => page.evaluate(() => window.miraderoStage!.camera.scale);
  await page.keyboard.press('1');
  expect(await scaleNow()).toBe(1);
  await lookAt(page, { centre: { x: 0, y: 0 }, scale: 1 });
  await page.keyboard.press('Alt+n');
  await expect(page).toHaveURL(`${hull.url}?panes=${lamp.id},${hull.id}`);
  await expect.poll(scaleNow).toBe(0.5);
  await page.keyboard.press('0');

  // What is dragged over to the other stands there, too, where it was let go.
  await lookAt(page, { centre: { x: 0, y: 0 }, scale: 0.5 });
  await page.mouse.move(right.x + right.width / 2, right.y + right.height / 2);
  await page.mouse.down();
  await page.mouse.move(left.x + left.width / 2, left.y + 200, { steps: 8 });
  await page.mouse.move(left.x + left.width / 2, left.y + left.height / 2 + 200);
  await page.mouse.up();
  await expect.poll(async () => (await lamp.standing()).length).toBe(2);
  const copy = (await lamp.standing()).find(({ id }) => id !== 'l')!;
  expect(copy.centre.x).toBeCloseTo(0, -1);
  expect(copy.centre.y).toBeGreaterThan(100);
  expect(await hull.item('h')).toMatchObject({ centre: { x: 0, y: 0 } });

  // A reload shows the same; taken away, one stands alone and the tab stays.
  await page.reload();
  await expect(paneOf(page, 'Lamp')).toBeVisible();
  await page.getByRole('button', { name: 'Take Hull from beside the others' }).click();
  await expect(page).toHaveURL(lamp.url);
  await expect(page.getByRole('link', { name: 'Hull' })).toBeVisible();
});

test('a file comes in on the board of several on which it is dropped; one is laid beside by its name', async ({
  page,
  running,
}) => {
  const [hull, lamp] = await twoOpen(page, running.address, ' again');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('beside');
  await page.getByRole('option', { name: /Hull again.*beside this one/ }).click();
  await expect(paneOf(page, 'Hull again')).toBeVisible();
  await expect(paneOf(page, 'Lamp again')).toBeVisible();
  await page.mouse.click(200, 300);
  await expect(page).toHaveURL(new RegExp(`^${lamp.url}\\?`));
  const bytes = [...(await testPicture(9_203))];
  const box = (await paneOf(page, 'Hull again').boundingBox())!;
  await page.evaluate(
    ({ bytes, x, y }) => {
      const data = new DataTransfer();
      data.items.add(new File([new Uint8Array(bytes)], 'ramp.jpg', { type: 'image/jpeg' }));
      const at = { dataTransfer: data, bubbles: true, cancelable: true, clientX: x, clientY: y };
      document.elementFromPoint(x, y)!.dispatchEvent(new DragEvent('drop', at));
    },
    { bytes, x: box.x + 100, y: box.y + 120 },
  );
  await expect.poll(async () => (await hull.standing()).length).toBe(2);
  expect(await lamp.standing()).toHaveLength(1);

  // A narrow window has room for the one in front; made wide again it shows both.
  const { width, height } = page.viewportSize()!;
  await page.setViewportSize({ width: 390, height });
  await expect(page.locator('.stage')).toHaveCount(1);
  await page.setViewportSize({ width, height });
  await expect(page.locator('.stage')).toHaveCount(2);

  // Its tab closed, it is beside no more.
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Close Hull again' }).click();
  await expect(paneOf(page, 'Hull again')).toHaveCount(0);
  await expect(page.locator('.stage')).toHaveCount(1);
});

test('a key that follows a press at once means the board that was pressed, before it is drawn in front', async ({
  page,
  running,
}) => {
  const [hull, lamp] = await twoOpen(page, running.address, ' at once');
  await page.goto(`${hull.url}?panes=${hull.id},${lamp.id}`);
  await expect(page.locator('[data-stage="sharp"]')).toHaveCount(2);
  const at = async (name: string) => {
    const { x, y, width, height } = (await paneOf(page, name).boundingBox())!;
    return { clientX: x + width / 2, clientY: y + height / 2 };
  };
  const to = await at('Lamp at once');
  // Press, release and key in one go of the page: nothing can be drawn between.
  await page.evaluate(({ clientX, clientY }) => {
    const canvas = document.elementFromPoint(clientX, clientY)!;
    const how = { clientX, clientY, bubbles: true, pointerId: 1, pointerType: 'mouse', isPrimary: true };
    // No hand of the system presses here: there is nothing to capture.
    (canvas.parentElement as HTMLElement).setPointerCapture = () => {};
    canvas.dispatchEvent(new PointerEvent('pointerdown', { ...how, button: 0, buttons: 1 }));
    canvas.dispatchEvent(new PointerEvent('pointerup', { ...how, button: 0, buttons: 0 }));
    window.dispatchEvent(new KeyboardEvent('keydown', { key: 'x', code: 'KeyX', bubbles: true }));
  }, to);
  await expect.poll(async () => await lamp.item('l')).toMatchObject({ flipX: true });
  expect(await hull.item('h')).toMatchObject({ flipX: false });
});

test('the line between two boards is dragged; they stand one above the other, look around together and are mirrored together', async ({
  page,
  running,
}) => {
  const [, lamp] = await twoOpen(page, running.address, ', together');
  await dragTab(page, 'Hull, together', 0.95);
  await stageReady(page);
  const boxOf = async (name: string) => (await paneOf(page, `${name}, together`).boundingBox())!;
  const line = page.getByRole('separator', { name: 'Between two boards' });
  const { x, y, width, height } = (await line.boundingBox())!;
  await page.mouse.move(x + width / 2, y + height / 2);
  await page.mouse.down();
  await page.mouse.move(x - 200, y + height / 2, { steps: 5 });
  await page.mouse.up();
  const [left, right] = [await boxOf('Lamp'), await boxOf('Hull')];
  expect(right.width - left.width).toBeGreaterThan(300);
  await line.press('ArrowRight');
  expect((await boxOf('Lamp')).width).toBeGreaterThan(left.width + 20);
  // By a pen, and by a finger.
  const session = await page.context().newCDPSession(page);
  const lineAt = async () => {
    const { x, y, width, height } = (await line.boundingBox())!;
    return { x: x + width / 2, y: y + height / 2 };
  };
  const pen = (type: 'mousePressed' | 'mouseMoved' | 'mouseReleased', x: number, y: number) =>
    session.send('Input.dispatchMouseEvent', {
      ...{ type, x, y, button: 'left', buttons: 1, clickCount: 1, pointerType: 'pen' },
    });
  const atPen = await lineAt();
  await pen('mousePressed', atPen.x, atPen.y);
  for (const by of [30, 60, 90]) await pen('mouseMoved', atPen.x + by, atPen.y);
  await pen('mouseReleased', atPen.x + 90, atPen.y);
  await expect.poll(async () => Math.round((await lineAt()).x - atPen.x)).toBe(90);
  const atFinger = await lineAt();
  const finger = (type: 'touchStart' | 'touchMove' | 'touchEnd', x?: number) =>
    session.send('Input.dispatchTouchEvent', {
      type,
      touchPoints: x === undefined ? [] : [{ x, y: atFinger.y }],
    });
  await finger('touchStart', atFinger.x);
  for (const by of [20, 40, 60]) await finger('touchMove', atFinger.x - by);
  await finger('touchEnd');
  await expect.poll(async () => Math.round((await lineAt()).x - atFinger.x)).toBe(-60);

  await byName(page, 'one above the other');
  await expect.poll(async () => (await boxOf('Hull')).y).toBeGreaterThan((await boxOf('Lamp')).y + 100);
  await page.reload();
  await stageReady(page);
  expect((await boxOf('Hull')).y).toBeGreaterThan((await boxOf('Lamp')).y + 100);

  // Linked, what is done to one camera is done to the other, by the same way on the screen.
  const scaleInFront = () => page.evaluate(() => window.miraderoStage!.camera.scale);
  await page.keyboard.press('Shift+S');
  await expect(page.getByText('The boards look around together.')).toBeVisible();
  const before = await scaleInFront();
  await page.evaluate(() => {
    const { centre, scale } = window.miraderoStage!.camera;
    window.miraderoStage!.setCamera({ centre: { x: centre.x + 10, y: centre.y }, scale: scale * 2 });
  });
  await page.keyboard.press('Alt+n');
  await expect(page).toHaveURL(new RegExp(`/boards/${lamp.id}`));
  await expect.poll(async () => (await scaleInFront()) / before).toBeCloseTo(2, 5);

  await page.keyboard.press('Shift+H');
  const lensesInFront = () => page.evaluate(() => window.miraderoStage!.lensesNow.map(({ lens }) => lens));
  await expect.poll(lensesInFront).toEqual(['mirror']);
  await page.keyboard.press('Alt+n');
  await expect(page).not.toHaveURL(new RegExp(`/boards/${lamp.id}`));
  await expect.poll(lensesInFront).toEqual(['mirror']);
  await page.keyboard.press('Shift+H');
  await expect.poll(lensesInFront).toEqual([]);
  await page.keyboard.press('Alt+n');
  await expect(page).toHaveURL(new RegExp(`/boards/${lamp.id}`));
  await expect.poll(lensesInFront).toEqual([]);
});
