import type { Browser, BrowserContext, Page } from '@playwright/test';
import { clickOnBoard, openBoard, TestBoard } from '../support/board.ts';
import { launchBrowser } from '../support/browser.ts';
import { keptArrangement, openPerch } from '../support/perch.ts';
import { expect, test } from '../support/test.ts';

const TWO_SCREENS = '--screen-info={1920x1080}{1600x900 label=Second}';

const NEAR_PX = 24;

/** A browser with two screens, where windows have the sizes they ask for. */
async function withScreens(
  use: (context: BrowserContext, page: Page, browser: Browser) => Promise<void>,
  { isAllowed, isBlocking = false }: { isAllowed: boolean; isBlocking?: boolean },
): Promise<void> {
  const browser = await launchBrowser([TWO_SCREENS], isBlocking ? ['--disable-popup-blocking'] : []);
  try {
    const context = await browser.newContext({ viewport: null });
    const page = await context.newPage();
    const session = await context.newCDPSession(page);
    const { targetInfo } = await session.send('Target.getTargetInfo');
    await session.send('Browser.setPermission', {
      permission: { name: 'window-management' },
      setting: isAllowed ? 'granted' : 'denied',
      ...(targetInfo.browserContextId && { browserContextId: targetInfo.browserContextId }),
    });
    await use(context, page, browser);
  } finally {
    await browser.close();
  }
}

async function openWindow(context: BrowserContext, from: Page, key: string): Promise<Page> {
  const opening = context.waitForEvent('page');
  await from.keyboard.press(key);
  const opened = await opening;
  await opened.locator('[data-stage="sharp"]').first().waitFor();
  return opened;
}
const placeOf = (page: Page) =>
  page.evaluate(() => ({ x: screenX, y: screenY, width: outerWidth, height: outerHeight }));

