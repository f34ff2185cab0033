import type { Placement } from '@miradero/core/schema';
import type { Page } from '@playwright/test';
import pg from 'pg';
import sharp from 'sharp';
import { clickOnBoard, dragOnBoard, openBoard, saved, stageReady, TestBoard } from '../support/board.ts';
import { launchBrowser } from '../support/browser.ts';
import { startRunning } from '../support/running.ts';
import { expect, test } from '../support/test.ts';

const trouble = (page: Page, id: string) => page.locator(`[data-trouble="${id}"]`);
const centre = async (board: TestBoard) => ((await board.item('p1')) as Placement).centre;

test('a server that is gone and a database that is gone are told apart; both end by themselves', async () => {
  test.setTimeout(300_000);
  const running = await startRunning({ isDurable: true });
  const browser = await launchBrowser();
  try {
    const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
    const board = await TestBoard.create(running.address, 'gone');
    await board.place([1]);
    await openBoard(page, board);

    await running.killPostgres();
    await dragOnBoard(page, { x: 0, y: 0 }, { x: 60, y: 0 });
    await expect(trouble(page, 'database-gone')).toContainText('kept on this computer', { timeout: 30_000 });
    await expect(page.getByTestId('saved')).toContainText('Kept on this computer');
    await running.postgres.start();
    await saved(page);
    await expect(trouble(page, 'database-gone')).toBeHidden();
    expect((await centre(board)).x).toBeCloseTo(60, 0);

    await running.killServer();
    await expect(trouble(page, 'server-gone')).toContainText('sent by itself', { timeout: 30_000 });
    // Folded, its title stays in sight.
    await trouble(page, 'server-gone').getByRole('button', { name: 'fold' }).click();
    await expect(trouble(page, 'server-gone')).toContainText('does not answer');
    await expect(trouble(page, 'server-gone')).not.toContainText('sent by itself');
    await page.keyboard.press('Control+z');
    await running.startServer();
    await saved(page);
    await expect(trouble(page, 'server-gone')).toBeHidden();
    expect((await centre(board)).x).toBe(0);
  } finally {
    await browser.close();
    await running.stop();
  }
});

test('a server without room on its disk says so, keeps what it had, and goes on when there is room', async () => {
  test.setTimeout(300_000);
  const running = await startRunning();
  const browser = await launchBrowser();
  const client = new pg.Client({ connectionString: running.databaseUrl });
  try {
    await client.connect();
    const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
    const board = await TestBoard.create(running.address, 'full');
    await board.place([1]);
    await openBoard(page, board);
    // What PostgreSQL reports when a file cannot grow.
    await client.query(`
      create function no_room() returns trigger language plpgsql as $$
      begin raise exception 'could not extend file: No space left on device' using errcode = '53100'; end $$;
      create trigger no_room before insert or update on board_items for each row execute function no_room();`);
    await dragOnBoard(page, { x: 0, y: 0 }, { x: 60, y: 0 });
    await expect(trouble(page, 'disk-full')).toContainText('What was saved stays saved');
    expect((await centre(board)).x).toBe(0);
    await client.query('drop trigger no_room on board_items');
    await saved(page);
    await expect(trouble(page, 'disk-full')).toBeHidden();
    expect((await centre(board)).x).toBeCloseTo(60, 0);
  } finally {
    await client.end();
    await browser.close();
    await running.stop();
  }
});

test('a browser without room says what is in this window alone, and keeps it once there is room', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'quota');
  await board.place([1]);
  await openBoard(page, board);
  const session = await page.context().newCDPSession(page);
  const quota = (quotaSize?: number) =>
    session.send('Storage.overrideQuotaForOrigin', {
      origin: running.address,
      ...(quotaSize === undefined ? {} : { quotaSize }),
    });
  await quota(1);
  await dragOnBoard(page, { x: 0, y: 0 }, { x: 60, y: 0 });
  await expect(trouble(page, 'no-room')).toContainText('leave it open');
  await expect(page.getByTestId('saved')).toContainText('Not kept yet');
  await dragOnBoard(page, { x: 60, y: 0 }, { x: 60, y: 80 });
  // A picture that finds no room is refused alone, in words.
  const picture = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#b9791a' } })
    .png()
    .toBuffer();
  await page.setInputFiles('#choose-files', { name: 'no room.png', mimeType: 'image/png', buffer: picture });
  await expect(page.getByText('This browser has no room left for it.')).toBeVisible();
  await quota();
  await saved(page);
  await expect(trouble(page, 'no-room')).toBeHidden();
  const { x, y } = await centre(board);
  expect([Math.round(x), Math.round(y)]).toEqual([60, 80]);
});

test('a window that is older than the server, and one whose store a newer window took over, say so', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'versions');
  await board.place([1]);
  // This page was loaded from another build than the one that the server names.
  await page.route(board.url, async (route) => {
    const response = await route.fetch();
    const body = (await response.text()).replace(/(<meta name="build" content=")[^"]*/, '$1earlier');
    await route.fulfill({ response, body });
  });
  await openBoard(page, board);
  await expect(trouble(page, 'outdated')).toContainText('reload when it suits you');
  await page.unroute(board.url);
  await page.reload();
  await stageReady(page);
  await expect(trouble(page, 'outdated')).toBeHidden();

  const newer = await page.context().newPage();
  await newer.goto(`${running.address}/boards`);
  await newer.evaluate(async () => {
    const [{ name }] = (await indexedDB.databases()) as [{ name: string }];
    await new Promise((resolve, reject) => {
      const request = indexedDB.open(name, 99);
      request.onsuccess = resolve;
      request.onerror = reject;
    });
  });
  await dragOnBoard(page, { x: 0, y: 0 }, { x: 60, y: 0 });
  await expect(trouble(page, 'taken-over')).toContainText('reload this window');
  await newer.close();
});

test('a picture that cannot be shown says why where it stands, and the lintel says so', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'unshown');
  await board.place([1]);
  await openBoard(page, board);
  const whole = await sharp({ create: { width: 800, height: 600, channels: 3, background: '#b9791a' } })
    .jpeg()
    .toBuffer();
  const cut = whole.subarray(0, 700);
  await page.setInputFiles('#choose-files', { name: 'torn.jpg', mimeType: 'image/jpeg', buffer: cut });
  await expect(trouble(page, 'unshown')).toContainText('“torn” cannot be shown');
  await expect(trouble(page, 'unshown')).toContainText('Its file is kept as it came');
  const torn = ((await board.standing()) as Placement[]).find(({ id }) => id !== 'p1')!;
  const original = await fetch(`${running.address}/api/pictures/${torn.picture}/original`);
  expect(Buffer.from(await original.arrayBuffer()).equals(cut)).toBe(true);
  await clickOnBoard(page, torn.centre);
  await page.keyboard.press('Delete');
  await expect(trouble(page, 'unshown')).toBeHidden();
});
