import AxeBuilder from '@axe-core/playwright';
import type { Placement } from '@miradero/core/schema';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { onPage, openBoard, TestBoard } from '../support/board.ts';
import { placementsOf } from '../support/gathering.ts';
import {
  colourInPane,
  countPresses,
  isColoured,
  keptArrangement,
  markRivet,
  openPerch,
  perchRests,
  tapKey,
  zoomOf,
} from '../support/perch.ts';
import { expect, test } from '../support/test.ts';

const setOf = async (board: TestBoard) =>
  (await board.snapshot()).items.flatMap((item) =>
    item.kind === 'working-set' && !item.removed ? [{ title: item.title, members: item.members }] : [],
  );

test('panes part and close, each with its own camera, lens and ways of looking; a key brings all of it back after a reload', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch panes');
  await board.place([1, 2]);
  await openBoard(page, board);
  const perch = await openPerch(page);
  await perch.keyboard.press('Alt+b');
  await expect(perch.locator('[data-pane]')).toHaveCount(2);
  await perch.locator('[data-pane="b"] [data-stage="sharp"]').waitFor();
  // What is in front has the keys: a lens, the mirror, a fade and a camera of its own.
  await tapKey(perch, 'v');
  await perch.keyboard.press('Alt+m');
  await perch.keyboard.press('Alt+Shift+ArrowDown');
  await perch.keyboard.press('Alt+Equal');
  await perch.mouse.move(360, 180);
  await perch.mouse.wheel(0, -300);
  await expect.poll(async () => (await keptArrangement(page, board)).panes.b?.lenses.length).toBe(1);
  const { a, b } = (await keptArrangement(page, board)).panes;
  expect([a!.lenses, a!.opacity, a!.surround, a!.orientation.isMirrored]).toEqual([[], 1, null, false]);
  expect([b!.opacity, b!.surround, b!.orientation.isMirrored]).toEqual([0.9, 6, true]);
  // In pane b all is grey, in a it is not.
  const middle = { x: 60, y: 180 };
  await expect.poll(async () => isColoured(await colourInPane(perch, 'a', middle.x, middle.y))).toBe(true);
  for (let x = 10; x < 230; x += 20) expect(isColoured(await colourInPane(perch, 'b', x, 180))).toBe(false);

  await perch.keyboard.press('Alt+u');
  await perch.keyboard.press('Alt+n');
  await perch.keyboard.press('Alt+b');
  await expect(perch.locator('[data-pane]')).toHaveCount(4);
  await perch.keyboard.press('Alt+b');
  await expect(perch.getByRole('status').getByText('Four panes are all that fit.')).toBeVisible();
  await expect(perch.locator('[data-pane]')).toHaveCount(4);

  // A divider is dragged, and moved by keys.
  const divider = perch.getByRole('separator').first();
  const before = Number(await divider.getAttribute('aria-valuenow'));
  const box = (await divider.boundingBox())!;
  await perch.mouse.move(box.x + 2, box.y + 60);
  await perch.mouse.down();
  await perch.mouse.move(box.x + 92, box.y + 60, { steps: 4 });
  await perch.mouse.up();
  await expect
    .poll(async () => Number(await divider.getAttribute('aria-valuenow')))
    .toBeGreaterThan(before + 12);
  await divider.focus();
  const dragged = Number(await divider.getAttribute('aria-valuenow'));
  await divider.press('ArrowLeft');
  await expect.poll(async () => Number(await divider.getAttribute('aria-valuenow'))).toBe(dragged - 5);

  const keptShare = async () => {
    const [, share] = /"share":([\d.]+)/.exec(JSON.stringify((await keptArrangement(page, board)).tree))!;
    return Math.round(Number(share) * 100);
  };
  await expect.poll(keptShare).toBe(dragged - 5);
  const kept = await keptArrangement(page, board);
  const closed = perch.waitForEvent('close');
  await page.reload();
  await closed;
  await page.locator('[data-stage="sharp"]').first().waitFor();
  const again = await openPerch(page, 'Alt+Shift+P');
  await expect(again.locator('[data-pane]')).toHaveCount(4);
  await again.waitForTimeout(500);
  const { tree, panes, front } = await keptArrangement(page, board);
  expect([tree, front]).toEqual([kept.tree, kept.front]);
  for (const pane of Object.keys(kept.panes)) {
    expect(panes[pane]!.lenses.map(({ lens }) => lens)).toEqual(
      kept.panes[pane]!.lenses.map(({ lens }) => lens),
    );
    expect(panes[pane]!.orientation).toEqual(kept.panes[pane]!.orientation);
  }
  expect(panes.b!.camera!.scale).toBeCloseTo(kept.panes.b!.camera!.scale, 6);
  for (const left of [3, 2, 1]) {
    await again.keyboard.press('Alt+x');
    await expect(again.locator('[data-pane]')).toHaveCount(left);
  }
  const gone = again.waitForEvent('close');
  // It is gone before the key is let go.
  await again.keyboard.press('Alt+x').catch(() => {});
  await gone;
});

