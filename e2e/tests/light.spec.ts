import { readFile } from 'node:fs/promises';
import { hexOfRgb, linearToSrgb } from '@miradero/core/colour';
import type { Point } from '@miradero/core/geometry';
import { applyAffine } from '@miradero/core/geometry';
import { isLitBall, type LitBall, type Placement, pictureToBoard } from '@miradero/core/items';
import { angleBetween, vectorOf } from '@miradero/core/light';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { byName, clickOnBoard, onPage, openBoard, saved, TestBoard } from '../support/board.ts';
import { expect, test } from '../support/test.ts';

const SIDE = 200;
const RADIUS = 70;
const LIGHT = { azimuthDeg: 300, elevationDeg: 30 };

/** A matte clay ball under one light, before a ground with its shadow. */
async function clayBall(): Promise<Buffer> {
  const light = vectorOf(LIGHT);
  const data = Buffer.alloc(SIDE * SIDE * 3);
  for (let pixel = 0; pixel < SIDE * SIDE; pixel += 1) {
    const [column, row] = [pixel % SIDE, Math.floor(pixel / SIDE)];
    const [x, y] = [(column - 100) / RADIUS, (row - 100) / RADIUS];
    const out = x * x + y * y;
    const lit = out > 1 ? 0 : Math.max(0, x * light[0] + y * light[1] + Math.sqrt(1 - out) * light[2]);
    const isShadow = out > 1 && column > 130 && row > 120;
    const level = out > 1 ? (isShadow ? 0.03 : 0.3) : 0.06 + 0.6 * lit;
    data.set(
      [level, level * 0.75, level * 0.55].map((one) => Math.round(255 * linearToSrgb(one))),
      pixel * 3,
    );
  }
  return sharp(data, { raw: { width: SIDE, height: SIDE, channels: 3 } })
    .png()
    .toBuffer();
}

async function drawAround(page: Page, placement: Placement): Promise<void> {
  const points: Point[] = [];
  for (let angle = 0; angle <= 360; angle += 15) {
    const [x, y] = [Math.cos((angle * Math.PI) / 180), Math.sin((angle * Math.PI) / 180)];
    const at = { x: 0.5 + (0.98 * RADIUS * x) / SIDE, y: 0.5 + (0.98 * RADIUS * y) / SIDE };
    points.push(await onPage(page, applyAffine(pictureToBoard(placement), at)));
  }
  const [first, ...others] = points as [Point, ...Point[]];
  await page.mouse.move(first.x, first.y);
  await page.mouse.down();
  for (const { x, y } of others) await page.mouse.move(x, y, { steps: 3 });
  await page.mouse.up();
}

test('light and shadow of a form are suggested and marked; the lit ball of them stands on the board, is turned and taken out', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'light and shadow');
  const [placed] = await board.placeFiles([{ id: 'clay', name: 'clay.png', bytes: await clayBall() }]);
  await openBoard(page, board);
  await clickOnBoard(page, placed!.centre);
  await byName(page, 'light and shadow');
  const card = page.getByTestId('light-card');
  await drawAround(page, placed!);
  await expect(card.getByRole('status')).toHaveText(
    /^One light from above left, in front explains (?:9\d|100) %/,
  );
  // A part is marked by pressing it: the colour is the picture's.
  await card.getByRole('button', { name: /^reflected light/ }).click();
  const corner = await onPage(page, applyAffine(pictureToBoard(placed!), { x: 0.04, y: 0.04 }));
  await page.mouse.click(corner.x, corner.y);
  const ground = hexOfRgb({
    r: linearToSrgb(0.3),
    g: linearToSrgb(0.3 * 0.75),
    b: linearToSrgb(0.3 * 0.55),
  });
  await expect(card.getByRole('button', { name: /^reflected light/ })).toContainText(ground);
  await card.getByRole('button', { name: 'onto the board' }).click();

  const label = page.getByRole('region', { name: 'Lit ball' });
  await expect(label).toContainText('from above left, in front; one light explains');
  await saved(page);
  const made = async () => (await board.standing()).find(isLitBall) as LitBall;
  const ball = await made();
  expect(angleBetween(ball.direction, LIGHT)).toBeLessThan(10);
  expect(ball).toMatchObject({ of: 'clay', title: 'Light of clay' });
  expect(ball.colours['reflected light']).toBe(ground);
  expect(ball.colours['cast shadow']).not.toBeNull();
  const value = (hex: string | null) => Number.parseInt(hex!.slice(3, 5), 16);
  expect(value(ball.colours.light)).toBeGreaterThan(value(ball.colours['half-tone']) + 20);
  expect(value(ball.colours['half-tone'])).toBeGreaterThan(value(ball.colours['core shadow']) + 20);

  // Taken out it has just these colours.
  const downloading = page.waitForEvent('download');
  await label.getByRole('button', { name: 'PNG' }).click();
  const file = await readFile(await (await downloading).path());
  const { data } = await sharp(file).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const seen = new Set<string>();
  for (let at = 0; at < data.length; at += 4)
    if (data[at + 3] === 255) seen.add(`#${data.subarray(at, at + 3).toString('hex')}`);
  for (const [part, hex] of Object.entries(ball.colours)) if (hex) expect(seen, part).toContain(hex);

  // Its light is moved by hand: given, no longer estimated.
  const preview = (await label.getByRole('img').boundingBox())!;
  await page.mouse.click(preview.x + preview.width * 0.66, preview.y + preview.height * 0.3);
  await expect(label).toContainText('from above right');
  await expect(label).not.toContainText('explains');
  await saved(page);
  expect((await made()).fit).toBeNull();
  await page.locator('.stage').focus();
  await page.keyboard.press('Control+z');
  await expect(label).toContainText('explains');
});
