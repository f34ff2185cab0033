import { boundsOf } from '@miradero/core/board';
import { isPlacement } from '@miradero/core/items';
import type { Page } from '@playwright/test';
import { PAGE_AT_THE_EASEL, STUDY_OF_LANTERN } from '../demo/at-the-easel.ts';
import { onPage, stageReady, TestBoard } from './support/board.ts';

/** The views of the easel, each told when it stands: set-up, sheet with guides and versions, pinned, two panes, tracing paper. */
export async function viewsOfEasel(
  page: Page,
  address: string,
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
  await page.goto(`${address}/boards/${id}?panes=${id},items.${id}.${reference.id}`);
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

/** Strokes of the mouse through points of the board. */
async function strokeThrough(page: Page, points: readonly (readonly [number, number])[]): Promise<void> {
  const [first, ...others] = await Promise.all(points.map(([x, y]) => onPage(page, { x, y })));
  await page.mouse.move(first!.x, first!.y);
  await page.mouse.down();
  for (const { x, y } of others) await page.mouse.move(x, y, { steps: 12 });
  await page.mouse.up();
}

/** Drawing on the easel: a study in progress beside its picture, its bare ground, its sketch pulled, a part of it taken up. */
export async function viewsOfStudy(
  page: Page,
  address: string,
  keep: (page: Page) => Promise<void>,
): Promise<void> {
  await page.goto(`${address}/boards/${STUDY_OF_LANTERN.id}`);
  await stageReady(page);
  await page.evaluate(() => {
    const stage = window.miraderoStage!;
    stage.setCamera({ centre: { x: -120, y: 600 }, scale: 0.42 });
  });
  await page.keyboard.press('Alt+Shift+d');
  const card = page.getByTestId('painting-card');
  await card.waitFor();
  const layer = (name: string) => card.getByRole('button', { name: new RegExp(`^${name}`) }).first();
  await layer('colour').click();
  await card.getByText('round', { exact: true }).click();
  const size = card.getByRole('textbox', { name: 'Size of the brush in pixels' });
  await size.fill('70');
  await size.press('Enter');
  await strokeThrough(page, [
    [700, 930],
    [860, 960],
  ]);
  await page.waitForTimeout(1_200);
  await keep(page);
  await card.getByRole('button', { name: 'bare ground' }).click();
  await page.waitForTimeout(600);
  await keep(page);
  await card.getByRole('button', { name: 'bare ground' }).click();
  await layer('sketch').click();
  await card.getByText('push and pull', { exact: true }).click();
  const reach = card.getByRole('textbox', { name: 'Size of the brush in pixels' });
  await reach.fill('260');
  await reach.press('Enter');
  await strokeThrough(page, [
    [630, 560],
    [760, 540],
  ]);
  await page.waitForTimeout(1_200);
  await keep(page);
  await card.getByText('move a part', { exact: true }).click();
  await strokeThrough(page, [
    [560, 300],
    [760, 300],
    [760, 860],
    [560, 860],
    [560, 320],
  ]);
  await card.getByText('the knob turns it').waitFor();
  const from = await onPage(page, { x: 660, y: 560 });
  const to = await onPage(page, { x: 700, y: 520 });
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 8 });
  await page.mouse.up();
  await page.waitForTimeout(1_000);
  await keep(page);
}
