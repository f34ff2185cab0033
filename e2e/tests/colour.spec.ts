import { readFile } from 'node:fs/promises';
import AxeBuilder from '@axe-core/playwright';
import { colourOfArea, hexOfRgb } from '@miradero/core/colour';
import { readPaletteFile } from '@miradero/core/formats';
import { applyAffine, type Point } from '@miradero/core/geometry';
import { isPalette, type PaletteItem, type Placement, pictureToBoard } from '@miradero/core/items';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { colourAt, onPage, openBoard, saved, TestBoard } from '../support/board.ts';
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

  // Pointed at, a colour is lit where it lives.
  const halves = (await board.item('halves')) as Placement;
  const isGrey = async (at: Point) => {
    const [r, g, b] = await colourAt(page, applyAffine(pictureToBoard(halves), at));
    return Math.max(r, g, b) - Math.min(r, g, b) < 40;
  };
  await label.getByText('#c8281e').hover();
  await expect.poll(() => isGrey({ x: 0.75, y: 0.5 })).toBe(true);
  expect(await isGrey({ x: 0.25, y: 0.5 })).toBe(false);
  await page.mouse.move(640, 20);
  await expect.poll(() => isGrey({ x: 0.75, y: 0.5 })).toBe(false);
  // Between two of them lie their mixtures.
  await label.getByRole('button', { name: /^Mix with .* #c8281e/ }).click();
  await label.getByRole('button', { name: /^Mix with .* #143ca0/ }).click();
  await expect(label.getByText('as paint: a model')).toBeVisible();
  await expect(label.getByRole('button', { name: /^Copy #/ })).toHaveCount(14);

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
  // The rest of it, between the sand and the red.
  expect(rest!.share).toBeCloseTo(1 - 225 / 2 / 525, 3);

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

test('a colour is guessed first: hidden until it was set by eye, then seen with the error in words, kept and charted', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'guesses');
  const [placed] = await board.placeFiles([
    { id: 'known', name: 'known.png', bytes: await pngOf(TWO_HALVES, WIDTH, HEIGHT) },
  ]);
  await openBoard(page, board);
  const blue = await pointOn(page, placed!, { x: 0.75, y: 0.5 });
  await page.mouse.move(blue.x, blue.y);
  await page.keyboard.press('k');
  const card = page.getByTestId('colour-card');
  await card.getByRole('button', { name: 'guess first' }).click();
  await page.mouse.click(blue.x, blue.y);
  await card.getByRole('button', { name: 'see it' }).waitFor();
  // Nothing tells what it is: neither the card nor the rail.
  await expect(card).not.toContainText('#143ca0');
  await expect(page.getByTestId('pointer-value')).toHaveCount(0);
  // Lighter, warmer and duller than the blue is.
  await card.getByRole('slider', { name: 'value' }).fill('6');
  await card.getByRole('slider', { name: 'chroma' }).fill('20');
  await card.getByRole('slider', { name: 'hue' }).fill('60');
  await card.getByRole('button', { name: 'see it' }).click();
  await expect(card.getByTestId('guess-words')).toHaveText(
    'You see this warmer, lighter and duller than it is.',
  );
  await expect(card.getByTestId('guess-truth')).toHaveText('#143ca0');
  const kept = async () =>
    ((await (await fetch(`${running.address}/api/guesses`)).json()) as { guesses: { truth: string }[] })
      .guesses;
  await expect.poll(async () => (await kept()).at(-1)?.truth).toBe('#143ca0');
  await card.getByRole('button', { name: 'your guesses' }).click();
  const sheet = page.getByRole('dialog', { name: 'Your guesses' });
  await expect(sheet).toContainText('ΔE off');
  await expect(sheet.locator('.recharts-bar-rectangle').first()).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).include('[role=dialog]').analyze();
  expect(
    violations.filter(({ impact }) => impact === 'serious' || impact === 'critical').map(({ id }) => id),
  ).toEqual([]);
  await page.keyboard.press('Escape');
  await expect(sheet).toHaveCount(0);
});

test('a palette is brought from a file, moved as a whole, and two are merged', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'palettes brought');
  await openBoard(page, board);
  const byName = async (words: string) => {
    await page.keyboard.press('Control+k');
    await page.keyboard.type(words);
    await page.getByRole('option', { name: words }).first().waitFor();
    await page.keyboard.press('Enter');
  };
  const bring = async (name: string, text: string) => {
    const choosing = page.waitForEvent('filechooser');
    await byName('palette from a file');
    await (await choosing).setFiles({ name, mimeType: 'text/css', buffer: Buffer.from(text) });
  };
  const palettes = async () => (await board.standing()).filter(isPalette);
  await bring('sea.css', ':root { --sea: #143ca0; --sand: #e1d2c3 }');
  await expect.poll(async () => (await palettes()).length).toBe(1);
  const label = page.getByRole('region', { name: 'Palette', exact: true });
  await expect(label).toContainText('#143ca0');
  // What is none is refused in words, and nothing comes.
  await bring('nothing.css', ':root { --gap: 4px }');
  await expect(page.getByText('There is no colour in this file.')).toBeVisible();
  await page.keyboard.press('Escape');

  await label.getByRole('button', { name: 'shift all' }).click();
  await label.getByRole('slider', { name: 'From darker to lighter' }).fill('0.1');
  await expect.poll(async () => (await palettes())[0]!.swatches[0]!.hex).not.toBe('#143ca0');
  await label.getByRole('button', { name: 'keep', exact: true }).click();
  await page.locator('.stage').focus();
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await palettes())[0]!.swatches[0]!.hex).toBe('#143ca0');

  await bring('rust.css', ':root { --rust: #c8281e; --sand: #e1d2c4 }');
  await expect.poll(async () => (await palettes()).length).toBe(2);
  await page.locator('.stage').focus();
  await page.keyboard.press('Control+a');
  await byName('merge palettes');
  await expect.poll(async () => (await palettes()).length).toBe(3);
  const merged = (await palettes()).find(({ title }) => title === 'sea and rust')!;
  // The two sands look alike: one colour with the shares of both.
  expect(merged.swatches).toHaveLength(3);
  expect(merged.swatches[0]!.share).toBeCloseTo(0.5, 6);
});
