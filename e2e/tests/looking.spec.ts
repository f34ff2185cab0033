import { clusterOf } from '@miradero/core/board';
import { isCluster } from '@miradero/core/items';
import { atRest, cameraOf, onPage, openBoard, saved, TestBoard } from '../support/board.ts';
import { expect, test } from '../support/test.ts';

const patch = (address: string, picture: string, body: object) =>
  fetch(`${address}/api/pictures/${picture}`, {
    method: 'PATCH',
    body: JSON.stringify(body),
    headers: { 'Content-Type': 'application/json' },
  });

test('finds by word on the board, by names and by what was said, and Enter goes from one to the next', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'finding');
  const placed = await board.place([9021, 9022, 9023]);
  await patch(running.address, placed[0]!.picture, { name: 'Chain wheel' });
  await patch(running.address, placed[2]!.picture, { name: 'Ramp', tags: ['wheelhouse'] });
  await patch(running.address, placed[1]!.picture, { name: 'Lantern', tags: [] });
  await openBoard(page, board);
  await page.keyboard.press('/');
  const line = page.getByRole('textbox', { name: 'Find on this board' });
  await line.fill('WHEEL');
  const said = page.locator('search output');
  await expect(said).toHaveText('2');
  await line.press('Enter');
  await expect(said).toHaveText('1 of 2');
  await expect.poll(async () => Math.round((await cameraOf(page)).centre.x)).toBe(placed[0]!.centre.x);
  await line.press('Enter');
  await expect(said).toHaveText('2 of 2');
  await expect.poll(async () => Math.round((await cameraOf(page)).centre.x)).toBe(placed[2]!.centre.x);
  await line.press('Shift+Enter');
  await expect(said).toHaveText('1 of 2');
  await line.fill('no such thing');
  await expect(said).toHaveText('nothing');
  await line.fill('chain wheel');
  await line.press('Enter');
  // What was gone to is selected then.
  await line.press('Escape');
  await expect(line).toBeHidden();
  await expect(page.locator('footer')).toContainText('Chain wheel');
});

test('keeps views by number and name, shows the map, and turns pages', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'views');
  const placed = await board.place([9031, 9032, 9033]);
  await openBoard(page, board);
  await page.keyboard.press('Shift+Digit1');
  await expect(page.getByText('No view is kept as 1.')).toBeVisible();
  await page.keyboard.press('Control+Shift+V');
  await expect(page.getByText('Kept: Shift 1 comes back here.')).toBeVisible();
  await saved(page);
  const before = await cameraOf(page);
  await page.evaluate(() => window.miraderoStage!.setCamera({ centre: { x: 900, y: 500 }, scale: 0.2 }));
  await page.keyboard.press('Shift+Digit1');
  await expect.poll(async () => (await cameraOf(page)).scale).toBeCloseTo(before.scale, 3);
  expect((await cameraOf(page)).centre.x).toBeCloseTo(before.centre.x, 0);
  // It is kept with the board, under a name, and is nothing that stands on it.
  await page.locator('footer').getByRole('button', { name: 'look', exact: true }).click();
  const list = page.getByRole('dialog', { name: 'look' });
  await list.getByRole('textbox', { name: 'Name of the view' }).fill('The wheel');
  await page.keyboard.press('Enter');
  await expect(list.getByRole('button', { name: 'Go to The wheel' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.reload();
  await page.locator('[data-stage="sharp"]').first().waitFor();
  await page.keyboard.press('Control+a');
  await expect(page.locator('footer')).toContainText('3 selected');
  await page.keyboard.press('Escape');

  await page.keyboard.press('Shift+Digit0');
  const map = page.getByRole('img', { name: 'The whole board, and what is in view' });
  const { x, y, width, height } = (await map.boundingBox())!;
  await page.mouse.click(x + width - 4, y + height / 2);
  expect((await cameraOf(page)).centre.x).toBeGreaterThan(before.centre.x + 100);
  await page.keyboard.press('Shift+Digit0');
  await expect(map).toBeHidden();

  // One is close and nothing is selected: arrows turn pages.
  await page.keyboard.press('0');
  await atRest(page);
  const first = await onPage(page, placed[0]!.centre);
  await page.mouse.move(first.x, first.y);
  await page.keyboard.press('f');
  await expect.poll(async () => (await cameraOf(page)).scale).toBeGreaterThan(1.5);
  await page.keyboard.press('ArrowRight');
  await expect.poll(async () => Math.round((await cameraOf(page)).centre.x)).toBe(placed[1]!.centre.x);
  await page.keyboard.press('ArrowLeft');
  await expect.poll(async () => Math.round((await cameraOf(page)).centre.x)).toBe(placed[0]!.centre.x);
  await page.keyboard.press('Escape');
  await expect.poll(async () => (await cameraOf(page)).scale).toBeLessThan(1.5);
});

test('proposes the fewest pictures for what is asked', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'fewest');
  const placed = await board.place([9041, 9042, 9043]);
  const purposes = (...names: string[]) => ({
    purposes: names.map((purpose) => ({ purpose, isNot: false, region: null })),
  });
  await patch(running.address, placed[0]!.picture, purposes('form'));
  await patch(running.address, placed[1]!.picture, purposes('form', 'light', 'colour'));
  await patch(running.address, placed[2]!.picture, purposes('light', 'pose'));
  await openBoard(page, board);
  await page.locator('footer').getByRole('button', { name: 'look', exact: true }).click();
  const list = page.getByRole('dialog', { name: 'look' });
  for (const name of ['form', 'light', 'pose', 'mood']) await list.getByLabel(name).check();
  await list.getByRole('button', { name: 'select them' }).click();
  await expect(page.getByText('2 pictures serve what any here serves.')).toBeVisible();
  await expect(page.getByText('None here is for mood.')).toBeVisible();
  await expect(page.locator('footer')).toContainText('2 selected');
});

test('copies things with all they carry within a board and to another', async ({ page, running }) => {
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write'], { origin: running.address });
  const board = await TestBoard.create(running.address, 'copied from');
  await board.place([9051, 9052]);
  await board.change([
    { item: 'p9051', set: { turn: 12, flipX: true, trim: { x: 0.1, y: 0.1, width: 0.5, height: 0.5 } } },
  ]);
  await openBoard(page, board);
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+g');
  await page.keyboard.type('Pair');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+c');
  await expect(page.getByText('3 things are copied.')).toBeVisible();
  await page.keyboard.press('Control+v');
  await saved(page);
  await expect.poll(async () => (await board.standing()).length).toBe(6);

  const other = await TestBoard.create(running.address, 'copied to');
  await page.goto(other.url);
  await page.locator('[role="application"]').waitFor();
  await page.locator('[role="application"]').focus();
  await page.keyboard.press('Control+v');
  await saved(page);
  await expect.poll(async () => (await other.standing()).length).toBe(3);
  const items = new Map((await other.standing()).map((item) => [item.id, item]));
  const cluster = [...items.values()].find(isCluster)!;
  expect(cluster.title).toBe('Pair');
  const turned = [...items.values()].find(({ turn }) => turn === 12)!;
  expect(turned).toMatchObject({ flipX: true, trim: { x: 0.1, y: 0.1, width: 0.5, height: 0.5 } });
  expect(clusterOf(items, turned)?.id).toBe(cluster.id);
  await page.keyboard.press('Control+x');
  await expect.poll(async () => (await other.standing()).length).toBe(0);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await other.standing()).length).toBe(3);
});
