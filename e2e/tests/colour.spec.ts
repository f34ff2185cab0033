import { readFile } from 'node:fs/promises';
import { colourOfArea, hexOfRgb } from '@miradero/core/colour';
import { readPaletteFile } from '@miradero/core/formats';
import { applyAffine, type Point } from '@miradero/core/geometry';
import { isPalette, type PaletteItem, type Placement, pictureToBoard } from '@miradero/core/items';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { onPage, openBoard, saved, TestBoard } from '../support/board.ts';
import { expect, test } from '../support/test.ts';

const RED = [200, 40, 30] as const;
const BLUE = [20, 60, 160] as const;
const WIDTH = 40;
const HEIGHT = 30;

/** Red on the left, blue on the right: pixels of which everything is known. */
const TWO_HALVES = new Uint8ClampedArray(
  Array.from({ length: WIDTH * HEIGHT }, (_, pixel) => [
    ...(pixel % WIDTH < WIDTH / 2 ? RED : BLUE),
    255,
  ]).flat(),
);
const pngOf = (data: Uint8ClampedArray, width: number, height: number) =>
  sharp(Buffer.from(data), { raw: { width, height, channels: 4 } })
    .png()
    .toBuffer();

/** Where a point of a placed picture (fractions) is on the page. */
const pointOn = (page: Page, placement: Placement, at: Point) =>
  onPage(page, applyAffine(pictureToBoard(placement), at));

test('a colour is read of the original through a turned, flipped, trimmed and faded picture: a point, an area, what is drawn around; it is compared, copied and pinned', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'colours read');
  const [placed] = await board.placeFiles([
    { id: 'known', name: 'known.png', bytes: await pngOf(TWO_HALVES, WIDTH, HEIGHT) },
  ]);
  const altered: Placement = {
    ...placed!,
    ...{ turn: 30, flipX: true, opacity: 0.4, trim: { x: 0.1, y: 0.1, width: 0.8, height: 0.8 } },
  };
  const { turn, flipX, opacity, trim } = altered;
  await board.change([{ item: 'known', set: { turn, flipX, opacity, trim } }]);
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write'], { origin: running.address });
  await openBoard(page, board);
  const card = page.getByTestId('colour-card');
  const colour = card.getByTestId('colour');
  const copied = () => page.evaluate(() => navigator.clipboard.readText());

  const red = await pointOn(page, altered, { x: 0.3, y: 0.5 });
  await page.mouse.move(red.x, red.y);
  await page.keyboard.press('k');
  await expect(colour).toHaveText('#c8281e');
  await expect.poll(copied).toBe('#c8281e');
  await expect(card.getByRole('heading', { name: 'red' })).toBeVisible();
  await expect(card.getByTestId('colour-place')).toHaveText('12, 15');

  // Another point: the two are compared.
  const blue = await pointOn(page, altered, { x: 0.7, y: 0.5 });
  await page.mouse.click(blue.x, blue.y);
  await expect.poll(copied).toBe('#143ca0');
  await page.mouse.move(4, 300);
  await expect(card.getByRole('region', { name: 'Difference from the one before' })).toContainText('cooler');

  // Over the border an area is added as light.
  const border = await pointOn(page, altered, { x: 20.5 / WIDTH, y: 15.5 / HEIGHT });
  await page.mouse.click(border.x, border.y);
  await page.mouse.move(4, 300);
  await card.getByRole('radio', { name: '11', exact: true }).click();
  const seen = [];
  for (let y = 10; y <= 20; y += 1)
    for (let x = 15; x <= 25; x += 1)
      seen.push(...TWO_HALVES.slice((y * WIDTH + x) * 4, (y * WIDTH + x) * 4 + 4));
  const mean = colourOfArea(Uint8ClampedArray.from(seen))!;
  await expect(colour).toHaveText(hexOfRgb(mean.mean));
  await expect(card).toContainText(`spread ΔE ${mean.spread.toFixed(1)}`);
  await expect(card.getByTestId('colour-place')).toHaveText('20, 15 · 121 px');

  // Another notation is chosen by copying it, and stays chosen.
  await card.getByRole('button', { name: /^OKLCH/ }).click();
  await expect.poll(copied).toMatch(/^oklch\(\d/);
  await expect(card.getByRole('button', { name: /^CMYK/ })).toContainText(/C \d+% M \d+% Y \d+% K \d+%/);

  // Arrows go from pixel to pixel.
  await card.getByRole('radio', { name: '1', exact: true }).click();
  await page.locator('.stage').focus();
  await page.keyboard.press('ArrowLeft');
  await expect(card.getByTestId('colour-place')).toHaveText('19, 15');
  await expect(card.getByRole('heading', { name: 'red' })).toBeVisible();

  // Drawn around: all of it is red.
  const corners = [];
  for (const at of [
    { x: 0.2, y: 0.3 },
    { x: 0.45, y: 0.3 },
    { x: 0.45, y: 0.7 },
    { x: 0.2, y: 0.7 },
  ])
    corners.push(await pointOn(page, altered, at));
  const [first, ...others] = corners as [Point, ...Point[]];
  await page.mouse.move(first.x, first.y);
  await page.mouse.down();
  for (const { x, y } of others) await page.mouse.move(x, y, { steps: 6 });
  await page.mouse.up();
  await page.mouse.move(4, 300);
  await expect(card.getByTestId('colour-place')).toHaveText(/drawn area · \d+ px/);
  await card.getByRole('button', { name: /^hex/ }).click();
  await expect(colour).toHaveText('#c8281e');

  await page.mouse.click(red.x, red.y);
  await expect.poll(copied).toBe('#c8281e');
  await page.locator('.stage').focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('Pinned: red #c8281e.')).toBeVisible();
  await saved(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect(card).toHaveCount(0);
  await page.mouse.click(red.x, red.y);
  await expect(page.getByTestId('labels-on-pictures')).toContainText('red #c8281e');
});