test('wheel and hover alone zoom, page and bring close; nothing takes the keyboard from the painting program', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch by hover');
  const placed = await board.place([1, 2, 3]);
  await markRivet(running.address, placed[0]!.picture, { at: 0.1, size: 0.3 });
  await openBoard(page, board);
  const perch = await openPerch(page);
  await perch.keyboard.press('Alt+h');
  await expect.poll(async () => (await keptArrangement(page, board)).isHoverLook).toBe(true);
  const presses = await countPresses(perch);
  const whole = await zoomOf(perch);
  // Rest on the last picture: it comes close; leave: it goes back.
  await perch.mouse.move(400, 178);
  await perch.mouse.move(402, 180);
  await expect.poll(() => zoomOf(perch)).not.toBe(whole);
  await perchRests(perch);
  const close = Number.parseFloat(await zoomOf(perch));
  // At the edge the one before comes, and the one before that.
  await perch.mouse.move(12, 180);
  await expect.poll(async () => (await colourInPane(perch, 'a', 330, 180)).join()).not.toBe('');
  await perch.mouse.move(240, 180);
  await perch.mouse.wheel(-120, 0);
  await perchRests(perch);
  // The wheel zooms at the pointer.
  await perch.mouse.wheel(0, -240);
  await expect.poll(async () => Number.parseFloat(await zoomOf(perch))).toBeGreaterThan(close);
  await perch.evaluate(() =>
    document
      .querySelector('.stage')!
      .dispatchEvent(new PointerEvent('pointerleave', { pointerType: 'mouse' })),
  );
  await expect.poll(() => zoomOf(perch)).toBe(whole);
  // A marked region comes closer than its picture.
  await perch.mouse.move(38, 158);
  await perch.mouse.move(40, 160);
  await expect.poll(async () => Number.parseFloat(await zoomOf(perch))).toBeGreaterThan(close * 1.8);
  expect(await presses()).toBe(0);
  await perch.close();
});

