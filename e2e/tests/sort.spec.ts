import { readdirSync, readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import type { LibraryAnswer, Picture } from '@miradero/core/schema';
import type { Locator, Page } from '@playwright/test';
import { SUBJECTS } from '../../demo/sorting.ts';
import { TestBoard } from '../support/board.ts';
import { demoTemplate } from '../support/demo-template.ts';
import { demo, placementsOf } from '../support/gathering.ts';
import { type Running, startRunning } from '../support/running.ts';
import { expect, test } from '../support/test.ts';

/** All that the demo has, with what was said of it: more than a hundred pictures. */
const FILES = readdirSync(demo('')).filter((file) => file.endsWith('.truth.json'));
/** And the study that is drawn on the easel. */
const COUNT = FILES.length + 1;
const [FERRY] = SUBJECTS;

let running: Running;
test.beforeAll(async () => {
  test.setTimeout(1_500_000);
  running = await startRunning(await demoTemplate());
});
test.afterAll(() => running.stop());

const search = async (query: string) =>
  (await (await fetch(`${running.address}/api/library?${query}`)).json()) as LibraryAnswer;
const pictureNamed = async (name: string): Promise<Picture> =>
  (await search(`words=${encodeURIComponent(name)}&limit=500`)).pictures.find((one) => one.name === name)!;
const shown = (page: Page) => page.getByRole('option').filter({ visible: true });
const nameOf = (page: Page, name: string | RegExp) => page.getByRole('option', { name, exact: true });

async function library(page: Page, query = ''): Promise<void> {
  await page.goto(`${running.address}/library${query}`);
  await expect(shown(page).first()).toBeVisible();
}
const count = (page: Page) => page.getByTestId('asked').getByRole('status');

test('from more than a hundred pictures to the one wanted: by word, part, colour and likeness', async ({
  page,
}) => {
  expect(FILES.length).toBeGreaterThan(105);
  await library(page);
  await expect(count(page)).toHaveText(`${COUNT} pictures`);

  await page.keyboard.press('/');
  // Slower than the line rests before it asks: what comes back must not touch what is typed meanwhile.
  await page.keyboard.type('storm lan flame', { delay: 230 });
  await expect(page.getByRole('searchbox')).toHaveValue('storm lan flame');
  // As a still and in a wider gamut.
  await expect(count(page)).toHaveText('2 pictures');
  await expect(nameOf(page, 'Storm lantern, flame and glass')).toHaveCount(2);
  // A slip of the hand is forgiven, and said.
  await page.getByRole('searchbox').fill('manequin crank');
  await expect(count(page)).toContainText('spelt nearly so');
  await expect(nameOf(page, 'Mannequin, turning the crank, high')).toBeVisible();
  await page.getByRole('searchbox').fill('');

  const results = await new AxeBuilder({ page }).analyze();
  expect(results.violations.filter(({ impact }) => impact === 'serious' || impact === 'critical')).toEqual(
    [],
  );

  await page.getByText('that are …').click();
  await page.getByRole('button', { name: 'chain wheel', exact: true }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('asked')).toContainText('The ferry: chain wheel');
  await expect(shown(page)).toHaveCount(FILES.filter((file) => file.startsWith('chain-wheel-')).length);
  await page.getByRole('button', { name: 'No longer The ferry: chain wheel' }).click();
  await expect(count(page)).toHaveText(`${COUNT} pictures`);

  await page.goto(`${running.address}/library?colour=b23c2a`);
  await expect(page.getByTestId('asked')).toContainText('in this colour');
  await expect(shown(page).first()).toBeVisible();
  const reddish = await search('colour=b23c2a');
  expect(reddish.total).toBeLessThan(FILES.length / 2);

  await library(page, '?words=turn+3+of+12');
  await shown(page).first().click();
  await page.getByRole('button', { name: 'like this' }).click();
  await expect(page.getByTestId('asked')).toContainText('most alike first');
  const names = (await shown(page).allInnerTexts()).slice(0, 6);
  expect(names.filter((name) => name.includes('Storm lantern')).length).toBeGreaterThanOrEqual(5);
});

test('orders by what was measured, as a wall and as a list; a search is kept', async ({ page }) => {
  await library(page, '?purpose=pose');
  await page.getByText('newest first').click();
  await page.getByRole('button', { name: 'from dark to light' }).click();
  await expect(page).toHaveURL(/sort=lightness/);
  const dark = (await search('purpose=pose&sort=lightness')).pictures;
  await expect(shown(page).first()).toHaveAccessibleName(dark[0]!.name);
  await page.getByRole('button', { name: 'as a list' }).click();
  await page.getByRole('button', { name: 'Complicated' }).click();
  const simple = (await search('purpose=pose&sort=complexity')).pictures;
  await expect(shown(page).first()).toHaveAccessibleName(simple[0]!.name);
  await page.getByRole('button', { name: 'as a wall' }).click();

  await page.getByText('kept searches').click();
  await page.getByLabel('Name for this search').fill('poses, simple first');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'poses, simple first', exact: true })).toBeVisible();
  await page.keyboard.press('Escape');
  await library(page);
  await page.getByText('kept searches').click();
  await page.getByRole('button', { name: 'poses, simple first', exact: true }).click();
  await expect(page.getByTestId('asked')).toContainText('for pose');
  await expect(page.getByTestId('asked')).toContainText('from simple to complicated');
});

