import type { Link } from '@miradero/core/items';
import { workNamed } from '../../demo/commons/catalog.ts';
import { saved } from '../support/board.ts';
import { emptyBoard } from '../support/gathering.ts';
import { expect, test } from '../support/test.ts';

test('a link card is made of an address, learns title and picture of its page, gives the address back', async ({
  page,
  running,
  commons,
}) => {
  const board = await emptyBoard(page, running.address, 'linked');
  const cards = async () => (await board.standing()).filter(({ kind }) => kind === 'link') as Link[];
  const work = workNamed('ferry-bow')!;
  const address = `${commons.address}/work/${work.id}`;

  await page.keyboard.press('Shift+L');
  const field = page.getByRole('textbox', { name: 'Address of the page' });
  await field.fill('not an address');
  await field.press('Enter');
  await expect(page.getByText('That is no address of the web')).toBeVisible();
  await field.fill(address);
  await field.press('Enter');
  await expect.poll(async () => (await cards())[0]?.picture ?? null).not.toBeNull();
  await saved(page);
  const [card] = await cards();
  expect(card).toMatchObject({ address, site: new URL(commons.address).host });
  expect(card!.title).toContain(work.title);
  await expect(page.locator('[data-stage="sharp"]')).toBeVisible();

  // Its address by one press, from the sill.
  await page.getByRole('button', { name: /copy the address/ }).click();
  await expect(page.getByText('The address is on the clipboard.')).toBeVisible();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toBe(address);

  // The wall label says it all, and takes other words.
  await page.getByRole('application', { name: 'Board' }).focus();
  await page.keyboard.press('i');
  const label = page.getByRole('region', { name: 'Wall label' });
  await expect(label.getByRole('textbox', { name: 'Address of the page' })).toHaveValue(address);
  await label.getByRole('textbox', { name: 'Whose page it is' }).fill('Tidewrack Commons');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await cards())[0]!.site).toBe('Tidewrack Commons');

  // By name, by a second window, by undo: it is an item like any other.
  await page.keyboard.press('Control+k');
  await page.keyboard.type('tidewrack');
  await expect(page.getByRole('option', { name: /Tidewrack Commons/ }).first()).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('application', { name: 'Board' }).focus();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await cards()).length).toBe(0);
  await page.keyboard.press('Control+Shift+Z');
  await expect.poll(async () => (await cards())[0]?.title).toBe(card!.title);
});

test('a page that does not answer leaves its card with the address alone, and says so', async ({
  page,
  running,
}) => {
  const board = await emptyBoard(page, running.address, 'linked nowhere');
  await page.keyboard.press('Shift+L');
  await page.keyboard.type('192.168.1.1/ferry');
  await page.keyboard.press('Enter');
  await expect(page.getByText('The page did not answer; its card has the address alone.')).toBeVisible();
  await saved(page);
  const [card] = await board.standing();
  expect(card).toMatchObject({ kind: 'link', address: 'https://192.168.1.1/ferry', picture: null });
});

test('a page without pictures offers itself as a card; an address that failed does, too', async ({
  page,
  running,
  commons,
}) => {
  const board = await emptyBoard(page, running.address, 'cards of pages');
  const cards = async () => (await board.standing()).filter(({ kind }) => kind === 'link') as Link[];
  const lookAt = async (address: string) => {
    // Nothing is selected: ways to bring in are offered first.
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    await page.getByRole('application', { name: 'Board' }).focus();
    await page.getByRole('button', { name: 'bring in' }).click();
    await page.locator('[data-action="by-address"]').first().click();
    await page.getByRole('textbox', { name: 'Addresses' }).fill(address);
    await page.getByRole('button', { name: 'Look there' }).click();
  };
  const address = `${commons.address}/licence/look`;
  await lookAt(address);
  await expect(page.getByText('No picture is to be found here.')).toBeVisible();
  await page.getByRole('button', { name: 'Keep as a card' }).click();
  await expect.poll(async () => (await cards()).length).toBe(1);
  const [card] = await cards();
  expect(card).toMatchObject({ address, picture: null });
  expect(card!.title).not.toBe(card!.site);

  const gone = `${commons.address}/nothing-here`;
  await lookAt(gone);
  await page.getByRole('button', { name: '1 did not come' }).click();
  await page.getByRole('button', { name: 'keep the address as a card' }).click();
  await expect.poll(async () => (await cards()).map((one) => one.address)).toContain(gone);
});
