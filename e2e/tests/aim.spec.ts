import { saved, stageReady, TestBoard } from '../support/board.ts';
import { drop, withFiles } from '../support/drops.ts';
import { testPicture } from '../support/pictures.ts';
import { makeSubject } from '../support/subjects.ts';
import { expect, test } from '../support/test.ts';

test('an aim goes along from a gap over board, perch, landing and paste, through a reload, until it is ended', async ({
  page,
  running,
}) => {
  test.setTimeout(300_000);
  const { address } = running;
  const { id, parts } = await makeSubject(address, 'The barge', 'keel rudder');
  const board = await TestBoard.create(address, 'Aimed at');
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write'], { origin: address });
  const served = async () => {
    const answer = await fetch(`${address}/api/library?part=${parts.get('rudder')}`);
    return ((await answer.json()) as { total: number }).total;
  };
  /** @param count - pictures that serve the part once it has come in */
  const bring = async (seed: number, count: number, to = page, x = 640, y = 400) => {
    await withFiles({ [`rudder ${seed}.jpg`]: await testPicture(seed, 300, 200) }, async (paths) => {
      await drop(to, paths, x, y);
      await expect(to.getByText('did not come')).toBeHidden();
      await expect.poll(served).toBe(count);
    });
  };
  await page.goto(`${address}/subjects/${id}`);
  await page.getByRole('button', { name: 'Gather for The barge: rudder', exact: true }).click();
  const mark = page.locator('header').getByRole('link', { name: 'The barge: rudder' });
  await expect(mark).toBeVisible();

  await page.goto(board.url);
  await stageReady(page);
  await expect(mark).toBeVisible();
  await bring(4_301, 1);
  const png = (await testPicture(4_302, 300, 200)).toString('base64');
  await page.evaluate(async (text) => {
    const bytes = Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0));
    const bitmap = await createImageBitmap(new Blob([bytes], { type: 'image/jpeg' }));
    const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
    canvas.getContext('2d')!.drawImage(bitmap, 0, 0);
    const blob = await canvas.convertToBlob({ type: 'image/png' });
    await navigator.clipboard.write([new ClipboardItem({ 'image/png': blob })]);
  }, png);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+v');
  await expect.poll(served).toBe(2);

  const perch = await page.context().newPage();
  await perch.goto(`${address}/perch/${board.id}`);
  await stageReady(perch);
  await bring(4_303, 3, perch, 300, 200);
  await perch.close();

  await page.goto(`${address}/landing`);
  await expect(mark).toBeVisible();
  await bring(4_304, 4);

  await page.getByRole('button', { name: 'No longer gather for The barge: rudder' }).click();
  await expect(mark).toBeHidden();
  await withFiles({ 'rudder 4305.jpg': await testPicture(4_305, 300, 200) }, async (paths) => {
    await drop(page, paths, 640, 400);
    await expect(page.getByText('rudder 4305').first()).toBeVisible();
  });
  await saved(page);
  expect(await served()).toBe(4);
  await page.reload();
  await expect(mark).toBeHidden();
});