test('a palette of what is selected has every colour with its share, stands on the board, adapts around what is locked, and is saved and read back', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'palettes');
  const flat = (colour: readonly number[]) =>
    new Uint8ClampedArray(Array.from({ length: 400 }, () => [...colour, 255]).flat());
  await board.placeFiles([
    { id: 'halves', name: 'halves.png', bytes: await pngOf(TWO_HALVES, WIDTH, HEIGHT) },
    { id: 'sand', name: 'sand.png', bytes: await pngOf(flat([225, 210, 195]), 20, 20) },
  ]);
  await openBoard(page, board);
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Alt+k');
  const label = page.getByRole('region', { name: 'Palette', exact: true });
  await expect(label).toContainText('3 colours');
  const made = async () => (await board.standing()).find(isPalette) as PaletteItem;
  await saved(page);
  // By area on the board: 300 × 225 in two halves, and 300 × 300.
  const shares = new Map((await made()).swatches.map(({ hex, share }) => [hex, share]));
  expect([...shares.keys()].sort()).toEqual(['#143ca0', '#c8281e', '#e1d2c3']);
  expect(shares.get('#e1d2c3')).toBeCloseTo(300 / 525, 3);
  expect(shares.get('#c8281e')).toBeCloseTo(225 / 2 / 525, 3);

  // Two colours, one of them locked: the other stands for the rest.
  await label.getByRole('button', { name: /^Keep .* #143ca0/ }).click();
  await saved(page);
  const field = label.getByLabel('Colours of the palette');
  await field.fill('2');
  await field.press('Enter');
  await expect(label).toContainText('2 colours');
  await saved(page);
  const [locked, rest] = (await made()).swatches;
  expect(locked).toMatchObject({ hex: '#143ca0', isLocked: true });
  expect(rest!.hex).toBe('#e1d2c3');

  for (const [words, ending] of [
    ['CSS custom properties', '.css'],
    ['design tokens', '.tokens.json'],
    ['JSON', '.palette.json'],
    ['SVG sheet', '.svg'],
  ] as const) {
    if ((await label.getByRole('button', { name: words, exact: true }).count()) === 0)
      await label.getByRole('button', { name: 'save' }).click();
    const downloading = page.waitForEvent('download');
    await label.getByRole('button', { name: words, exact: true }).click();
    const download = await downloading;
    expect(download.suggestedFilename()).toBe(`2-pictures${ending}`);
    const read = readPaletteFile(download.suggestedFilename(), await readFile(await download.path(), 'utf8'));
    expect(read.swatches.map(({ hex }) => hex)).toEqual([locked!.hex, rest!.hex]);
  }

  // One step back is the palette of three again.
  await page.locator('.stage').focus();
  await page.keyboard.press('Control+z');
  await expect(label).toContainText('3 colours');
});
