import type { Placement } from '@miradero/core/schema';
import type { CDPSession, Page } from '@playwright/test';
import sharp from 'sharp';
import {
  cameraOf,
  clickOnBoard,
  colourAt,
  dragOnBoard,
  lookAt,
  onPage,
  openBoard,
  saved,
  TestBoard,
} from '../support/board.ts';
import { expect, test } from '../support/test.ts';

const near = (x: number, y: number) => ({ x: expect.closeTo(x, 6), y: expect.closeTo(y, 6) });
const item = async (board: TestBoard, id: string) => (await board.item(id)) as Placement;

test.describe('lining up', () => {
  test('brings edges together within reach, shows along what, and not with Alt', async ({
    page,
    running,
  }) => {
    const board = await TestBoard.create(running.address, 'guides');
    await board.place([1, 2]);
    await openBoard(page, board);
    // p2 stands at (170, 0), its lower edge at 100. The upper edge of p1 comes within 3 of it.
    const start = await onPage(page, { x: -170, y: 0 });
    const drag = async () => {
      await page.mouse.move(start.x, start.y);
      await page.mouse.down();
      await page.mouse.move(start.x + 20, start.y + 150, { steps: 4 });
      await page.mouse.move(start.x + 20, start.y + 197, { steps: 2 });
    };
    await drag();
    const warmth = async () => {
      const [r, , b] = await colourAt(page, { x: 10, y: 100 });
      return r - b;
    };
    await expect.poll(warmth).toBeGreaterThan(60);
    await page.mouse.up();
    await saved(page);
    expect((await item(board, 'p1')).centre).toEqual(near(-150, 200));
    expect(await warmth()).toBeLessThan(10);
    await page.keyboard.press('Control+z');
    await saved(page);

    await page.keyboard.down('Alt');
    await drag();
    await page.mouse.up();
    await page.keyboard.up('Alt');
    await saved(page);
    expect((await item(board, 'p1')).centre).toEqual(near(-150, 197));
  });

  test('makes gaps equal', async ({ page, running }) => {
    const board = await TestBoard.create(running.address, 'gaps');
    await board.place([1, 2, 3]);
    await openBoard(page, board);
    await lookAt(page, { centre: { x: 100, y: 0 }, scale: 0.7 });
    // The gap between the others is 40; p3 is dragged to 43 beside them and falls into place.
    await dragOnBoard(page, { x: 340, y: 0 }, { x: 345, y: 4 });
    await saved(page);
    expect((await item(board, 'p3')).centre).toEqual(near(340, 0));
  });
});

test('several are turned, mirrored and sized about their common centre', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'several');
  await board.place([1, 2]);
  await openBoard(page, board);
  await page.keyboard.press('Control+a');
  await page.keyboard.press(']');
  await saved(page);
  let [one, two] = [await item(board, 'p1'), await item(board, 'p2')];
  expect(one).toMatchObject({ centre: near(0, -170), turn: 90 });
  expect(two).toMatchObject({ centre: near(0, 170), turn: 90 });
  await page.keyboard.press('Shift+X');
  await saved(page);
  [one, two] = [await item(board, 'p1'), await item(board, 'p2')];
  expect([one.centre.y, one.turn, one.flipY]).toEqual([expect.closeTo(170, 6), -90, true]);
  await page.keyboard.press('Shift+Period');
  await saved(page);
  two = await item(board, 'p2');
  expect([two.centre.y, two.width]).toEqual([expect.closeTo(-187, 6), expect.closeTo(330, 6)]);
});

test('what a key means is outlined: with nothing selected it acts on the picture under the pointer', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'under the pointer');
  await board.place([1, 2]);
  await openBoard(page, board);
  const at = await onPage(page, { x: 170, y: 20 });
  await page.mouse.move(at.x, at.y, { steps: 2 });
  await page.keyboard.press(']');
  await saved(page);
  expect((await item(board, 'p2')).turn).toBe(90);
  expect((await item(board, 'p1')).turn).toBe(0);
});