test('a working set holds few pictures; the perch shows just these, stage by stage, and what is done there is done on the board', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch stages');
  await board.place([1, 2, 3, 4]);
  await openBoard(page, board);
  await page.evaluate(() => window.miraderoStage!.setCamera({ centre: { x: 0, y: 0 }, scale: 0.6 }));
  for (const index of [0, 1, 2]) {
    await page.mouse.click(657 + (index - 1.5) * 340 * 0.6, 396);
    await page.keyboard.press('s');
  }
  await expect.poll(async () => (await setOf(board))[0]?.members).toEqual(['p1', 'p2', 'p3']);
  // A fourth asks which one leaves.
  await page.mouse.click(657 + 1.5 * 340 * 0.6, 396);
  await page.keyboard.press('s');
  const asking = page.getByRole('region', { name: 'Which picture leaves the working set?' });
  await asking.getByRole('button', { name: 'picture 2 leaves' }).click();
  await expect.poll(async () => (await setOf(board))[0]?.members).toEqual(['p1', 'p3', 'p4']);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await setOf(board))[0]?.members).toEqual(['p1', 'p2', 'p3']);

  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  const perch = await openPerch(page);
  await perch.keyboard.press('Alt+s');
  await expect.poll(async () => (await keptArrangement(page, board)).panes.a!.shows.kind).toBe('stage');
  await perch.locator('[data-stage="sharp"]').first().waitFor();
  // Three of them fill the window: nothing of the fourth is there, and there is little ground.
  await expect(perch.getByRole('heading', { name: 'Start' })).toHaveCount(1);
  const isGround = ([r, g, b]: number[]) =>
    Math.abs(r! - 121) < 3 && Math.abs(g! - 121) < 3 && Math.abs(b! - 121) < 3;
  let ground = 0;
  for (let x = 5; x < 480; x += 19)
    for (let y = 5; y < 360; y += 17) if (isGround(await colourInPane(perch, 'a', x, y))) ground += 1;
  expect(ground / (25 * 21)).toBeLessThan(0.35);

  // A flip and a trim of what is selected here are made there; places stay.
  const before = (await placementsOf(board)).find(({ id }) => id === 'p1')!;
  await perch.mouse.click(100, 60);
  await perch.keyboard.press('x');
  const onBoard = async (): Promise<Placement> => (await placementsOf(board)).find(({ flipX }) => flipX)!;
  await expect.poll(async () => (await onBoard())?.flipX).toBe(true);
  const flipped = await onBoard();
  expect(flipped.centre).toEqual((await placementsOf(board)).find(({ id }) => id === flipped.id)!.centre);
  expect(before.centre).toEqual((await placementsOf(board)).find(({ id }) => id === 'p1')!.centre);
  await perch.keyboard.press('Control+z');
  await expect.poll(onBoard).toBeUndefined();
  // What is pasted here comes onto the board and into the set.
  await perch.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/plain', 'Rivets in twos');
    document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }));
  });
  await expect.poll(async () => (await setOf(board))[0]?.members.length).toBe(4);
  expect((await board.standing()).filter(({ kind }) => kind === 'note')).toHaveLength(1);
  // S takes one out of it, here, too.
  await perch.keyboard.press('Escape');
  await perch.mouse.move(100, 60);
  await perch.keyboard.press('s');
  await expect.poll(async () => (await setOf(board))[0]?.members.length).toBe(3);
  await perch.close();
});

test('what is selected is shown alone by the same key, and the perch follows what is selected when it is asked to', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch of a selection');
  await board.place([1, 2]);
  await openBoard(page, board);
  await page.mouse.click(657 - 170, 396);
  const perch = await openPerch(page);
  expect((await keptArrangement(page, board)).panes.a!.shows).toMatchObject({ kind: 'items', items: ['p1'] });
  // It fills the window from side to side.
  await expect.poll(async () => isColoured(await colourInPane(perch, 'a', 6, 180))).toBe(true);
  await expect.poll(async () => isColoured(await colourInPane(perch, 'a', 473, 180))).toBe(true);
  await page.bringToFront();
  await page.keyboard.press('Alt+f');
  await page.mouse.click(657 + 170, 396);
  await expect.poll(async () => (await keptArrangement(page, board)).panes.a!.shows.items).toEqual(['p2']);
  await page.keyboard.press('Alt+f');
  await page.mouse.click(657 - 170, 396);
  await page.waitForTimeout(400);
  expect((await keptArrangement(page, board)).panes.a!.shows.items).toEqual(['p2']);
  await perch.close();
});

