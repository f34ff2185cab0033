import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import AxeBuilder from '@axe-core/playwright';
import type { Note, Picture, Placement } from '@miradero/core/schema';
import type { Page } from '@playwright/test';
import { zipSync } from 'fflate';
import sharp from 'sharp';
import { workNamed } from '../../demo/commons/catalog.ts';
import { openBoard, saved, stageReady, TestBoard } from '../support/board.ts';
import { launchBrowser } from '../support/browser.ts';
import { ALT, drop, dropFromPage, withFiles } from '../support/drops.ts';
import { testPicture } from '../support/pictures.ts';
import { expect, test } from '../support/test.ts';

const demo = (name: string) => fileURLToPath(new URL(`../../demo/pictures/${name}`, import.meta.url));

async function picturesOf(address: string, query: string): Promise<Picture[]> {
  return ((await (await fetch(`${address}/api/pictures?${query}`)).json()) as { pictures: Picture[] })
    .pictures;
}
const placementsOf = async (board: TestBoard) =>
  (await board.standing()).filter((item): item is Placement => item.kind === 'placement');

/** The picture of the only placement on a board. */
async function onlyPicture(address: string, board: TestBoard): Promise<Picture> {
  const [placement, ...others] = await placementsOf(board);
  expect(others).toEqual([]);
  return (await picturesOf(address, `ids=${placement!.picture}`))[0]!;
}

async function paste(page: Page, items: Readonly<Record<string, string>>): Promise<void> {
  await page.evaluate(async (given) => {
    const blobs = Object.entries(given).map(([type, text]) => [type, new Blob([text], { type })] as const);
    await navigator.clipboard.write([new ClipboardItem(Object.fromEntries(blobs))]);
  }, items);
  await page.mouse.move(700, 400);
  await page.keyboard.press('Control+v');
}

async function emptyBoard(page: Page, address: string, name: string): Promise<TestBoard> {
  const board = await TestBoard.create(address, name);
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write'], { origin: address });
  await page.goto(board.url);
  await stageReady(page);
  return board;
}

test.describe('pasting', () => {
  test('a text becomes a note where the pointer is', async ({ page, running }) => {
    const board = await emptyBoard(page, running.address, 'pasted text');
    await paste(page, { 'text/plain': 'the lamp mast leans aft\nask Orla' });
    await expect.poll(async () => (await board.standing()).length).toBe(1);
    await saved(page);
    const [note] = (await board.standing()) as Note[];
    expect(note).toMatchObject({ kind: 'note', text: 'the lamp mast leans aft\nask Orla' });
  });

  test('an address of a picture brings it in, with where it comes from', async ({
    page,
    running,
    commons,
  }) => {
    const board = await emptyBoard(page, running.address, 'pasted address');
    const work = workNamed('ferry-bow')!;
    const address = `${commons.address}/file/640/${work.file}`;
    await paste(page, { 'text/plain': address });
    await expect.poll(async () => (await placementsOf(board)).length).toBe(1);
    await saved(page);
    expect(await onlyPicture(running.address, board)).toMatchObject({ width: 640, source: { address } });
    // One undo takes it back.
    await page.keyboard.press('Control+z');
    await saved(page);
    expect(await placementsOf(board)).toEqual([]);
  });

  test('a piece of a page brings each of its pictures, the largest it names', async ({
    page,
    running,
    commons,
  }) => {
    const board = await emptyBoard(page, running.address, 'pasted page');
    const [one, two] = [workNamed('ferry-bow')!.file, workNamed('ferry-low-sun')!.file];
    const html = `<p>two</p><img alt="Bow" src="${commons.address}/file/320/${one}" srcset="${commons.address}/file/320/${one} 320w, ${commons.address}/file/1280/${one} 1280w">
      <img alt="Low sun" src="${commons.address}/file/320/${two}"><script>window.ran = 1</script>`;
    await paste(page, { 'text/html': html });
    await expect.poll(async () => (await placementsOf(board)).length).toBe(2);
    await saved(page);
    const ids = (await placementsOf(board)).map(({ picture }) => picture);
    const pictures = await picturesOf(running.address, `ids=${ids.join()}`);
    expect(pictures.map(({ name, width }) => [name, width]).sort()).toEqual([
      ['Bow', 1280],
      ['Low sun', 320],
    ]);
    expect(await page.evaluate(() => 'ran' in window)).toBe(false);
  });

  test('an address that cannot be asked says so, and nothing else is held up', async ({ page, running }) => {
    const board = await emptyBoard(page, running.address, 'pasted private');
    await paste(page, { 'text/plain': 'http://192.168.1.1/camera.jpg' });
    const line = page.getByTestId('gathering');
    await line.getByRole('button', { name: '1 did not come' }).click();
    await expect(page.getByText('inside a network, not in the web')).toBeVisible();
    expect(await board.standing()).toEqual([]);
    // It is still said at the next visit, and can be asked again or given up.
    await page.reload();
    await line.getByRole('button', { name: '1 did not come' }).click();
    await page.getByRole('button', { name: 'Ask the addresses again' }).click();
    await line.getByRole('button', { name: '1 did not come' }).click();
    await page.getByRole('button', { name: 'Clear this list' }).click();
    await expect(line.getByRole('button')).toHaveCount(0);
  });
});

