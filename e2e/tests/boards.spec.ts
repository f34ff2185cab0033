import AxeBuilder from '@axe-core/playwright';
import { createNote } from '@miradero/core/items';
import type { Note, Placement } from '@miradero/core/schema';
import { clickOnBoard, colourAt, onPage, openBoard, saved, stageReady, TestBoard } from '../support/board.ts';
import { expect, test } from '../support/test.ts';

test('boards are created, renamed, put away and brought back', async ({ page, running }) => {
  await page.goto(`${running.address}/boards`);
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page.getByText('Give the board a name first.')).toBeVisible();
  await page.getByLabel('Name of a new board').fill('Odra: coat and hands');
  await page.keyboard.press('Enter');
  await expect(page.getByText('An empty board')).toBeVisible();
  const id = page.url().split('/').pop()!;
  await page.goto(`${running.address}/boards`);
  const row = page.locator(`[data-board="${id}"]`);
  const name = row.getByLabel('Name of the board');
  await expect(name).toHaveValue('Odra: coat and hands');
  await name.fill('Odra: hands');
  await name.press('Enter');
  await row.getByRole('button', { name: 'Put away' }).click();
  await expect(row).toBeHidden();
  await page.reload();
  await page.getByRole('button', { name: /put away/ }).click();
  await expect(row.getByLabel('Name of the board')).toHaveValue('Odra: hands');
  await row.getByRole('button', { name: 'Bring back' }).click();
  await expect(row.getByRole('button', { name: 'Put away' })).toBeVisible();
});

test('a board is renamed in the lintel; the other window hears of it', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'Before');
  await board.place([1]);
  await openBoard(page, board);
  const second = await page.context().newPage();
  await second.goto(board.url);
  const name = page.getByLabel('Name of the board');
  await name.fill('After');
  await name.press('Enter');
  await saved(page);
  expect((await board.snapshot()).board.name).toBe('After');
  await expect(second.getByLabel('Name of the board')).toHaveValue('After');
});

test('the value rail sets the surround, and the theme follows where it is dark', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'surround');
  await board.place([1]);
  await openBoard(page, board);
  expect(await colourAt(page, { x: 0, y: 200 })).toEqual([121, 121, 121]);
  await page.getByRole('radio', { name: 'Value 2', exact: true }).click();
  await saved(page);
  // Value 2: 3.05 % of luminance (ASTM D1535), sRGB level 49.
  await expect.poll(() => colourAt(page, { x: 0, y: 200 })).toEqual([49, 49, 49]);
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'lamp');
  expect((await board.snapshot()).board.surround).toBe(2);
});

test('the wall label tells name, size and when added; the name is edited in place', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'label');
  // It is renamed: a picture of no other test.
  const [placed] = await board.place([9_061]);
  await openBoard(page, board);
  await clickOnBoard(page, { x: 0, y: 0 });
  await page.keyboard.press('i');
  const label = page.getByRole('region', { name: 'Wall label' });
  await expect(label).toContainText('900 × 600');
  await expect(label.getByLabel('Width on the board')).toHaveValue('300');
  await expect(label.getByLabel('Height on the board')).toHaveValue('200');
  await expect(label).toContainText(String(new Date().getFullYear()));
  const name = label.getByLabel('Name of the picture');
  await name.fill('Chain wheel');
  await name.press('Enter');
  await saved(page);
  const { picture } = (await (await fetch(`${running.address}/api/pictures/${placed!.picture}`)).json()) as {
    picture: { name: string };
  };
  expect(picture.name).toBe('Chain wheel');
  await expect(page.locator('footer')).toContainText('Chain wheel');
  await page.keyboard.press('Escape');
  await expect(label).toBeHidden();
});

test('a note is written where the pointer is, edited in place, and taken back by one undo', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'note');
  await board.place([1]);
  await openBoard(page, board);
  const { x, y } = await onPage(page, { x: -400, y: 150 });
  await page.mouse.move(x, y);
  await page.keyboard.press('w');
  const editor = page.getByLabel('Text of the note');
  await editor.pressSequentially('Glass is the lightest thing on page 7. <b>x</b>');
  await page.waitForTimeout(900);
  await editor.pressSequentially(' Six bars.');
  await page.keyboard.press('Escape');
  await saved(page);
  const noteOf = async () => (await board.standing()).find((item): item is Note => item.kind === 'note')!;
  const note = await noteOf();
  expect(note.text).toBe('Glass is the lightest thing on page 7. <b>x</b> Six bars.');
  expect(note.centre.x - note.width / 2).toBeCloseTo(-400, 0);
  await expect(editor).toBeHidden();
  expect(await colourAt(page, { x: -396, y: note.centre.y - note.height / 2 + 3 })).toEqual([250, 250, 249]);

  await page.keyboard.press('Enter');
  await editor.fill('Six bars.');
  await page.mouse.click(900, 150);
  await saved(page);
  expect(await noteOf()).toMatchObject({ text: 'Six bars.' });
  await page.keyboard.press('Control+z');
  await saved(page);
  expect((await noteOf()).text).toBe('Glass is the lightest thing on page 7. <b>x</b> Six bars.');
  await page.keyboard.press('Control+z');
  await saved(page);
  expect((await board.standing()).map((item) => item.id)).toEqual(['p1']);
});

