import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { clickOnBoard, openBoard, saved, stageReady, TestBoard } from '../support/board.ts';
import { expect, test } from '../support/test.ts';

async function expectClean(page: Page, where: string): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).analyze();
  const serious = violations.filter(({ impact }) => impact === 'serious' || impact === 'critical');
  expect(serious.map(({ id, nodes }) => `${where}: ${id} ${nodes[0]?.html}`)).toEqual([]);
}

const SIZES = [
  { width: 1280, height: 800 },
  { width: 1024, height: 700 },
  { width: 390, height: 844 },
];

for (const theme of ['light', 'dark'] as const) {
  test(`every view is clean, fits and stands still at three sizes, ${theme}`, async ({
    chromium,
    running,
  }) => {
    test.setTimeout(180_000);
    const context = await chromium.newContext({ colorScheme: theme });
    const page = await context.newPage();
    const board = await TestBoard.create(
      running.address,
      'A name that is long enough to be cut off where there is little room',
    );
    await board.place([1, 2]);
    const fits = async (where: string) => {
      const { width, inner } = await page.evaluate(() => ({
        width: document.documentElement.scrollWidth,
        inner: window.innerWidth,
      }));
      expect(width, where).toBeLessThanOrEqual(inner);
    };
    for (const size of SIZES) {
      await page.setViewportSize(size);
      const words = `${size.width} × ${size.height}`;
      await page.goto(`${running.address}/boards`);
      await expect(page.getByRole('heading', { name: 'Boards' })).toBeVisible();
      await fits(`boards ${words}`);
      await expectClean(page, `boards ${words}`);

      await openBoard(page, board);
      await clickOnBoard(page, { x: size.width > 400 ? -170 : -30, y: 0 });
      await page.keyboard.press('i');
      await expect(page.getByRole('region', { name: 'Wall label' })).toBeVisible();
      await fits(`board ${words}`);
      await expectClean(page, `board with label ${words}`);
      await page.keyboard.press('Escape');

      await page.keyboard.press('Shift+?');
      await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
      await expectClean(page, `keys ${words}`);
      await page.keyboard.press('Escape');
      await page.keyboard.press('Control+k');
      await expectClean(page, `palette ${words}`);
      await page.keyboard.press('Escape');
      await expect(page.getByRole('dialog')).toBeHidden();
      await page.keyboard.press('t');
      await expectClean(page, `trim ${words}`);
      await page.keyboard.press('Escape');

      await page.goto(`${running.address}/perch/${board.id}`);
      await stageReady(page);
      await fits(`perch ${words}`);
      await expectClean(page, `perch ${words}`);
      const [placement] = await board.standing();
      const picture = placement!.kind === 'placement' ? placement!.picture : '';
      for (const path of ['/library', `/library/${picture}`, '/subjects', `/sources?board=${board.id}`]) {
        await page.goto(`${running.address}${path}`);
        await page.waitForLoadState('networkidle');
        await fits(`${path} ${words}`);
        await expectClean(page, `${path} ${words}`);
      }
      await page.goto(`${running.address}/nowhere`);
      await expectClean(page, `nowhere ${words}`);
    }
    await context.close();
  });
}

test('no text is smaller than 12 px', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'small print');
  await board.place([1]);
  await openBoard(page, board);
  await clickOnBoard(page, { x: 0, y: 0 });
  await page.keyboard.press('i');
  const smallest = () =>
    page.evaluate(() =>
      Math.min(
        ...[...document.querySelectorAll('body *')]
          .filter((element) =>
            [...element.childNodes].some((node) => node.nodeType === 3 && node.textContent!.trim() !== ''),
          )
          .map((element) => Number.parseFloat(getComputedStyle(element).fontSize)),
      ),
    );
  expect(await smallest()).toBeGreaterThanOrEqual(12);
  await page.keyboard.press('Shift+?');
  expect(await smallest()).toBeGreaterThanOrEqual(12);
});

test('the surround carries its value into the theme, at once and over a reload', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'surround');
  await board.place([1]);
  await openBoard(page, board);
  const theme = () => page.evaluate(() => document.documentElement.dataset.theme);
  expect(await theme()).toBe('paper');
  await page.getByRole('radio', { name: 'Value 3' }).click();
  await expect.poll(theme).toBe('lamp');
  await saved(page);
  await page.reload();
  await stageReady(page);
  expect(await theme()).toBe('lamp');
  await page.getByRole('radio', { name: 'Value 4' }).click();
  await expect.poll(theme).toBe('paper');
});
