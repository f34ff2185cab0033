import type { Placement } from '@miradero/core/schema';
import { clickOnBoard, openBoard, saved, stageReady, TestBoard } from '../support/board.ts';
import { drop, withFiles } from '../support/drops.ts';
import { emptyBoard, picturesOf, placementsOf } from '../support/gathering.ts';
import { testPicture } from '../support/pictures.ts';
import { expect, test } from '../support/test.ts';

test('a held key copies, trims and flips once, and goes on nudging', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'held');
  await board.place([1]);
  await openBoard(page, board);
  await clickOnBoard(page, { x: 0, y: 0 });
  const hold = async (key: string, times = 8) => {
    // A second `down` without an `up` is what a keyboard sends while a key stays down.
    for (let time = 0; time < times; time += 1) await page.keyboard.down(key);
    await page.keyboard.up(key);
  };
  await hold('b');
  await saved(page);
  expect(await board.standing()).toHaveLength(2);
  await hold('x');
  await saved(page);
  expect((await placementsOf(board)).filter(({ flipX }) => flipX)).toHaveLength(1);
  await hold('t', 7);
  await expect(page.locator('footer').first()).toContainText('Trim');
  await page.keyboard.press('Escape');
  const xOf = async () => (await placementsOf(board)).map(({ centre }) => centre.x).sort((a, b) => b - a)[0]!;
  const before = await xOf();
  await hold('ArrowRight');
  await saved(page);
  expect(await xOf()).toBe(before + 8);
});

test('what is here already keeps its name, is said, also where else it stands; what is new is selected and named', async ({
  page,
  running,
}) => {
  const other = await TestBoard.create(running.address, 'Where it stood first');
  const bytes = await testPicture(7_001, 300, 200);
  await other.placeFiles([{ id: 'known', name: 'Reed at dusk.jpg', bytes }]);
  const board = await emptyBoard(page, running.address, 'Where it comes again');
  await withFiles({ 'again.jpg': bytes, 'IMG_7.jpg': await testPicture(7_002, 300, 200) }, async (paths) => {
    await drop(page, paths, 800, 400);
    await expect.poll(async () => (await placementsOf(board)).length).toBe(2);
    await expect(
      page.getByText('“Reed at dusk” was here already, on “Where it stood first”', { exact: false }),
    ).toBeVisible();
  });
  // One is new: one is to be named.
  await expect(page.getByText('Name it')).toBeVisible();
  await page.keyboard.press('x');
  await saved(page);
  expect((await placementsOf(board)).map(({ flipX }) => flipX)).toEqual([true, true]);
  await page.keyboard.press('Enter');
  await page.keyboard.type('Sluice');
  await page.keyboard.press('Enter');
  await saved(page);
  await expect
    .poll(async () => (await picturesOf(running.address, `board=${board.id}`)).map(({ name }) => name).sort())
    .toEqual(['Reed at dusk', 'Sluice']);
});

test('undo while files come in takes back the gesture alone', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'arriving');
  await board.place([1]);
  await openBoard(page, board);
  await clickOnBoard(page, { x: 0, y: 0 });
  const files: Record<string, Uint8Array> = {};
  for (let index = 0; index < 16; index += 1)
    files[`sheet ${index}.jpg`] = await testPicture(7_100 + index, 1_600, 1_200);
  await withFiles(files, async (paths) => {
    await drop(page, paths, 300, 200);
    await expect.poll(() => page.getByTestId('gathering').innerText()).toMatch(/[1-9]\d* \/ 16/);
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await board.standing()).length, { timeout: 30_000 }).toBe(17);
  });
  await saved(page);
  expect(((await board.item('p1')) as Placement).centre.x).toBe(0);
  await page.keyboard.press('Control+z');
  await saved(page);
  expect((await board.standing()).map(({ id }) => id)).toEqual(['p1']);
});