test('many are told the same at once, and each is as it was when that is taken back', async ({ page }) => {
  await library(page, '?words=mannequin&sort=name');
  const before = (await search('words=mannequin&sort=name')).pictures;
  await shown(page).nth(0).dblclick();
  // What was pressed is what opens: nothing moves under the hand.
  await expect(page.getByRole('textbox', { name: 'Name of the picture' })).toHaveValue(before[0]!.name);
  await page.keyboard.press('Escape');
  // A band from the bare ground takes what it touches; a press there lets go.
  const [one, two] = [await shown(page).nth(0).boundingBox(), await shown(page).nth(1).boundingBox()];
  await page.mouse.move(one!.x - 6, one!.y - 6);
  await page.mouse.down();
  await page.mouse.move(two!.x + 20, two!.y + 20, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('heading', { level: 2, name: '2 pictures' })).toBeVisible();
  await page.mouse.click(one!.x - 6, one!.y - 6);
  await expect(page.getByRole('complementary', { name: 'Nothing is selected' })).toBeVisible();
  await shown(page).nth(0).click();
  await shown(page)
    .nth(3)
    .click({ modifiers: ['Shift'] });
  const label = page.getByRole('complementary', { name: 'What is selected' });
  await expect(label.getByRole('heading', { level: 2 })).toHaveText('4 pictures');
  const field = label.getByRole('combobox', { name: 'What they are here for' });
  await field.fill('crew');
  await label.getByRole('option', { name: 'new tag crew' }).click();
  await expect.poll(async () => (await search('tag=crew')).total).toBe(4);
  await label.getByText('Colours of its tags').click();
  await label.getByLabel('Colour of crew').fill('#336699');
  await label.getByLabel('Colour of crew').blur();
  await expect
    .poll(async () => (await (await fetch(`${running.address}/api/library/words`)).json()).tags)
    .toContainEqual({ name: 'crew', colour: '#336699', count: 4 });
  await field.fill('costume');
  await label.getByRole('option', { name: /^costume purpose/ }).click();
  await expect.poll(async () => (await search('tag=crew&purpose=costume')).total).toBe(4);
  await label.getByLabel('Name for all').fill('Deckhand');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => (await search('words=deckhand&sort=name')).pictures.map(({ name }) => name))
    .toEqual([1, 2, 3, 4].map((number) => `Deckhand ${number}`));
  await page.getByTestId('wall').focus();
  await page.keyboard.press('2');
  await expect.poll(async () => (await search('pile=maybe&tag=crew')).total).toBe(4);
  // As fast as the key repeats: each press takes back one more.
  for (let press = 0; press < 5; press += 1) await page.keyboard.press('Control+z');
  await expect(page.getByText('Taken back: Tagged crew.')).toBeVisible();
  await expect.poll(async () => (await search('tag=crew')).total).toBe(0);
  await expect
    .poll(async () => (await (await fetch(`${running.address}/api/library/words`)).json()).tags)
    .not.toContainEqual(expect.objectContaining({ name: 'crew' }));
  const facts = ({ id, name, tags, purposes, pile }: Picture) => ({ id, name, tags, purposes, pile });
  expect((await search('words=mannequin&sort=name')).pictures.map(facts)).toEqual(before.map(facts));
});

