import { boundsOf } from '@miradero/core/board';
import { isPlacement } from '@miradero/core/items';
import type { Page } from '@playwright/test';
import { PAGE_AT_THE_EASEL } from '../demo/at-the-easel.ts';
import { onPage, stageReady, TestBoard } from './support/board.ts';

/** The views of the easel, each told when it stands: set-up, sheet with guides and versions, two boards, pinned, tracing paper. */
export async function viewsOfEasel(
  page: Page,
  address: string,
  other: { readonly id: string; readonly name: string },
  keep: (page: Page) => Promise<void>,
): Promise<void> {
  const { id, drawing, name } = PAGE_AT_THE_EASEL;
  await page.goto(`${address}/easel`);
  await page.getByRole('link', { name: `Open ${name}` }).waitFor();
  await page.getByRole('button', { name: 'Set up a sheet' }).click();
  await page.getByLabel('What is drawn on it?').fill('The winch house, for the cover');
  await page.getByLabel('Bleed').fill('0.125');
  await keep(page);
  await page.goto(`${address}/boards/${id}`);
  await stageReady(page);
  await page.keyboard.press('Shift+R');
  await page.getByRole('button', { name: `Versions of ${drawing.name}` }).click();
  await page.getByRole('button', { name: /^Version 1,/ }).hover();
  await page.waitForTimeout(1_500);
  await keep(page);
  await page.keyboard.press('Shift+R');
  await page
    .getByRole('region', { name: /^Versions of/ })
    .getByRole('button', { name: 'done' })
    .click();
  const items = await new TestBoard(address, id).standing();
  const reference = items.filter(isPlacement).find((item) => !item.drawing)!;
  const { x, y, width, height } = boundsOf(reference);
  const at = await onPage(page, { x: x + width / 2, y: y + height / 2 });
  await page.mouse.click(at.x, at.y);
  await page.keyboard.press('Shift+Z');
  await page.getByRole('region', { name: /^Pinned/ }).waitFor();
  await page.keyboard.press('Escape');
  await page.mouse.move(300, 200);
  for (let turn = 0; turn < 2; turn += 1) await page.mouse.wheel(0, -120);
  await page.waitForTimeout(1_500);
  await keep(page);
  await page.keyboard.press('Escape');
  await page.goto(`${address}/boards/${id}?panes=${id},${other.id}`);
  await stageReady(page);
  await page.waitForTimeout(1_500);
  await keep(page);
  // Over the sheet, as it would be traced.
  const over = { centre: { x: 800, y: 520 }, width: 1_600 };
  await new TestBoard(address, id).change([{ item: reference.id, set: over }]);
  await page.goto(`${address}/boards/${id}`);
  await stageReady(page);
  await page.getByRole('button', { name: 'tracing paper' }).click();
  await page.getByRole('button', { name: 'try it with a stand-in' }).click();
  await page.getByText('The sheet was found.').waitFor();
  await keep(page);
  const opening = page.context().waitForEvent('page');
  await page.getByRole('button', { name: 'Lay it over' }).click();
  const paper = await opening;
  await paper.setViewportSize({ width: 1280, height: 800 });
  await paper.waitForTimeout(1_500);
  await keep(paper);
}
