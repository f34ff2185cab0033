import type { Browser, BrowserContext, Page } from '@playwright/test';
import { openBoard, TestBoard } from '../support/board.ts';
import { launchBrowser } from '../support/browser.ts';
import { openPerch } from '../support/perch.ts';
import { expect, test } from '../support/test.ts';

const TWO_SCREENS = '--screen-info={1920x1080}{1600x900 label=Second}';

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

test('windows are arranged in the part that one of them marked, and none runs off it; the floating one says that it cannot', async ({
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
      await windows[0]!.evaluate(() => {
        resizeTo(900, 700);
        moveTo(2_000, 80);
      });
      await expect.poll(() => placeOf(windows[0]!)).toEqual({ x: 2_000, y: 80, width: 900, height: 700 });
      await windows[0]!.mouse.move(200, 200);
      await windows[0]!.mouse.move(200, (await windows[0]!.evaluate(() => innerHeight)) - 8);
      await windows[0]!.getByRole('button', { name: 'more' }).click();
      await windows[0]!.getByRole('button', { name: 'windows belong where this one is' }).click();
      await expect(async () => {
        const places = await Promise.all(windows.map(placeOf));
        for (const { x, y, width, height } of places) {
          expect(x).toBeGreaterThanOrEqual(2_000);
          expect(y).toBeGreaterThanOrEqual(80);
          expect(x + width).toBeLessThanOrEqual(2_900);
          expect(y + height).toBeLessThanOrEqual(780);
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
      }).toPass({ timeout: 15_000 });
      await page.bringToFront();
      const floating = await openWindow(context, page, 'p');
      const { width, height } = await floating.evaluate(() => ({ width: innerWidth, height: innerHeight }));
      await floating.mouse.move(width / 2, 40);
      await floating.mouse.move(width / 2, height - 8);
      await floating.getByRole('button', { name: 'more' }).click();
      await floating.getByRole('button', { name: 'windows belong where this one is' }).click();
      await expect(floating.getByText('only its size is set by a page')).toBeVisible();
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

test('where nothing floats, the popup says how a window is kept above others', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'perch on top');
  await board.place([1]);
  await page.context().addInitScript(() => {
    Object.defineProperty(window, 'documentPictureInPicture', { value: undefined });
  });
  await openBoard(page, board);
  const perch = await openPerch(page);
  await expect(perch.getByText('always on top')).toBeVisible();
  await perch.getByRole('button', { name: 'Close', exact: true }).click();
  await expect(perch.getByText('always on top')).toHaveCount(0);
});