test('a further window opens on the other screen, comes back there, and is brought home in words when that screen is gone', async ({
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch windows');
  await board.place([1, 2]);
  await withScreens(
    async (context, page) => {
      await openBoard(page, board);
      const first = await openWindow(context, page, 'Alt+o');
      await expect.poll(async () => (await placeOf(first)).x).toBeGreaterThanOrEqual(1_920);
      await expect(first.getByRole('heading', { name: 'perch windows' })).toHaveCount(1);
      const second = await openWindow(context, page, 'Alt+o');
      const before = [await placeOf(first), await placeOf(second)];
      expect(before[1]).not.toEqual(before[0]);
      // Both live on without the page that opened them.
      await page.reload();
      await first.keyboard.press('Alt+m');
      await first.waitForTimeout(600);
      await first.close({ runBeforeUnload: false });
      await second.close({ runBeforeUnload: false });
      await page.locator('[data-stage="sharp"]').first().waitFor();
      const arriving: Page[] = [];
      context.on('page', (one) => arriving.push(one));
      await page.keyboard.press('Alt+Shift+P');
      await expect.poll(() => arriving.length).toBe(2);
      for (const [index, one] of arriving.entries()) {
        await one.locator('[data-stage="sharp"]').first().waitFor();
        expect((await placeOf(one)).x).toBe(before[index]!.x);
      }
      await expect(arriving[0]!.locator('canvas').first()).toHaveCSS('transform', /matrix\(-1/);
      // The screen is unplugged: what the browser says of it is heard, and the window comes home.
      await arriving[0]!.evaluate(async () => {
        const details = await (
          window as unknown as { getScreenDetails(): Promise<EventTarget & { screens: object[] }> }
        ).getScreenDetails();
        const { screens } = details;
        Object.defineProperty(details, 'screens', { value: screens.slice(0, 1), configurable: true });
        details.dispatchEvent(new Event('screenschange'));
      });
      await expect(arriving[0]!.getByText('The screen this window was on is gone')).toBeVisible();
      await expect.poll(async () => (await placeOf(arriving[0]!)).x).toBeLessThan(1_920);
    },
    { isAllowed: true },
  );
});

test('windows are arranged in the part that was marked by a drag over the screens, and none runs off it; the floating one says that it stays', async ({
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch arranged');
  await board.place([1, 2]);
  await withScreens(
    async (context, page) => {
      await openBoard(page, board);
      const windows = [
        await openWindow(context, page, 'Alt+o'),
        await openWindow(context, page, 'Alt+o'),
        await openWindow(context, page, 'Alt+o'),
      ];
      await windows[0]!.mouse.move(200, 200);
      await windows[0]!.mouse.move(200, (await windows[0]!.evaluate(() => innerHeight)) - 8);
      await windows[0]!.getByRole('button', { name: 'more' }).click();
      await windows[0]!.getByRole('button', { name: 'where windows belong' }).click();
      const card = windows[0]!.getByRole('region', { name: 'Where windows belong' });
      // Both screens stand side by side there: 3,520 px across, the second from 1,920.
      const map = (await card.getByRole('img', { name: 'Screens: 2' }).boundingBox())!;
      const scale = Math.min(map.width / 3_520, map.height / 1_080);
      const at = (x: number, y: number) =>
        [map.x + map.width / 2 + (x - 1_760) * scale, map.y + map.height / 2 + (y - 540) * scale] as const;
      await windows[0]!.mouse.move(...at(2_000, 80));
      await windows[0]!.mouse.down();
      await windows[0]!.mouse.move(...at(2_400, 300));
      await windows[0]!.mouse.move(...at(2_900, 780));
      await windows[0]!.mouse.up();
      await expect(card).toContainText(/Now 9\d\d × (69\d|70\d) px|Now (89|90)\d × (69|70)\d px/);
      await expect(async () => {
        const places = await Promise.all(windows.map(placeOf));
        for (const { x, y, width, height } of places) {
          // A pixel of the map is a dozen of the screen.
          expect(x).toBeGreaterThanOrEqual(2_000 - NEAR_PX);
          expect(y).toBeGreaterThanOrEqual(80 - NEAR_PX);
          expect(x + width).toBeLessThanOrEqual(2_900 + NEAR_PX);
          expect(y + height).toBeLessThanOrEqual(780 + NEAR_PX);
        }
        for (const [index, one] of places.entries())
          for (const other of places.slice(index + 1)) {
            const isApart =
              one.x + one.width <= other.x ||
              other.x + other.width <= one.x ||
              one.y + one.height <= other.y ||
              other.y + other.height <= one.y;
            expect(isApart).toBe(true);
          }
      }).toPass({ timeout: 60_000 });
      await page.bringToFront();
      const floating = await openWindow(context, page, 'p');
      const { width, height } = await floating.evaluate(() => ({ width: innerWidth, height: innerHeight }));
      await floating.mouse.move(width / 2, 40);
      await floating.mouse.move(width / 2, height - 8);
      await floating.getByRole('button', { name: 'more' }).click();
      await floating.getByRole('button', { name: 'where windows belong' }).click();
      await floating.getByRole('button', { name: 'right half' }).click();
      await expect(floating.getByText('only its size is set by a page')).toBeVisible();
      await expect(
        floating.getByText('Now 960 × 1080 px.').or(floating.getByText('Now 800 × 900 px.')),
      ).toBeVisible();
      await floating.keyboard.press('Escape');
      await expect(floating.getByRole('region', { name: 'Where windows belong' })).toHaveCount(0);
    },
    { isAllowed: true },
  );
});

test('where other screens are refused that is said; where windows are blocked they come one by one, a press each', async ({
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch blocked');
  await board.place([1]);
  await withScreens(
    async (context, page) => {
      await openBoard(page, board);
      const first = await openWindow(context, page, 'Alt+o');
      await expect.poll(async () => (await placeOf(first)).x).toBeLessThan(1_920);
      await first.mouse.move(200, 200);
      await first.mouse.move(200, (await first.evaluate(() => innerHeight)) - 8);
      await first.getByRole('button', { name: 'more' }).click();
      await first.getByRole('button', { name: 'use the other screen' }).click();
      await expect(first.getByText('does not let this page know of other screens').first()).toBeVisible();
      await page.bringToFront();
      const second = await openWindow(context, page, 'Alt+o');
      await first.close();
      await second.close();
      await page.bringToFront();
      // Each gives its lock back as it goes.
      await expect
        .poll(() =>
          page.evaluate(
            async () =>
              (await navigator.locks.query()).held?.filter(({ name }) => name?.includes('perch-window'))
                .length,
          ),
        )
        .toBe(0);
      const arriving: Page[] = [];
      context.on('page', (one) => arriving.push(one));
      // One act opens one window.
      await page.keyboard.press('Alt+Shift+P');
      // Whatever is asked of the page meanwhile would count as another press.
      await page.waitForTimeout(2_500);
      const card = page.getByRole('region', { name: 'Windows of the perch' });
      await expect(card).toContainText('one window for one press');
      const opened = arriving.length;
      expect(opened).toBe(1);
      await card.getByRole('button', { name: 'open the next' }).click();
      await expect.poll(() => arriving.length).toBe(2);
      await expect(card).toHaveCount(0);
    },
    { isAllowed: false, isBlocking: true },
  );
});

test('the narrow window stands beside the work, as high as the screen, and everything works in it', async ({
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch narrow');
  await board.place([1, 2, 3]);
  await withScreens(
    async (context, page) => {
      await openBoard(page, board);
      await page.keyboard.press('Control+k');
      await page.keyboard.type('narrow window');
      const opening = context.waitForEvent('page');
      await page.keyboard.press('Enter');
      const narrow = await opening;
      await narrow.locator('[data-stage="sharp"]').first().waitFor();
      const { x, width, height } = await placeOf(narrow);
      expect([x + width, height]).toEqual([1_920, 1_080]);
      expect(width).toBe(360);
      const before = await narrow.getByTestId('zoom').innerText();
      await narrow.keyboard.press('f');
      await expect.poll(() => narrow.getByTestId('zoom').innerText()).not.toBe(before);
      await narrow.keyboard.press('ArrowRight');
      await narrow.keyboard.press('Escape');
      await expect.poll(() => narrow.getByTestId('zoom').innerText()).toBe(before);
    },
    { isAllowed: true },
  );
});

test('where nothing floats, the popup says how a window is kept above others, and follows what is selected as the floating one does', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'perch on top');
  const placed = await board.place([1, 2]);
  await page.context().addInitScript(() => {
    Object.defineProperty(window, 'documentPictureInPicture', { value: undefined });
  });
  await openBoard(page, board);
  const perch = await openPerch(page);
  await expect(perch.getByText('always on top')).toBeVisible();
  await perch.getByRole('button', { name: 'Close', exact: true }).click();
  await expect(perch.getByText('always on top')).toHaveCount(0);
  await perch.keyboard.press('Alt+f');
  await expect(perch.getByText('It shows what is selected on the board.')).toBeVisible();
  const shown = async () => (await keptArrangement(perch, board)).panes.a!.shows.items ?? [];
  const [one, other] = placed.map(({ centre }) => centre);
  for (const [id, centre] of [
    ['p1', one!],
    ['p2', other!],
  ] as const) {
    await page.bringToFront();
    await page.keyboard.press('Escape');
    await clickOnBoard(page, centre);
    await expect.poll(shown).toEqual([id]);
  }
  // Loaded anew, either of them, it is still the perch of that page.
  await page.reload();
  await page.locator('[data-stage="sharp"]').first().waitFor();
  await clickOnBoard(page, one!);
  await expect.poll(shown).toEqual(['p1']);
  await clickOnBoard(page, other!);
  await expect.poll(shown).toEqual(['p2']);
  await perch.reload();
  await perch.locator('[data-stage="sharp"]').first().waitFor();
  await page.bringToFront();
  await clickOnBoard(page, one!);
  await expect.poll(shown).toEqual(['p1']);
  await page.keyboard.press('Alt+f');
  // What was said, then the selection.
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('p');
  await expect.poll(async () => (await keptArrangement(perch, board)).panes.a!.shows.kind).toBe('board');
  await page.keyboard.press('p');
  await expect.poll(() => perch.isClosed()).toBe(true);
});
