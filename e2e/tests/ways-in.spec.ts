import { mkdir, readFile, writeFile } from 'node:fs/promises';
import AxeBuilder from '@axe-core/playwright';
import { zipSync } from 'fflate';
import sharp from 'sharp';
import { openBoard, saved, stageReady, TestBoard } from '../support/board.ts';
import { launchBrowser } from '../support/browser.ts';
import { ALT, drop, withFiles } from '../support/drops.ts';
import { demo, emptyBoard, onlyPicture, picturesOf, placementsOf } from '../support/gathering.ts';
import { testPicture } from '../support/pictures.ts';
import { expect, test } from '../support/test.ts';

test.describe('files', () => {
  test('folders are walked and archives opened; what came is named after Enter, as a series', async ({
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
    // Letters are keys until the line is entered: here one mirrors what came.
    await page.keyboard.press('x');
    await saved(page);
    expect((await placementsOf(board)).map(({ flipX }) => flipX)).toEqual([true, true, true, true]);
    await page.keyboard.press('x');
    await page.keyboard.press('Enter');
    await page.keyboard.type('Reed');
    await page.keyboard.press('Enter');
    await saved(page);
    await expect
      .poll(async () =>
        (await picturesOf(running.address, `board=${board.id}`)).map(({ name }) => name).sort(),
      )
      .toEqual(['Reed 1', 'Reed 2', 'Reed 3', 'Reed 4']);
    // Keys act again: the names, twice what was mirrored, and the drop.
    for (let step = 0; step < 4; step += 1) await page.keyboard.press('Control+z');
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

  test('one bad file of eighty stops none of the others', async ({ page, running }) => {
    test.setTimeout(300_000);
    const board = await emptyBoard(page, running.address, 'eighty');
    const files: Record<string, Uint8Array> = {};
    for (let index = 0; index < 80; index += 1) {
      const background = { r: index, g: (index * 7) % 256, b: 90 };
      files[`sheet ${index}.png`] = await sharp({
        create: { width: 30, height: 20, channels: 3, background },
      })
        .png()
        .toBuffer();
    }
    files['sheet 57.png'] = new TextEncoder().encode('<html>no picture</html>');
    await withFiles(files, async (paths) => {
      await drop(page, paths, 800, 400);
      await expect.poll(async () => (await placementsOf(board)).length, { timeout: 60_000 }).toBe(79);
    });
    await expect(page.getByRole('status').filter({ hasText: 'sheet 57.png' })).toBeVisible();
    await saved(page);
    const line = page.getByTestId('gathering');
    await expect(line).toContainText('1 did not come');
    await expect(line).not.toContainText('80');
  });

  test('moving pictures, a clip and a model come in and stand by their poster', async ({ page, running }) => {
    test.setTimeout(300_000);
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
    await expect
      .poll(async () => (await picturesOf(running.address, 'landing=true')).map(({ name }) => name))
      .toContain('reed mace');
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
  const card = page.getByRole('button', { name: /sedge/ });
  // The file must be there until it was read.
  await withFiles({ 'sedge.jpg': await testPicture(641, 400, 300) }, async (paths) => {
    await drop(page, paths, 500, 500);
    await expect(card).toBeVisible();
  });
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
  await expect(frozen.locator('canvas')).toBeVisible();
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
  await expect(frozen.locator('canvas')).toBeVisible();
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
    await page.getByRole('button', { name: 'Photograph', exact: true }).click();
    await expect(page.getByText('simulated')).toBeHidden();
    await page.getByRole('button', { name: 'Take it' }).click();
    await expect.poll(async () => (await placementsOf(board)).length).toBe(1);
    await saved(page);
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
    await expect(page.getByText('this is a simulated one')).toBeVisible();
    await page.getByRole('button', { name: 'Sketch on paper' }).click();
    await expect(page.getByText('The corners were found')).toBeVisible();
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
  test.setTimeout(300_000);
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
  await expect(label).toContainText('You have this larger', { timeout: 120_000 });
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
    await page.getByRole('button', { name: 'Send again' }).click();
    await saved(page);
    await expect.poll(async () => (await picturesOf(running.address, `board=${board.id}`)).length).toBe(1);
  });
});
