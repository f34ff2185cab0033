import type { Placement } from '@miradero/core/schema';
import { clickOnBoard, openBoard, saved, stageReady, TestBoard } from '../support/board.ts';
import { testPicture } from '../support/pictures.ts';
import { expect, test } from '../support/test.ts';

test('the sheet of keys lists, finds and changes them; conflicts are said; they are kept per owner', async ({
  page,
  chromium,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'keys');
  await board.place([1]);
  await openBoard(page, board);
  await page.keyboard.press('Shift+?');
  const sheet = page.getByRole('dialog', { name: 'Keys' });
  await expect(sheet.locator('[data-command]')).not.toHaveCount(0);
  await expect(sheet).toContainText('Alt while moving');
  await sheet.getByLabel('Find a key').fill('flip');
  await expect(sheet.locator('[data-command]')).toHaveCount(1);
  await sheet.getByRole('button', { name: 'Change the key of “flip”' }).click();
  await page.keyboard.press('t');
  await expect(sheet.getByRole('alert')).toContainText('does “trim” now, and would no longer');
  await sheet.getByRole('button', { name: 'Leave it' }).click();
  await sheet.getByRole('button', { name: 'Change the key of “flip”' }).click();
  await page.keyboard.press('t');
  await sheet.getByRole('button', { name: 'Take it' }).click();
  await expect(sheet.locator('[data-command=flip] kbd')).toHaveText('T');
  await sheet.getByLabel('Find a key').fill('trim');
  await expect(sheet.locator('[data-command=trim]')).toContainText('no key');
  await page.keyboard.press('Escape');

  await clickOnBoard(page, { x: 0, y: 0 });
  await page.keyboard.press('t');
  await saved(page);
  expect(((await board.item('p1')) as Placement).flipX).toBe(true);
  await expect(page.locator('footer [data-action=flip] kbd')).toHaveText('T');

  // Another browser of the same owner has them, too.
  const other = await chromium.newContext({ viewport: { width: 1280, height: 800 } });
  const second = await other.newPage();
  await openBoard(second, board);
  await clickOnBoard(second, { x: 0, y: 0 });
  await expect(second.locator('footer [data-action=flip] kbd')).toHaveText('T');

  await page.keyboard.press('Shift+?');
  await sheet.getByRole('button', { name: 'All of ours again' }).click();
  await page.keyboard.press('Escape');
  await expect(second.locator('footer [data-action=flip] kbd')).toHaveText('X');
  await other.close();
});

test('everything is reached by its name: actions, boards, pictures and notes', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'by name');
  const other = await TestBoard.create(running.address, 'Winch house at Low Sallow');
  await board.place([1, 2]);
  await openBoard(page, board);
  await clickOnBoard(page, { x: -170, y: 0 });
  const run = async (words: string) => {
    await page.keyboard.press('Control+k');
    await page.keyboard.type(words);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('dialog')).toBeHidden();
  };
  await run('turn right by 90');
  await saved(page);
  expect(((await board.item('p1')) as Placement).turn).toBe(90);

  // A picture by its name comes into view, selected.
  await run('picture 2');
  await expect(page.locator('footer').first()).toContainText('picture 2');
  await page.keyboard.press('Shift+X');
  await saved(page);
  expect(((await board.item('p2')) as Placement).flipY).toBe(true);

  await page.keyboard.press('Control+k');
  await page.keyboard.type('nothing has this name');
  await expect(page.getByText('Nothing is called that.')).toBeVisible();
  await page.keyboard.press('Escape');

  // What is called as was typed comes before the easel, which is found by other words.
  await page.keyboard.press('Control+k');
  await page.keyboard.type('draw');
  await expect(page.getByRole('option', { name: 'easel' })).toBeVisible();
  await expect(page.getByRole('option').first()).toContainText('draw');
  await page.keyboard.press('Escape');

  await run('lighter surround');
  await saved(page);
  expect((await board.snapshot()).board.surround).toBe(6);

  await run('winch house at low');
  await expect(page).toHaveURL(other.url);
  await stageReady(page);
  await run('put this board away');
  await expect(page).toHaveURL(/\/boards$/);
  await expect.poll(async () => (await other.snapshot()).board.putAway).toBe(true);
});