test('cursors tell what a press would do', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'cursors');
  await board.place([1]);
  await openBoard(page, board);
  await clickOnBoard(page, { x: 0, y: 0 });
  const cursor = async (x: number, y: number) => {
    const at = await onPage(page, { x, y });
    await page.mouse.move(at.x + 1, at.y);
    await page.mouse.move(at.x, at.y);
    return page.evaluate(() => window.miraderoStage!.canvas.style.cursor);
  };
  expect(await cursor(150, 100)).toBe('nwse-resize');
  expect(await cursor(-150, 100)).toBe('nesw-resize');
  // Handles reach 6 pixels to each side at least.
  expect(await cursor(150 + 6, 100 - 6)).toBe('nwse-resize');
  expect(await cursor(0, 126)).toMatch(/^url\(/);
  expect(await cursor(20, 20)).toBe('move');
  expect(await cursor(300, 200)).toBe('');
});

test('what has become a dot can still be taken; nothing else is larger than it looks', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'dots');
  await board.place([1]);
  await openBoard(page, board);
  // What can be done with a selection stands on the sill.
  const offered = page.locator('footer').getByRole('button', { name: 'come close' });
  await clickOnBoard(page, { x: 0, y: -90 });
  await expect(offered).toBeVisible();
  await clickOnBoard(page, { x: 0, y: -104 });
  await expect(offered).toBeHidden();
  // Six pixels wide and four high: three above it is near enough.
  await lookAt(page, { centre: { x: 0, y: 0 }, scale: 0.02 });
  await clickOnBoard(page, { x: 0, y: -250 });
  await expect(offered).toBeVisible();
});

test('handles are seen on black, on white and on a busy picture', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'readable');
  const flat = (background: string) =>
    sharp({ create: { width: 300, height: 200, channels: 3, background } })
      .png()
      .toBuffer();
  const noise = Buffer.from(
    Array.from({ length: 300 * 200 * 3 }, (_, at) => (Math.imul(at + 7, 2_654_435_761) >>> 24) & 255),
  );
  await board.placeFiles([
    { id: 'black', name: 'black.png', bytes: await flat('#000000') },
    { id: 'white', name: 'white.png', bytes: await flat('#ffffff') },
    {
      ...{ id: 'busy', name: 'busy.png' },
      bytes: await sharp(noise, { raw: { width: 300, height: 200, channels: 3 } })
        .png()
        .toBuffer(),
    },
  ]);
  await openBoard(page, board);
  for (const [index, name] of ['black', 'white', 'busy'].entries()) {
    const middle = (index - 1) * 340;
    await clickOnBoard(page, { x: middle, y: 0 });
    // Dark beside light along the edge: whatever lies under it, one of them differs from it.
    await expect(async () => {
      const across: number[] = [];
      for (let x = 147; x <= 153; x += 1) across.push((await colourAt(page, { x: middle + x, y: 20 }))[1]);
      expect(Math.max(...across), name).toBeGreaterThan(200);
      expect(Math.min(...across), name).toBeLessThan(60);
    }).toPass({ timeout: 60_000 });
    // The handle of the corner, too: a tick outside of it, on the surround.
    const corner: number[] = [];
    for (let away = -8; away <= 8; away += 1)
      corner.push((await colourAt(page, { x: middle + 150 + away, y: 100 + away }))[1]);
    expect(Math.max(...corner) - Math.min(...corner), name).toBeGreaterThan(120);
  }
});

test('zoom steps, 100 % and the selection in view by keys', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'zoom keys');
  await board.place([1, 2]);
  await openBoard(page, board);
  const scale = async () => (await cameraOf(page)).scale;
  await page.keyboard.press('=');
  await expect.poll(scale).toBeCloseTo(2 ** 0.25, 4);
  await page.keyboard.press('-');
  await expect.poll(scale).toBeCloseTo(1, 4);
  await lookAt(page, { centre: { x: 500, y: 500 }, scale: 0.3 });
  await page.keyboard.press('1');
  await expect.poll(scale).toBeCloseTo(1, 4);
  await page.keyboard.press('Control+a');
  await page.keyboard.press('2');
  await expect.poll(async () => (await cameraOf(page)).centre).toEqual({ x: 0, y: 0 });
});

