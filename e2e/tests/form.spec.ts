import { readFile } from 'node:fs/promises';
import AxeBuilder from '@axe-core/playwright';
import { munsellValueToGrey8 } from '@miradero/core/colour';
import { applyAffine, type Point } from '@miradero/core/geometry';
import { type Placement, pictureToBoard } from '@miradero/core/items';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { byName, clickOnBoard, onPage, openBoard, TestBoard } from '../support/board.ts';
import { expect, test } from '../support/test.ts';

const SIDE = 240;

/** A picture of greys by their values. */
function pictureOf(valueAt: (x: number, y: number) => number): Promise<Buffer> {
  const data = Buffer.alloc(SIDE * SIDE * 3);
  for (let pixel = 0; pixel < SIDE * SIDE; pixel += 1)
    data.fill(munsellValueToGrey8(valueAt(pixel % SIDE, Math.floor(pixel / SIDE))), pixel * 3, pixel * 3 + 3);
  return sharp(data, { raw: { width: SIDE, height: SIDE, channels: 3 } })
    .png()
    .toBuffer();
}

async function drawAround(page: Page, placement: Placement, corners: readonly Point[]): Promise<void> {
  const points: Point[] = [];
  for (const at of [...corners, corners[0]!])
    points.push(await onPage(page, applyAffine(pictureToBoard(placement), at)));
  const [first, ...others] = points as [Point, ...Point[]];
  await page.mouse.move(first.x, first.y);
  await page.mouse.down();
  for (const { x, y } of others) await page.mouse.move(x, y, { steps: 12 });
  await page.mouse.up();
}
const BOX = [
  { x: 0.3, y: 0.3 },
  { x: 0.7, y: 0.3 },
  { x: 0.7, y: 0.7 },
  { x: 0.3, y: 0.7 },
] as const;

test('a form is compared with its ground: small, apart, subtle; all in figures that are so', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'form and ground');
  // A box from value 3 to 3.6, three steps and more below its ground.
  const bytes = await pictureOf((x, y) =>
    x >= 72 && x < 168 && y >= 72 && y < 168 ? 3 + (0.6 * (x - 72)) / 96 : 7,
  );
  const [placed] = await board.placeFiles([{ id: 'box', name: 'box.png', bytes }]);
  await openBoard(page, board);
  await byName(page, 'form and ground');
  const card = page.getByTestId('form-card');
  await expect(card).toContainText('Draw around a form');
  await drawAround(page, placed!, BOX);
  await expect(card).toHaveAttribute('data-exact', 'true');
  for (const side of [96, 48, 24])
    await expect(card.getByRole('region', { name: 'Small' })).toContainText(
      new RegExp(`holds at ${side} px\\s*(?:[89]\\d|100)\\s%`),
    );
  const apart = card.getByRole('region', { name: 'Apart' });
  await expect(apart).toContainText(/value steps3\.[5-9]/);
  await expect(apart).toContainText(/darker100\s%/);
  await expect(apart).toContainText(/lost0\s%/);
  const subtle = card.getByRole('region', { name: 'Subtle' });
  await expect(subtle).toContainText(
    /From left to right: lighter \(0\.[45] value steps\); 0\.6 value steps in all/,
  );
  const axe = await new AxeBuilder({ page }).include('[data-testid=form-card]').analyze();
  expect(axe.violations).toEqual([]);
});

test('a value study of a part: its borders are dragged on the histogram; two pictures lie on one scale; an outline in so many lines', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'studies');
  // Half of it at 2, a quarter each at 5 and 8.
  const bands = await pictureOf((x, y) => (x < 120 ? 2 : y < 120 ? 5 : 8));
  const light = await pictureOf((x, y) => (x > 80 && x < 160 && y > 80 && y < 160 ? 5 : 9));
  const [one] = await board.placeFiles([
    { id: 'bands', name: 'bands.png', bytes: bands },
    { id: 'light', name: 'light.png', bytes: light },
  ]);
  await openBoard(page, board);
  await clickOnBoard(page, one!.centre);
  await byName(page, 'value study');
  const card = page.getByRole('complementary', { name: 'Value study' });
  const shares = card.getByTestId('study-shares');
  await expect(shares).toHaveAttribute('data-exact', 'true');
  await expect(card).toContainText(/mean value, middle key4\.[2-3]/);
  await expect(card).toContainText(/from, to(?:1\.9|2\.0)–8\.[01]/);
  await card.getByLabel('Values of the study').fill('2');
  await card.getByLabel('Values of the study').press('Enter');
  await expect.poll(() => shares.locator('li').allInnerTexts()).toEqual(['25 %', '75 %']);
  // The border goes below the middle value: by hand, then by keys back above it.
  const border = card.getByRole('slider', { name: 'Border 1 of 1, Munsell value' });
  const box = (await card.getByRole('figure').boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + 30);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.35, box.y + 30, { steps: 5 });
  await page.mouse.up();
  await expect(border).toHaveAttribute('aria-valuenow', /^3\.[3-6]/);
  await expect.poll(() => shares.locator('li').allInnerTexts()).toEqual(['50 %', '50 %']);
  await expect(card.getByRole('radio', { name: 'where you drag them' })).toBeChecked();
  for (let press = 0; press < 4; press += 1) await border.press('Shift+ArrowRight');
  await expect.poll(() => shares.locator('li').allInnerTexts()).toEqual(['25 %', '75 %']);
  // A part of it alone is all dark.
  await drawAround(page, one!, [
    { x: 0.1, y: 0.1 },
    { x: 0.4, y: 0.1 },
    { x: 0.4, y: 0.4 },
    { x: 0.1, y: 0.4 },
  ]);
  await expect(card).toContainText('of what was drawn around');
  await expect(card).toContainText(/mean value, low key2\.0/);
  await card.getByRole('button', { name: 'done' }).click();

  await page.keyboard.press('Control+a');
  await byName(page, 'values side by side');
  const compared = page.getByTestId('compare-card');
  await expect(compared).toHaveAttribute('data-exact', 'true');
  await expect(compared).toContainText(/steps (?:lighter|darker) on the whole/);
  await compared.getByRole('button', { name: 'done' }).click();

  const second = (await board.item('light')) as Placement;
  await page.keyboard.press('Escape');
  await clickOnBoard(page, second.centre);
  await byName(page, 'outline in lines');
  const outline = page.getByTestId('outline-card');
  await expect(outline).toHaveAttribute('data-exact', 'true');
  await outline.getByLabel('Lines of the outline at most').fill('1');
  await outline.getByLabel('Lines of the outline at most').press('Enter');
  await expect(outline).toContainText('1 line');
  const downloading = page.waitForEvent('download');
  await outline.getByRole('button', { name: 'as SVG' }).click();
  const svg = await readFile(await (await downloading).path(), 'utf8');
  expect(svg.match(/<path /g)).toHaveLength(1);
  await outline.getByRole('button', { name: 'as a picture' }).click();
  await expect.poll(async () => (await board.standing()).length).toBe(3);
});