test.describe('dragged from another window', () => {
  const result = (commons: string, id: string) => {
    const work = workNamed(id)!;
    const link = `${commons}/work/${id}`;
    const html = `<a href="${link}"><img src="${commons}/file/200/${work.file}" width="200" alt="${work.title}"></a>`;
    return { 'text/uri-list': link, 'text/html': html };
  };

  test('a small picture of a page of results is followed to its large one, in its place', async ({
    page,
    running,
    commons,
  }) => {
    const board = await emptyBoard(page, running.address, 'followed');
    const work = workNamed('ferry-bow')!;
    await dropFromPage(page, result(commons.address, 'ferry-bow'), 800, 300);
    await expect.poll(async () => (await placementsOf(board)).length).toBe(1);
    const [before] = await placementsOf(board);
    await expect
      .poll(async () => (await onlyPicture(running.address, board)).width, { timeout: 30_000 })
      .toBe(1600);
    const [after] = await placementsOf(board);
    expect(after).toMatchObject({
      id: before!.id,
      centre: before!.centre,
      width: before!.width,
      pictureWidth: 1600,
    });
    expect(await onlyPicture(running.address, board)).toMatchObject({
      source: { page: `${commons.address}/work/ferry-bow`, creator: work.author },
    });
    expect((await onlyPicture(running.address, board)).source.licence).toContain('Tidewrack Open Licence');
    // What it replaced lies nowhere any more.
    await expect
      .poll(async () =>
        (await picturesOf(running.address, 'landing=true')).filter(({ width }) => width === 200),
      )
      .toEqual([]);
  });

  test('what is only there small stays, and says so', async ({ page, running, commons }) => {
    const board = await emptyBoard(page, running.address, 'only small');
    const paid = (await import('../../demo/commons/catalog.ts')).WORKS.find(({ offer }) => offer === 'paid')!;
    const items = { ...result(commons.address, paid.id) };
    items['text/html'] = items['text/html'].replace('/file/200/', '/file/480/');
    await dropFromPage(page, items, 800, 300);
    await expect(page.getByRole('status').filter({ hasText: 'only there in this size' })).toBeVisible({
      timeout: 30_000,
    });
    expect(await onlyPicture(running.address, board)).toMatchObject({
      width: 480,
      source: { creator: paid.author, page: `${commons.address}/work/${paid.id}` },
    });
  });
});