test('a colour read in the perch is that of the original, whatever it is seen through, and what is shown is that colour', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch colour');
  const colour = { r: 37, g: 142, b: 209 };
  const bytes = await sharp({ create: { width: 300, height: 200, channels: 3, background: colour } })
    .png()
    .toBuffer();
  await board.placeFiles([{ id: 'flat', name: 'flat.png', bytes }]);
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write'], { origin: running.address });
  await openBoard(page, board);
  const perch = await openPerch(page);
  const shot = await sharp(await perch.screenshot())
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const index = (180 * shot.info.width + 240) * shot.info.channels;
  expect([...shot.data.subarray(index, index + 3)]).toEqual([37, 142, 209]);
  // Through a lens, mirrored and faded it is read as it is.
  await tapKey(perch, 'v');
  await perch.keyboard.press('Alt+m');
  await perch.keyboard.press('Alt+Shift+ArrowDown');
  await perch.mouse.move(240, 180);
  await perch.keyboard.press('k');
  await expect(perch.getByTestId('colour')).toHaveText('#258ed1');
  await expect.poll(() => perch.evaluate(() => navigator.clipboard.readText())).toBe('#258ed1');
  await perch.keyboard.press('Escape');
  await expect(perch.getByTestId('colour')).toHaveCount(0);
  await perch.close();
});

test('controls come up at the edge and go; bare it has none; small it is a stub with one picture, and grows back', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch small');
  await board.place([1, 2, 3]);
  await openBoard(page, board);
  const perch = await openPerch(page, 'p', { width: 240, height: 200 });
  const strip = perch.locator('footer');
  await expect(strip).toHaveCSS('opacity', '0');
  await perch.mouse.move(120, 190);
  await expect(strip).toHaveCSS('opacity', '1');
  await perch.getByRole('button', { name: 'more' }).click();
  await perch.getByRole('button', { name: 'another pane below' }).click();
  await expect(perch.locator('[data-pane]')).toHaveCount(2);
  await perch.mouse.move(120, 20);
  await expect(strip).toHaveCSS('opacity', '0');
  await perch.keyboard.press('Alt+x');
  // A word that was pressed does not hold it up; the keyboard does.
  await perch.setViewportSize({ width: 420, height: 360 });
  await perch.mouse.move(120, 350);
  await perch.getByRole('button', { name: 'all' }).click();
  await perch.mouse.move(120, 20);
  await expect(strip).toHaveCSS('opacity', '0');
  await perch.keyboard.press('Tab');
  await expect(strip).toHaveCSS('opacity', '1');
  await perch.keyboard.press('Shift+Tab');
  await expect(strip).toHaveCSS('opacity', '0');
  await perch.setViewportSize({ width: 240, height: 200 });
  await perch.keyboard.press('.');
  await expect(strip).toHaveCount(0);
  // Any key or tap is the way back, and does nothing else.
  await perch.keyboard.press('x');
  await expect(strip).toHaveCount(1);
  expect((await placementsOf(board)).some(({ flipX }) => flipX)).toBe(false);
  await perch.keyboard.press('.');
  await expect(strip).toHaveCount(0);
  await perch.mouse.click(120, 100);
  await expect(strip).toHaveCount(1);

  const whole = await zoomOf(perch);
  await perch.setViewportSize({ width: 240, height: 110 });
  // One picture, all of it: what was brought close for the size of before fits the new one.
  const shownOfIt = () =>
    perch.evaluate(() => {
      const { closeOn, camera, viewport, feed } = window.miraderoPanes!.get('a')!;
      const item = feed.board.items.get(closeOn ?? '') as { width: number } | undefined;
      return item && { scale: camera.scale, width: item.width, viewport };
    });
  await expect
    .poll(async () => {
      const shown = await shownOfIt();
      if (!shown) return false;
      const width = shown.scale * shown.width;
      // 3 : 2
      return width <= shown.viewport.width && (width * 2) / 3 <= shown.viewport.height;
    })
    .toBe(true);
  await expect.poll(async () => isColoured(await colourInPane(perch, 'a', 120, 90))).toBe(true);
  await perch.setViewportSize({ width: 240, height: 200 });
  await expect.poll(() => zoomOf(perch)).toBe(whole);
  await perch.close();
});

