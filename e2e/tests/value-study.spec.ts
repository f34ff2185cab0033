import { readFile } from 'node:fs/promises';
import { munsellValueToGrey8 } from '@miradero/core/colour';
import type { Placement } from '@miradero/core/schema';
import sharp from 'sharp';
import { byName, clickOnBoard, openBoard, saved, TestBoard } from '../support/board.ts';
import { expect, test } from '../support/test.ts';

const WIDTH = 200;
const HEIGHT = 100;
/** Bands of known values, by how many columns each takes: 40, 30, 20 and 10 %. */
const BANDS = [
  [1, 80],
  [3, 60],
  [7, 40],
  [9, 20],
] as const;

test('a picture is studied in few values: their shares are those of its pixels, islands join, it comes onto the board and out as shapes', async ({
  page,
  running,
}) => {
  const columns = BANDS.flatMap(([value, count]) => Array<number>(count).fill(munsellValueToGrey8(value)));
  const data = Buffer.alloc(WIDTH * HEIGHT * 3);
  for (let y = 0; y < HEIGHT; y += 1)
    for (let x = 0; x < WIDTH; x += 1) data.fill(columns[x]!, (y * WIDTH + x) * 3, (y * WIDTH + x) * 3 + 3);
  // An island of four light pixels in the darkest band.
  for (const [x, y] of [
    [20, 50],
    [21, 50],
    [20, 51],
    [21, 51],
  ] as const)
    data.fill(munsellValueToGrey8(9), (y * WIDTH + x) * 3, (y * WIDTH + x) * 3 + 3);
  const bytes = await sharp(data, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } })
    .png()
    .toBuffer();
  const board = await TestBoard.create(running.address, 'value study');
  const [placed] = await board.placeFiles([{ id: 'bands', name: 'bands.png', bytes }]);
  await openBoard(page, board);
  await clickOnBoard(page, placed!.centre);
  await byName(page, 'value study');
  const card = page.getByRole('complementary', { name: 'Value study' });
  const shares = card.getByTestId('study-shares');
  // The lightest above; all pixels were counted, and the island joined the dark.
  await expect(shares).toHaveAttribute('data-exact', 'true');
  await expect.poll(() => shares.locator('li').allInnerTexts()).toEqual(['10 %', '20 %', '30 %', '40 %']);

  await card.getByLabel('Values of the study').fill('2');
  await card.getByLabel('Values of the study').press('Enter');
  await expect.poll(() => shares.locator('li').allInnerTexts()).toEqual(['30 %', '70 %']);
  // Where they part by themselves two values lie elsewhere than at half the height.
  await card.getByRole('radio', { name: 'where they part' }).click();
  await expect.poll(() => shares.locator('li').count()).toBe(2);

  const downloading = page.waitForEvent('download');
  await card.getByRole('button', { name: 'shapes as SVG' }).click();
  const download = await downloading;
  expect(download.suggestedFilename()).toBe('bands in 2 values.svg');
  const svg = await readFile(await download.path(), 'utf8');
  expect(svg).toMatch(/<rect width="200" height="100" fill="#[0-9a-f]{6}"\/>/);
  expect(svg.match(/<path /g)).toHaveLength(1);

  await card.getByRole('button', { name: 'as a picture' }).click();
  const placements = async () =>
    (await board.standing()).filter((item): item is Placement => item.kind === 'placement');
  await expect.poll(async () => (await placements()).length).toBe(2);
  await saved(page);
  const study = (await placements()).find(({ picture }) => picture !== placed!.picture)!;
  expect([study.pictureWidth, study.pictureHeight]).toEqual([WIDTH, HEIGHT]);
});