test('who writes on at the end of a long note goes on seeing it: the board moves, not the page under it', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'long note');
  await page.goto(board.url);
  await stageReady(page);
  await page.mouse.move(600, 500);
  await page.keyboard.press('w');
  const field = page.getByLabel('Text of the note');
  await field.fill(Array.from({ length: 60 }, (_, line) => `line ${line}`).join('\n'));
  await page.keyboard.press('Control+End');
  await page.keyboard.type(' and on');
  // The field may just give way to the one that formats.
  await expect(async () => {
    const [stage, text] = await Promise.all([page.locator('.stage').boundingBox(), field.boundingBox()]);
    expect(text!.y + text!.height).toBeLessThanOrEqual(stage!.y + stage!.height);
    expect(stage!.y).toBeLessThan(60);
  }).toPass();
  expect(await page.locator('.stage').evaluate((one) => one.parentElement!.scrollTop)).toBe(0);
});

test('on a narrow screen under a finger the words of the sill stand whole side by side, the others behind the last', async ({
  chromium,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'narrow');
  await board.place([1]);
  const phone = { viewport: { width: 390, height: 780 }, hasTouch: true, isMobile: true };
  const page = await (await chromium.newContext(phone)).newPage();
  await page.goto(board.url);
  await stageReady(page);
  for (const isSelected of [false, true]) {
    if (isSelected) await page.keyboard.press('Control+a');
    // The sill comes after the stage, and its words alter with what is selected.
    await expect(
      page
        .locator('footer')
        .getByRole('button', { name: isSelected ? 'come close' : 'bring in' })
        .first(),
    ).toBeVisible();
    // A word may be wider than its box: what counts is how far its letters reach.
    const boxes = await page
      .locator('footer .word')
      .filter({ visible: true })
      .evaluateAll((words) =>
        words.map((word) => {
          const { left, height } = word.getBoundingClientRect();
          return { left, height, right: left + word.scrollWidth };
        }),
      );
    expect(boxes.length).toBeGreaterThan(2);
    boxes.slice(1).forEach((box, index) => {
      expect(box.left).toBeGreaterThanOrEqual(boxes[index]!.right - 1);
    });
    for (const { right, height } of boxes) {
      expect(right).toBeLessThanOrEqual(390);
      expect(height).toBeGreaterThanOrEqual(40);
    }
    await page.locator('footer').getByRole('button', { name: 'more', exact: true }).tap();
    const more = page.getByRole('dialog', { name: 'What else can be done' });
    for (const name of ['keys', 'anything', isSelected ? 'remove' : 'link card'])
      await expect(more.getByRole('button', { name, exact: true })).toBeVisible();
    await page.keyboard.press('Escape');
  }
  await page.context().close();
});

test('a new note without a letter leaves nothing', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'no note');
  await board.place([1]);
  await openBoard(page, board);
  await page.keyboard.press('w');
  await page.keyboard.press('Escape');
  await saved(page);
  expect((await board.snapshot()).revision).toBe(1);
});

test('notes are raised, sized and moved like pictures', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'note and picture');
  await board.place([1]);
  await board.change([
    {
      create: createNote({
        ...{ id: 'n', stack: 'Zz', centre: { x: 120, y: 60 }, width: 240, height: 120 },
        text: 'below',
      }),
    },
  ]);
  await openBoard(page, board);
  await page.mouse.move(
    (await onPage(page, { x: 200, y: 100 })).x,
    (await onPage(page, { x: 200, y: 100 })).y,
  );
  await page.keyboard.press('PageUp');
  await saved(page);
  const items = await board.standing();
  const [note, picture] = [
    items.find((item) => item.id === 'n')!,
    items.find((item) => item.id === 'p1') as Placement,
  ];
  expect(note.stack > picture.stack).toBe(true);
});

test('a board that does not exist says so', async ({ page, running }) => {
  await page.goto(`${running.address}/boards/00000000-0000-4000-8000-000000000000`);
  await expect(page.getByText('This board cannot be opened')).toBeVisible();
});

test('nothing serious is found by axe, in both themes', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'axe');
  await board.place([1]);
  await openBoard(page, board);
  await clickOnBoard(page, { x: 0, y: 0 });
  await page.keyboard.press('i');
  const grave = async () => {
    const { violations } = await new AxeBuilder({ page }).analyze();
    return violations
      .filter(({ impact }) => impact === 'serious' || impact === 'critical')
      .map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`);
  };
  expect(await grave()).toEqual([]);
  await page.getByRole('radio', { name: 'Value 1', exact: true }).click();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'lamp');
  expect(await grave()).toEqual([]);
  await page.goto(`${running.address}/boards`);
  await expect(page.getByRole('heading', { name: 'Boards' })).toBeVisible();
  expect(await grave()).toEqual([]);
});

test('the board keeps at least 86 % of the window', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'room');
  await board.place([1]);
  await openBoard(page, board);
  const { width, height } = await page.evaluate(() => window.miraderoStage!.viewport);
  expect((width * height) / (1280 * 800)).toBeGreaterThanOrEqual(0.86);
  await page.keyboard.press('.');
  await expect
    .poll(() => page.evaluate(() => window.miraderoStage!.viewport))
    .toEqual({ width: 1280, height: 800 });
});
