import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import AxeBuilder from '@axe-core/playwright';
import { colourOfArea, hexOfRgb } from '@miradero/core/colour';
import { readPaletteFile } from '@miradero/core/formats';
import { applyAffine, type Point } from '@miradero/core/geometry';
import {
  createPalette,
  isPalette,
  type PaletteItem,
  type Placement,
  pictureToBoard,
} from '@miradero/core/items';
import type { KeptPalette } from '@miradero/core/schema';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import {
  byName,
  clickOnBoard,
  colourAt,
  onPage,
  openBoard,
  saved,
  stageReady,
  TestBoard,
} from '../support/board.ts';
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
  // As often as one likes: what an exact reading says is copied.
  for (let turn = 0; turn < 2; turn += 1) {
    await page.mouse.move(first.x, first.y);
    await page.mouse.down();
    for (const { x, y } of others) await page.mouse.move(x, y, { steps: 6 });
    await page.mouse.up();
    await page.mouse.move(4, 300);
    await expect(card.getByTestId('colour-place')).toHaveText(/drawn area · \d+ px/);
    await expect(card).toContainText('copied');
    await expect(card).not.toContainText('cannot be read');
  }
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
  const bring = async (name: string, text: string) => {
    const choosing = page.waitForEvent('filechooser');
    await byName(page, 'palette from a file');
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

  // What another window makes of it meanwhile is what is shifted from then on.
  await saved(page);
  const [only] = await palettes();
  await label.getByRole('button', { name: 'shift all' }).click();
  await label.getByRole('slider', { name: 'From darker to lighter' }).fill('0.05');
  await saved(page);
  await board.change([{ item: only!.id, set: { swatches: [only!.swatches[1]!] } }]);
  await expect(label).toContainText('1 colour');
  await label.getByRole('slider', { name: 'From darker to lighter' }).fill('0.1');
  await saved(page);
  expect((await palettes())[0]!.swatches).toHaveLength(1);
  await label.getByRole('button', { name: 'as it was' }).click();
  await saved(page);
  await board.change([{ item: only!.id, set: { swatches: only!.swatches } }]);
  await expect(label).toContainText('2 colours');

  await bring('rust.css', ':root { --rust: #c8281e; --sand: #e1d2c4 }');
  await expect.poll(async () => (await palettes()).length).toBe(2);
  await page.locator('.stage').focus();
  await page.keyboard.press('Control+a');
  await byName(page, 'merge palettes');
  await expect.poll(async () => (await palettes()).length).toBe(3);
  const merged = (await palettes()).find(({ title }) => title === 'sea and rust')!;
  // The two sands look alike: one colour with the shares of both.
  expect(merged.swatches).toHaveLength(3);
  expect(merged.swatches[0]!.share).toBeCloseTo(0.5, 6);
});

