import { createNote } from '@miradero/core/items';
import type { Placement } from '@miradero/core/schema';
import type { Page } from '@playwright/test';
import { clickOnBoard, openBoard, saved, stageReady, TestBoard } from '../support/board.ts';
import { expect, test } from '../support/test.ts';

/** A board with three pictures that were moved, of which one was taken away; and what it looked like before that. */
async function boardWithPast(address: string, name: string) {
  const board = await TestBoard.create(address, name);
  const before = await board.place([1, 2, 3]);
  await board.change([{ item: 'p1', set: { centre: { x: -600, y: 300 } } }]);
  await board.change([{ item: 'p2', set: { removed: true } }]);
  await board.change([
    {
      create: createNote({
        id: 'n',
        stack: 'z0',
        centre: { x: 0, y: 500 },
        width: 240,
        height: 51,
        text: 'Late',
      }),
    },
  ]);
  return { board, before };
}

const line = (page: Page) => page.getByRole('slider', { name: 'The past of this board' });
/** Until the stage shows the state at a revision. */
const shows = (page: Page, revision: number) =>
  expect(page.locator(`main[data-shown="${revision}"]`)).toBeVisible();
const idsOf = (items: readonly { id: string }[]) => items.map(({ id }) => id).sort();

test('the past is shown along a line, brought back whole, and that is undone', async ({ page, running }) => {
  const { board, before } = await boardWithPast(running.address, 'Back');
  await openBoard(page, board);
  const now = idsOf(await board.standing());
  await page.keyboard.press('Alt+z');
  await shows(page, 4);
  // One change back, by the keyboard; then to the first state by a press on the line.
  await line(page).press('ArrowLeft');
  await shows(page, 3);
  await expect(page.getByTestId('past-when')).toContainText('today');
  const { x, y, width, height } = (await line(page).boundingBox())!;
  await page.mouse.move(x + width * 0.9, y + height / 2);
  await page.mouse.down();
  await page.mouse.move(x + width * 0.4, y + height / 2, { steps: 5 });
  await page.mouse.move(x + width * 0.26, y + height / 2);
  await page.mouse.up();
  await shows(page, 1);
  await stageReady(page);
  const seen = await page.evaluate(() => window.miraderoStage!.feed.extent);
  expect(seen).toMatchObject({ x: -490, width: 980 });
  // A reload stays in that moment, once the address names it.
  await expect(page).toHaveURL(/[?]at=1$/);
  await page.reload();
  await shows(page, 1);
  await page.getByRole('button', { name: 'bring back the whole board' }).click();
  await expect(page).toHaveURL(board.url);
  await saved(page);
  expect(idsOf(await board.standing())).toEqual(idsOf(before));
  for (const placed of before) expect((await board.item(placed.id)).centre).toEqual(placed.centre);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => idsOf(await board.standing())).toEqual(now);
  expect((await board.item('p1')).centre).toEqual({ x: -600, y: 300 });
});

test('single things are brought back, and nothing else can be altered there', async ({ page, running }) => {
  const { board, before } = await boardWithPast(running.address, 'Single');
  await page.goto(`${board.url}/history?at=1`);
  await shows(page, 1);
  await stageReady(page);
  const middle = (before[1] as Placement).centre;
  await clickOnBoard(page, middle);
  // What is past is neither removed nor moved.
  await page.keyboard.press('Delete');
  await expect(page.getByText('Nothing is altered here')).toBeVisible();
  expect((await board.snapshot()).revision).toBe(4);
  await page.getByRole('button', { name: 'bring back what is selected' }).click();
  await expect(page.getByText('It is back on the board.')).toBeVisible();
  await expect.poll(async () => (await board.item('p2')).removed).toBe(false);
  expect((await board.item('p1')).centre).toEqual({ x: -600, y: 300 });
  await page.getByRole('button', { name: 'bring back what is selected' }).click();
  await expect(page.getByText('It stands on the board just like that.')).toBeVisible();
});