test('a page is looked at, picked from, and what is picked keeps title, author, licence and page', async ({
  page,
  running,
  commons,
}) => {
  const board = await emptyBoard(page, running.address, 'by address');
  await page.keyboard.press('Shift+A');
  const sheet = page.getByRole('dialog');
  await sheet.getByRole('textbox', { name: 'Addresses' }).fill('words');
  await expect(sheet.getByRole('alert')).toContainText('no address of the web');
  await sheet.getByRole('textbox', { name: 'Addresses' }).fill(`${commons.address}/work/ferry-bow`);
  await sheet.getByRole('button', { name: 'Look there' }).click();
  const work = workNamed('ferry-bow')!;
  await expect(page.getByRole('heading', { name: work.title })).toBeVisible({ timeout: 20_000 });
  await expect(sheet).toContainText(work.author);
  await expect(sheet).toContainText('One small one is left out.');
  const card = sheet.getByRole('button', { name: /1600 ×/ });
  await expect(card.locator('img')).toHaveJSProperty('complete', true);
  expect(await card.locator('img').evaluate((image: HTMLImageElement) => image.naturalWidth)).toBeGreaterThan(
    100,
  );
  await card.click();
  await sheet.getByRole('button', { name: 'Take 1' }).click();
  await expect.poll(async () => (await placementsOf(board)).length, { timeout: 20_000 }).toBe(1);
  expect(await onlyPicture(running.address, board)).toMatchObject({
    ...{ name: work.title, width: 1600 },
    source: { page: `${commons.address}/work/ferry-bow`, title: work.title, creator: work.author },
  });
});

test('an address goes on at the next visit when the window closed in the middle', async ({
  chromium,
  running,
  commons,
}) => {
  const context = await chromium.newContext();
  const board = await TestBoard.create(running.address, 'closed in the middle');
  const page = await context.newPage();
  await context.grantPermissions(['clipboard-read', 'clipboard-write'], { origin: running.address });
  await page.goto(board.url);
  await stageReady(page);
  await page.route('**/api/gathering/finds', (route) => route.abort());
  await paste(page, { 'text/plain': `${commons.address}/file/slow.jpg` });
  await expect(page.getByTestId('gathering')).toContainText('0 / 1');
  await page.close();
  expect(await board.standing()).toEqual([]);
  const again = await context.newPage();
  await again.goto(board.url);
  await expect.poll(async () => (await placementsOf(board)).length, { timeout: 30_000 }).toBe(1);
  await context.close();
});

