import { boundsOf, clusterOf } from '@miradero/core/board';
import { overlaps, type Rectangle } from '@miradero/core/geometry';
import { type Cluster, type Item, isCluster, type Placement } from '@miradero/core/items';
import type { Page } from '@playwright/test';
import { atRest, dragOnScreen, lookAt, onPage, openBoard, saved, TestBoard } from '../support/board.ts';
import { expect, test } from '../support/test.ts';

/** A board with pictures in a row and one far off, opened. */
async function boardWith(page: Page, address: string, name: string, count: number): Promise<TestBoard> {
  const board = await TestBoard.create(address, name);
  await board.place(Array.from({ length: count }, (_, index) => index + 1));
  await openBoard(page, board);
  await page.keyboard.press('0');
  return board;
}

/** Where each stands, by id. */
const centres = (items: Map<string, Item>) =>
  [...items.values()].map(({ id, centre }) => ({ id, centre })).sort((a, b) => (a.id < b.id ? -1 : 1));

/** What stands once everything is at the server. */
async function now(page: Page, board: TestBoard): Promise<Map<string, Item>> {
  await saved(page);
  return new Map((await board.standing()).map((item) => [item.id, item]));
}

/** The same, once what was asked for is there: some layouts ask the server, or a worker, first. */
async function nowWhen(
  page: Page,
  board: TestBoard,
  isThere: (items: Map<string, Item>) => boolean,
): Promise<Map<string, Item>> {
  await expect.poll(async () => isThere(await now(page, board))).toBe(true);
  return now(page, board);
}

const areApart = (items: readonly Item[]): boolean => {
  const all = items.map(boundsOf);
  const inner = (r: Rectangle) => ({
    x: r.x + 0.01,
    y: r.y + 0.01,
    width: r.width - 0.02,
    height: r.height - 0.02,
  });
  return all.every((one, index) =>
    all.slice(index + 1).every((other) => !overlaps(inner(one), inner(other))),
  );
};

async function layOut(page: Page, name: string): Promise<void> {
  await page.locator('footer').getByRole('button', { name: 'lay out' }).click();
  await page
    .getByRole('dialog', { name: 'lay out' })
    .getByRole('button', { name, exact: false })
    .first()
    .click();
}

async function clickOn(page: Page, item: Item, keys: readonly ('Shift' | 'Control')[] = []): Promise<void> {
  const at = await onPage(page, item.centre);
  for (const key of keys) await page.keyboard.down(key);
  await page.mouse.click(at.x, at.y);
  for (const key of keys) await page.keyboard.up(key);
}

const title = (page: Page) => page.getByRole('textbox', { name: 'Title' });

test('settles all, by key and by word, and undo takes it back as one step', async ({ page, running }) => {
  const board = await boardWith(page, running.address, 'settling', 7);
  const before = await now(page, board);

  await page.keyboard.press('y');
  const isMoved = (items: Map<string, Item>) =>
    JSON.stringify(centres(items)) !== JSON.stringify(centres(before));
  const settled = await nowWhen(page, board, isMoved);
  expect(areApart([...settled.values()])).toBe(true);
  expect(centres(settled)).not.toEqual(centres(before));
  for (const [id, item] of settled) expect(item.width).toBe(before.get(id)!.width);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => centres(await now(page, board))).toEqual(centres(before));

  // Without holes sizes vary, aspects do not; the gap that was chosen is kept.
  await page.locator('footer').getByRole('button', { name: 'lay out' }).click();
  const gap = page.getByRole('textbox', { name: 'Gap between items' });
  await gap.fill('40');
  await gap.press('Enter');
  await page.keyboard.press('Escape');
  await layOut(page, 'settle without holes');
  const full = [...(await nowWhen(page, board, isMoved)).values()].map(boundsOf);
  const grown = full.map((r) => ({ x: r.x - 19, y: r.y - 19, width: r.width + 38, height: r.height + 38 }));
  expect(grown.every((one, index) => grown.slice(index + 1).every((other) => !overlaps(one, other)))).toBe(
    true,
  );
});

