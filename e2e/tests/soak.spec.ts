import { placeAll } from '../soak/place-all.ts';
import { Soak } from '../soak/soak.ts';
import { openBoard, TestBoard } from '../support/board.ts';
import { expect, test } from '../support/test.ts';

test('a hundred and twenty random actions leave exactly what core says, on screen and at the server', async ({
  chromium,
  running,
}) => {
  test.setTimeout(240_000);
  const context = await chromium.newContext({
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
  });
  const page = await context.newPage();
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  const board = await TestBoard.create(running.address, 'soaked');
  const items = await placeAll(board);
  await openBoard(page, board);
  const soak = new Soak(page, board, items, 20261125);
  await soak.run(120);
  expect(errors).toEqual([]);
  // The seed must have led through something: a run that does nothing proves nothing.
  expect(new Set(soak.log.flatMap((line) => line.split(': ')[1] ?? [])).size).toBeGreaterThan(18);
  await context.close();
});
