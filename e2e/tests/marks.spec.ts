import AxeBuilder from '@axe-core/playwright';
import type { Point } from '@miradero/core/geometry';
import { isMark, type Mark } from '@miradero/core/items';
import type { CDPSession, Page } from '@playwright/test';
import { byName, colourAt, onPage, openBoard, saved, stageReady, TestBoard } from '../support/board.ts';
import { expect, test } from '../support/test.ts';

const marksOf = async (board: TestBoard): Promise<Mark[]> => (await board.standing()).filter(isMark);
const near = (value: number, by: number) => ({
  asymmetricMatch: (other: unknown) => Math.abs(Number(other) - value) <= by,
});
const isVermilion = ([r, g, b]: readonly number[]) => r! > 150 && g! < 110 && b! < 90;

async function draw(page: Page, points: readonly Point[]): Promise<void> {
  for (const [index, point] of points.entries()) {
    const { x, y } = await onPage(page, point);
    await page.mouse.move(x, y, { steps: 6 });
    if (index === 0) await page.mouse.down();
  }
  await page.mouse.up();
}

async function take(page: Page): Promise<void> {
  await page.keyboard.press('g');
  await expect(page.getByTestId('drawing-card')).toBeVisible();
}

test('a stroke of the mouse is a mark: where it was drawn, kept, taken back by one step, and hold is taken of its line', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'marks');
  await openBoard(page, board);
  await take(page);
  const card = page.getByTestId('drawing-card');
  await card.getByRole('radio', { name: 'vermilion' }).click();
  await card.getByRole('radio', { name: 'wide' }).click();
  await draw(page, [
    { x: -200, y: 0 },
    { x: 0, y: 80 },
    { x: 200, y: 0 },
  ]);
  await expect.poll(async () => isVermilion(await colourAt(page, { x: -100, y: 40 }))).toBe(true);
  await saved(page);
  const [mark, ...others] = await marksOf(board);
  expect(others).toEqual([]);
  expect(mark).toMatchObject({ pen: 'hard-pencil', ink: '#bf4128', width: near(409, 6) });
  expect(mark!.centre).toEqual({ x: near(0, 4), y: near(40, 6) });

  // With Shift it keeps to the axis.
  await page.keyboard.down('Shift');
  await draw(page, [
    { x: -100, y: -150 },
    { x: 100, y: -120 },
  ]);
  await page.keyboard.up('Shift');
  await expect.poll(async () => (await marksOf(board)).length).toBe(2);
  const level = (await marksOf(board)).find(({ id }) => id !== mark!.id)!;
  expect(level.width * level.proportion).toBeLessThan(14);
  expect(level.centre.y).toEqual(near(-150, 3));

  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await marksOf(board)).length).toBe(1);
  await page.reload();
  await stageReady(page);
  await expect.poll(async () => isVermilion(await colourAt(page, { x: -100, y: 40 }))).toBe(true);
  // Beside its line there is only its frame.
  const beside = await onPage(page, { x: 0, y: 10 });
  await page.mouse.click(beside.x, beside.y);
  await page.keyboard.press('Delete');
  const on = await onPage(page, { x: -100, y: 40 });
  await page.mouse.click(on.x, on.y);
  await expect(page.locator('footer')).toContainText('draw marks');
  await page.keyboard.press('Delete');
  await expect.poll(async () => (await marksOf(board)).length).toBe(0);
});

test('a stroke becomes what it is meant as, by a key or a word; taken back it is as it was drawn', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'meant');
  await openBoard(page, board);
  await take(page);
  const corners = [
    { x: -150, y: -60 },
    { x: 140, y: -66 },
    { x: 148, y: 58 },
    { x: -146, y: 64 },
    { x: -150, y: -56 },
  ];
  await draw(page, corners);
  await expect.poll(async () => (await marksOf(board)).length).toBe(1);
  const [drawn] = await marksOf(board);
  await page.locator('footer').getByRole('button', { name: 'as a rectangle' }).click();
  const mark = async () => (await marksOf(board))[0]!;
  await expect.poll(async () => (await mark()).smoothing).toBe(0);
  const rectangle = await mark();
  expect(rectangle.width).toEqual(near(302, 8));
  expect(rectangle.width * rectangle.proportion).toEqual(near(134, 8));
  await page.keyboard.press('7');
  await expect.poll(async () => (await mark()).points.length).not.toBe(rectangle.points.length);
  await page.keyboard.press('6');
  await expect.poll(async () => (await mark()).points.length).toBe(20);
  for (let step = 0; step < 3; step += 1) await page.keyboard.press('Control+z');
  await expect.poll(mark).toEqual(drawn);
  // Gone, it is meant as nothing more.
  await page.keyboard.press('Control+z');
  await page.keyboard.press('5');
  await expect(page.getByText('Draw one first.')).toBeVisible();
  await expect.poll(async () => (await marksOf(board)).length).toBe(0);
});