test.describe('files', () => {
  test('folders are walked and archives opened; what came is named by typing, as a series', async ({
    page,
    running,
  }) => {
    const board = await emptyBoard(page, running.address, 'Folder');
    const zip = zipSync({
      'a/one.jpg': new Uint8Array(await testPicture(601, 300, 200)),
      'a/../../two.jpg': new Uint8Array(await testPicture(602, 300, 200)),
      '__MACOSX/a/._one.jpg': new Uint8Array([1, 2, 3]),
    });
    await withFiles({ 'more.zip': zip }, async ([archive]) => {
      const folder = archive!.replace(/more\.zip$/, 'reed channel');
      await mkdir(`${folder}/deeper`, { recursive: true });
      await writeFile(`${folder}/IMG_1.jpg`, await testPicture(603, 300, 200));
      await writeFile(`${folder}/deeper/IMG_2.jpg`, await testPicture(604, 300, 200));
      await writeFile(`${folder}/.hidden.jpg`, 'no');
      await drop(page, [folder, archive!], 800, 400);
      await expect.poll(async () => (await placementsOf(board)).length).toBe(4);
    });
    await expect(page.getByText('Name the 4')).toBeVisible();
    await page.keyboard.type('Reed');
    await page.keyboard.press('Enter');
    await saved(page);
    await expect
      .poll(async () =>
        (await picturesOf(running.address, `board=${board.id}`)).map(({ name }) => name).sort(),
      )
      .toEqual(['Reed 1', 'Reed 2', 'Reed 3', 'Reed 4']);
    // Keys act again.
    await page.keyboard.press('Control+z');
    await saved(page);
    expect(await placementsOf(board)).toEqual([]);
  });

  test('what a camera named by number takes the name of the board, until it is named', async ({
    page,
    running,
  }) => {
    const board = await emptyBoard(page, running.address, 'Slip at noon');
    const files = {
      'DSC00017.jpg': await testPicture(611, 300, 200),
      'winch_house-2.jpg': await testPicture(612, 300, 200),
    };
    await withFiles(files, async (paths) => {
      await drop(page, paths, 800, 400);
      await expect.poll(async () => (await placementsOf(board)).length).toBe(2);
    });
    await saved(page);
    const names = (await picturesOf(running.address, `board=${board.id}`)).map(({ name }) => name);
    expect(names.sort()).toEqual(['Slip at noon 1', 'winch house 2']);
    await page.keyboard.press('Escape');
    await expect(page.getByText('Name the 2')).toBeHidden();
  });

  test('a folder is looked at first, and three are taken', async ({ page, running }) => {
    const board = await emptyBoard(page, running.address, 'leafing');
    await withFiles({ 'x.txt': new Uint8Array() }, async ([inside]) => {
      const folder = inside!.replace(/x\.txt$/, 'gear');
      await mkdir(folder);
      for (let index = 0; index < 6; index += 1)
        await writeFile(`${folder}/gear ${index}.jpg`, await testPicture(620 + index, 300, 200));
      await page.setInputFiles('#choose-folder', folder);
      const sheet = page.getByRole('dialog');
      await expect(sheet.getByRole('heading', { name: 'gear' })).toBeVisible();
      for (const number of [1, 3, 5]) await sheet.getByRole('button', { name: `gear ${number}.jpg` }).click();
      await sheet.getByRole('button', { name: 'Take 3' }).click();
      await expect.poll(async () => (await placementsOf(board)).length).toBe(3);
      // Dropped with Alt held it is looked at, too, instead of coming in whole.
      await drop(page, [folder], 800, 300, ALT);
      await sheet.getByRole('button', { name: 'gear 0.jpg' }).click();
      await sheet.getByRole('button', { name: 'Take 1' }).click();
      await expect.poll(async () => (await placementsOf(board)).length).toBe(4);
    });
  });

  test('one bad file of two hundred stops none of the others', async ({ page, running }) => {
    test.setTimeout(120_000);
    const board = await emptyBoard(page, running.address, 'two hundred');
    const files: Record<string, Uint8Array> = {};
    for (let index = 0; index < 200; index += 1) {
      const background = { r: index, g: (index * 7) % 256, b: 90 };
      files[`sheet ${index}.png`] = await sharp({
        create: { width: 30, height: 20, channels: 3, background },
      })
        .png()
        .toBuffer();
    }
    files['sheet 117.png'] = new TextEncoder().encode('<html>no picture</html>');
    await withFiles(files, async (paths) => {
      await drop(page, paths, 800, 400);
      await expect.poll(async () => (await placementsOf(board)).length, { timeout: 60_000 }).toBe(199);
    });
    await expect(page.getByRole('status').filter({ hasText: 'sheet 117.png' })).toBeVisible();
    await saved(page);
    const line = page.getByTestId('gathering');
    await expect(line).toContainText('1 did not come');
    await expect(line).not.toContainText('200');
  });

  test('moving pictures, a clip and a model come in and stand by their poster', async ({ page, running }) => {
    test.setTimeout(120_000);
    const board = await emptyBoard(page, running.address, 'kinds that move');
    await drop(
      page,
      [demo('knot.gif'), demo('knot.webp'), demo('ferry.glb'), demo('chain-wheel-turning.mp4')],
      800,
      400,
    );
    await expect.poll(async () => (await placementsOf(board)).length, { timeout: 60_000 }).toBe(4);
    await expect
      .poll(
        async () =>
          (await picturesOf(running.address, `board=${board.id}`))
            .map(({ kind, state }) => `${kind} ${state}`)
            .sort()
            .join(),
        { timeout: 60_000 },
      )
      .toBe('animated ready,animated ready,clip ready,model ready');
    const pictures = await picturesOf(running.address, `board=${board.id}`);
    const clip = pictures.find(({ kind }) => kind === 'clip')!;
    expect(clip).toMatchObject({ durationMs: 4000, type: 'video/mp4' });
    // The poster shows something: it is no flat field.
    for (const { kind, levels } of pictures) {
      const bytes = await (await fetch(`${running.address}/api/levels/${levels.at(-1)!.hash}`)).arrayBuffer();
      const { channels } = await sharp(bytes).stats();
      expect(channels[0]!.stdev, kind).toBeGreaterThan(8);
    }
  });
});

