import { applyAffine, type Point } from '@miradero/core/geometry';
import { pictureToBoard } from '@miradero/core/items';
import type { Placement } from '@miradero/core/schema';
import type { Browser, Page } from '@playwright/test';
import sharp from 'sharp';
import { byName, clickOnBoard, onPage, openBoard, TestBoard } from '../e2e/support/board.ts';
import { startRunning } from '../e2e/support/running.ts';
import { camera, PICTURES, SIDES } from './camera.ts';
import { pageIn } from './frames.ts';
import { ms, report } from './report.ts';

const LIMIT_MS = 150;
/** A tool is taken so often before its time counts: the first runs cold code. */
const COLD = 1;
const COUNTED = 5;
const EXACT_MS = 60_000;

/** Begins to watch: from the last key or the end of the last press until something is shown. @returns ms for each sign */
async function watch(page: Page, on: 'keydown' | 'pointerup', signs: readonly string[]) {
  const watching = await page.evaluateHandle(
    ({ on, signs }) => {
      let started = 0;
      window.addEventListener(
        on,
        (event) => {
          started = event.timeStamp;
        },
        { capture: true },
      );
      const watched = async (): Promise<number[]> => {
        const took: number[] = [];
        for (const sign of signs) {
          await new Promise<void>((resolve) => {
            const look = () => (document.querySelector(sign) ? resolve() : requestAnimationFrame(look));
            look();
          });
          took.push(performance.now() - started);
        }
        return took;
      };
      return { took: watched() };
    },
    { on, signs },
  );
  return () => watching.evaluate(({ took }) => took);
}

const CORNERS: readonly Point[] = [
  { x: 0.3, y: 0.3 },
  { x: 0.7, y: 0.3 },
  { x: 0.7, y: 0.7 },
  { x: 0.3, y: 0.7 },
  { x: 0.3, y: 0.3 },
];

async function drawAround(page: Page, placement: Placement): Promise<void> {
  for (const [index, corner] of CORNERS.entries()) {
    const { x, y } = await onPage(page, applyAffine(pictureToBoard(placement), corner));
    await page.mouse.move(x, y, { steps: 8 });
    if (index === 0) await page.mouse.down();
  }
  await page.mouse.up();
}

/** By its name in the list of commands, what shows a first result, what shows the exact one, and whether something is drawn around first. */
const TOOLS = [
  ['value study', '[data-testid=study-shares]', '[data-testid=study-shares][data-exact]', false],
  ['outline in lines', '[data-testid=outline-card] img', '[data-testid=outline-card][data-exact] img', false],
  [
    'form and ground',
    '[data-testid=form-card] [aria-label=Small]',
    '[data-testid=form-card][data-exact]',
    true,
  ],
] as const;

/** Tools that compute from a picture of 12 megapixels: until their first result is seen, which is of a copy, and until the exact one is. */
export async function benchTools(browser: Browser): Promise<void> {
  const running = await startRunning();
  try {
    const bytes = await sharp(await camera(PICTURES[1]!), { raw: { ...SIDES, channels: 4 } })
      .removeAlpha()
      .jpeg({ quality: 92 })
      .toBuffer();
    const board = await TestBoard.create(running.address, 'tools');
    const [placed] = await board.placeFiles([{ id: 'camera', name: 'camera.jpg', bytes }], 600);
    const page = await pageIn(browser);
    page.setDefaultTimeout(EXACT_MS);
    await openBoard(page, board);
    for (const [name, first, exact, isDrawn] of TOOLS) {
      const took: [number, number][] = [];
      for (let turn = 0; turn < COLD + COUNTED; turn += 1) {
        await clickOnBoard(page, placed!.centre);
        const result = await watch(page, isDrawn ? 'pointerup' : 'keydown', [first, exact]);
        await byName(page, name);
        if (isDrawn) await drawAround(page, placed!);
        took.push((await result()) as [number, number]);
        await page.keyboard.press('Escape');
        await page.keyboard.press('Escape');
        await page.waitForTimeout(500);
      }
      const middle = (which: 0 | 1) =>
        took
          .slice(COLD)
          .map((both) => both[which])
          .sort((a, b) => a - b)[COUNTED >> 1]!;
      report(
        `${name} of a picture of 12 MP, first result on screen`,
        `${ms(middle(0))} (the first time ${ms(took[0]![0])}; exact after ${ms(middle(1))})`,
        '',
        `≤ ${LIMIT_MS} ms`,
        middle(0) <= LIMIT_MS,
      );
    }
    await page.context().close();
  } finally {
    await running.stop();
  }
}
