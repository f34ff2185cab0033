import { readFile } from 'node:fs/promises';
import { hexOfRgb, writeColour } from '@miradero/core/colour';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { onPage, openBoard, stageReady, TestBoard } from '../support/board.ts';
import { launchBrowser } from '../support/browser.ts';
import { withProfile } from '../support/profile.ts';
import { expect, test } from '../support/test.ts';

const card = (page: Page) => page.getByTestId('colour-card');

/** Presses the middle of a picture, with colours being read. */
async function readMiddle(page: Page, centre: { x: number; y: number }): Promise<void> {
  const { x, y } = await onPage(page, centre);
  await page.mouse.move(x, y);
  await page.keyboard.press('k');
  await expect(card(page).getByTestId('colour-place')).toBeVisible();
  await page.mouse.click(x, y);
  await page.mouse.move(4, 300);
}

test('a picture of sixteen bits and wide colours is read by its own profile, as soon as that is ready', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'wide colours');
  const [width, height] = [60, 40];
  const data = new Uint16Array(width * height * 3);
  for (let at = 0; at < width * height; at += 1) data.set([2_000, 50_000, 6_000], at * 3);
  const png = await sharp(data, { raw: { width, height, channels: 3 } })
    .toColourspace('rgb16')
    .png()
    .toBuffer();
  const profile = await readFile(new URL('../support/bt2020-linear.icc', import.meta.url));
  const [placed] = await board.placeFiles([
    { id: 'wide', name: 'wide.png', bytes: withProfile(png, profile) },
  ]);
  await openBoard(page, board);
  await readMiddle(page, placed!.centre);
  await expect(card(page).getByText('Beyond sRGB')).toBeVisible();
  await expect(card(page).getByText('About:')).toHaveCount(0);
  // Source of the matrix: ITU-R BT.2087-0, linear BT.2020 to BT.709.
  const [r, g, b] = [2_000, 50_000, 6_000].map((level) => level / 65_535) as [number, number, number];
  const light = [
    1.6605 * r - 0.5876 * g - 0.0728 * b,
    -0.1246 * r + 1.1329 * g - 0.0083 * b,
    -0.0182 * r - 0.1006 * g + 1.1187 * b,
  ];
  const [er, eg, eb] = light.map(
    (x) =>
      Math.sign(x) *
      (Math.abs(x) <= 0.0031308 ? 12.92 * Math.abs(x) : 1.055 * Math.abs(x) ** (1 / 2.4) - 0.055),
  ) as [number, number, number];
  const figuresIn = (text: string) => (text.replaceAll('−', '-').match(/-?\d+(?:\.\d+)?/g) ?? []).map(Number);
  const lab = figuresIn(writeColour({ r: er, g: eg, b: eb }, 'lab')!);
  const shown = await card(page)
    .getByRole('button', { name: /^CIELAB/ })
    .textContent();
  for (const [at, figure] of figuresIn(shown!).slice(-3).entries()) expect(figure).toBeCloseTo(lab[at]!, 0);
});

test('a picture in Display P3 is read in Display P3', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'display p3');
  const plain = sharp({ create: { width: 40, height: 30, channels: 3, background: '#ff0000' } });
  const tagged = await sharp({ create: { width: 4, height: 4, channels: 3, background: '#777777' } })
    .withIccProfile('p3')
    .png()
    .toBuffer();
  const { icc } = await sharp(tagged).metadata();
  const [placed] = await board.placeFiles([
    { id: 'p3', name: 'p3.png', bytes: withProfile(await plain.png().toBuffer(), icc!) },
  ]);
  await openBoard(page, board);
  await readMiddle(page, placed!.centre);
  await expect(card(page).getByText('Beyond sRGB')).toBeVisible();
  // Pure red of Display P3. Source: W3C, CSS Color Module Level 4, sample of color(display-p3 1 0 0) as oklch.
  await expect(card(page).getByRole('button', { name: /^OKLCH/ })).toContainText(
    /oklch\(64\.[89]% 0\.299 2[89]\.\d\)/,
  );
});

test('of a very large picture every pixel is read as it is in the file', async ({ page, running }) => {
  test.slow();
  const board = await TestBoard.create(running.address, 'a large plan');
  const [width, height] = [9_000, 600];
  const data = Buffer.alloc(width * height * 3);
  // Neighbours differ by one level: no copy that is packed with loss has them.
  for (let at = 0; at < width * height; at += 1) data.set([100 + (at % 2), 120 + (at % 3), 140], at * 3);
  const bytes = await sharp(data, { raw: { width, height, channels: 3 } })
    .png({ compressionLevel: 1 })
    .toBuffer();
  const [placed] = await board.placeFiles([{ id: 'plan', name: 'plan.png', bytes }]);
  await openBoard(page, board);
  await readMiddle(page, placed!.centre);
  const hexAt = (x: number, y: number) => {
    const at = (y * width + x) * 3;
    return hexOfRgb({ r: data[at]! / 255, g: data[at + 1]! / 255, b: data[at + 2]! / 255 });
  };
  await expect(card(page).getByText(/About|smaller copy/)).toHaveCount(0, { timeout: 60_000 });
  await page.locator('.stage').focus();
  for (let step = 0; step < 4; step += 1) {
    const text = (await card(page).getByTestId('colour-place').textContent())!;
    const [x, y] = text.split(', ').map((part) => Number(part.replaceAll(',', ''))) as [number, number];
    await expect(card(page).getByTestId('colour')).toHaveText(hexAt(x, y));
    await page.keyboard.press(step % 2 === 0 ? 'ArrowRight' : 'ArrowDown');
    await expect(card(page).getByTestId('colour-place')).not.toHaveText(text);
  }
});

test('a colour is read of a screen that is shared', async ({ running }) => {
  const browser = await launchBrowser([
    '--use-fake-ui-for-media-stream',
    '--use-fake-device-for-media-stream',
  ]);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const board = await TestBoard.create(running.address, 'of a screen');
  await page.goto(board.url);
  await stageReady(page);
  await page.keyboard.press('k');
  await card(page).getByRole('button', { name: 'of a screen' }).click();
  const frozen = page.getByTestId('frozen').locator('canvas');
  await expect(frozen).toBeVisible();
  const box = (await frozen.boundingBox())!;
  const at = { x: Math.round(box.width / 3), y: Math.round(box.height / 3) };
  const expected = await frozen.evaluate((canvas: HTMLCanvasElement, { x, y }: { x: number; y: number }) => {
    const scale = canvas.width / canvas.getBoundingClientRect().width;
    const [r, g, b] = canvas
      .getContext('2d')!
      .getImageData(Math.floor(x * scale), Math.floor(y * scale), 1, 1).data;
    return `#${[r!, g!, b!].map((one) => one.toString(16).padStart(2, '0')).join('')}`;
  }, at);
  await page.mouse.click(box.x + at.x, box.y + at.y);
  await expect(card(page).getByTestId('colour')).toHaveText(expected);
  await expect(card(page).getByText('from the screen')).toBeVisible();
  await browser.close();
});
