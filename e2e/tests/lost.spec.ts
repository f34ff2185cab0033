import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Placement } from '@miradero/core/schema';
import { type Browser, test as base, expect, type Page } from '@playwright/test';
import { clickOnBoard, dragOnBoard, openBoard, saved, stageReady, TestBoard } from '../support/board.ts';
import { killBrowser, launchBrowser, launchProfile } from '../support/browser.ts';
import { heavyPicture, testPicture } from '../support/pictures.ts';
import { type Running, startRunning } from '../support/running.ts';

/** Every test here has a server, a durable database and a browser of its own: they are killed. */
const test = base.extend<{ running: Running; browser: Browser }>({
  // biome-ignore lint/correctness/noEmptyPattern: Playwright reads the names of what a fixture needs from here
  running: async ({}, use) => {
    const running = await startRunning({ isDurable: true });
    await use(running);
    await running.stop();
  },
});

async function newPage(browser: Browser): Promise<Page> {
  return (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
}

const kept = (page: Page) => expect(page.getByTestId('saved')).toHaveAttribute('data-state', 'kept');
const choose = async (page: Page, seed: number) =>
  page.setInputFiles('#choose-files', {
    name: `drop ${seed}.jpg`,
    mimeType: 'image/jpeg',
    buffer: await testPicture(seed),
  });

/** Where the screen shows the placements. */
const onScreen = (page: Page) =>
  page.evaluate(() => {
    const { feed } = window.miraderoStage as unknown as {
      feed: { board: { items: ReadonlyMap<string, Record<string, unknown>> } };
    };
    return [...feed.board.items.values()].sort((a, b) => (String(a.id) < String(b.id) ? -1 : 1));
  });

/** Pictures of the board that have all their levels. */
async function readyPictures(board: TestBoard): Promise<number> {
  const { pictures } = (await (await fetch(`${board.address}/api/pictures?board=${board.id}`)).json()) as {
    pictures: { state: string }[];
  };
  return pictures.filter(({ state }) => state === 'ready').length;
}

/** Everything the person made is at the server, on the screen before and on the screen after a reload. */
async function everythingIsThere(page: Page, board: TestBoard, pictures: number): Promise<void> {
  await saved(page);
  const before = await onScreen(page);
  const stored = [...(await board.snapshot()).items].sort((a, b) => (a.id < b.id ? -1 : 1));
  expect(stored).toEqual(before);
  await page.reload();
  await stageReady(page);
  expect(await onScreen(page)).toEqual(before);
  await expect.poll(() => readyPictures(board), { timeout: 40_000 }).toBe(pictures);
}

/** A series of moves, three before the accident and four after it, and pictures dropped on both sides of it. */
async function workThrough(page: Page, accident: () => Promise<void>): Promise<number[]> {
  let x = 0;
  const goals: number[] = [];
  const move = async () => {
    await dragOnBoard(page, { x, y: 0 }, { x: x + 23, y: 0 }, 3);
    x += 23;
    goals.push(x);
  };
  for (let count = 0; count < 3; count += 1) await move();
  await choose(page, 71);
  const happening = accident();
  for (let count = 0; count < 2; count += 1) await move();
  await happening;
  await choose(page, 72);
  for (let count = 0; count < 2; count += 1) await move();
  await kept(page);
  return goals;
}

test('the server ends by SIGKILL amid moves and drops; the hand goes on; nothing is lost', async ({
  running,
}) => {
  const browser = await launchBrowser();
  const page = await newPage(browser);
  const board = await TestBoard.create(running.address, 'killed server');
  await board.place([1]);
  await openBoard(page, board);
  const goals = await workThrough(page, () => running.killServer());
  await expect(page.getByText('The server does not answer')).toBeVisible();
  await running.startServer();
  await everythingIsThere(page, board, 3);
  const items = await board.standing();
  expect(items.find((item) => item.id === 'p1')!.centre.x).toBeCloseTo(goals[goals.length - 1]!, 6);
  expect(items).toHaveLength(3);
  await browser.close();
});

test('PostgreSQL ends by SIGKILL amid moves and drops; the hand goes on; nothing is lost', async ({
  running,
}) => {
  const browser = await launchBrowser();
  const page = await newPage(browser);
  const board = await TestBoard.create(running.address, 'killed database');
  await board.place([1]);
  await openBoard(page, board);
  const goals = await workThrough(page, () => running.killPostgres());
  await running.postgres.start();
  await everythingIsThere(page, board, 3);
  expect((await board.item('p1')).centre.x).toBeCloseTo(goals[goals.length - 1]!, 6);
  await browser.close();
});

test('the browser is killed while uploads run; at its next start every picture arrives', async ({
  running,
}) => {
  const profile = await mkdtemp(join(tmpdir(), 'miradero-profile-'));
  const board = await TestBoard.create(running.address, 'killed browser');
  let context = await launchProfile(profile);
  let page = context.pages()[0] ?? (await context.newPage());
  await page.goto(board.url);
  await expect(page.getByText('An empty board')).toBeVisible();
  // A slow line: 300 kB a second up, for pictures of 5 MB.
  const session = await context.newCDPSession(page);
  await session.send('Network.emulateNetworkConditions', {
    ...{ offline: false, latency: 5, downloadThroughput: -1, uploadThroughput: 300_000 },
  });
  const files = await Promise.all(
    [81, 82, 83].map(async (seed) => ({
      name: `${seed}.png`,
      mimeType: 'image/png',
      buffer: await heavyPicture(seed),
    })),
  );
  await page.setInputFiles('#choose-files', files);
  await expect(page.getByTestId('uploads')).toContainText('of 3');
  await expect.poll(async () => (await board.standing()).length).toBe(3);
  await kept(page);
  expect(await readyPictures(board)).toBeLessThan(3);
  const before = await onScreen(page);

  await killBrowser(profile);
  await context.close().catch(() => {});
  context = await launchProfile(profile);
  page = context.pages()[0] ?? (await context.newPage());
  await page.goto(board.url);
  await expect.poll(() => readyPictures(board), { timeout: 60_000 }).toBe(3);
  await stageReady(page);
  await saved(page);
  expect(await onScreen(page)).toEqual(before);
  for (const item of before) {
    const original = await fetch(
      `${running.address}/api/pictures/${(item as unknown as Placement).picture}/original`,
    );
    const bytes = Buffer.from(await original.arrayBuffer());
    expect(files.some((file) => file.buffer.equals(bytes))).toBe(true);
  }
  await context.close();
  await rm(profile, { recursive: true, force: true, maxRetries: 5, retryDelay: 200 });
});

test('a refused change amid good ones is undone on screen and listed; later ones are kept', async ({
  running,
}) => {
  const browser = await launchBrowser();
  const page = await newPage(browser);
  const board = await TestBoard.create(running.address, 'refused');
  const [first] = await board.place([1, 2]);
  await openBoard(page, board);
  // The middle one of three changes is spoilt on its way: the server finds a width that no board can take.
  let sent = 0;
  await page.route('**/changes', async (route) => {
    const body = route.request().postDataJSON() as {
      changes: { operations: { set: Record<string, unknown> }[] }[];
    };
    for (const change of body.changes) {
      sent += 1;
      if (sent === 2) change.operations[0]!.set.width = -5;
    }
    await route.continue({ postData: JSON.stringify(body) });
  });
  await dragOnBoard(page, { x: -170, y: 0 }, { x: -170, y: 60 });
  await saved(page);
  await clickOnBoard(page, { x: 170, y: 0 });
  await page.keyboard.press('x');
  await dragOnBoard(page, { x: -170, y: 60 }, { x: -170, y: -60 });
  await saved(page);
  await expect(page.getByRole('button', { name: '1 was not taken' })).toBeVisible();
  const items = await board.standing();
  expect(items.find((item) => item.id === 'p1')!.centre.y).toBeCloseTo(first!.centre.y - 60, 0);
  expect(items.find((item) => item.id === 'p2')).toMatchObject({ flipX: false });
  expect(await onScreen(page)).toEqual([...items].sort((a, b) => (a.id < b.id ? -1 : 1)));
  await page.getByRole('button', { name: '1 was not taken' }).click();
  await expect(page.getByText('The change holds something that a board cannot take.')).toBeVisible();
  // Two changes were good: two undos, and nothing of the refused one is among them.
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await saved(page);
  expect((await board.item('p1')).centre).toEqual(first!.centre);
  await browser.close();
});

test('two windows of one browser and a third elsewhere converge, and only one of them sends', async ({
  running,
}) => {
  const browser = await launchBrowser();
  const page = await newPage(browser);
  const beside = await page.context().newPage();
  const elsewhere = await newPage(browser);
  const board = await TestBoard.create(running.address, 'three windows');
  await board.place([1, 2]);
  // Asked for and not ended: a stream that is open has no entry among the page's resources.
  const streams = new Set<object>();
  page.context().on('request', (request) => {
    if (request.url().endsWith('/api/events')) streams.add(request);
  });
  page.context().on('requestfinished', (request) => streams.delete(request));
  page.context().on('requestfailed', (request) => streams.delete(request));
  for (const window of [page, beside, elsewhere]) await openBoard(window, board);
  expect(streams.size).toBe(1);
  for (let turn = 0; turn < 3; turn += 1) {
    for (const [index, window] of [page, beside, elsewhere].entries()) {
      await window.bringToFront();
      await clickOnBoard(window, { x: index === 1 ? 170 : -170, y: 0 });
      await window.keyboard.press(index === 2 ? 'x' : 'Shift+ArrowDown');
      await window.keyboard.press('ArrowUp');
    }
  }
  for (const window of [page, beside, elsewhere]) await saved(window);
  const stored = [...(await board.snapshot()).items].sort((a, b) => (a.id < b.id ? -1 : 1));
  for (const window of [page, beside, elsewhere]) await expect.poll(() => onScreen(window)).toEqual(stored);
  // The window that sends closes; the other one takes over, with a stream of its own.
  const [before] = streams;
  await page.close();
  await expect.poll(() => [...streams].some((one) => one !== before)).toBe(true);
  await beside.bringToFront();
  await clickOnBoard(beside, { x: 170, y: 30 });
  await beside.keyboard.press('Shift+ArrowLeft');
  await saved(beside);
  await browser.close();
});
