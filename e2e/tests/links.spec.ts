import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { createServer } from 'node:http';
import { createRequire } from 'node:module';
import AxeBuilder from '@axe-core/playwright';
import type { BoardLink, BoardSnapshot, CreateLink, Placement } from '@miradero/core/schema';
import sharp from 'sharp';
import { byName, openBoard, saved, stageReady, TestBoard } from '../support/board.ts';
import { launchBrowser } from '../support/browser.ts';
import { drop, withFiles } from '../support/drops.ts';
import { freePort } from '../support/free-port.ts';
import { faultsOfText } from '../support/layout.ts';
import { testPicture } from '../support/pictures.ts';
import { expect, test } from '../support/test.ts';

/** A name of this computer that is no secure context: as another one sees it, over plain HTTP. */
const OUTSIDE = 'looker.test';

/** Links are served from now on, and one leads to a board. */
async function linkTo(address: string, board: TestBoard, more: Pick<CreateLink, 'withOriginals' | 'tasks'>) {
  const port = await freePort();
  const send = (method: string, path: string, body: object) =>
    fetch(`${address}${path}`, {
      method,
      body: JSON.stringify(body),
      headers: { 'Content-Type': 'application/json' },
    });
  await send('PATCH', '/api/settings', { links: { isOn: true, host: '127.0.0.1', port } });
  const made = await send('POST', '/api/links', { id: randomUUID(), board: board.id, ...more });
  const { link } = (await made.json()) as { link: BoardLink };
  return { port, link, address: `http://127.0.0.1:${port}${link.path}` };
}

test('a partner looks by a link, says yes and no and why, and that stands on the board', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'For a partner');
  await board.place([1, 2, 3]);
  await openBoard(page, board);
  await byName(page, 'links to look');
  const sheet = page.getByRole('dialog', { name: 'Links to look' });
  const port = await freePort();
  await sheet.getByLabel('port').fill(String(port));
  await sheet.getByLabel('port').blur();
  await sheet.getByLabel('for everybody who reaches this computer').uncheck();
  await sheet.getByRole('button', { name: 'switch it on' }).click();
  await expect(sheet).toContainText(`Links are served at http://127.0.0.1:${port}`);
  await sheet.getByLabel(/^Tasks/).fill('Which of them looks heaviest?');
  await sheet.getByRole('button', { name: 'Make a link' }).click();
  const address = (await sheet.getByText(/http:\/\/127\.0\.0\.1:\d+\/l\//).innerText()).trim();
  await page.keyboard.press('Escape');

  const browser = await launchBrowser([`--host-resolver-rules=MAP ${OUTSIDE} 127.0.0.1`]);
  try {
    const context = await browser.newContext({ viewport: { width: 1100, height: 700 } });
    const looker = await context.newPage();
    const troubles: string[] = [];
    looker.on('pageerror', ({ message }) => troubles.push(message));
    await looker.goto(address.replace('127.0.0.1', OUTSIDE));
    expect(await looker.evaluate(() => isSecureContext)).toBe(false);
    await expect(looker.getByText('Which of them looks heaviest?')).toBeVisible();
    await looker.getByLabel('Your name').fill('Mara Quill');
    await looker.getByRole('button', { name: 'Begin' }).click();
    const canvas = looker.locator('#board');
    const { width, height } = (await canvas.boundingBox())!;
    await canvas.click({ position: { x: width * 0.2, y: height / 2 } });
    await expect(looker.getByRole('heading', { name: 'picture 1' })).toBeVisible();
    await looker.getByRole('button', { name: 'yes', exact: true }).click();
    await expect(looker.getByRole('button', { name: 'yes', exact: true })).toHaveAttribute(
      'aria-pressed',
      'true',
    );
    await looker.getByLabel('A remark').fill('The rim, <b>not</b> the sky');
    await looker.getByRole('button', { name: 'Keep it' }).click();
    await expect(
      looker.getByRole('listitem').filter({ hasText: 'The rim, <b>not</b> the sky' }),
    ).toBeVisible();
    await canvas.click({ position: { x: width * 0.8, y: height / 2 } });
    await looker.getByRole('button', { name: 'no', exact: true }).click();
    await expect(looker.getByText('1 yes, 1 no, 1 remark')).toBeVisible();
    const { violations } = await new AxeBuilder({ page: looker }).analyze();
    expect(
      violations.filter(({ impact }) => impact === 'serious' || impact === 'critical').map(({ id }) => id),
    ).toEqual([]);
    await looker.setViewportSize({ width: 390, height: 844 });
    expect(await faultsOfText(looker, true)).toEqual([]);
    expect(
      await looker.evaluate(() => document.documentElement.scrollWidth - innerWidth),
    ).toBeLessThanOrEqual(0);
    // A reload knows who looks.
    await looker.reload();
    await expect(looker.getByText('1 yes, 1 no, 1 remark')).toBeVisible();
    await looker.getByRole('button', { name: 'Hand in' }).click();
    await expect(looker.getByText('Handed in.')).toBeVisible();
    expect(troubles).toEqual([]);

    // It stands on the board, by their name; and an ended link leads nowhere.
    await expect
      .poll(async () =>
        (await board.standing()).flatMap((item) => ('title' in item ? [item.title] : [])).sort(),
      )
      .toEqual(['Mara Quill: no', 'Mara Quill: yes']);
    await saved(page);
    await byName(page, 'links to look');
    await expect(sheet).toContainText('1 yes, 1 no, 1 remark; handed in today');
    await sheet.getByRole('button', { name: 'end it' }).click();
    await expect(sheet).toContainText('ended today');
    await looker.reload();
    await expect(looker.locator('body')).toContainText('This link leads nowhere');
    await sheet.getByRole('button', { name: 'switch it off' }).click();
    await expect(sheet).toContainText('it is off');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Alt+z');
    await expect(page.getByText('by “Mara Quill”')).toBeVisible();
  } finally {
    await browser.close();
  }
});