test('what does not come says its address and why; only addresses can be asked again; Esc ends what was said', async ({
  page,
  running,
  commons,
}) => {
  const board = await emptyBoard(page, running.address, 'failures');
  const list = page.getByRole('button', { name: '2 did not come' });
  const files = { 'none.jpg': Buffer.from('none'), 'torn.zip': Buffer.from('PK\x03\x04torn') };
  await withFiles(files, async (paths) => {
    await drop(page, paths, 800, 400);
    await expect(list).toBeVisible();
  });
  await list.click();
  await expect(page.getByRole('dialog')).toContainText('The archive cannot be unpacked');
  await expect(page.getByRole('button', { name: 'Ask the addresses again' })).toHaveCount(0);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Shift+A');
  const address = `${commons.address}/no-such-picture.jpg`;
  await page.keyboard.insertText(address);
  await page.keyboard.press('Enter');
  const said = page.getByRole('status').filter({ hasText: address });
  await expect(said).toContainText('It answered 404.');
  await page.keyboard.press('Escape');
  await expect(said).toBeHidden();
  await page.getByRole('button', { name: '3 did not come' }).click();
  await expect(page.getByRole('dialog')).toContainText(address);
  await expect(page.getByRole('button', { name: 'Ask the addresses again' })).toBeVisible();
  expect(await placementsOf(board)).toEqual([]);
});

test('figures and addresses that make no sense are not kept, and said not to be', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'nonsense');
  const [before] = await board.place([1]);
  await openBoard(page, board);
  await clickOnBoard(page, { x: 0, y: 0 });
  await page.keyboard.press('i');
  for (const [label, text] of [
    ['Width on the board', '-5'],
    ['Opacity in percent', '250'],
    ['Turned by degrees', '9999'],
  ] as const) {
    await page.getByLabel(label).fill(text);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('status').filter({ hasText: `“${text}” was not kept` })).toBeVisible();
  }
  await page.getByLabel('Page of the picture').fill('not a url');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'not a url' })).toBeVisible();
  await saved(page);
  expect(await board.item('p1')).toEqual(before);
});

test('the perch stays while its window turns to other pages, and shows another board by one press', async ({
  page,
  running,
}) => {
  const [one, two] = [
    await TestBoard.create(running.address, 'Perched'),
    await TestBoard.create(running.address, 'Other'),
  ];
  for (const board of [one, two]) await board.place([1]);
  await openBoard(page, one);
  const opening = page.context().waitForEvent('page');
  await page.keyboard.press('p');
  const perch = await opening;
  await perch.setViewportSize({ width: 480, height: 360 });
  await perch.locator('[data-stage="sharp"]').waitFor();
  await page.bringToFront();
  await page.getByRole('link', { name: 'Miradero' }).click();
  await page.getByRole('button', { name: 'Close Perched' }).click();
  await page.getByRole('link', { name: 'Other' }).first().click();
  await stageReady(page);
  await expect(perch.getByRole('heading', { name: 'Perched' })).toBeVisible();
  // What it refuses is said in it; the file stays until it was read.
  await withFiles({ 'torn.zip': Buffer.from('PK\x03\x04torn') }, async (paths) => {
    await drop(perch, paths, 200, 150);
    await expect(perch.getByText('The archive cannot be unpacked')).toBeVisible();
  });
  await page.bringToFront();
  await page.keyboard.press('p');
  await expect(perch.getByRole('heading', { name: 'Other' })).toBeVisible();
  await page.keyboard.press('p');
  await expect.poll(() => perch.isClosed()).toBe(true);
});

test('addresses that make no sense show what there is, and a server that is away is no empty library', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'shown');
  await board.place([1, 2]);
  await page.goto(`${running.address}/library?sort=zz&leastPx=no&colour=red&odd=1`);
  await expect(page.getByRole('option').first()).toBeVisible();
  await page.goto(`${running.address}/library/nope`);
  await expect(page.getByText('There is no picture at this address')).toBeVisible();
  await page.goto(`${running.address}/boards/nope`);
  await expect(page.getByText('There is no board at this address')).toBeVisible();

  await page.goto(`${running.address}/library`);
  await expect(page.getByRole('option').first()).toBeVisible();
  await page.route('**/api/library?**', (route) => route.abort());
  await page.getByRole('searchbox').fill('rope');
  await expect(page.getByText('The library does not answer')).toBeVisible();
  await expect(page.getByTestId('asked')).not.toContainText('0');
  await expect(page.getByTestId('saved')).not.toHaveText('Saved');
  await page.unroute('**/api/library?**');
  await expect(page.getByText('No picture is like that')).toBeVisible();
});
