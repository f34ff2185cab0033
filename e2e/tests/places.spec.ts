import { stageReady, TestBoard } from '../support/board.ts';
import { placementsOf } from '../support/gathering.ts';
import { type Running, startRunning } from '../support/running.ts';
import { makeSubject, pictureAt } from '../support/subjects.ts';
import { expect, test } from '../support/test.ts';

/** Of its own: what is named in the settings and taken from the web would be met by other tests. */
let running: Running;
test.beforeAll(async ({ commons }) => {
  test.setTimeout(300_000);
  running = await startRunning({ fetchesFrom: [new URL(commons.address).host] });
});
test.afterAll(() => running.stop());

test('a trusted place is asked from the library, a gap and by name; its sheet orders, marks and remembers', async ({
  page,
  commons,
}) => {
  test.setTimeout(300_000);
  const { address } = running;
  await page.goto(`${address}/settings`);
  await page.getByLabel('Name of a place').fill('Tidewrack');
  await page.getByLabel('Address of a place').fill(`${commons.address}/search`);
  await page.getByLabel('Tag for what comes from there').fill('from the web');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Write %s where the word belongs')).toBeVisible();
  await page.getByLabel('Address of a place').fill(`${commons.address}/search?q=%s`);
  await page.keyboard.press('Enter');
  await expect(page.getByText('tag from the web')).toBeVisible();

  await page.goto(`${address}/library`);
  await page.getByRole('button', { name: 'look elsewhere' }).click();
  // The places are known once they are listed.
  await expect(page.getByRole('button', { name: 'Tidewrack', exact: true })).toBeVisible();
  await page.getByLabel('What to look for there').fill('ferry');
  await page.keyboard.press('Enter');
  const sheet = page.getByRole('dialog', { name: /Looked for/ });
  await expect(sheet).toBeVisible({ timeout: 120_000 });
  const names = () => sheet.locator('.pickable .font-serif').allInnerTexts();
  const onPage = await (async () => {
    await sheet.getByRole('radio', { name: 'as on the page' }).click();
    return names();
  })();
  await sheet.getByRole('radio', { name: 'from simple to complicated' }).click();
  await expect.poll(names).not.toEqual(onPage);
  const ordered = await names();
  expect([...ordered].sort()).toEqual([...onPage].sort());
  // A drawing of few lines is simpler than rust and planks.
  expect(ordered.indexOf('Side elevation, redrawn')).toBeLessThan(ordered.indexOf('Where the ramp hinges'));
  await expect(sheet.getByRole('listitem').filter({ hasText: 'Storm lantern, lit' })).toContainText('costs');
  await expect(sheet.getByRole('listitem').filter({ hasText: 'Rust and a fender' })).not.toContainText(
    'costs',
  );

  // What is refused comes last, is not taken with all, and is known the next time.
  const [first] = ordered;
  await sheet.getByRole('button', { name: `Refuse ${first}` }).click();
  await expect.poll(async () => (await names()).at(-1)).toBe(first);
  await expect(sheet.getByRole('button', { name: `Take all ${ordered.length - 1}` })).toBeVisible();
  await sheet.getByRole('button', { name: 'Take none' }).click();

  const board = await TestBoard.create(address, 'Asked by name');
  await page.goto(board.url);
  await stageReady(page);
  await page.keyboard.press('Control+k');
  await page.keyboard.type('ferry');
  await page.getByRole('option', { name: '“ferry” at Tidewrack' }).click();
  await expect(sheet).toBeVisible({ timeout: 120_000 });
  await expect(sheet.getByRole('button', { name: `No longer refuse ${first}` })).toBeVisible();
  await sheet.getByRole('button', { name: /^Rust and a fender/ }).click();
  await sheet.getByRole('button', { name: 'Take 1' }).click();
  await expect.poll(async () => (await placementsOf(board)).length).toBe(1);
  const { picture } = (await placementsOf(board))[0]!;
  await expect.poll(async () => (await pictureAt(address, picture)).tags).toEqual(['from the web']);

  // From a gap: what is picked is given to it.
  const { id, parts } = await makeSubject(address, 'The punt', 'wheel');
  await page.goto(`${address}/subjects/${id}`);
  await page.getByRole('button', { name: 'Look elsewhere for The punt: wheel' }).click();
  await expect(page.getByLabel('What to look for there')).toHaveValue('The punt wheel');
  await page.getByLabel('What to look for there').fill('wheel');
  await page.keyboard.press('Enter');
  await expect(sheet).toBeVisible({ timeout: 120_000 });
  await sheet.getByRole('button', { name: /axle/ }).first().click();
  await sheet.getByRole('button', { name: 'Take 1' }).click();
  await expect
    .poll(
      async () =>
        (
          (await (await fetch(`${address}/api/library?part=${parts.get('wheel')}`)).json()) as {
            total: number;
          }
        ).total,
      { timeout: 20_000 },
    )
    .toBe(1);
  await page.getByRole('button', { name: 'No longer gather for The punt: wheel' }).click();
});
