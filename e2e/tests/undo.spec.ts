import type { LibraryAnswer, Picture, Subject } from '@miradero/core/schema';
import type { Page } from '@playwright/test';
import { dragOnBoard, openBoard, saved, TestBoard } from '../support/board.ts';
import { testPicture } from '../support/pictures.ts';
import { expect, test } from '../support/test.ts';

/** Brings pictures in that stand nowhere. */
async function bring(address: string, names: readonly string[], seed: number): Promise<Picture[]> {
  const made: Picture[] = [];
  for (const [index, name] of names.entries()) {
    const form = new FormData();
    form.append('about', JSON.stringify({ name }));
    form.append('file', new Blob([new Uint8Array(await testPicture(seed + index))]), `${name}.jpg`);
    const answer = await fetch(`${address}/api/pictures`, { method: 'POST', body: form });
    made.push(((await answer.json()) as { pictures: Picture[] }).pictures[0]!);
  }
  return made;
}

const undo = (page: Page) => page.keyboard.press('Control+z');
const redo = (page: Page) => page.keyboard.press('Control+Shift+Z');

test('undo is of the person: library, landing, a subject, a board, over a reload, each window its own', async ({
  page,
  running,
}) => {
  const [one, two] = await bring(running.address, ['Undone wheel', 'Undone chain'], 9_310);
  const library = async (query: string) =>
    (await (await fetch(`${running.address}/api/library?${query}`)).json()) as LibraryAnswer;
  const now = async (id: string) =>
    ((await (await fetch(`${running.address}/api/pictures/${id}`)).json()) as { picture: Picture }).picture;
  const subjects = async () =>
    ((await (await fetch(`${running.address}/api/subjects`)).json()) as { subjects: Subject[] }).subjects;

  // 1. On the landing: one is put away.
  await page.goto(`${running.address}/landing`);
  await page.getByRole('button', { name: 'Undone wheel' }).click();
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('h');
  await expect.poll(async () => (await now(one!.id)).isPutAway).toBe(true);

  // 2. In the library: the other is tagged.
  await page.goto(`${running.address}/library?words=undone`);
  await page.getByRole('option', { name: 'Undone chain' }).click();
  await page.getByRole('combobox', { name: 'What it is here for' }).fill('iron');
  await page.getByRole('option', { name: 'new tag iron' }).click();
  await expect.poll(async () => (await library('tag=iron')).total).toBe(1);

  // 3. On its own page: a note.
  await page.goto(`${running.address}/library/${two!.id}`);
  await page.getByLabel('Note about the picture').fill('Links are worn');
  await page.getByLabel('Note about the picture').blur();
  await expect.poll(async () => (await now(two!.id)).note).toBe('Links are worn');

  // 4. A subject is made and named otherwise.
  await page.goto(`${running.address}/subjects`);
  await page.getByLabel('A new subject').fill('The undone subject');
  await page.keyboard.press('Enter');
  const title = page.getByRole('textbox', { name: 'Name of the subject' });
  await expect(title).toHaveValue('The undone subject');
  await title.fill('The chain');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await subjects()).some(({ name }) => name === 'The chain')).toBe(true);

  // 5. On a board: something is moved, the board is named.
  const board = await TestBoard.create(running.address, 'Undone board');
  await board.place([9_320]);
  await openBoard(page, board);
  await dragOnBoard(page, { x: 0, y: 0 }, { x: 0, y: 150 });
  await saved(page);
  const centre = async () => (await board.standing())[0]!.centre;
  const moved = await centre();
  expect(moved.y).not.toBe(0);

  // Another window, and a duplicate of this one's session, have nothing of it to take back.
  const [other] = await Promise.all([
    page.waitForEvent('popup'),
    page.evaluate(() => void window.open('/library')),
  ]);
  expect(await other.evaluate(() => sessionStorage.length)).toBeGreaterThan(0);
  await expect(other.getByTestId('wall')).toBeVisible();
  await undo(other);
  await expect(other.getByText('There is nothing to take back.')).toBeVisible();

  // The window is loaded anew, on another page: everything can still be taken back, the last first.
  await page.goto(`${running.address}/boards`);
  await expect(page.getByRole('heading', { name: 'Boards' })).toBeVisible();
  await undo(page);
  await expect(page).toHaveURL(board.url);
  await expect.poll(async () => (await centre()).y).toBe(0);
  await expect(page.getByText(/^Taken back: /)).toBeVisible();
  await redo(page);
  await expect.poll(centre).toEqual(moved);
  await undo(page);
  await expect.poll(async () => (await centre()).y).toBe(0);

  await undo(page);
  await expect(page).toHaveURL(/\/subjects\//);
  await expect(title).toHaveValue('The undone subject');
  await undo(page);
  await expect
    .poll(async () => (await subjects()).find(({ name }) => name === 'The undone subject')?.isPutAway)
    .toBe(true);
  await expect(page.getByText('Taken back: Subject “The undone subject” made.')).toBeVisible();
  // What is said lies below a sheet: Escape closes the sheet first.
  await page.keyboard.press('Shift+?');
  const sheet = page.getByRole('dialog', { name: 'Keys' });
  await expect(sheet).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(sheet).toBeHidden();

  // What another window has set since is left, and said.
  await other.goto(`${running.address}/library/${two!.id}`);
  await other.getByLabel('Note about the picture').fill('Said anew');
  await other.getByLabel('Note about the picture').blur();
  await expect.poll(async () => (await now(two!.id)).note).toBe('Said anew');
  await undo(page);
  await expect(page).toHaveURL(`${running.address}/library/${two!.id}`);
  await expect(page.getByText('One property was left as another window has set it since.')).toBeVisible();
  expect((await now(two!.id)).note).toBe('Said anew');

  await undo(page);
  await expect.poll(async () => (await library('tag=iron')).total).toBe(0);
  await undo(page);
  await expect(page).toHaveURL(`${running.address}/landing`);
  await expect.poll(async () => (await now(one!.id)).isPutAway).toBe(false);
  await expect(page.getByRole('button', { name: 'Undone wheel' })).toBeVisible();
  await undo(page);
  await expect(page.getByText('There is nothing to take back.')).toBeVisible();
  await other.close();
});

