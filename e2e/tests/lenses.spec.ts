import { linearToSrgb, luminanceOfSrgb } from '@miradero/core/colour';
import type { Page } from '@playwright/test';
import { clickOnBoard, colourAt, openBoard, TestBoard } from '../support/board.ts';
import { tapKey } from '../support/perch.ts';
import type { Running } from '../support/running.ts';
import { expect, test } from '../support/test.ts';

type Colour = [number, number, number];

/** Two pictures, 300 wide, about (-170, 0) and (170, 0). */
async function twoPictures(page: Page, running: Running, name: string): Promise<void> {
  const board = await TestBoard.create(running.address, name);
  await board.place([1, 2]);
  await openBoard(page, board);
  await page.mouse.move(300, 70);
}

const LEFT = { x: -60, y: 30 };
const RIGHT = { x: 280, y: 30 };
const spread = ([r, g, b]: Colour) => Math.max(r, g, b) - Math.min(r, g, b);
const greyOf = ([r, g, b]: Colour) => 255 * linearToSrgb(luminanceOfSrgb(r, g, b));

test('a lens is looked through while its key is held, and stays when it is tapped', async ({
  page,
  running,
}) => {
  await twoPictures(page, running, 'Held and tapped');
  const plain = await colourAt(page, LEFT);
  expect(spread(plain)).toBeGreaterThan(40);
  await page.keyboard.down('v');
  await expect.poll(async () => spread(await colourAt(page, LEFT))).toBe(0);
  const [grey] = await colourAt(page, LEFT);
  expect(Math.abs(grey - greyOf(plain))).toBeLessThan(1.5);
  expect(spread(await colourAt(page, RIGHT))).toBe(0);
  // Longer than a tap.
  await page.waitForTimeout(400);
  await page.keyboard.up('v');
  await expect.poll(() => colourAt(page, LEFT)).toEqual(plain);

  await tapKey(page, 'v');
  await expect.poll(async () => spread(await colourAt(page, LEFT))).toBe(0);
  const sill = page.locator('footer').first();
  await expect(sill).toContainText('values');
  await tapKey(page, 'v');
  await expect.poll(() => colourAt(page, LEFT)).toEqual(plain);
  await expect(sill.getByRole('button', { name: 'without lenses' })).toHaveCount(0);
});

test('lenses are laid on what is selected: values, the mirror, the others dimmed; one word takes all off', async ({
  page,
  running,
}) => {
  await twoPictures(page, running, 'On a selection');
  const [left, right] = [await colourAt(page, LEFT), await colourAt(page, RIGHT)];
  // Each has a light square in its upper left quarter; in the mirror it is in the right one.
  const square = { x: -260, y: -60 };
  const mirrored = { x: -80, y: -60 };
  const light = await colourAt(page, square);
  const dark = await colourAt(page, mirrored);
  await tapKey(page, 'd', true);
  await expect(page.getByText('Nothing to dim the others for.')).toBeVisible();
  await clickOnBoard(page, { x: -170, y: 0 });
  await tapKey(page, 'v');
  await expect.poll(async () => spread(await colourAt(page, LEFT))).toBe(0);
  expect(await colourAt(page, RIGHT)).toEqual(right);
  await tapKey(page, 'm');
  const near = (a: number, b: number) => Math.abs(a - b) < 2;
  await expect.poll(async () => near((await colourAt(page, mirrored))[0], greyOf(light))).toBe(true);
  expect(near((await colourAt(page, square))[0], greyOf(dark))).toBe(true);
  await tapKey(page, 'd', true);
  await expect.poll(async () => spread(await colourAt(page, RIGHT))).toBeLessThan(spread(right) / 4);
  await page.keyboard.press('Escape');
  await page.locator('footer').first().getByRole('button', { name: 'without lenses' }).click();
  await expect.poll(() => colourAt(page, LEFT)).toEqual(left);
  await expect.poll(() => colourAt(page, RIGHT)).toEqual(right);
  expect(await colourAt(page, square)).toEqual(light);
});

test('squinting spreads light over edges, by as much as is set, and moves with the camera', async ({
  page,
  running,
}) => {
  await twoPictures(page, running, 'Squinting');
  const edge = { x: -18, y: 0 };
  expect(await colourAt(page, edge)).toEqual([121, 121, 121]);
  await tapKey(page, 'q');
  await expect.poll(async () => spread(await colourAt(page, edge))).toBeGreaterThan(10);
  const far = { x: 0, y: 0 };
  expect(spread(await colourAt(page, far))).toBeLessThan(3);
  await page.locator('footer').first().getByRole('button', { name: 'look', exact: true }).click();
  const amount = page.getByLabel('Figure of the lens: squint by');
  await expect(amount).toHaveValue('5');
  await amount.fill('30');
  await amount.press('Enter');
  await page.keyboard.press('Escape');
  // Enter left the field, and pressed nothing else.
  await expect(page.locator('footer').first()).toContainText('squint');
  await expect(page.locator('footer').first()).not.toContainText('values');
  await expect.poll(async () => spread(await colourAt(page, far))).toBeGreaterThan(3);
  await tapKey(page, 'q');
  await expect.poll(() => colourAt(page, edge)).toEqual([121, 121, 121]);
});