test('what stands on a board says so before it is put away; it is brought back', async ({ page }) => {
  const board = await TestBoard.create(running.address, 'Low light');
  await library(page, '?words=withies');
  await shown(page).first().click();
  await page.keyboard.press('b');
  await page.getByRole('button', { name: 'Low light' }).click();
  await expect.poll(async () => (await placementsOf(board)).length).toBe(1);
  await page.getByRole('button', { name: 'close', exact: true }).click();
  await page.getByTestId('wall').focus();
  await page.keyboard.press('h');
  await expect(page.getByText('It stands on Light on the marsh, Low light, and stays there.')).toBeVisible();
  await page.getByRole('button', { name: 'put away all the same' }).click();
  await expect(page.getByText('No picture is like that')).toBeVisible();
  expect(await placementsOf(board)).toHaveLength(1);
  await library(page, '?isPutAway=true');
  await shown(page).first().click();
  await page.getByTestId('wall').focus();
  await page.keyboard.press('h');
  await expect.poll(async () => (await search('words=withies')).total).toBe(1);
});

test('a picture is dragged to a part, from the wall and from a subject', async ({ page }) => {
  const [, , , sallow] = SUBJECTS;
  const partsOf = async (name: string) => (await pictureNamed(name)).parts;
  const carry = async (from: Locator, to: () => Locator) => {
    await from.hover();
    await page.mouse.down();
    await page.mouse.move(5, 400, { steps: 4 });
    await to().hover();
    await to().hover();
    await page.mouse.up();
  };
  await library(page, '?words=surface+mud');
  await carry(shown(page).first(), () =>
    page.getByRole('complementary', { name: 'Where it can go' }).getByRole('button', { name: 'slip' }),
  );
  await expect.poll(() => partsOf('Surface: mud at low water')).toContain(sallow!.parts[0]!.id);
  // Where it can go goes again with the drag.
  await expect(page.getByRole('complementary', { name: 'Where it can go' })).toHaveCount(0);

  await page.goto(`${running.address}/subjects/${sallow!.id}`);
  await carry(page.getByRole('button', { name: 'Surface: mud at low water' }), () =>
    page.getByRole('button', { name: 'gate and winch', exact: true }),
  );
  await expect.poll(() => partsOf('Surface: mud at low water')).toContain(sallow!.parts[1]!.id);
});

test('one picture alone: regions, note, dials by one drag each, taken back; copies are merged', async ({
  page,
}) => {
  const picture = await pictureNamed('Storm lantern, turn 3 of 12');
  await page.goto(`${running.address}/library/${picture.id}`);
  const now = async () =>
    ((await (await fetch(`${running.address}/api/pictures/${picture.id}`)).json()) as { picture: Picture })
      .picture;
  await expect(page.locator('[data-stage="sharp"]')).toBeVisible();

  await page.getByLabel('Note about the picture').fill('The bail casts on the glass');
  await page.getByLabel('Note about the picture').blur();
  await expect.poll(async () => (await now()).note).toBe('The bail casts on the glass');

  await page.getByLabel('Mark a part for').selectOption('form');
  const stage = (await page.locator('.stage').boundingBox())!;
  await page.mouse.move(stage.x + stage.width / 2 - 80, stage.y + stage.height / 2 - 60);
  await page.mouse.down();
  await page.mouse.move(stage.x + stage.width / 2 + 80, stage.y + stage.height / 2 + 120, { steps: 5 });
  await page.mouse.up();
  await expect.poll(async () => (await now()).purposes.some(({ region }) => region !== null)).toBe(true);

  await page.getByRole('combobox', { name: 'What it is here for' }).fill('storm lantern');
  await page.getByRole('option', { name: /^The storm lantern subject/ }).click();
  const dial = page.getByRole('slider', { name: 'View of The storm lantern' });
  const box = (await dial.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 30, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  const lantern = SUBJECTS[2]!.id;
  await expect.poll(async () => (await now()).views[lantern]?.azimuthDeg).toBe(90);
  const was = (await now()).views[lantern]!.elevationDeg!;
  await dial.focus();
  await page.keyboard.press('ArrowUp');
  await expect.poll(async () => (await now()).views[lantern]!.elevationDeg).toBe(was + 5);
  await page.locator('.stage').focus();
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await now()).views[lantern]!.elevationDeg).toBe(was);

  const copies = page.locator('details').filter({ hasText: 'Near copies' });
  await expect(copies.getByText('that one, mirrored')).toBeVisible();
  await expect(copies.getByText('better').first()).toBeVisible();
  const before = (await now()).copies.length;
  await copies.getByRole('button', { name: 'this one everywhere' }).first().click();
  await expect.poll(async () => (await now()).copies.length).toBe(before - 1);
  const results = await new AxeBuilder({ page }).analyze();
  expect(results.violations.filter(({ impact }) => impact === 'serious' || impact === 'critical')).toEqual(
    [],
  );
});

