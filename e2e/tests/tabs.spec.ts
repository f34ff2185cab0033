import type { Placement } from '@miradero/core/schema';
import {
  clickOnBoard,
  dragOnScreen,
  onPage,
  openBoard,
  saved,
  stageReady,
  TestBoard,
} from '../support/board.ts';
import { expect, test } from '../support/test.ts';

test('boards stand open as tabs; going to another one and back keeps undo; closing one takes nothing', async ({
  page,
  running,
}) => {
  const first = await TestBoard.create(running.address, 'Light on the marsh');
  const second = await TestBoard.create(running.address, 'Page 7 in progress');
  await first.place([1]);
  await second.place([2]);
  await openBoard(page, first);
  await clickOnBoard(page, { x: 0, y: 0 });
  await page.keyboard.press('x');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('page 7');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(second.url);
  await stageReady(page);
  const tabs = page.getByRole('navigation', { name: 'Open boards' });
  await tabs.getByRole('link', { name: 'Light on the marsh' }).click();
  await expect(page).toHaveURL(first.url);
  await stageReady(page);
  await page.keyboard.press('Control+z');
  await saved(page);
  expect(((await first.item('p1')) as Placement).flipX).toBe(false);

  await page.keyboard.press('Alt+PageDown');
  await expect(page).toHaveURL(second.url);
  await page.getByRole('button', { name: 'Close Page 7 in progress' }).click();
  await expect(page).toHaveURL(first.url);
  await expect(tabs.getByRole('link')).toHaveCount(0);
  expect((await second.standing()).length).toBe(1);
});

test('the boards show how they look, are sorted, found by name and duplicated', async ({ page, running }) => {
  const names = ['Zigzag reed', 'Anchor 10', 'Anchor 9'];
  const boards: TestBoard[] = [];
  for (const name of names) boards.push(await TestBoard.create(running.address, name));
  await boards[0]!.place([5]);
  await page.goto(`${running.address}/boards`);
  const search = page.getByLabel('Find a board by its name');
  const shown = () =>
    page
      .getByLabel('Name of the board')
      .evaluateAll((inputs) => inputs.map((input) => (input as HTMLInputElement).value));
  const ours = async () => (await shown()).filter((name) => names.includes(name));
  await expect.poll(ours).toEqual(['Zigzag reed', 'Anchor 9', 'Anchor 10']);
  await page.getByRole('radio', { name: 'by name' }).click();
  await expect.poll(ours).toEqual(['Anchor 9', 'Anchor 10', 'Zigzag reed']);
  await page.reload();
  await expect.poll(ours).toEqual(['Anchor 9', 'Anchor 10', 'Zigzag reed']);
  await page.locator('h1').click();
  await page.keyboard.press('/');
  await expect(search).toBeFocused();
  await search.fill('reed zig');
  await expect.poll(shown).toEqual(['Zigzag reed']);
  await expect(page.locator(`[data-board="${boards[0]!.id}"] img`)).toBeVisible();
  await page.getByRole('button', { name: 'Duplicate' }).click();
  await expect.poll(shown).toEqual(['Zigzag reed', 'Zigzag reed, copy']);
  await search.fill('no such board');
  await expect(page.getByText('No board is called “no such board”.')).toBeVisible();
});

test('what is dragged to the tab of another open board stands there, too; undo takes it back; its label says where', async ({
  page,
  running,
}) => {
  const here = await TestBoard.create(running.address, 'Dragged from');
  const there = await TestBoard.create(running.address, 'Dragged onto');
  await here.place([9_091, 9_092]);
  await there.place([9_093]);
  await openBoard(page, there);
  await openBoard(page, here);
  const tab = page
    .getByRole('navigation', { name: 'Open boards' })
    .getByRole('link', { name: 'Dragged onto' });
  const box = (await tab.boundingBox())!;
  await dragOnScreen(page, await onPage(page, { x: -170, y: 0 }), {
    x: box.x + box.width / 2,
    y: box.y + box.height / 2,
  });
  await expect(page.getByText('A copy stands on “Dragged onto”, too.')).toBeVisible();
  await saved(page);
  const standing = async () => (await there.standing()) as Placement[];
  await expect.poll(async () => (await standing()).length).toBe(2);
  const [first] = (await here.standing()) as Placement[];
  // Beside what stands there, as large as here; here nothing moved.
  const copy = (await standing()).find(({ picture }) => picture === first!.picture)!;
  expect(copy.width).toBe(first!.width);
  expect(copy.centre.x).toBeGreaterThan(300);
  expect(first!.centre).toEqual({ x: -170, y: 0 });

  await page.keyboard.press('i');
  const label = page.getByRole('region', { name: 'Wall label' });
  await expect(label.getByRole('link', { name: 'Dragged onto' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await standing()).length).toBe(1);

  // The board that was in front before is the first that is offered by name.
  await page.keyboard.press('Control+k');
  await page.getByRole('option', { name: 'Dragged onto' }).first().click();
  await expect(page).toHaveURL(there.url);
});