test('away from a board what comes lies on the landing, and goes to a board by a key', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'From the landing');
  await page.goto(`${running.address}/boards`);
  await expect(page.getByRole('heading', { name: 'Boards' })).toBeVisible();
  await withFiles({ 'reed mace.jpg': await testPicture(640, 400, 300) }, async (paths) => {
    await drop(page, paths, 640, 500);
    await expect(page.getByRole('link', { name: /Landing \(\d+\)/ })).toBeVisible();
  });
  await page.getByRole('link', { name: /Landing/ }).click();
  const card = page.getByRole('button', { name: /reed mace/ });
  await card.click();
  await expect(card).toHaveAttribute('aria-pressed', 'true');
  const number = await page
    .getByRole('complementary')
    .getByRole('button', { name: 'From the landing' })
    .locator('kbd')
    .innerText();
  await page.keyboard.press(number);
  await expect(card).toBeHidden();
  await saved(page);
  expect((await onlyPicture(running.address, board)).name).toBe('reed mace');
});

test('a card of the landing is dragged to a board', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'Dragged to');
  await page.goto(`${running.address}/landing`);
  await expect(page.getByRole('heading', { name: 'Landing' })).toBeVisible();
  await withFiles({ 'sedge.jpg': await testPicture(641, 400, 300) }, (paths) => drop(page, paths, 500, 500));
  const card = page.getByRole('button', { name: /sedge/ });
  await card.dragTo(page.getByRole('complementary').getByRole('button', { name: 'Dragged to' }));
  await expect(card).toBeHidden();
  await saved(page);
  expect((await onlyPicture(running.address, board)).name).toBe('sedge');
});

test('pages that gather have no grave fault for assistive technology, and no page is wider than its window', async ({
  page,
  running,
}) => {
  for (const path of ['/landing', '/bring', '/settings', '/clip?address=x']) {
    await page.goto(`${running.address}${path}`);
    await expect(page.locator('main')).toBeVisible();
    const { violations } = await new AxeBuilder({ page }).analyze();
    const grave = violations.filter(({ impact }) => impact === 'serious' || impact === 'critical');
    expect(grave.map(({ id, nodes }) => `${path} ${id}: ${nodes[0]?.html}`)).toEqual([]);
    for (const width of [1024, 390]) {
      await page.setViewportSize({ width, height: 760 });
      expect(await page.evaluate(() => document.documentElement.scrollWidth), path).toBeLessThanOrEqual(
        width,
      );
    }
  }
});