test('by name it goes to pictures, stages, clusters and boards; a picture of the library is kept in sight by the same key', async ({
  page,
  running,
}) => {
  const other = await TestBoard.create(running.address, 'perch elsewhere');
  await other.place([2]);
  const board = await TestBoard.create(running.address, 'perch names');
  // More than are listed without a word.
  const placed = await board.place(Array.from({ length: 26 }, (_, index) => index + 1));
  await openBoard(page, other);
  await openBoard(page, board);
  const perch = await openPerch(page);
  const whole = await zoomOf(perch);
  await perch.keyboard.press('Alt+k');
  await perch.getByLabel('Go to, by name').fill('picture 26');
  // What lies below the list is not seen cut in half.
  await expect(perch.locator('footer')).toBeHidden();
  await perch.keyboard.press('Enter');
  await expect.poll(() => zoomOf(perch)).not.toBe(whole);
  await perch.keyboard.press('Alt+k');
  await perch
    .getByRole('navigation', { name: 'By name' })
    .getByRole('button', { name: 'perch elsewhere' })
    .click();
  await expect(perch.getByRole('heading', { name: 'perch elsewhere' })).toHaveCount(1);
  const closed = perch.waitForEvent('close');
  // It is gone before the key is let go.
  await perch.keyboard.press('p').catch(() => {});
  await closed;
  await page.goto(`${running.address}/library/${placed[0]!.picture}`);
  await page.locator('[data-stage="sharp"]').first().waitFor();
  const alone = await openPerch(page);
  await expect(alone.getByRole('heading', { name: 'picture 1' })).toHaveCount(1);
  await expect.poll(async () => isColoured(await colourInPane(alone, 'a', 470, 100))).toBe(true);
  await alone.close();
});

test('a slideshow goes on by itself and waits while the pointer is over it; at rest the perch asks for no frame', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch slideshow');
  await board.place([1, 2, 3]);
  await openBoard(page, board);
  const perch = await openPerch(page);
  await perch.mouse.move(200, 350);
  await perch.getByRole('button', { name: 'more' }).click();
  const seconds = perch.getByLabel('Seconds of a picture');
  await seconds.fill('1');
  await seconds.press('Enter');
  await perch.keyboard.press('Escape');
  await perch.keyboard.press('Alt+l');
  const shown = new Set<string>();
  const seen = async () => {
    shown.add((await colourInPane(perch, 'a', 400, 180)).join());
    return shown.size;
  };
  await expect.poll(seen).toBeGreaterThanOrEqual(3);
  await perch.mouse.move(200, 100);
  await perch.mouse.move(204, 104);
  await perchRests(perch);
  const resting = (await colourInPane(perch, 'a', 400, 180)).join();
  await perch.waitForTimeout(2_500);
  expect((await colourInPane(perch, 'a', 400, 180)).join()).toBe(resting);
  await perch.keyboard.press('Alt+l');
  await perchRests(perch);
  await perch.evaluate(() => {
    const counted = { frames: 0 };
    Object.assign(window, { counted });
    const ask = window.requestAnimationFrame.bind(window);
    window.requestAnimationFrame = (then) => {
      counted.frames += 1;
      return ask(then);
    };
  });
  // What is still made of pictures (of other tests, too) is news, and rightly painted; then it rests.
  const asked = () =>
    perch.evaluate(() => (window as unknown as { counted: { frames: number } }).counted.frames);
  await expect
    .poll(
      async () => {
        const before = await asked();
        await perch.waitForTimeout(4_000);
        return (await asked()) - before;
      },
      { timeout: 45_000 },
    )
    .toBe(0);
  await perch.close();
});