test('a class goes through the pictures by keys alone, takes the board as a file, and begins a copy with it', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'Three values');
  await board.place([1, 2, 3]);
  const { address } = await linkTo(running.address, board, {
    withOriginals: true,
    tasks: 'Paint each with three values.',
  });
  const browser = await launchBrowser([`--host-resolver-rules=MAP ${OUTSIDE} 127.0.0.1`]);
  try {
    const learner = await (await browser.newContext({ viewport: { width: 1100, height: 700 } })).newPage();
    await learner.goto(address.replace('127.0.0.1', OUTSIDE));
    await expect(learner.getByLabel('Your name')).toBeVisible();
    await learner.getByLabel('Your name').focus();
    await learner.keyboard.type('Ilse Brand');
    await learner.keyboard.press('Enter');
    await expect(learner.getByText('0 yes, 0 no, 0 remarks')).toBeVisible();
    await learner.locator('#board').focus();
    await learner.keyboard.press('PageDown');
    await expect(learner.getByRole('heading', { name: 'picture 1' })).toBeVisible();
    await learner.keyboard.press('y');
    await expect(learner.getByText('1 yes, 0 no, 0 remarks')).toBeVisible();
    // Around at the end, and back.
    await learner.keyboard.press('PageUp');
    await expect(learner.getByRole('heading', { name: 'picture 3' })).toBeVisible();
    await learner.keyboard.press('n');
    await expect(learner.getByText('1 yes, 1 no, 0 remarks')).toBeVisible();
    await expect(learner.getByRole('button', { name: 'no', exact: true })).toHaveAttribute(
      'aria-pressed',
      'true',
    );
    await learner.keyboard.press('PageDown');
    await learner.keyboard.press('y');
    await expect(learner.getByText('0 yes, 1 no, 0 remarks')).toBeVisible();
    await learner.keyboard.press('Escape');
    await expect(learner.getByRole('heading', { name: 'The board as a whole' })).toBeVisible();
    await learner.getByRole('button', { name: 'next' }).click();
    const original = learner.waitForEvent('download');
    await learner.getByRole('link', { name: 'fetch its original' }).click();
    const fetched = await readFile(await (await original).path());
    expect(fetched.equals(await testPicture(1))).toBe(true);

    const coming = learner.waitForEvent('download');
    await learner.getByRole('button', { name: 'take the board as a file' }).click();
    const file = await coming;
    expect(file.suggestedFilename()).toBe('Three values.board.zip');
    await expect(learner.getByText('It comes with your downloads.')).toBeVisible();
    // Each of them begins a board of their own with it.
    await page.goto(`${running.address}/boards`);
    await page.waitForLoadState('networkidle');
    await withFiles({ 'Three values.board.zip': await readFile(await file.path()) }, async (files) => {
      await drop(page, files, 640, 400);
      await page.getByRole('button', { name: 'Bring it in' }).click();
    });
    await page.getByRole('button', { name: 'Open the board' }).click();
    await stageReady(page);
    const [, copy] = /\/boards\/([0-9a-f-]{36})/.exec(page.url())!;
    expect(copy).not.toBe(board.id);
    const { items } = (await (await fetch(`${running.address}/api/boards/${copy}`)).json()) as BoardSnapshot;
    expect(items.map(({ kind }) => kind).sort()).toEqual(['note', 'placement', 'placement', 'placement']);
  } finally {
    await browser.close();
  }
});