test('a palette of a rectangle; palettes are kept on the shelf, given to a subject, set side by side and put onto another board', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'the shelf');
  const [placed] = await board.placeFiles([
    { id: 'known', name: 'known.png', bytes: await pngOf(TWO_HALVES, WIDTH, HEIGHT) },
  ]);
  await openBoard(page, board);
  // Three quarters of the rectangle are red.
  const from = await pointOn(page, placed!, { x: 0.2, y: 0.2 });
  const to = await pointOn(page, placed!, { x: 0.6, y: 0.8 });
  await page.mouse.move(from.x, from.y);
  await page.keyboard.press('k');
  const card = page.getByTestId('colour-card');
  await card.getByRole('radio', { name: 'a rectangle' }).click();
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.mouse.up();
  await card.getByRole('button', { name: 'palette of it' }).click();
  const label = page.getByRole('region', { name: 'Palette', exact: true });
  await expect(label).toContainText('2 colours');
  await saved(page);
  const made = (await board.standing()).find(isPalette)!;
  const shares = new Map(made.swatches.map(({ hex, share }) => [hex, share]));
  expect(shares.get('#c8281e')).toBeCloseTo(0.75, 1);
  await label.getByRole('button', { name: 'keep on the shelf' }).click();
  await expect(page.getByText('The palette is on the shelf')).toBeVisible();

  // A palette of all of it has half of each; it is kept, too.
  await page.locator('.stage').focus();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  const { x, y } = await pointOn(page, placed!, { x: 0.5, y: 0.5 });
  await page.mouse.click(x, y);
  await page.keyboard.press('Alt+k');
  await expect.poll(async () => (await board.standing()).filter(isPalette).length).toBe(2);
  await label.getByRole('button', { name: 'keep on the shelf' }).click();

  const subject = randomUUID();
  await page.request.patch(`${running.address}/api/subjects/${subject}`, { data: { name: 'the shelf' } });
  const other = await TestBoard.create(running.address, 'another board');
  await openBoard(page, other);
  await byName(page, 'palette shelf');
  const shelf = page.getByRole('dialog', { name: 'Palette shelf' });
  await expect(shelf.getByRole('listitem')).toHaveCount(2);
  const row = shelf.getByRole('listitem').filter({ has: page.getByLabel('Subject of part of known') });
  await row.getByLabel('Subject of part of known').selectOption({ label: 'the shelf' });
  await row.getByLabel('Viewpoint of part of known').selectOption({ label: 'left side, level' });
  const kept = async () =>
    (await (await page.request.get(`${running.address}/api/palettes`)).json()).palettes as KeptPalette[];
  await expect
    .poll(async () => (await kept()).find(({ title }) => title === 'part of known'))
    .toMatchObject({ subject, viewpoint: { sector: 3, band: 1 } });
  await shelf.getByLabel('Find a palette').fill('the shelf');
  await expect(shelf.getByRole('listitem')).toHaveCount(1);
  await shelf.getByLabel('Find a palette').fill('');

  for (const name of ['Compare part of known', 'Compare known'])
    await shelf.getByRole('button', { name, exact: true }).click();
  await shelf.getByRole('button', { name: 'the two side by side' }).click();
  const sheet = page.getByRole('dialog', { name: 'Side by side' });
  await expect(sheet.getByRole('row').filter({ hasText: '#c8281e' })).toContainText(
    /7\d %.*50 %|50 %.*7\d %/,
  );
  await expect(sheet.getByText('Every colour of the second lies within the first.')).toBeVisible();
  const axe = await new AxeBuilder({ page }).include('[role=dialog]').analyze();
  expect(axe.violations).toEqual([]);
  await page.keyboard.press('Escape');

  await byName(page, 'palette shelf');
  await shelf.getByRole('button', { name: 'Onto the board: part of known' }).click();
  await expect.poll(async () => (await other.standing()).filter(isPalette).length).toBe(1);
  await byName(page, 'palette shelf');
  // It stands with its subject, until it is put away.
  const there = await page.context().newPage();
  await there.goto(`${running.address}/subjects/${subject}`);
  const own = there.getByRole('region', { name: 'Palettes' });
  await expect(own).toContainText('part of known');
  await expect(own).toContainText('left side, level');
  await there.close();
  await row.getByRole('button', { name: 'put away' }).click();
  await expect(shelf.getByRole('listitem')).toHaveCount(1);
});

test('what is fetched later and does not come takes nothing with it: it is said, and comes with the page anew', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'offline');
  const swatches = [{ hex: '#7e6650', share: 1, name: 'dull brown', isLocked: false }];
  const create = createPalette({ id: 'p', stack: 'a0', centre: { x: 0, y: 0 }, title: 'Reeds', swatches });
  await board.change([{ create }]);
  await page.route('**/palette-label-*.js', (route) => route.abort());
  await openBoard(page, board);
  await page.context().setOffline(true);
  await clickOnBoard(page, { x: 0, y: 0 });
  await page.keyboard.press('i');
  await expect(page.getByText('This does not come: the server is away.')).toBeVisible();
  await page.getByRole('button', { name: 'load the page anew' }).click();
  await expect(page.getByText('The server is still away.')).toBeVisible();
  await page.context().setOffline(false);
  await page.unroute('**/palette-label-*.js');
  const loaded = page.waitForEvent('load', { timeout: 60_000 });
  await page.getByRole('button', { name: 'load the page anew' }).click();
  await loaded;
  await stageReady(page);
  await clickOnBoard(page, { x: 0, y: 0 });
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Palette', exact: true })).toContainText('dull brown');
});