test('a renderer that is killed takes the floating window with it; one key brings it back; notes can be hidden there, and words found', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch killed');
  await board.place([1]);
  const note = { kind: 'note', removed: false, turn: 0, opacity: 1, text: 'halyard', height: 200 };
  await board.change([{ create: { ...note, id: 'n', stack: 'b0', centre: { x: 0, y: 240 }, width: 300 } }]);
  await openBoard(page, board);
  const perch = await openPerch(page);
  const brightest = async (of: Page) => {
    let most = 0;
    for (let y = 200; y < 350; y += 6) {
      const [r, g, b] = await colourInPane(of, 'a', 240, y);
      most = Math.max(most, Math.min(r!, g!, b!));
    }
    return most;
  };
  await expect.poll(() => brightest(perch)).toBeGreaterThan(230);
  await perch.keyboard.press('Alt+w');
  await expect.poll(() => brightest(perch)).toBeLessThan(200);
  await perch.keyboard.press('Alt+w');
  await expect.poll(() => brightest(perch)).toBeGreaterThan(230);
  await perch.keyboard.press('Control+f');
  await perch.getByLabel('Find on this board').fill('halyard');
  await expect(perch.getByText('1', { exact: true })).toBeVisible();
  await perch.keyboard.press('Escape');
  await perch.keyboard.press('Alt+r');
  await expect.poll(async () => (await keptArrangement(page, board)).panes.a!.orientation.degrees).toBe(90);

  const session = await page.context().newCDPSession(page);
  const closed = perch.waitForEvent('close');
  const crashed = page.waitForEvent('crash');
  void session.send('Page.crash').catch(() => {});
  await crashed;
  await closed;
  const fresh = await page.context().newPage();
  await fresh.goto(board.url);
  await fresh.locator('[data-stage="sharp"]').first().waitFor();
  const again = await openPerch(fresh, 'Alt+Shift+P');
  expect((await keptArrangement(fresh, board)).panes.a!.orientation.degrees).toBe(90);
  // Turned by a quarter its canvas is as high as the window is wide, and lies over it whole.
  const box = (await again.locator('canvas').first().boundingBox())!;
  expect([box.width, box.height].map(Math.round)).toEqual([480, 360]);
  await again.close();
});

