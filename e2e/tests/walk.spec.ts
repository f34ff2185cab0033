import type { Page } from '@playwright/test';
import { cameraOf, openBoard, saved, stageReady, TestBoard } from '../support/board.ts';
import { emptyBoard, placementsOf } from '../support/gathering.ts';
import { testPicture } from '../support/pictures.ts';
import { bringPicture, makeSubject, pictureAt } from '../support/subjects.ts';
import { expect, test } from '../support/test.ts';

/** What the stage says it stands on. */
async function stoodOn(page: Page): Promise<string | null> {
  const id = await page.locator('.stage').getAttribute('aria-activedescendant');
  return id === null ? null : page.locator(`[id="${id}"]`).textContent();
}
/** Where the keyboard is, as assistive technology names it. */
const focused = (page: Page) =>
  page.evaluate(() => {
    const at = document.activeElement;
    return at?.getAttribute('aria-label') ?? at?.textContent?.trim() ?? '';
  });
/** Goes on with the Tab key until the keyboard is somewhere. */
async function tabTo(page: Page, name: string | RegExp, most = 150): Promise<void> {
  for (let press = 0; press < most; press += 1) {
    await page.keyboard.press('Tab');
    const at = await focused(page);
    if (typeof name === 'string' ? at === name : name.test(at)) return;
  }
  throw new Error(`Tab does not lead to ${name}; it is at ${await focused(page)}`);
}

test('Tab into the stage walks: every item is stood on, named, selected, nudged and left by keys', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'Walked');
  await board.place([9_071, 9_072, 9_073]);
  await openBoard(page, board);
  await page.keyboard.press('Shift+Tab');
  expect(await stoodOn(page)).toBeNull();
  await page.keyboard.press('Tab');
  await expect.poll(() => stoodOn(page)).toMatch(/^picture 9071, middle left, 300 by 200$/);
  await expect(page.getByRole('listbox', { name: 'In view' }).getByRole('option')).toHaveCount(3);
  await page.keyboard.press('ArrowRight');
  await expect.poll(() => stoodOn(page)).toMatch(/^picture 9072, middle, /);
  // It is outlined, and nothing is selected: a key acts on it.
  await page.keyboard.press('x');
  await saved(page);
  const flips = async () => (await placementsOf(board)).map(({ id, flipX }) => [id, flipX]);
  expect(Object.fromEntries(await flips())).toEqual({ p9071: false, p9072: true, p9073: false });
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await saved(page);
  expect((await placementsOf(board)).find(({ id }) => id === 'p9072')!.centre.x).toBe(2);
  // Enter once more opens: it comes close. Escape goes back, one thing at a time, and walks on.
  const before = await cameraOf(page);
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await cameraOf(page)).scale).toBeGreaterThan(before.scale * 1.5);
  await page.keyboard.press('Escape');
  await expect.poll(async () => (await cameraOf(page)).scale).toBeCloseTo(before.scale, 4);
  await page.keyboard.press('Escape');
  await page.keyboard.press('ArrowRight');
  await expect.poll(() => stoodOn(page)).toMatch(/^picture 9073/);
  await page.keyboard.press('Escape');
  await expect.poll(() => stoodOn(page)).toBeNull();
  // Nothing is selected, pointed at or stood on: a key says so.
  await page.keyboard.press('x');
  await expect(page.getByText('Nothing to act on: flip.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByText('Nothing to act on: flip.')).toBeHidden();
});

test('the view follows who walks, over a board far larger than it', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'Far');
  await board.place([1, 2, 3, 4, 5, 6, 7, 8]);
  await openBoard(page, board);
  await page.mouse.move(640, 5);
  for (let step = 0; step < 8; step += 1) await page.keyboard.press('ArrowRight');
  await expect.poll(() => stoodOn(page)).toMatch(/^picture 8/);
  await expect
    .poll(async () => {
      const { centre } = await cameraOf(page);
      return centre.x > 400;
    })
    .toBe(true);
});