test('parts of a picture are shown by a deep-zoom viewer of another site', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'Deep');
  const bytes = await sharp(await testPicture(9_310))
    .resize(2_600, 1_800)
    .png()
    .toBuffer();
  await board.placeFiles([{ id: 'deep', name: 'deep.png', bytes }]);
  const { port, link } = await linkTo(running.address, board, { withOriginals: false });
  const { picture } = (await board.item('deep')) as Placement;
  await expect
    .poll(async () => (await fetch(`http://127.0.0.1:${port}${link.path}iiif/${picture}/info.json`)).status)
    .toBe(200);
  const script = await readFile(
    createRequire(import.meta.url).resolve('openseadragon/build/openseadragon/openseadragon.min.js'),
    'utf8',
  );
  const html =
    '<!doctype html><div id="v" style="width:700px;height:500px;background:#fff"></div><script src="osd.js"></script>';
  // Another site: of another port, to which nothing but parts of pictures is given.
  const site = createServer((request, response) => {
    const isScript = request.url?.endsWith('.js');
    response.setHeader('Content-Type', isScript ? 'text/javascript' : 'text/html');
    response.end(isScript ? script : html);
  });
  const sitePort = await freePort();
  await new Promise<void>((resolve) => site.listen(sitePort, '127.0.0.1', resolve));
  await page.goto(`http://127.0.0.1:${sitePort}/`);
  const asked: string[] = [];
  page.on(
    'response',
    (answer) => answer.url().includes('/iiif/') && asked.push(`${answer.status()} ${answer.url()}`),
  );
  await page.evaluate((info) => {
    const { OpenSeadragon } = window as unknown as {
      OpenSeadragon(options: object): { addHandler(name: string, run: () => void): void };
    };
    const viewer = OpenSeadragon({
      id: 'v',
      tileSources: info,
      crossOriginPolicy: 'Anonymous',
      showNavigationControl: false,
    });
    Object.assign(window, { deep: viewer });
    viewer.addHandler('open', () => document.body.setAttribute('data-open', 'yes'));
  }, `http://127.0.0.1:${port}${link.path}iiif/${picture}/info.json`);
  await expect(page.locator('body[data-open]')).toBeAttached();
  // As close as one pixel of the picture to one of the screen.
  await page.evaluate(() => {
    const { viewport } = (
      window as unknown as {
        deep: { viewport: { zoomTo(zoom: number): void; imageToViewportZoom(zoom: number): number } };
      }
    ).deep;
    viewport.zoomTo(viewport.imageToViewportZoom(1));
  });
  await expect
    .poll(
      () =>
        asked.filter((one) =>
          /^200 .*\/512,512,512,512\/512,512\/0\/default\.jpg$|^200 .*\/\d+,\d+,512,512\/512,/.test(one),
        ).length,
    )
    .toBeGreaterThan(0);
  expect(asked.filter((one) => !one.startsWith('200'))).toEqual([]);
  await expect
    .poll(async () => (await sharp(await page.locator('#v').screenshot()).stats()).channels[0]!.stdev)
    .toBeGreaterThan(10);
  await new Promise((resolve) => site.close(resolve));
});