test('evens out, lines up and spaces what is selected; what is fixed stays, and says so', async ({
  page,
  running,
}) => {
  const board = await boardWith(page, running.address, 'evening', 4);
  await board.change([
    { item: 'p2', set: { width: 150, centre: { x: -130, y: 90 } } },
    { item: 'p3', set: { centre: { x: 210, y: -70 } } },
  ]);
  await expect.poll(async () => (await board.item('p2')).width).toBe(150);
  const widthHere = () =>
    page.evaluate(() => (window.miraderoStage!.feed.board.items.get('p2') as { width: number }).width);
  await expect.poll(widthHere).toBe(150);
  await page.keyboard.press('Control+a');
  await page.keyboard.press('e');
  const even = await now(page, board);
  const heights = [...even.values()].map((item) => boundsOf(item).height);
  for (const height of heights) expect(height).toBeCloseTo(heights[0]!, 3);
  await page.keyboard.press('u');
  const level = await now(page, board);
  for (const item of level.values()) expect(item.centre.y).toBeCloseTo(level.get('p1')!.centre.y, 3);

  await page.keyboard.press('Escape');
  await page.keyboard.press('0');
  await atRest(page);
  const one = (await now(page, board)).get('p1')!;
  await clickOn(page, one);
  await page.keyboard.press('j');
  await expect(page.getByText('Fixed in place: hands and layouts leave it')).toBeVisible();
  const at = await onPage(page, one.centre);
  await dragOnScreen(page, at, { x: at.x + 120, y: at.y + 90 });
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('y');
  const after = await now(page, board);
  expect(after.get('p1')!.centre).toEqual(one.centre);
  expect(areApart([...after.values()])).toBe(true);
});

test('makes a cluster with a title, moves it as one, takes in what is dropped on it, folds it, and takes it apart', async ({
  page,
  running,
}) => {
  const board = await boardWith(page, running.address, 'clustering', 4);
  await atRest(page);
  const before = await now(page, board);
  await clickOn(page, before.get('p1')!);
  await clickOn(page, before.get('p2')!, ['Shift']);
  await page.keyboard.press('Control+g');
  await title(page).fill('Hull and wheel');
  await title(page).press('Enter');
  const grouped = await now(page, board);
  const cluster = [...grouped.values()].find(isCluster)!;
  expect(cluster.title).toBe('Hull and wheel');
  expect(clusterOf(grouped, grouped.get('p1')!)?.id).toBe(cluster.id);

  // By its title it is taken as a whole.
  await page.keyboard.press('Escape');
  const bounds = boundsOf(cluster);
  const grip = await onPage(page, { x: bounds.x + bounds.width * 0.7, y: bounds.y + cluster.titleSize });
  await dragOnScreen(page, grip, { x: grip.x, y: grip.y + 150 });
  const moved = await now(page, board);
  const down = moved.get(cluster.id)!.centre.y - cluster.centre.y;
  expect(down).toBeGreaterThan(50);
  expect(moved.get('p1')!.centre.y - grouped.get('p1')!.centre.y).toBeCloseTo(down, 3);
  expect(moved.get('p3')!.centre).toEqual(grouped.get('p3')!.centre);

  // What is dropped on its ground lies in it; what is dragged out does not.
  const third = await onPage(page, moved.get('p3')!.centre);
  const into = await onPage(page, moved.get(cluster.id)!.centre);
  await page.keyboard.down('Alt');
  await dragOnScreen(page, third, into, 12);
  await page.keyboard.up('Alt');
  const joined = await now(page, board);
  expect(clusterOf(joined, joined.get('p3')!)?.id).toBe(cluster.id);

  // Any picture in it may be its cover.
  await page.keyboard.press('Control+k');
  await page.keyboard.type('make it the cover');
  await page.keyboard.press('Enter');
  await expect(page.getByText('It is the cover: folded, the cluster shows it.')).toBeVisible();
  const covered = (await now(page, board)).get(cluster.id) as Cluster;
  expect(covered.picture).toBe((joined.get('p3') as Placement).picture);

  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  const held = boundsOf(joined.get(cluster.id)!);
  const head = await onPage(page, { x: held.x + held.width * 0.7, y: held.y + cluster.titleSize });
  await page.mouse.click(head.x, head.y);
  await page.keyboard.press('Shift+F');
  const folded = await now(page, board);
  expect(folded.get(cluster.id)).toMatchObject({ form: 'folded' });
  await expect.poll(() => page.evaluate(() => window.miraderoStage!.feed.size)).toBe(2);
  // Enter opens it again.
  await page.keyboard.press('Enter');
  expect((await now(page, board)).get(cluster.id)).toMatchObject({ form: 'open' });
  await expect.poll(() => page.evaluate(() => window.miraderoStage!.feed.size)).toBe(5);
  await page.keyboard.press('Control+Shift+G');
  const apart = await now(page, board);
  expect([...apart.values()].some(isCluster)).toBe(false);
  expect(clusterOf(apart, apart.get('p3')!)).toBeUndefined();

  // Undo, all the way back.
  for (let step = 0; step < 7; step += 1) await page.keyboard.press('Control+z');
  await expect.poll(async () => centres(await now(page, board))).toEqual(centres(before));
});