test('two fingers pinch and pan in the perch, a tap at its edge brings the controls, a pen alone zooms along the right edge', async ({
  chromium,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch touched');
  await board.place([1, 2]);
  const context = await chromium.newContext({
    ...{ viewport: { width: 480, height: 360 }, hasTouch: true },
  });
  const page = await context.newPage();
  await page.goto(`${running.address}/perch/${board.id}`);
  await page.locator('[data-stage="sharp"]').first().waitFor();
  const session = await context.newCDPSession(page);
  const before = Number.parseFloat(await zoomOf(page));
  const touch = (
    type: 'touchStart' | 'touchMove' | 'touchEnd',
    points: readonly (readonly [number, number])[],
  ) =>
    session.send('Input.dispatchTouchEvent', {
      type,
      touchPoints: points.map(([x, y], id) => ({ x, y, id })),
    });
  await touch('touchStart', [
    [200, 180],
    [280, 180],
  ]);
  for (const by of [10, 25, 40])
    await touch('touchMove', [
      [200 - by, 180],
      [280 + by, 180],
    ]);
  await touch('touchEnd', []);
  await expect.poll(async () => Number.parseFloat(await zoomOf(page))).toBeGreaterThan(before * 1.6);
  const strip = page.locator('footer');
  await expect(strip).toHaveCSS('opacity', '0');
  await page.touchscreen.tap(300, 345);
  await expect(strip).toHaveCSS('opacity', '1');
  await expect(strip).toHaveCSS('height', '44px');
  await page.getByRole('button', { name: 'more' }).tap();
  await page.getByRole('button', { name: 'another pane beside' }).waitFor();
  const serious = async () =>
    (await new AxeBuilder({ page }).analyze()).violations
      .filter(({ impact }) => impact === 'serious' || impact === 'critical')
      .map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`);
  expect(await serious()).toEqual([]);
  await page.getByRole('button', { name: 'by name' }).tap();
  await page.getByRole('navigation', { name: 'By name' }).waitFor();
  expect(await serious()).toEqual([]);
  await page.keyboard.press('Escape');
  // With a finger a colour is read by the tool: chosen, then tapped.
  await page.touchscreen.tap(300, 345);
  await page.getByRole('button', { name: 'more' }).tap();
  await page.getByRole('button', { name: 'read a colour' }).tap();
  await page.touchscreen.tap(100, 180);
  await expect(page.getByTestId('colour')).toHaveText(/^#[0-9a-f]{6}$/);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.touchscreen.tap(240, 120);
  await expect(strip).toHaveCSS('opacity', '0');
  const zoomed = Number.parseFloat(await zoomOf(page));
  const pen = (type: 'mousePressed' | 'mouseMoved' | 'mouseReleased', x: number, y: number) =>
    session.send('Input.dispatchMouseEvent', {
      ...{ type, x, y, pointerType: 'pen', force: 0.5, buttons: type === 'mouseReleased' ? 0 : 1 },
      ...(type === 'mouseMoved' ? {} : { button: 'left', clickCount: 1 }),
    });
  await pen('mousePressed', 474, 200);
  for (const y of [160, 120, 80]) await pen('mouseMoved', 474, y);
  await pen('mouseReleased', 474, 80);
  await expect.poll(async () => Number.parseFloat(await zoomOf(page))).toBeGreaterThan(zoomed * 1.3);
  await context.close();
});

test('a stage, a cluster and a bay open by the key; a lens is held; it fits to width and height; its size is kept for its board', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch opened');
  await board.place([1, 2]);
  const plain = { removed: false, turn: 0, opacity: 1 };
  await board.change([
    {
      create: {
        ...{ ...plain, kind: 'working-set', id: 'w', stack: 'b0', title: 'Lamp', members: ['p2'] },
        ...{ centre: { x: 0, y: 0 }, width: 1 },
      },
    },
    {
      create: {
        ...{ ...plain, kind: 'bay', id: 'bay', stack: 'b1', title: 'Left half', titleSize: 14 },
        ...{ centre: { x: -170, y: 0 }, width: 320, height: 240, shape: '4 : 3' },
      },
    },
  ]);
  await openBoard(page, board);
  const perch = await openPerch(page, 'Alt+Shift+W');
  await expect(perch.getByRole('heading', { name: 'Lamp' })).toHaveCount(1);
  const at = { x: 240, y: 180 };
  await expect.poll(async () => isColoured(await colourInPane(perch, 'a', at.x, at.y))).toBe(true);
  await perch.keyboard.down('v');
  await expect.poll(async () => isColoured(await colourInPane(perch, 'a', at.x, at.y))).toBe(false);
  await perch.waitForTimeout(400);
  await perch.keyboard.up('v');
  await expect.poll(async () => isColoured(await colourInPane(perch, 'a', at.x, at.y))).toBe(true);
  // 3 : 2 in 4 : 3: as high as the window it is cut at the sides, as wide it has ground above.
  await perch.keyboard.press('4');
  await expect.poll(async () => isColoured(await colourInPane(perch, 'a', 240, 4))).toBe(true);
  await perch.keyboard.press('3');
  await expect.poll(async () => isColoured(await colourInPane(perch, 'a', 240, 4))).toBe(false);
  await expect.poll(async () => isColoured(await colourInPane(perch, 'a', 4, 180))).toBe(true);
  await perch.setViewportSize({ width: 420, height: 300 });
  const size = () =>
    page.evaluate(
      (key) => (JSON.parse(localStorage.getItem(key)!) as { size: object }).size,
      `miradero-perch-${board.id}`,
    );
  await expect.poll(size).toEqual({ width: 420, height: 300 });

  // A bay by its title, which is what is taken hold of.
  await page.bringToFront();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Escape');
  const edge = await onPage(page, { x: -300, y: -110 });
  await page.mouse.click(edge.x, edge.y);
  await page.keyboard.press('p');
  await expect(perch.getByRole('heading', { name: 'Left half' })).toHaveCount(1);
  await perch.locator('[data-stage="sharp"]').first().waitFor();
  // It fills the window; its picture is in the middle.
  await expect.poll(async () => isColoured(await colourInPane(perch, 'a', 210, 150))).toBe(true);
  await perch.close();
});
