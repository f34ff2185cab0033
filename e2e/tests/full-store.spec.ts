import { clickOnBoard, openBoard, saved, TestBoard } from '../support/board.ts';
import { openPerch } from '../support/perch.ts';
import { expect, test } from '../support/test.ts';

test('where the small store of the browser is full everything works, and the perch comes back as it was', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'full store');
  const [one] = await board.place([1, 2]);
  await page.context().addInitScript(() => {
    const { localStorage: full } = window;
    const { setItem } = Storage.prototype;
    Storage.prototype.setItem = function (this: Storage, key: string, text: string) {
      if (this === full) throw new DOMException('It is full.', 'QuotaExceededError');
      setItem.call(this, key, text);
    };
  });
  await openBoard(page, board);
  await clickOnBoard(page, one!.centre);
  await page.keyboard.press('ArrowRight');
  await saved(page);
  const perch = await openPerch(page);
  await perch.keyboard.press('Alt+b');
  await expect.poll(() => perch.evaluate(() => window.miraderoPanes?.size)).toBe(2);
  // Kept a moment later.
  await perch.waitForTimeout(500);
  await page.reload();
  await page.locator('[data-stage="sharp"]').first().waitFor();
  const back = await openPerch(page, 'Alt+Shift+P');
  await expect.poll(() => back.evaluate(() => window.miraderoPanes?.size)).toBe(2);
  await page.getByRole('link', { name: 'Boards' }).click();
  await expect(page.getByRole('heading', { name: 'Boards' })).toBeVisible();
});