test('a page is clipped by the bookmark, as long as its key is right', async ({ page, running, commons }) => {
  await page.goto(`${running.address}/settings`);
  const make = page.getByRole('button', { name: 'Make the bookmark' });
  const bookmark = page.getByTestId('bookmark');
  await expect(make.or(bookmark)).toBeVisible();
  if (await make.isVisible()) await make.click();
  const script = (await bookmark.getAttribute('href'))!;
  expect(script).toMatch(/^javascript:/);
  await saved(page);

  // The gallery's own policy lets no script of its page run, and nothing foreign in.
  await page.goto(`${commons.address}/gallery/ferries`);
  const opened = page.context().waitForEvent('page');
  const session = await page.context().newCDPSession(page);
  await session.send('Runtime.evaluate', {
    expression: script.replace(/^javascript:/, ''),
    userGesture: true,
  });
  const clip = await opened;
  const sheet = clip.getByRole('dialog');
  await expect(sheet.getByRole('button', { name: /Where the ramp hinges/ })).toBeVisible({
    timeout: 30_000,
  });
  await sheet.getByRole('button', { name: /Where the ramp hinges/ }).click();
  await sheet.getByRole('button', { name: 'Take 1' }).click();
  await expect
    .poll(
      async () =>
        (await picturesOf(running.address, 'landing=true')).find(
          ({ name }) => name === 'Where the ramp hinges',
        )?.source.page,
      { timeout: 30_000 },
    )
    .toBe(`${commons.address}/gallery/ferries`);
  await clip.close();

  await page.goto(`${running.address}/settings`);
  await page.getByRole('button', { name: /make a new one/ }).click();
  await saved(page);
  await page.goto(
    /open\('([^']+)'/.exec(script)![1]! + encodeURIComponent(`${commons.address}/gallery/ferries`),
  );
  await expect(page.getByRole('alert')).toContainText('no right to hand anything in');
});