test('Z and a drag zoom at where the drag began; a tap of it says so', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'zoom drag');
  await board.place([1]);
  await openBoard(page, board);
  await page.keyboard.down('z');
  await page.mouse.move(500, 400);
  await page.mouse.down();
  await page.mouse.move(640, 400, { steps: 4 });
  await page.mouse.up();
  await page.keyboard.up('z');
  expect((await cameraOf(page)).scale).toBeCloseTo(2, 2);
  expect(((await board.item('p1')) as Placement).centre).toEqual({ x: 0, y: 0 });
  await page.keyboard.press('z');
  await expect(page.getByText('Hold the key and drag right')).toBeVisible();
});

test('two fingers on a trackpad scroll the board; a wheel zooms it', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'trackpad scroll');
  await board.place([1]);
  await openBoard(page, board);
  const before = await cameraOf(page);
  await page.evaluate(() => {
    const stage = window.miraderoStage!.canvas.parentElement!;
    const init = {
      deltaX: 12,
      deltaY: 30,
      wheelDeltaX: -36,
      wheelDeltaY: -90,
      bubbles: true,
      cancelable: true,
    };
    stage.dispatchEvent(new WheelEvent('wheel', init));
  });
  const after = await cameraOf(page);
  expect(after.scale).toBe(before.scale);
  expect(after.centre).toEqual({ x: before.centre.x + 12, y: before.centre.y + 30 });
});

/** A pen, as the system reports one. */
async function pen(session: CDPSession, type: string, x: number, y: number, force = 0.5): Promise<void> {
  await session.send('Input.dispatchMouseEvent', {
    type: type as 'mousePressed',
    x,
    y,
    button: type === 'mouseMoved' && force === 0 ? 'none' : 'left',
    buttons: force === 0 ? 0 : 1,
    clickCount: 1,
    pointerType: 'pen',
    force,
  });
}

async function penDrag(page: Page, from: [number, number], to: [number, number]): Promise<void> {
  const session = await page.context().newCDPSession(page);
  await pen(session, 'mouseMoved', ...from, 0);
  await pen(session, 'mousePressed', ...from);
  for (let step = 1; step <= 5; step += 1) {
    const part = step / 5;
    await pen(session, 'mouseMoved', from[0] + (to[0] - from[0]) * part, from[1] + (to[1] - from[1]) * part);
  }
  await pen(session, 'mouseReleased', ...to, 0);
}

test('a pen alone zooms along the right edge and pans along the lower one; inside it moves pictures', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'pen');
  await board.place([1]);
  await openBoard(page, board);
  const { left, top, width, height } = await page.evaluate(() => {
    const { left, top, width, height } = window.miraderoStage!.canvas.getBoundingClientRect();
    return { left, top, width, height };
  });
  await penDrag(page, [left + width - 8, top + 500], [left + width - 8, top + 360]);
  expect((await cameraOf(page)).scale).toBeCloseTo(2, 2);
  await penDrag(page, [left + 300, top + height - 8], [left + 400, top + height - 8]);
  expect((await cameraOf(page)).centre.x).toBeCloseTo(-50, 3);
  const at = await onPage(page, { x: 0, y: 0 });
  await penDrag(page, [at.x, at.y], [at.x + 130, at.y + 90]);
  await saved(page);
  expect((await item(board, 'p1')).centre).toEqual(near(65, 45));
});

