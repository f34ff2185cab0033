import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { BrowserContext, Page } from '@playwright/test';
import { openBoard, stageReady, TestBoard } from '../support/board.ts';
import { killBrowser, launchProfile } from '../support/browser.ts';
import {
  colourInPane,
  countPresses,
  isColoured,
  keptArrangement,
  markRivet,
  perchRests,
  zoomOf,
} from '../support/perch.ts';
import { expect, test } from '../support/test.ts';

/** Presses of keys and of the pointer that a person makes; moves and wheels are none. */
class Acts {
  count = 0;

  async key(page: Page, key: string): Promise<void> {
    this.count += 1;
    await page.keyboard.press(key);
  }
  async click(page: Page, x: number, y: number, modifiers: 'Shift'[] = []): Promise<void> {
    this.count += 1;
    for (const modifier of modifiers) await page.keyboard.down(modifier);
    await page.mouse.click(x, y);
    for (const modifier of modifiers) await page.keyboard.up(modifier);
  }
}

async function openedBy(context: BrowserContext, act: () => Promise<void>): Promise<Page> {
  const opening = context.waitForEvent('page');
  await act();
  const perch = await opening;
  await perch.setViewportSize({ width: 420, height: 360 });
  await perch.locator('[data-stage="sharp"]').first().waitFor();
  return perch;
}

test('one screen: three pictures in sight, small, a rivet close and back, in values, one pasted, the next stage, the browser killed and all of it back, in fourteen acts', async ({
  running,
}) => {
  const profile = await mkdtemp(join(tmpdir(), 'miradero-profile-'));
  const board = await TestBoard.create(running.address, 'one screen');
  const placed = await board.place([1, 2, 3, 4]);
  await markRivet(running.address, placed[0]!.picture, { at: 0.4, size: 0.2 });
  const stage = {
    kind: 'working-set',
    removed: false,
    turn: 0,
    opacity: 1,
    centre: { x: 0, y: 0 },
    width: 1,
  };
  await board.change([
    { create: { ...stage, id: 'one', stack: 'b0', title: 'Start', members: ['p1', 'p2', 'p3'] } },
    { create: { ...stage, id: 'two', stack: 'b1', title: 'Colour', members: ['p4'] } },
  ]);
  let context = await launchProfile(profile);
  let page = context.pages()[0] ?? (await context.newPage());
  await context.grantPermissions(['clipboard-read', 'clipboard-write'], { origin: running.address });
  await openBoard(page, board);
  const acts = new Acts();

  // Three of the four are selected, and one key keeps them in sight.
  for (const [index, x] of [-510, -170, 170].entries())
    await acts.click(page, 657 + x, 396, index === 0 ? [] : ['Shift']);
  let perch = await openedBy(context, () => acts.key(page, 'p'));
  expect((await keptArrangement(page, board)).panes.a!.shows.items).toEqual(['p1', 'p2', 'p3']);
  // Resting brings close from now on; one press makes the window small.
  await acts.key(perch, 'Alt+h');
  await acts.key(perch, 'Alt+Comma');
  await perch.setViewportSize({ width: 240, height: 200 });
  await perchRests(perch);

  // Close to the rivet and back, by the pointer alone.
  const presses = await countPresses(perch);
  const whole = await zoomOf(perch);
  const rivet = await middleOfFirst(perch);
  await perch.mouse.move(rivet.x - 4, rivet.y - 4);
  await perch.mouse.move(rivet.x, rivet.y);
  await expect
    .poll(async () => Number.parseFloat(await zoomOf(perch)))
    .toBeGreaterThan(Number.parseFloat(whole) * 3);
  await perchRests(perch);
  await perch.mouse.wheel(0, -200);
  await perch.mouse.wheel(120, 0);
  await perchRests(perch);
  await perch.evaluate(() =>
    document
      .querySelector('.stage')!
      .dispatchEvent(new PointerEvent('pointerleave', { pointerType: 'mouse' })),
  );
  await expect.poll(() => zoomOf(perch)).toBe(whole);
  expect(await presses()).toBe(0);

  // Mirrored, and in values.
  await acts.key(perch, 'Alt+m');
  await acts.key(perch, 'v');
  await expect
    .poll(async () => {
      const { orientation, lenses } = (await keptArrangement(page, board)).panes.a!;
      return [orientation.isMirrored, lenses.map(({ lens }) => lens).join()];
    })
    .toEqual([true, 'values']);
  await expect.poll(async () => isColoured(await colourInPane(perch, 'a', 30, 100))).toBe(false);
  // One is pasted: it stands on the board, and in sight.
  await page.evaluate(() => navigator.clipboard.writeText('Rivets in twos'));
  await perch.bringToFront();
  await acts.key(perch, 'Control+v');
  await expect.poll(async () => (await board.standing()).some(({ kind }) => kind === 'note')).toBe(true);
  // The next stage.
  await acts.key(perch, 'Alt+s');
  await expect.poll(async () => (await keptArrangement(page, board)).panes.a!.shows.stage).toBe('two');
  // It is kept a moment after it altered.
  await page.waitForTimeout(1_000);

  await killBrowser(profile);
  await context.close().catch(() => {});
  context = await launchProfile(profile);
  page = context.pages()[0] ?? (await context.newPage());
  await page.goto(board.url);
  await stageReady(page);
  perch = await openedBy(context, () => acts.key(page, 'Alt+Shift+P'));
  const { panes, isHoverLook } = await keptArrangement(page, board);
  expect(isHoverLook).toBe(true);
  expect(panes.a!.shows.stage).toBe('two');
  expect([panes.a!.orientation.isMirrored, panes.a!.lenses.map(({ lens }) => lens)]).toEqual([
    true,
    ['values'],
  ]);
  await expect.poll(async () => isColoured(await colourInPane(perch, 'a', 30, 100))).toBe(false);
  expect(acts.count).toBeLessThanOrEqual(14);
  await context.close();
  await rm(profile, { recursive: true, force: true, maxRetries: 5, retryDelay: 200 });
});

/** Where the middle of the first picture lies: three of one shape fill a small window in rows. */
async function middleOfFirst(perch: Page): Promise<{ x: number; y: number }> {
  const { width, height } = await perch.evaluate(() => ({ width: innerWidth, height: innerHeight }));
  // The ground between them is grey: the first runs from the first coloured column of its row on.
  for (let y = 4; y < height; y += 4)
    for (let x = 2; x < width; x += 4)
      if (isColoured(await colourInPane(perch, 'a', x, y))) {
        let right = x;
        while (right < width && isColoured(await colourInPane(perch, 'a', right, y))) right += 4;
        let bottom = y;
        while (bottom < height && isColoured(await colourInPane(perch, 'a', x, bottom))) bottom += 4;
        return { x: (x + right) / 2, y: (y + bottom) / 2 };
      }
  throw new Error('no picture is seen');
}
