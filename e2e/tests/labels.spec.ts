import type { Picture, Placement } from '@miradero/core/schema';
import { clickOnBoard, colourAt, dragOnBoard, openBoard, saved, TestBoard } from '../support/board.ts';
import { expect, test } from '../support/test.ts';

test('a part and a point of a picture are labelled on the board: this, not that; found by word, listed, forgotten', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'Labelled');
  const [placed] = await board.place([9_101, 9_102]);
  const purposes = async () => {
    const answer = await fetch(`${running.address}/api/pictures/${placed!.picture}`);
    return ((await answer.json()) as { picture: Picture }).picture.purposes;
  };
  await expect.poll(async () => (await purposes()).length).toBe(0);
  await openBoard(page, board);
  await clickOnBoard(page, { x: -170, y: 0 });
  await page.keyboard.press('Shift+I');
  await dragOnBoard(page, { x: -260, y: -50 }, { x: -200, y: 0 });
  const form = page.getByRole('form', { name: 'Label of the part' });
  await form.getByRole('textbox', { name: 'What it is' }).fill('rivets like this');
  await form.getByRole('textbox', { name: 'What it is' }).press('Enter');
  const labels = page.getByTestId('labels-on-pictures');
  await expect(labels).toContainText('rivets like this');
  await saved(page);
  const [first] = await purposes();
  expect(first).toMatchObject({ purpose: 'detail', isNot: false, word: 'rivets like this' });
  expect(first!.region!.x).toBeCloseTo(0.2, 1);
  expect(first!.region!.width).toBeCloseTo(0.2, 1);

  // A press marks a point.
  await page.keyboard.press('Shift+I');
  await clickOnBoard(page, { x: -100, y: 50 });
  await form.getByRole('textbox', { name: 'What it is' }).fill('the paint');
  await form.getByRole('button', { name: 'not that' }).click();
  await form.getByRole('combobox', { name: 'Why it is marked' }).selectOption('surface');
  await form.getByRole('button', { name: 'Keep' }).click();
  await expect(labels).toContainText('not: the paint');
  await saved(page);
  expect((await purposes())[1]).toMatchObject({ purpose: 'surface', isNot: true, region: { width: 0 } });
  // What is written on the picture alters none of its pixels.
  const plain = await colourAt(page, { x: -120, y: -80 });
  expect(plain).toEqual(await colourAt(page, { x: -60, y: -80 }));

  // Not selected it says nothing, but for all to see.
  await page.keyboard.press('Escape');
  await expect(labels).toBeHidden();
  await page.keyboard.press('Alt+l');
  await expect(labels).toContainText('rivets like this');
  await page.keyboard.press('Alt+l');
  await expect(labels).toBeHidden();

  await page.keyboard.press('Control+f');
  await page.keyboard.type('rivets');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expect(page.locator('footer').first()).toContainText('picture 9101');

  // The wall label lists, alters and forgets them; undo brings back.
  await clickOnBoard(page, { x: -170, y: 0 });
  await page.keyboard.press('i');
  const list = page.getByRole('region', { name: 'Wall label' }).getByRole('region', { name: 'Labels' });
  await list.getByRole('textbox', { name: 'Word of label 1' }).fill('rivets and plates');
  await list.getByRole('textbox', { name: 'Word of label 1' }).press('Enter');
  await expect(labels).toContainText('rivets and plates');
  await list.getByRole('button', { name: 'Forget label 2' }).click();
  await expect(labels).not.toContainText('the paint');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await expect(labels).toContainText('not: the paint');
});

test('labels go with their picture: moved, mirrored, and not where it was trimmed away', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'Labels move');
  const [placed] = await board.place([9_103]);
  const purposes = [
    { purpose: 'form', isNot: false, region: { x: 0.05, y: 0.05, width: 0.1, height: 0.1 }, word: 'left' },
    { purpose: 'form', isNot: false, region: { x: 0.85, y: 0.05, width: 0.1, height: 0.1 }, word: 'right' },
  ];
  await fetch(`${running.address}/api/pictures/${placed!.picture}`, {
    method: 'PATCH',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ purposes }),
  });
  await openBoard(page, board);
  await clickOnBoard(page, { x: 0, y: 50 });
  const at = async (word: string) => (await page.getByText(word, { exact: true }).boundingBox())!.x;
  await expect(page.getByText('left', { exact: true })).toBeVisible();
  expect(await at('left')).toBeLessThan(await at('right'));
  await page.keyboard.press('x');
  await expect.poll(async () => (await at('left')) > (await at('right'))).toBe(true);
  await page.keyboard.press('t');
  await dragOnBoard(page, { x: -138, y: -93 }, { x: 0, y: 80 });
  await page.keyboard.press('Escape');
  await saved(page);
  expect(((await board.item(placed!.id)) as Placement).trim.x).toBeCloseTo(0.5, 1);
  await expect(page.getByText('left', { exact: true })).toBeHidden();
  await expect(page.getByText('right', { exact: true })).toBeVisible();
});