test('marks are rubbed out in part and whole, other things never; one drag is one change', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'rubbing');
  await board.place([1]);
  await openBoard(page, board);
  await take(page);
  await draw(page, [
    { x: -250, y: 0 },
    { x: 250, y: 0 },
  ]);
  await draw(page, [
    { x: -250, y: 150 },
    { x: 250, y: 150 },
  ]);
  await expect.poll(async () => (await marksOf(board)).length).toBe(2);
  await page.keyboard.press('d');
  const card = page.getByTestId('rubbing-card');
  await expect(card).toBeVisible();
  const down = [
    { x: 40, y: -80 },
    { x: 40, y: 200 },
  ];
  await draw(page, down);
  await expect.poll(async () => (await marksOf(board)).length).toBe(4);
  const widths = (await marksOf(board)).map(({ width }) => Math.round(width)).sort((a, b) => a - b);
  expect(widths).toEqual([near(199, 6), near(199, 6), near(279, 6), near(279, 6)]);
  expect((await board.item('p1')).removed).toBe(false);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await marksOf(board)).length).toBe(2);
  await card.getByRole('radio', { name: 'whole strokes' }).click();
  await draw(page, [
    { x: 40, y: 120 },
    { x: 40, y: 180 },
  ]);
  await expect.poll(async () => (await marksOf(board)).length).toBe(1);
  expect((await marksOf(board))[0]!.centre.y).toEqual(near(0, 4));
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations).toEqual([]);
});

async function pen(session: CDPSession, type: string, { x, y }: Point, force: number): Promise<void> {
  await session.send('Input.dispatchMouseEvent', {
    ...{ type: type as 'mousePressed', x, y, clickCount: 1, pointerType: 'pen', force, tiltX: 55 },
    ...{ button: force === 0 ? 'none' : 'left', buttons: force === 0 ? 0 : 1 },
  });
}

test('a pen draws as hard as it is pressed, at once; a finger draws, two move the board', async ({
  chromium,
  running,
}) => {
  const context = await chromium.newContext({ viewport: { width: 390, height: 800 }, hasTouch: true });
  const page = await context.newPage();
  const board = await TestBoard.create(running.address, 'pens');
  await openBoard(page, board);
  await take(page);
  const session = await context.newCDPSession(page);
  const from = await onPage(page, { x: -60, y: -200 });
  await pen(session, 'mousePressed', from, 0.1);
  // Held still at first it is a stroke as well, no question what can be done.
  await page.waitForTimeout(700);
  for (let step = 1; step <= 10; step += 1)
    await pen(session, 'mouseMoved', { x: from.x + step * 10, y: from.y }, step / 10);
  await session.send('Input.dispatchMouseEvent', {
    ...{ type: 'mouseReleased', x: from.x + 100, y: from.y, clickCount: 1, pointerType: 'pen' },
    ...{ button: 'left', buttons: 0 },
  });
  await expect.poll(async () => (await marksOf(board)).length).toBe(1);
  const [pressed] = await marksOf(board);
  const pressures = pressed!.points.filter((_, at) => at % 4 === 2);
  expect(pressures[0]).toEqual(near(26, 2));
  expect(pressures.at(-1)).toBeGreaterThan(220);
  expect(pressed!.points[3]).toBe(55);

  const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', points: readonly Point[]) =>
    session.send('Input.dispatchTouchEvent', { type, touchPoints: points.map((at, id) => ({ ...at, id })) });
  const [first, last] = [await onPage(page, { x: -60, y: -120 }), await onPage(page, { x: 60, y: -100 })];
  await touch('touchStart', [first]);
  for (let step = 1; step <= 6; step += 1)
    await touch('touchMove', [
      { x: first.x + ((last.x - first.x) * step) / 6, y: first.y + ((last.y - first.y) * step) / 6 },
    ]);
  await touch('touchEnd', []);
  await expect.poll(async () => (await marksOf(board)).length).toBe(2);

  const before = await page.evaluate(() => window.miraderoStage!.camera.centre);
  const two = (by: number) => [
    { x: 150, y: 200 + by },
    { x: 250, y: 200 + by },
  ];
  await touch('touchStart', [two(0)[0]!]);
  await touch('touchStart', two(0));
  for (const by of [10, 30, 50]) await touch('touchMove', two(by));
  await touch('touchEnd', []);
  const after = await page.evaluate(() => window.miraderoStage!.camera.centre);
  expect(before.y - after.y).toEqual(near(50, 8));
  await saved(page);
  expect(await marksOf(board)).toHaveLength(2);
  await context.close();
});

test('a wash never darkens itself; what is drawn with is remembered, and the card is accessible', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'wash');
  await openBoard(page, board);
  await byName(page, 'draw marks');
  const card = page.getByTestId('drawing-card');
  await card.getByRole('radio', { name: 'wash' }).click();
  await card.getByRole('radio', { name: 'value 1' }).click();
  await draw(page, [
    { x: -150, y: 0 },
    { x: 150, y: 0 },
    { x: 150, y: 90 },
    { x: 0, y: 90 },
    { x: 0, y: -90 },
  ]);
  await saved(page);
  await stageReady(page);
  const [once] = await colourAt(page, { x: -80, y: 0 });
  const [twice] = await colourAt(page, { x: 0, y: 0 });
  const [ground] = await colourAt(page, { x: -80, y: 150 });
  expect(once).toBeLessThan(ground - 15);
  expect(Math.abs(twice - once)).toBeLessThanOrEqual(1);
  expect((await marksOf(board))[0]!.opacity).toBeCloseTo(0.35);
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations).toEqual([]);
  await page.reload();
  await stageReady(page);
  await take(page);
  await expect(card.getByRole('radio', { name: 'wash' })).toBeChecked();
  await card.getByRole('button', { name: 'done' }).click();
  await expect(card).toHaveCount(0);
});