test('puts spares away as a small stack, and brings them back', async ({ page, running }) => {
  const board = await boardWith(page, running.address, 'spares', 3);
  await atRest(page);
  const before = await now(page, board);
  await clickOn(page, before.get('p2')!);
  await page.keyboard.press('h');
  await expect(page.getByText('A spare lies in the small stack')).toBeVisible();
  const away = await now(page, board);
  const stack = [...away.values()].find(isCluster)!;
  expect(stack.form).toBe('spares');
  expect(stack.centre).toEqual(before.get('p2')!.centre);
  await expect.poll(() => page.evaluate(() => window.miraderoStage!.feed.size)).toBe(3);
  const at = await onPage(page, stack.centre);
  await page.keyboard.press('Escape');
  await page.mouse.dblclick(at.x, at.y);
  const back = await now(page, board);
  expect(back.get('p2')!.centre).toEqual(before.get('p2')!.centre);
  expect([...back.values()].some(isCluster)).toBe(false);
});

test('shelves hold what they say, and a strip has its newest at the head', async ({ page, running }) => {
  const board = await boardWith(page, running.address, 'shelves', 5);
  await atRest(page);
  await layOut(page, 'shelves by lightness');
  const hasCluster = (items: Map<string, Item>) => [...items.values()].some(isCluster);
  const shelved = await nowWhen(page, board, hasCluster);
  const shelves = [...shelved.values()].filter(isCluster);
  expect(shelves.length).toBeGreaterThan(0);
  for (const item of shelved.values()) if (!isCluster(item)) expect(clusterOf(shelved, item)).toBeDefined();
  expect(areApart(shelves)).toBe(true);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => [...(await now(page, board)).values()].some(isCluster)).toBe(false);

  await page.keyboard.press('Control+a');
  await layOut(page, 'strip');
  await title(page).press('Enter');
  const strip = await nowWhen(page, board, hasCluster);
  const row = [...strip.values()].filter((item) => !isCluster(item)).sort((a, b) => a.centre.x - b.centre.x);
  expect(areApart(row)).toBe(true);
  for (const item of row) expect(item.centre.y).toBeCloseTo(row[0]!.centre.y, 3);
  // What comes in while it is selected joins at its head.
  await lookAt(page, { centre: strip.get(row[0]!.id)!.centre, scale: 0.5 });
  const fresh = await TestBoard.create(running.address, 'elsewhere');
  const [placed] = await fresh.place([90]);
  await page.keyboard.press('Escape');
  await board.change([{ create: { ...placed!, id: 'late', centre: { x: 0, y: 2_000 } } }]);
  await expect.poll(() => page.evaluate(() => window.miraderoStage!.feed.size)).toBe(7);
  await page.keyboard.press('0');
  await atRest(page);
  const late = await onPage(page, { x: 0, y: 2_000 });
  const cluster = [...strip.values()].find(isCluster)!;
  const ground = await onPage(page, cluster.centre);
  await page.keyboard.down('Alt');
  await dragOnScreen(page, late, ground, 12);
  await page.keyboard.up('Alt');
  const longer = [...(await now(page, board)).values()].filter((item) => !isCluster(item));
  longer.sort((a, b) => a.centre.x - b.centre.x);
  expect(longer[0]!.id).toBe('late');
  expect(areApart(longer)).toBe(true);
});