test('pictures, subjects, parts and what is written are found by name, from any page', async ({
  page,
  running,
}) => {
  const { address } = running;
  for (const [at, name] of ['Hawser over the bollard', 'Pitch pot', 'Pitch on oak'].entries()) {
    const form = new FormData();
    form.append('about', JSON.stringify({ name }));
    form.append('file', new Blob([new Uint8Array(await testPicture(9_420 + at))]), 'found.jpg');
    await fetch(`${address}/api/pictures`, { method: 'POST', body: form });
  }
  const subject = crypto.randomUUID();
  const part = crypto.randomUUID();
  const made = await fetch(`${address}/api/subjects/${subject}`, {
    method: 'PATCH',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({
      name: 'The capstan',
      parts: [{ id: crypto.randomUUID(), name: 'Head', parts: [{ id: part, name: 'Capstan bars' }] }],
    }),
  });
  expect(made.status).toBe(200);
  const board = await TestBoard.create(address, 'Written on');
  await board.place([9_411]);
  await openBoard(page, board);
  await page.keyboard.press('w');
  await page.keyboard.type('Tar darkens "hemp" by 100%');
  await page.keyboard.press('Escape');
  await saved(page);

  const palette = page.getByRole('dialog', { name: 'Anything by name' });
  const find = async (words: string) => {
    await page.keyboard.press('Control+k');
    await page.keyboard.type(words);
  };
  await page.goto(`${address}/settings`);
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await find('pitch');
  await expect(palette.getByRole('option', { name: /^Pitch/ })).toHaveCount(2);
  // All that was found goes at once: what comes in its place is lit.
  await page.keyboard.press('Control+a');
  await page.keyboard.type('hawser');
  await expect(palette.getByRole('option', { name: /^Pitch/ })).toHaveCount(0);
  await expect(palette.getByRole('option', { name: 'Hawser over the bollard' })).toHaveAttribute(
    'aria-selected',
    'true',
  );
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/library\/[0-9a-f-]{36}$/);

  await find('capstan');
  await expect(palette.getByRole('option', { name: 'The capstan' }).first()).toBeVisible();
  // Before the answer to all of it is there: what was found for the beginning is not meant.
  await page.keyboard.type(' bars');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(`${address}/subjects/${subject}`);
  await expect(page.getByRole('heading', { name: 'for Capstan bars, most detail first' })).toBeVisible();
  // A line that is lit and called so is meant, whatever comes above it later.
  await page.goto(`${address}/settings`);
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  let release = () => {};
  const isReleased = new Promise<void>((go) => {
    release = go;
  });
  await page.route(/\/api\/library\?/, async (route) => {
    await isReleased;
    await route.continue();
  });
  await find('the capstan');
  await expect(palette.getByRole('option', { name: 'The capstan', exact: true })).toHaveAttribute(
    'aria-selected',
    'true',
  );
  await page.keyboard.press('Enter');
  await expect(palette).toBeHidden();
  release();
  await expect(page.getByRole('textbox', { name: 'Name of the subject' })).toHaveValue('The capstan');
  await page.unroute(/\/api\/library\?/);

  await find('"hemp" 100%');
  await expect(palette.getByRole('option', { name: /^Tar darkens.*Written on$/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(board.url);
  await stageReady(page);
  await expect(page.locator('footer')).toContainText('Note');

  await find('help');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  await find('new board');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Name of a new board')).toBeFocused();
});

test('keys typed into a field belong to the field', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'typing');
  await board.place([1]);
  await openBoard(page, board);
  await clickOnBoard(page, { x: 0, y: 0 });
  const name = page.getByLabel('Name of the board');
  await name.click();
  await name.press('End');
  await page.keyboard.type(' x]a?');
  await page.keyboard.press('Enter');
  await saved(page);
  const { board: facts, items } = await board.snapshot();
  expect(facts.name).toBe('typing x]a?');
  expect(items[0]).toMatchObject({ flipX: false, turn: 0 });
});
