import type { Note } from '@miradero/core/schema';
import { workNamed } from '../../demo/commons/catalog.ts';
import { saved, stageReady, TestBoard } from '../support/board.ts';
import { dropFromPage } from '../support/drops.ts';
import { emptyBoard, onlyPicture, paste, picturesOf, placementsOf } from '../support/gathering.ts';
import { expect, test } from '../support/test.ts';

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
    await expect(page.getByRole('dialog')).toContainText('inside a network, not in the web');
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
  await expect(page.getByRole('heading', { name: work.title })).toBeVisible();
  await expect(sheet).toContainText(work.author);
  await expect(sheet).toContainText('One small one is left out.');
  const card = sheet.getByRole('button', { name: /1600 ×/ });
  await expect(card.locator('img')).toHaveJSProperty('complete', true);
  expect(await card.locator('img').evaluate((image: HTMLImageElement) => image.naturalWidth)).toBeGreaterThan(
    100,
  );
  await card.click();
  await sheet.getByRole('button', { name: 'Take 1' }).click();
  await expect.poll(async () => (await placementsOf(board)).length).toBe(1);
  expect(await onlyPicture(running.address, board)).toMatchObject({
    ...{ name: work.title, width: 1600 },
    source: { page: `${commons.address}/work/ferry-bow`, title: work.title, creator: work.author },
  });
});

test('an address whose picture is here already stands as the same picture, and says so', async ({
  page,
  running,
  commons,
}) => {
  const board = await emptyBoard(page, running.address, 'twice');
  const address = `${commons.address}/file/200/${workNamed('ferry-bow')!.file}`;
  await paste(page, { 'text/plain': address });
  await expect.poll(async () => (await placementsOf(board)).length).toBe(1);
  await page.keyboard.press('Escape');
  await paste(page, { 'text/plain': address });
  await expect.poll(async () => (await placementsOf(board)).length).toBe(2);
  await expect(page.getByText('was here already; it stands here as the same picture')).toBeVisible();
  const [one, two] = await placementsOf(board);
  expect(two!.picture).toBe(one!.picture);
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
  await expect(sheet.getByRole('button', { name: /^Where the ramp hinges/ })).toBeVisible({
    timeout: 30_000,
  });
  await sheet.getByRole('button', { name: /^Where the ramp hinges/ }).click();
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