test('a finger that is held still asks what can be done; a tap on a word does it', async ({
  chromium,
  running,
}) => {
  const context = await chromium.newContext({ viewport: { width: 1024, height: 700 }, hasTouch: true });
  const page = await context.newPage();
  const board = await TestBoard.create(running.address, 'long press');
  await board.place([1]);
  await openBoard(page, board);
  const session = await context.newCDPSession(page);
  const { x, y } = await onPage(page, { x: 0, y: 20 });
  await session.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: [{ x, y }] });
  await page.waitForTimeout(700);
  await session.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  const card = page.getByRole('region', { name: 'What can be done here' });
  await expect(card).toBeVisible();
  const flip = card.getByRole('button', { name: 'flip' });
  expect((await flip.boundingBox())!.height).toBeGreaterThanOrEqual(40);
  await flip.tap();
  await expect(card).toBeHidden();
  await saved(page);
  expect(((await board.item('p1')) as Placement).flipX).toBe(true);
  await context.close();
});

test('a finger grasps a corner within 20 pixels, a mouse within 8', async ({ chromium, running }) => {
  const context = await chromium.newContext({ viewport: { width: 1024, height: 700 }, hasTouch: true });
  const page = await context.newPage();
  const board = await TestBoard.create(running.address, 'reach');
  await board.place([1]);
  await openBoard(page, board);
  await clickOnBoard(page, { x: 0, y: 20 });
  const session = await context.newCDPSession(page);
  const corner = await onPage(page, { x: 150, y: 100 });
  const at = (away: number) => [{ x: corner.x + away, y: corner.y + away }];
  await session.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: at(18) });
  for (const away of [10, -20, -60]) {
    await session.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: at(away) });
  }
  await session.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  await saved(page);
  const { width } = await item(board, 'p1');
  expect(width).toBeLessThan(260);
  // A mouse as far away takes hold of nothing: it draws a band on the ground.
  const now = await onPage(page, { x: -150 + width, y: -100 + (width * 2) / 3 });
  await page.mouse.move(now.x + 18, now.y + 18);
  await page.mouse.down();
  await page.mouse.move(now.x - 60, now.y - 60, { steps: 4 });
  await page.mouse.up();
  await saved(page);
  expect((await item(board, 'p1')).width).toBe(width);
  await context.close();
});

test('a secondary click asks the same; Escape leaves it', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'secondary');
  await board.place([1]);
  await openBoard(page, board);
  const { x, y } = await onPage(page, { x: 0, y: 0 });
  await page.mouse.click(x, y, { button: 'right' });
  const card = page.getByRole('region', { name: 'What can be done here' });
  await expect(card.getByRole('button', { name: 'trim' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(card).toBeHidden();
});

test('the rail shows the values of the selection, and the value under the pointer', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'values');
  const [placement] = await board.place([1]);
  await openBoard(page, board);
  await clickOnBoard(page, { x: 0, y: 20 });
  await expect(page.getByTestId('silhouette')).toBeVisible();
  // The light square of the picture lies in its top left quarter: 10 % to 40 % of each side.
  const square = await onPage(page, { x: -150 + 300 * 0.25, y: -100 + 200 * 0.25 });
  await page.mouse.move(square.x, square.y, { steps: 3 });
  const value = () => page.getByTestId('pointer-value').getAttribute('data-value').then(Number);
  await expect.poll(value).toBeGreaterThan(7);
  const [r, g, b] = await colourAt(page, { x: -150 + 300 * 0.25, y: -100 + 200 * 0.25 });
  const linear = (level: number) =>
    level / 255 <= 0.04045 ? level / 255 / 12.92 : ((level / 255 + 0.055) / 1.055) ** 2.4;
  const luminance = 0.2126 * linear(r) + 0.7152 * linear(g) + 0.0722 * linear(b);
  // Munsell value lies near 10 · L* / 100; the exact equation is held by tests of core.
  expect(await value()).toBeCloseTo((116 * Math.cbrt(luminance) - 16) / 10, 0);
  const ground = await onPage(page, { x: 0, y: 200 });
  await page.mouse.move(ground.x, ground.y, { steps: 3 });
  await expect(page.getByTestId('pointer-value')).toBeHidden();
  expect(placement!.id).toBe('p1');
});