test('deciding about near copies is taken back by one undo, on every board', async ({ page, running }) => {
  const { address } = running;
  const post = async (name: string, bytes: Uint8Array) => {
    const form = new FormData();
    form.append('file', new Blob([new Uint8Array(bytes)]), name);
    return (
      (await (await fetch(`${address}/api/pictures`, { method: 'POST', body: form })).json()) as {
        pictures: Picture[];
      }
    ).pictures[0]!;
  };
  const large = await post('weir.jpg', await testPicture(9_340, 900, 600));
  const small = await post('weir small.jpg', await testPicture(9_340, 450, 300));
  const now = async (id: string) =>
    ((await (await fetch(`${address}/api/pictures/${id}`)).json()) as { picture: Picture }).picture;
  await expect
    .poll(async () => (await now(small.id)).copies.map(({ picture }) => picture), { timeout: 30_000 })
    .toEqual([large.id]);
  const board = await TestBoard.create(address, 'Weir');
  await board.placePictures([small]);

  await page.goto(`${address}/library/${large.id}`);
  await page.getByRole('button', { name: 'this one everywhere' }).click();
  const shows = async () => (await board.standing()).map((item) => 'picture' in item && item.picture);
  await expect.poll(shows).toEqual([large.id]);
  await expect.poll(async () => (await now(small.id)).isPutAway).toBe(true);
  await undo(page);
  await expect.poll(shows).toEqual([small.id]);
  await expect.poll(async () => (await now(small.id)).isPutAway).toBe(false);
  await expect
    .poll(async () => (await now(large.id)).copies.map(({ picture }) => picture))
    .toEqual([small.id]);
});

test('what was taken back out of view is said and gone to', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'Far apart');
  await board.place([9_350]);
  await openBoard(page, board);
  await dragOnBoard(page, { x: 0, y: 0 }, { x: 0, y: 120 });
  await saved(page);
  // In view: the screen shows it, nothing is said.
  await undo(page);
  await expect.poll(async () => (await board.standing())[0]!.centre.y).toBe(0);
  await expect(page.getByText(/^Taken back/)).toHaveCount(0);
  await redo(page);
  await expect.poll(async () => (await board.standing())[0]!.centre.y).not.toBe(0);
  await page.evaluate(() => window.miraderoStage!.setCamera({ centre: { x: 90_000, y: 0 }, scale: 1 }));
  await undo(page);
  await expect(page.getByText('Taken back: One thing altered: place.')).toBeVisible();
  await expect
    .poll(() => page.evaluate(() => Math.abs(window.miraderoStage!.camera.centre.x)))
    .toBeLessThan(2_000);
});
