import type { Picture } from '@miradero/core/schema';
import sharp from 'sharp';
import { stageReady, TestBoard } from '../support/board.ts';
import { expect, test } from '../support/test.ts';

test('a picture alone is looked at through lenses, by key and by word, with their figures', async ({
  page,
  running,
}) => {
  const bytes = await sharp({ create: { width: 400, height: 300, channels: 3, background: '#c8281e' } })
    .png()
    .toBuffer();
  const board = await TestBoard.create(running.address, 'a lens alone');
  const [placed] = await board.placeFiles([{ id: 'red', name: 'red.png', bytes }]);
  const picture: Picture['id'] = placed!.picture;
  await page.goto(`${running.address}/library/${picture}`);
  await stageReady(page);
  const middle = async () => {
    const { x, y, width, height } = (await page.locator('.stage').boundingBox())!;
    const clip = { x: x + width / 2, y: y + height / 2, width: 2, height: 2 };
    const seen = await sharp(await page.screenshot({ clip }))
      .removeAlpha()
      .raw()
      .toBuffer();
    return [...seen.subarray(0, 3)];
  };
  await expect.poll(middle).toEqual([200, 40, 30]);
  await page.locator('.stage').focus();
  await page.keyboard.press('v');
  await expect.poll(async () => new Set(await middle()).size).toBe(1);
  await page.getByRole('button', { name: 'look', exact: true }).click();
  await page.getByRole('button', { name: 'value steps' }).click();
  await page.keyboard.press('Escape');
  await page.getByLabel('Figure of the lens: value steps').fill('2');
  await page.getByLabel('Figure of the lens: value steps').press('Enter');
  await page.getByRole('button', { name: 'Without values' }).click();
  await expect(page.getByRole('button', { name: 'Without value steps' })).toBeVisible();
  await page.locator('.stage').focus();
  await page.keyboard.press('Alt+v');
  await expect.poll(middle).toEqual([200, 40, 30]);
});
