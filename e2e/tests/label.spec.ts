import { dragOnScreen } from '../support/board.ts';
import { bringPicture, makeSubject, partsIn, pictureAt, subjectAt } from '../support/subjects.ts';
import { expect, test } from '../support/test.ts';

const SUBJECTS = 40;
const PARTS = 15;

test('a label says in one line what is set, and finds among forty subjects of fifteen parts by typing', async ({
  page,
  running,
}) => {
  test.setTimeout(300_000);
  const { address } = running;
  const made = await Promise.all(
    Array.from({ length: SUBJECTS }, (_, n) =>
      makeSubject(
        address,
        `Vessel ${n}`,
        Array.from({ length: PARTS }, (_, m) => `plank-${n}-${m}`).join(' '),
      ),
    ),
  );
  const picture = await bringPicture(address, 4_201, 'Keel');
  await page.goto(`${address}/library/${picture}`);
  const label = page.getByRole('complementary', { name: 'Wall label' });
  const field = label.getByRole('combobox', { name: 'What it is here for' });
  const said = label.getByRole('list', { name: 'What is said of it' });
  await expect(said).toHaveText('Nothing is said of it yet.');
  // No wall of words: before anything is asked for, a handful can be pressed.
  expect(await label.getByRole('button').count()).toBeLessThan(12);

  await field.click();
  await field.pressSequentially('33-7');
  const options = label.getByRole('option');
  await expect(options.first()).toHaveText(/plank-33-7 part of Vessel 33\s*0/);
  await page.keyboard.press('Enter');
  await expect(said).toContainText('plank-33-7');
  await expect
    .poll(async () => (await pictureAt(address, picture)).parts)
    .toEqual([made[33]!.parts.get('plank-33-7')]);
  // The field goes on: a purpose, then something that is not there yet.
  await expect(field).toBeFocused();
  await field.pressSequentially('ligh');
  await expect(options.first()).toContainText('light purpose');
  await page.keyboard.press('Enter');
  await field.pressSequentially('stem');
  await expect(options.filter({ hasText: 'new part of Vessel 33' })).toHaveCount(1);
  await page.keyboard.press('ArrowDown');
  await expect(field).toHaveAttribute('aria-activedescendant', /-1$/);
  await page.keyboard.press('Enter');
  await expect(said).toContainText('stem');
  await expect.poll(async () => partsIn(await subjectAt(address, made[33]!.id))).toContain('stem');
  await field.pressSequentially('keelson');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await pictureAt(address, picture)).tags).toEqual(['keelson']);
  // What is set is taken away where it stands.
  await said.getByRole('button', { name: 'No longer light' }).click();
  await expect.poll(async () => (await pictureAt(address, picture)).purposes).toEqual([]);

  // The same field in the library, for several.
  await bringPicture(address, 4_202, 'Keel again');
  await page.goto(`${address}/library?words=keel`);
  await expect(page.getByRole('option', { name: 'Keel again' })).toBeVisible();
  await page.getByTestId('wall').focus();
  await page.keyboard.press('Control+a');
  const many = page.getByRole('complementary', { name: 'What is selected' });
  await expect(many.getByRole('list', { name: 'What is said of it' })).toContainText('keelson some');
  await many.getByRole('button', { name: 'keelson some' }).click();
  await expect(many.getByRole('list', { name: 'What is said of it' })).not.toContainText('keelson some');
});

test('a part of a picture says "not that", is moved and resized by hand and by keys', async ({
  page,
  running,
}) => {
  const { address } = running;
  const picture = await bringPicture(address, 4_203, 'Winch');
  await page.goto(`${address}/library/${picture}`);
  await expect(page.locator('[data-stage="sharp"]')).toBeVisible();
  const regions = async () =>
    (await pictureAt(address, picture)).purposes.map(({ purpose, isNot, region }) => ({
      purpose,
      isNot,
      region,
    }));
  await page.getByRole('button', { name: 'not that', exact: true }).click();
  await page.getByLabel('Mark a part for').selectOption('surface');
  const stage = (await page.locator('.stage').boundingBox())!;
  const middle = { x: stage.x + stage.width / 2, y: stage.y + stage.height / 2 };
  await dragOnScreen(page, { x: middle.x - 100, y: middle.y - 60 }, { x: middle.x + 60, y: middle.y + 40 });
  await expect.poll(regions).toMatchObject([{ purpose: 'surface', isNot: true }]);
  const [first] = await regions();

  // It is held: its inside moves it, a corner resizes it.
  await dragOnScreen(page, middle, { x: middle.x + 40, y: middle.y + 20 });
  await expect.poll(async () => (await regions())[0]!.region!.x).toBeGreaterThan(first!.region!.x);
  const [moved] = await regions();
  expect(moved!.region!.width).toBeCloseTo(first!.region!.width, 3);
  await dragOnScreen(page, { x: middle.x + 100, y: middle.y + 60 }, { x: middle.x + 140, y: middle.y + 100 });
  await expect.poll(async () => (await regions())[0]!.region!.width).toBeGreaterThan(moved!.region!.width);
  const [grown] = await regions();
  await page.locator('.stage').focus();
  await page.keyboard.press('ArrowLeft');
  await expect.poll(async () => (await regions())[0]!.region!.x).toBeCloseTo(grown!.region!.x - 0.01, 3);
  await page.keyboard.press('Shift+ArrowDown');
  await expect
    .poll(async () => (await regions())[0]!.region!.height)
    .toBeCloseTo(grown!.region!.height + 0.01, 3);

  await page.getByRole('button', { name: 'This: surface' }).click();
  await expect.poll(async () => (await regions())[0]!.isNot).toBe(false);
  await page.locator('.stage').focus();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Delete');
  await expect(page.getByText('Take hold of a marked part first')).toBeVisible();
  await page.getByRole('button', { name: 'for surface', exact: true }).click();
  await page.locator('.stage').focus();
  await page.keyboard.press('Delete');
  await expect.poll(regions).toEqual([]);
});