test('what the README names in six lines is done by keyboard alone', async ({ page, running }) => {
  test.setTimeout(300_000);
  const { address } = running;
  await makeSubject(address, 'The lugger', 'mast');
  const extra = await bringPicture(address, 5_201, 'Lugger at low water');
  const board = await emptyBoard(page, address, 'By keys');

  // 1. A picture is pasted, and named right after.
  const png = (await testPicture(5_202, 300, 200)).toString('base64');
  await page.evaluate(async (text) => {
    const bytes = Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0));
    const bitmap = await createImageBitmap(new Blob([bytes], { type: 'image/jpeg' }));
    const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
    canvas.getContext('2d')!.drawImage(bitmap, 0, 0);
    await navigator.clipboard.write([
      new ClipboardItem({ 'image/png': await canvas.convertToBlob({ type: 'image/png' }) }),
    ]);
  }, png);
  await page.keyboard.press('Control+v');
  await expect(page.getByText('Name it')).toBeVisible();
  await page.keyboard.press('Enter');
  await page.keyboard.type('Mast step');
  await page.keyboard.press('Enter');
  // The line gives the keyboard back to the stage.
  await expect.poll(() => focused(page)).toBe('Board');
  const first = async () => (await placementsOf(board))[0]!;
  await saved(page);
  await page.keyboard.press('Shift+A');
  await expect(page.getByRole('dialog', { name: 'By address' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect.poll(() => focused(page)).toBe('Board');

  // 2. Moved, sized, turned, faded; the view zoomed, and whole again.
  const before = await first();
  for (const key of ['ArrowRight', 'Shift+>', ']', 'Alt+ArrowDown', '-', '0']) await page.keyboard.press(key);
  await saved(page);
  const after = await first();
  expect(after.centre.x).toBeGreaterThan(before.centre.x);
  expect(after.width).toBeGreaterThan(before.width);
  expect([after.turn, after.opacity]).toEqual([90, 0.9]);

  // 3. Close and back, trimmed, flipped; a note.
  const far = await cameraOf(page);
  await page.keyboard.press('f');
  await expect.poll(async () => (await cameraOf(page)).scale).not.toBe(far.scale);
  await page.keyboard.press('f');
  await page.keyboard.press('t');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Enter');
  await page.keyboard.press('x');
  await saved(page);
  expect((await first()).trim.x).toBeCloseTo(0.02, 5);
  expect((await first()).flipX).toBe(true);
  await page.keyboard.press('w');
  await page.keyboard.type('oak, not elm');
  await page.keyboard.press('Escape');
  await expect.poll(() => focused(page)).toBe('Board');
  await saved(page);
  expect((await board.standing()).map(({ kind }) => kind).sort()).toEqual(['note', 'placement']);

  // 4. The value rail, the label, undo, a link card, keys and names.
  await page.keyboard.press('Shift+Tab');
  expect(await focused(page)).toBe('Value 5');
  // Held as a hand holds it: the group goes on after its key went down, and chooses only while it is.
  await page.keyboard.press('ArrowDown', { delay: 60 });
  await expect.poll(async () => (await board.snapshot()).board.surround).toBe(4);
  await page.keyboard.press('Tab');
  await expect.poll(() => focused(page)).toBe('Board');
  await page.keyboard.press('i');
  await expect(page.getByRole('region', { name: 'Wall label' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('region', { name: 'Wall label' })).toBeHidden();
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await board.snapshot()).board.surround).toBe(5);
  await page.keyboard.press('Shift+L');
  await page.keyboard.type('https://lugger.example/plans');
  await page.keyboard.press('Enter');
  await expect.poll(() => focused(page)).toBe('Board');
  await saved(page);
  expect((await board.standing()).map(({ kind }) => kind).sort()).toEqual(['link', 'note', 'placement']);
  await page.keyboard.press('Shift+?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect.poll(() => focused(page)).toBe('Board');

  // 5. The library: found by word, laid on a pile, given to a part; the subject, and its sources.
  await page.keyboard.press('Control+k');
  await page.keyboard.type('library');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/library$/);
  await expect(page.getByRole('searchbox', { name: 'Find pictures by word' })).toBeVisible();
  await page.keyboard.press('/');
  await page.keyboard.type('lugger low water');
  await expect(page.getByRole('option', { name: 'Lugger at low water' })).toBeVisible();
  await expect(page.getByRole('option')).toHaveCount(1);
  // Another search ends what is selected, and fewer letters find it as well.
  await expect(page).toHaveURL(/lugger.low.water/);
  await page.keyboard.press('Enter');
  await expect.poll(() => focused(page)).toBe('Pictures');
  await page.keyboard.press('ArrowRight');
  await expect(page.getByTestId('wall')).toHaveAttribute('aria-activedescendant', `hung-${extra}`);
  await page.keyboard.press('1');
  await expect.poll(async () => (await pictureAt(address, extra)).pile).toBe('now');
  await page.keyboard.press('b');
  await expect.poll(() => focused(page)).toBe('Find a board or a part');
  await page.keyboard.type('lugger mast');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await pictureAt(address, extra)).parts.length).toBe(1);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect.poll(() => focused(page)).toBe('Pictures');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('the lugger');
  const lugger = page.getByRole('option', { name: 'The lugger', exact: true });
  await expect(lugger).toBeVisible();
  // A picture may be called so, too.
  for (let press = 0; press < 12 && (await lugger.getAttribute('aria-selected')) !== 'true'; press += 1)
    await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Name of the subject' })).toHaveValue('The lugger');
  await tabTo(page, 'sources');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Sources of The lugger');

  // 6. The bookmark in the settings; the perch.
  await tabTo(page, 'Settings');
  await page.keyboard.press('Enter');
  await tabTo(page, /^(?:Make the bookmark|Clip to Miradero)$/);
  await page.goBack();
  await page.goto(board.url);
  await stageReady(page);
  const opening = page.context().waitForEvent('page');
  await page.keyboard.press('p');
  await (await opening).close();
});
