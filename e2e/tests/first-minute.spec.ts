import { stageReady, TestBoard } from '../support/board.ts';
import { drop, withFiles } from '../support/drops.ts';
import { placementsOf } from '../support/gathering.ts';
import { testPicture } from '../support/pictures.ts';
import { startRunning } from '../support/running.ts';
import { expect, test } from '../support/test.ts';

test('where no board is, a page says what one can do, and a drop makes the first board of it', async ({
  page,
}) => {
  const running = await startRunning();
  try {
    await page.goto(`${running.address}/boards`);
    const begin = page.getByRole('region', { name: 'Begin' });
    await expect(begin.getByRole('listitem')).toHaveCount(3);
    await expect(begin.getByText('npm run demo')).toBeVisible();
    await begin.getByRole('button', { name: 'name a board' }).click();
    await expect(page.getByLabel('Name of a new board')).toBeFocused();
    // A board that comes as a file is asked about, and no other one is made for it.
    const { zipSync } = await import('fflate');
    const zip = zipSync({ 'board.json': Buffer.from('{"kind":"board","version":7}') });
    await withFiles({ 'board.zip': zip }, async (paths) => {
      await drop(page, paths, 500, 500);
      await expect(page.getByRole('dialog').getByRole('alert')).toContainText('It is of version 7');
      await page.getByRole('button', { name: 'Close' }).click();
    });
    await expect(begin.getByRole('listitem')).toHaveCount(3);
    const files = {
      'reed.jpg': await testPicture(3_101, 300, 200),
      'mud.jpg': await testPicture(3_102, 300, 200),
    };
    await withFiles(files, async (paths) => {
      await drop(page, paths, 500, 500);
      await expect(page).toHaveURL(/\/boards\/[0-9a-f-]{36}$/);
      await stageReady(page);
      const board = new TestBoard(running.address, page.url().split('/').at(-1)!);
      await expect.poll(async () => (await placementsOf(board)).length).toBe(2);
    });
    await expect(page.getByLabel('Name of the board')).toHaveValue('First board');
    // What came can be named at once, as on any board.
    await expect(page.getByText('Name the 2')).toBeVisible();
  } finally {
    await running.stop();
  }
});
