import type { Placement } from '@miradero/core/schema';
import type { Page } from '@playwright/test';
import {
  clickOnBoard,
  colourAt,
  dragOnBoard,
  onPage,
  openBoard,
  saved,
  TestBoard,
} from '../support/board.ts';
import type { Running } from '../support/running.ts';
import { expect, test } from '../support/test.ts';

/** One picture, 300 by 200 about (0, 0), selected and being trimmed. */
async function trimmed(page: Page, running: Running, name: string) {
  const board = await TestBoard.create(running.address, name);
  const [before] = await board.place([1]);
  await openBoard(page, board);
  await clickOnBoard(page, { x: 0, y: 0 });
  await page.keyboard.press('t');
  await expect(page.locator('footer').first()).toContainText('Trim');
  return {
    before: before!,
    now: async () => {
      await saved(page);
      return (await board.item('p1')) as Placement;
    },
  };
}

/** A word of the sill, wherever it stands. */
async function word(page: Page, id: string): Promise<void> {
  const here = page.locator(`[data-action="${id}"]`).filter({ visible: true }).first();
  if (!(await here.isVisible())) await page.getByRole('button', { name: 'more' }).click();
  await here.click();
}

const GROUND: [number, number, number] = [121, 121, 121];

test('an ellipse keeps what lies in it; a press beside it is not on the picture; undo gives the rest back', async ({
  page,
  running,
}) => {
  const { before, now } = await trimmed(page, running, 'Ellipse');
  await word(page, 'trim-ellipse');
  await dragOnBoard(page, { x: -100, y: -80 }, { x: 100, y: 80 });
  const after = await now();
  expect(after.trim.outline).toBe('ellipse');
  expect(after.width).toBeCloseTo(200, 0);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect.poll(() => colourAt(page, { x: 92, y: 72 })).toEqual(GROUND);
  expect(await colourAt(page, { x: 0, y: 60 })).not.toEqual(GROUND);
  await clickOnBoard(page, { x: 95, y: 75 });
  await expect(page.locator('footer').first()).toContainText('bring in');
  await clickOnBoard(page, { x: 0, y: 60 });
  await expect(page.locator('footer').first()).toContainText('trim');
  await page.keyboard.press('Control+z');
  expect((await now()).trim).toEqual(before.trim);
});

test('a lasso keeps what it goes around; one that goes around nothing is refused in words', async ({
  page,
  running,
}) => {
  const { before, now } = await trimmed(page, running, 'Lasso');
  await page.keyboard.press('Alt+t');
  const draw = async (points: readonly (readonly [number, number])[]) => {
    for (const [index, [x, y]] of points.entries()) {
      const at = await onPage(page, { x, y });
      await page.mouse.move(at.x, at.y);
      if (index === 0) await page.mouse.down();
    }
    await page.mouse.up();
  };
  await draw([
    [-60, 20],
    [0, 30],
    [60, 40],
    [-60, 20],
  ]);
  await expect(page.getByText('The lasso goes around nothing of the picture.')).toBeVisible();
  expect((await now()).trim).toEqual(before.trim);
  // A triangle, its right angle below on the left.
  await draw([
    [-90, -60],
    [90, 60],
    [0, 60],
    [-90, 60],
  ]);
  const after = await now();
  expect(after.trim.outline).toHaveLength(4);
  expect(after.width).toBeCloseTo(180, 0);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect.poll(() => colourAt(page, { x: 60, y: -40 })).toEqual(GROUND);
  expect(await colourAt(page, { x: -60, y: 40 })).not.toEqual(GROUND);
});

test('what a trim shows is slid under its frame, by hand and by arrows, as far as there is picture', async ({
  page,
  running,
}) => {
  const { now } = await trimmed(page, running, 'Slid');
  await dragOnBoard(page, { x: -50, y: -50 }, { x: 50, y: 50 });
  const framed = await now();
  await word(page, 'trim-slide');
  await dragOnBoard(page, { x: 0, y: 0 }, { x: 30, y: 20 });
  const slid = await now();
  expect(slid.centre).toEqual(framed.centre);
  expect(slid.width).toBe(framed.width);
  expect(slid.trim.x).toBeCloseTo(framed.trim.x - 0.1, 2);
  expect(slid.trim.y).toBeCloseTo(framed.trim.y - 0.1, 2);
  await page.keyboard.press('ArrowLeft');
  expect((await now()).trim.x).toBeGreaterThan(slid.trim.x);
  await dragOnBoard(page, { x: 0, y: 0 }, { x: 300, y: 300 });
  expect((await now()).trim).toMatchObject({ x: 0, y: 0 });
});

test('a picture is straightened by a line along what should be level, and its frame stays upright', async ({
  page,
  running,
}) => {
  const { before, now } = await trimmed(page, running, 'Straightened');
  await word(page, 'straighten');
  await dragOnBoard(page, { x: -100, y: 0 }, { x: 100, y: 20 });
  const after = await now();
  expect(after.turn).toBe(0);
  expect(after.trim.lean).toBeCloseTo(5.7, 0);
  expect(after.width).toBeLessThan(before.width);
  await page.keyboard.press('ArrowRight');
  expect((await now()).trim.lean).toBeCloseTo(after.trim.lean! - 0.5, 3);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Escape');
  await page.keyboard.press('i');
  await expect(page.getByRole('region', { name: 'Wall label' })).toContainText('straightened by 5.7°');
  await page.keyboard.press('Control+z');
  expect((await now()).trim).toEqual(before.trim);
});

test('a frame keeps an aspect while it is drawn and dragged', async ({ page, running }) => {
  const { now } = await trimmed(page, running, 'Aspect');
  await page.locator('footer').getByRole('button', { name: 'aspect' }).click();
  await page.locator('[data-action="aspect-1 : 1"]').click();
  const shapeOf = ({ width, trim }: Placement) => width / ((width * trim.height * 600) / (trim.width * 900));
  expect(shapeOf(await now())).toBeCloseTo(1, 5);
  // By its lower right corner.
  await dragOnBoard(page, { x: 100, y: 100 }, { x: 40, y: 70 });
  const dragged = await now();
  expect(shapeOf(dragged)).toBeCloseTo(1, 5);
  expect(dragged.width).toBeLessThan(160);
  await dragOnBoard(page, { x: -80, y: -80 }, { x: -20, y: 0 });
  expect(shapeOf(await now())).toBeCloseTo(1, 5);
});