test('a part of the screen is grabbed, and again without asking', async ({ running }) => {
  const browser = await launchBrowser([
    '--use-fake-ui-for-media-stream',
    '--use-fake-device-for-media-stream',
  ]);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const board = await TestBoard.create(running.address, 'grabbed');
  await page.goto(board.url);
  await stageReady(page);
  await page.keyboard.press('Shift+G');
  const frozen = page.getByTestId('frozen');
  await expect(frozen.locator('canvas')).toBeVisible({ timeout: 20_000 });
  const box = (await frozen.locator('canvas').boundingBox())!;
  await page.mouse.move(box.x + 40, box.y + 30);
  await page.mouse.down();
  await page.mouse.move(box.x + 240, box.y + 130, { steps: 4 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect.poll(async () => (await placementsOf(board)).length).toBe(1);
  const { width, height, type } = await onlyPicture(running.address, board);
  expect(type).toBe('image/png');
  expect(width / height).toBeCloseTo(2, 1);
  // What is shared stays shared: nobody is asked again.
  await page.evaluate(() => {
    navigator.mediaDevices.getDisplayMedia = () => Promise.reject(new Error('asked again'));
  });
  await page.keyboard.press('Escape');
  await page.keyboard.press('Alt+g');
  await expect(frozen.locator('canvas')).toBeVisible({ timeout: 20_000 });
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect.poll(async () => (await placementsOf(board)).length).toBe(2);
  await browser.close();
});

test.describe('camera', () => {
  test('a still comes from the camera that is there', async ({ running }) => {
    const browser = await launchBrowser([
      '--use-fake-ui-for-media-stream',
      '--use-fake-device-for-media-stream',
    ]);
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const board = await TestBoard.create(running.address, 'Photographed');
    await page.goto(board.url);
    await stageReady(page);
    await page.keyboard.press('Shift+P');
    await page.getByRole('button', { name: 'Photograph' }).click();
    await expect(page.getByText('simulated')).toBeHidden();
    await page.getByRole('button', { name: 'Take it' }).click();
    await expect.poll(async () => (await placementsOf(board)).length).toBe(1);
    expect(await onlyPicture(running.address, board)).toMatchObject({
      type: 'image/jpeg',
      name: 'Photographed 1',
    });
    await browser.close();
  });

  test('a sketch on paper is found, squared, whitened and keeps its true size; the simulated camera says that it is one', async ({
    page,
    running,
  }) => {
    const board = await emptyBoard(page, running.address, 'sketched');
    await page.keyboard.press('Shift+P');
    await expect(page.getByText('this is a simulated one')).toBeVisible({ timeout: 20_000 });
    await page.getByRole('button', { name: 'Sketch on paper' }).click();
    await expect(page.getByText('The corners were found')).toBeVisible({ timeout: 20_000 });
    const corner = page.getByRole('button', { name: 'Corner 1 of the sheet' });
    const before = (await corner.boundingBox())!;
    await corner.focus();
    await page.keyboard.press('ArrowRight');
    await expect.poll(async () => (await corner.boundingBox())!.x).toBeGreaterThan(before.x);
    await page.keyboard.press('ArrowLeft');
    await page.getByRole('button', { name: 'Take the sheet' }).click();
    await expect.poll(async () => (await placementsOf(board)).length, { timeout: 30_000 }).toBe(1);
    await saved(page);
    const picture = await onlyPicture(running.address, board);
    expect(picture).toMatchObject({ type: 'image/png', facts: { paperMm: { width: 297, height: 210 } } });
    expect(picture.width / picture.height).toBeCloseTo(297 / 210, 2);
    const original = await (
      await fetch(`${running.address}/api/pictures/${picture.id}/original`)
    ).arrayBuffer();
    const { data, info } = await sharp(original).removeAlpha().raw().toBuffer({ resolveWithObject: true });
    const at = (u: number, v: number) =>
      data[(Math.floor(v * info.height) * info.width + Math.floor(u * info.width)) * 3]!;
    for (const [u, v] of [
      [0.02, 0.5],
      [0.98, 0.5],
      [0.5, 0.02],
      [0.5, 0.98],
    ] as const)
      expect(at(u, v)).toBeGreaterThan(235);
  });
});

test('a phone, or a narrow slice beside the drawing, takes photographs straight to a board', async ({
  chromium,
  running,
}) => {
  for (const viewport of [
    { width: 390, height: 844 },
    { width: 360, height: 800 },
  ]) {
    const context = await chromium.newContext({ viewport, hasTouch: true });
    const page = await context.newPage();
    const board = await TestBoard.create(running.address, `Slice ${viewport.width}`);
    await page.goto(`${running.address}/bring?board=${board.id}`);
    await expect(page.getByRole('combobox')).toHaveValue(board.id);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(
      viewport.width,
    );
    const buffer = await testPicture(650 + viewport.width, 300, 400);
    await page.setInputFiles('#take-photo', { name: 'image.jpg', mimeType: 'image/jpeg', buffer });
    await expect(page.getByRole('list', { name: 'Sent from here' })).toContainText(
      `Slice ${viewport.width} 1`,
    );
    await expect.poll(async () => (await placementsOf(board)).length).toBe(1);
    await context.close();
  }
});

test('the wall label tells the source, and takes it; copies are said, and one is put everywhere', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'label of sources');
  const bytes = await readFile(demo('chain-wheel-edge.jpg'));
  const about = { name: 'Wheel', source: { page: 'http://site.example/wheel', creator: 'Orla Venn' } };
  const form = new FormData();
  form.append('about', JSON.stringify(about));
  form.append('file', new Blob([new Uint8Array(bytes)]), 'wheel.jpg');
  await fetch(`${running.address}/api/pictures`, { method: 'POST', body: form });
  await openBoard(page, board);
  await drop(page, [demo('chain-wheel-edge-rescaled.jpg')], 640, 400);
  await expect.poll(async () => (await placementsOf(board)).length).toBe(1);
  const small = await onlyPicture(running.address, board);
  await page.mouse.click(640, 400);
  await page.keyboard.press('i');
  const label = page.getByRole('region', { name: 'Wall label' });
  await expect(label).toContainText('You have this larger', { timeout: 45_000 });
  const maker = label.getByRole('textbox', { name: 'Made by of the picture' });
  await maker.fill('Bram Tolley');
  await maker.press('Enter');
  await label.getByRole('button', { name: 'only to look at' }).click();
  await saved(page);
  expect((await picturesOf(running.address, `ids=${small.id}`))[0]).toMatchObject({
    ...{ useMark: 'look', source: { creator: 'Bram Tolley' } },
  });
  await label.getByRole('button', { name: 'that one everywhere' }).click();
  await expect.poll(async () => (await onlyPicture(running.address, board)).name).toBe('Wheel');
  await expect(label).toContainText('Wheel');
});