test('a blind spot is found, gathered for, and filled', async ({ page }) => {
  await page.goto(`${running.address}/subjects/${FERRY!.id}`);
  await expect(page.getByText('underside').first()).toBeVisible();
  const part = page
    .getByRole('listitem')
    .filter({ has: page.getByRole('button', { name: 'underside', exact: true }) })
    .first();
  await expect(part).toContainText('0');
  await page.getByRole('button', { name: 'Gather for The ferry: underside', exact: true }).click();
  await expect(page.getByText('what comes in now is given to it')).toBeVisible();
  await page.setInputFiles('#choose-files', [demo('knot.webp')]);
  await expect(part).toContainText('1');
  await expect(
    page.getByRole('button', { name: 'Gather for The ferry: underside', exact: true }),
  ).toHaveCount(0);

  // The same globe for one light alone.
  await page.getByRole('button', { name: /^from behind/ }).click();
  await expect(page.getByText('in light from behind')).toBeVisible();
  await expect(page.getByRole('button', { name: 'front, level: one picture' })).toBeVisible();
  await page.getByRole('button', { name: /^from behind/ }).click();

  // A view that nobody has found: its cell says so, and what comes in for it fills it.
  const cell = page.getByRole('button', { name: 'back and left, from above: no picture' }).first();
  await cell.click();
  await page.getByRole('button', { name: 'gather for it', exact: true }).first().click();
  await page.setInputFiles('#choose-files', [demo('page-7-right.png')]);
  await expect(page.getByRole('button', { name: 'back and left, from above: one picture' })).toBeVisible();
  const results = await new AxeBuilder({ page }).analyze();
  expect(results.violations.filter(({ impact }) => impact === 'serious' || impact === 'critical')).toEqual(
    [],
  );
});

test('parts are made, named and given pictures by a number', async ({ page }) => {
  await page.goto(`${running.address}/subjects`);
  await page.getByLabel('A new subject').fill('The heron');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Name of the subject' })).toHaveValue('The heron');
  for (const name of ['neck', 'legs']) {
    await page.getByLabel('another part', { exact: true }).fill(name);
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name, exact: true })).toBeVisible();
  }
  await page.getByRole('button', { name: 'neck', exact: true }).click();
  await page.getByLabel('a part of neck').fill('throat feathers');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'throat feathers', exact: true })).toBeVisible();

  await page.getByRole('button', { name: 'put away', exact: true }).click();
  await page.getByRole('button', { name: 'Bring back The heron' }).click();
  await expect(
    page.getByRole('navigation', { name: 'Subjects' }).getByRole('link', { name: 'The heron' }),
  ).toBeVisible();

  await page.goto(`${running.address}/subjects/${SUBJECTS[3]!.id}`);
  await page.getByRole('button', { name: 'Low Sallow, light going' }).click();
  await page.keyboard.press('3');
  await expect(page.getByText('One picture given to roof.')).toBeVisible();
  await expect
    .poll(async () => (await pictureNamed('Low Sallow, light going')).parts)
    .toContain(SUBJECTS[3]!.parts[2]!.id);
});

test('sources of a subject: what is missing is marked, said in place, and handed out', async ({ page }) => {
  await page.goto(`${running.address}/sources?subject=${SUBJECTS[3]!.id}`);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('The winch house at Low Sallow');
  const row = page.getByRole('row').filter({ hasText: 'Surface: roof iron' });
  await expect(row).toContainText('made by, licence, where from missing');
  await page.getByLabel('Made by of Surface: roof iron').fill('Wren "W." Oskin');
  await page.keyboard.press('Enter');
  await expect(row).not.toContainText('made by,');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'CSV' }).click(),
  ]);
  const csv = readFileSync(await download.path(), 'utf8');
  expect(csv).toContain('"Wren ""W."" Oskin"');
  expect(csv.split('\r\n')).toHaveLength((await search(`subject=${SUBJECTS[3]!.id}`)).total + 2);
  const results = await new AxeBuilder({ page }).analyze();
  expect(results.violations.filter(({ impact }) => impact === 'serious' || impact === 'critical')).toEqual(
    [],
  );
});
