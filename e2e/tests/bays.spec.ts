import { regionOnBoard } from '@miradero/core/items';
import { dragOnScreen, openBoard, saved, TestBoard } from '../support/board.ts';
import { faultsOfText } from '../support/layout.ts';
import { expect, test } from '../support/test.ts';

test('a bay is drawn, named, shaped, gone to and shown alone', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'bays');
  await board.place([61, 62]);
  await openBoard(page, board);
  await page.keyboard.press('Shift+B');
  await dragOnScreen(page, { x: 180, y: 120 }, { x: 620, y: 420 });
  await page.keyboard.type('Cover');
  await page.keyboard.press('Enter');
  await saved(page);
  const bay = async () => (await board.standing()).find((item) => item.kind === 'bay')!;
  const drawn = await bay();
  expect(drawn).toMatchObject({ title: 'Cover', shape: null });
  // It lies below everything: pictures on it are taken as before.
  for (const item of await board.standing())
    if (item.id !== drawn.id) expect(item.stack > drawn.stack).toBe(true);
  await page.keyboard.press('i');
  await page.getByRole('region', { name: 'Wall label' }).getByRole('button', { name: 'A4' }).click();
  await saved(page);
  const shaped = await bay();
  if (shaped.kind !== 'bay') throw new Error('no bay');
  const region = regionOnBoard(shaped);
  expect(region.width / region.height).toBeCloseTo(297 / 210, 4);
  await page.keyboard.press('i');

  await page.keyboard.press('Alt+b');
  await expect(page.locator('footer')).toContainText('Shown alone');
  // Around the region there is nothing but the surround.
  const corner = () =>
    page.evaluate(() => {
      const { canvas } = window.miraderoStage!;
      return [
        ...canvas
          .getContext('2d')!
          .getImageData(6, canvas.height / 2, 1, 1)
          .data.slice(0, 3),
      ];
    });
  await expect.poll(corner).toEqual([121, 121, 121]);
  await page.keyboard.press('Escape');
  await expect(page.locator('footer')).not.toContainText('Shown alone');
  for (let step = 0; step < 2; step += 1) await page.keyboard.press('Control+z');
  await expect.poll(async () => (await board.standing()).some((item) => item.kind === 'bay')).toBe(false);
});

test('what the families of the sill open stands whole, at 1280 and at 820', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'families');
  await board.place([61, 62]);
  for (const width of [1280, 820]) {
    await page.setViewportSize({ width, height: 800 });
    await openBoard(page, board);
    for (const name of ['bring in', 'lay out', 'look']) {
      const word = page.locator('footer').getByRole('button', { name, exact: true });
      // Of all words these are the last to go behind “more”.
      await word.click();
      await expect(page.getByRole('dialog', { name })).toBeVisible();
      expect(await faultsOfText(page, false), `${name} at ${width}`).toEqual([]);
      await page.keyboard.press('Escape');
      await expect(page.getByRole('dialog', { name })).toBeHidden();
    }
  }
});

test('a board says what it is for, there and on its card, and undo takes it back', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'brief');
  await board.place([63]);
  await openBoard(page, board);
  await page.keyboard.press('Alt+i');
  const sheet = page.getByRole('dialog', { name: 'Brief' });
  await sheet.getByLabel('Which question does it answer?').fill('How dark is the hull at dawn?');
  await sheet.getByLabel('For whom?').fill('Page 7');
  await sheet.getByLabel('By when?').fill('2026-12-03');
  await sheet.getByRole('button', { name: 'Keep' }).click();
  await expect(page.locator('header')).toContainText(
    'How dark is the hull at dawn? · for Page 7, by 3 December 2026',
  );
  await saved(page);
  await page.goto(`${running.address}/boards`);
  const card = page.locator(`[data-board="${board.id}"]`);
  await expect(card).toContainText('How dark is the hull at dawn?');
  await expect(card).toContainText('for Page 7, by 3 December 2026');
  // Undo goes to where it was done.
  await page.keyboard.press('Control+z');
  await expect(page).toHaveURL(board.url);
  await expect(page.locator('header')).toContainText('1 picture');
});