test('what was for one drawing only is offered to go when its board is put away', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'one drawing');
  const [placement] = await board.place([660]);
  await openBoard(page, board);
  await page.mouse.click(640, 400);
  await page.keyboard.press('i');
  const label = page.getByRole('region', { name: 'Wall label' });
  await label.getByRole('button', { name: 'for this drawing only' }).click();
  await saved(page);
  await page.keyboard.press('Control+k');
  await page.keyboard.type('put this board away');
  await page.keyboard.press('Enter');
  const offer = page.getByRole('status').filter({ hasText: 'for that drawing only' });
  await offer.getByRole('button', { name: 'Put it away, too' }).click();
  await expect(offer).toBeHidden();
  await saved(page);
  expect((await picturesOf(running.address, `ids=${placement!.picture}`))[0]!.isPutAway).toBe(true);
});

test.describe('sending', () => {
  const six = async () =>
    Object.fromEntries(
      await Promise.all(
        [0, 1, 2, 3, 4, 5].map(
          async (index) => [`sent ${index}.jpg`, await testPicture(670 + index, 300, 200)] as const,
        ),
      ),
    );

  test('is stopped and goes on; what waits is kept meanwhile, over a reload, too', async ({
    page,
    running,
  }) => {
    const board = await emptyBoard(page, running.address, 'stopped');
    let held = true;
    await page.route('**/api/pictures', async (route) => {
      while (held) await new Promise((resolve) => setTimeout(resolve, 50));
      await route.continue().catch(() => {});
    });
    await withFiles(await six(), async (paths) => {
      await drop(page, paths, 800, 400);
      await expect.poll(async () => (await placementsOf(board)).length).toBe(6);
    });
    const line = page.getByTestId('uploads');
    await expect(line).toContainText('of 6');
    await line.getByRole('button', { name: 'stop' }).click();
    await expect(line).toContainText('6 kept here, not sent');
    held = false;
    await page.waitForTimeout(600);
    expect(await picturesOf(running.address, `board=${board.id}`)).toEqual([]);
    await line.getByRole('button', { name: 'go on' }).click();
    await saved(page);
    expect(await picturesOf(running.address, `board=${board.id}`)).toHaveLength(6);
  });

  test('what the server did not take says why, and is sent again when asked', async ({ page, running }) => {
    const board = await emptyBoard(page, running.address, 'not taken');
    let isRefusing = true;
    await page.route('**/api/pictures', async (route) => {
      if (!isRefusing) return route.continue();
      const refused = [{ fileName: 'sent 0.jpg', code: 'damaged', title: 'The picture cannot be read.' }];
      const body = {
        type: '',
        status: 422,
        code: 'all-refused',
        title: 'None of the files could be taken.',
        pictures: [],
        refused,
      };
      await route.fulfill({
        status: 422,
        contentType: 'application/problem+json',
        body: JSON.stringify(body),
      });
    });
    await withFiles({ 'sent 0.jpg': await testPicture(680, 300, 200) }, async (paths) => {
      await drop(page, paths, 800, 400);
      await page.getByRole('button', { name: '1 was not taken' }).click();
    });
    await expect(page.getByText('The picture cannot be read.').first()).toBeVisible();
    isRefusing = false;
    await page.getByRole('button', { name: 'Send the pictures again' }).click();
    await saved(page);
    await expect.poll(async () => (await picturesOf(running.address, `board=${board.id}`)).length).toBe(1);
  });
});