test('states have names, given here or on the board, which undo takes away', async ({ page, running }) => {
  const { board } = await boardWithPast(running.address, 'Named');
  await openBoard(page, board);
  await page.keyboard.press('Control+k');
  await page.keyboard.type('name this state');
  await page.keyboard.press('Enter');
  await page.getByRole('textbox', { name: 'Name of this state' }).fill('Sent to the printer');
  await page.keyboard.press('Enter');
  await expect(page.getByText('This state is named “Sent to the printer”.')).toBeVisible();
  await saved(page);
  await page.goto(`${board.url}/history?at=2`);
  await shows(page, 2);
  await page.getByRole('button', { name: 'name this state' }).click();
  await page.getByRole('textbox', { name: 'Name of this state' }).fill('Before the fog');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Name of this state' })).toHaveValue('Before the fog');
  await page.getByRole('button', { name: 'Sent to the printer' }).click();
  await shows(page, 4);
  await expect(page.getByRole('textbox', { name: 'Name of this state' })).toHaveValue('Sent to the printer');
  await page.getByRole('button', { name: 'take the name away' }).click();
  await expect(page.getByRole('button', { name: 'Sent to the printer' })).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('textbox', { name: 'Name of this state' })).toHaveValue('Sent to the printer');
  await saved(page);
  await page.reload();
  await expect(page.getByRole('button', { name: 'Before the fog' })).toBeVisible();
});

test('what happened since the last visit is told and outlined once', async ({ page, running }) => {
  const { board } = await boardWithPast(running.address, 'Visited');
  await openBoard(page, board);
  await expect
    .poll(() => page.evaluate((id) => localStorage.getItem(`miradero-seen-${id}`), board.id))
    .toContain('"revision":4');
  await page.goto(`${running.address}/settings`);
  await board.change([
    {
      create: createNote({
        id: 'm',
        stack: 'z1',
        centre: { x: 0, y: -400 },
        width: 240,
        height: 51,
        text: 'New',
      }),
    },
    { item: 'p3', set: { turn: 12 } },
  ]);
  await page.goto(board.url);
  await stageReady(page);
  const told = page.getByRole('status').filter({ hasText: 'Since' });
  await expect(told).toContainText('1 remark; 1 altered, by you, elsewhere');
  await page.keyboard.press('Escape');
  await expect(told).toHaveCount(0);
  await page.goto(`${running.address}/settings`);
  await page.goto(board.url);
  await stageReady(page);
  await expect
    .poll(() => page.evaluate((id) => localStorage.getItem(`miradero-seen-${id}`), board.id))
    .toContain('"revision":5');
  await expect(told).toHaveCount(0);
});

test('what was done in this browser is never told as done elsewhere, however soon it is left', async ({
  page,
  running,
}) => {
  const { board } = await boardWithPast(running.address, 'Left at once');
  await openBoard(page, board);
  const seen = () => page.evaluate((id) => localStorage.getItem(`miradero-seen-${id}`), board.id);
  await expect.poll(seen).toContain('"revision":4');
  // The server takes it, and this window is gone before it hears so.
  await page.route('**/api/boards/*/changes**', (route) => void route.fetch().catch(() => {}));
  await page.keyboard.press('Control+a');
  await page.keyboard.press('ArrowRight');
  await expect.poll(async () => (await board.snapshot()).revision).toBe(5);
  await page.goto(`${running.address}/settings`);
  await page.unroute('**/api/boards/*/changes**');
  await board.change([{ item: 'p3', set: { turn: 12 } }]);
  await page.goto(board.url);
  await stageReady(page);
  const told = page.getByRole('status').filter({ hasText: 'Since' });
  await expect(told).toHaveText(/: 1 altered, by you, elsewhere/);
  await saved(page);
  await expect.poll(seen).toContain('"revision":6');
});
