import type { Locator, Page } from '@playwright/test';
import { makeSubject, partsIn, subjectAt } from '../support/subjects.ts';
import { expect, test } from '../support/test.ts';

/** Drags a line onto another, a share of its height from its top. */
async function carry(page: Page, from: Locator, to: Locator, share: number): Promise<void> {
  await from.hover();
  await page.mouse.down();
  await page.mouse.move(5, 400, { steps: 4 });
  const { width, height } = (await to.boundingBox())!;
  const position = { x: width / 2, y: height * share };
  await to.hover({ position });
  await to.hover({ position });
  await page.mouse.up();
}

test('parts are put in order and nested by drag, by keys and by words; undo takes it back', async ({
  page,
  running,
}) => {
  const { address } = running;
  const { id } = await makeSubject(address, 'The skiff', 'hull[plates rail] ramps winch[door]');
  const parts = async () => partsIn(await subjectAt(address, id));
  await page.goto(`${address}/subjects/${id}`);
  const line = (name: string) =>
    page
      .getByRole('region', { name: 'Parts' })
      .getByRole('listitem')
      .filter({ has: page.getByRole('button', { name, exact: true }) });
  const part = (name: string) => page.getByRole('button', { name, exact: true });
  await expect(line('door')).toBeVisible();
  await carry(page, part('winch'), line('hull'), 0.1);
  await expect.poll(parts).toBe('winch[door] hull[plates rail] ramps');
  await carry(page, part('ramps'), line('winch'), 0.5);
  await expect.poll(parts).toBe('winch[door ramps] hull[plates rail]');

  await page.getByRole('button', { name: 'ramps', exact: true }).click();
  await page.keyboard.press('Control+ArrowUp');
  await expect.poll(parts).toBe('winch[ramps door] hull[plates rail]');
  await page.keyboard.press('Control+ArrowLeft');
  await expect.poll(parts).toBe('winch[door] ramps hull[plates rail]');
  await page.getByRole('button', { name: 'into the one above' }).click();
  await expect.poll(parts).toBe('winch[door ramps] hull[plates rail]');
  await page.keyboard.press('Control+z');
  await expect.poll(parts).toBe('winch[door] ramps hull[plates rail]');
  // A key that finds nothing to act on says so.
  await page.getByRole('button', { name: 'ramps', exact: true }).click();
  await page.keyboard.press('Control+ArrowUp');
  await expect(page.getByText('Choose a part first')).toBeVisible();
  expect(await parts()).toBe('winch[door] ramps hull[plates rail]');
});
