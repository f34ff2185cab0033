import type { Browser, Page } from '@playwright/test';
import sharp from 'sharp';
import { TestBoard } from '../e2e/support/board.ts';
import { startRunning } from '../e2e/support/running.ts';
import { openSharp, pageIn } from './frames.ts';
import { ms, report, times } from './report.ts';
import { seedBoard, seedPictures } from './seed.ts';

const COUNT = 12;
const FRAMES = 24;
const SIZE = { width: 400, height: 300 };
/** As they stand, board units; four in a row. */
const WIDTH = 280;
const APART = 300;
/** They stand beside the board of 5,000. */
const AWAY = { x: -2_000, y: 300 };
const MEASURED = 300;

/** An animated picture of 24 frames, 25 a second; each of its own hue. */
async function animation(number: number): Promise<Buffer> {
  const frames = await Promise.all(
    Array.from({ length: FRAMES }, (_, frame) => {
      const x = 40 + ((SIZE.width - 80) * frame) / FRAMES;
      const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${SIZE.width}" height="${SIZE.height}"><rect width="100%" height="100%" fill="hsl(${number * 30} 40% 45%)"/><circle cx="${x}" cy="150" r="40" fill="#eee"/></svg>`;
      return sharp(Buffer.from(svg)).ensureAlpha().raw().toBuffer();
    }),
  );
  const raw = {
    width: SIZE.width,
    height: SIZE.height * FRAMES,
    channels: 4 as const,
    pageHeight: SIZE.height,
  };
  return sharp(Buffer.concat(frames), { raw })
    .webp({ delay: Array.from({ length: FRAMES }, () => 40), loop: 0 })
    .toBuffer();
}

async function placeAnimations(board: TestBoard): Promise<void> {
  const files = await Promise.all(
    Array.from({ length: COUNT }, async (_, number) => ({
      ...{ id: `moves${number}`, name: `moves ${number}.webp`, bytes: await animation(number) },
    })),
  );
  const placed = await board.placeFiles(files, WIDTH);
  await board.change(
    placed.map((one, number) => ({
      item: one.id,
      set: {
        centre: { x: AWAY.x + (number % 4) * APART, y: AWAY.y + Math.floor(number / 4) * 0.75 * APART },
      },
    })),
  );
}

/** Time between frames while the view moves a little at each, ms. @param isBare - nothing moves, nothing is drawn */
function intervals(page: Page, isBare: boolean): Promise<{ mean: number; p95: number }> {
  return page.evaluate(
    ({ isBare, measured }) =>
      new Promise<{ mean: number; p95: number }>((resolve) => {
        const took: number[] = [];
        let last = 0;
        const step = (now: number) => {
          if (last > 0) took.push(now - last);
          last = now;
          if (!isBare) {
            const stage = window.miraderoStage!;
            const { centre, scale } = stage.camera;
            const by = took.length % 2 === 0 ? 1 : -1;
            stage.setCamera({ centre: { x: centre.x + by, y: centre.y }, scale });
          }
          if (took.length < measured) requestAnimationFrame(step);
          else {
            took.sort((a, b) => a - b);
            const mean = took.reduce((sum, one) => sum + one, 0) / took.length;
            resolve({ mean, p95: took[Math.floor(took.length * 0.95)]! });
          }
        };
        requestAnimationFrame(step);
      }),
    { isBare, measured: MEASURED },
  );
}

/** What the middle line of the stage shows, as one text. */
const lookOf = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const { canvas } = window.miraderoStage!;
    return canvas
      .getContext('2d')!
      .getImageData(0, canvas.height >> 1, canvas.width, 1)
      .data.join();
  });

/** Twelve animations of 25 frames a second at once, beside 5,000 pictures, while the view moves. */
export async function benchMotion(browser: Browser): Promise<void> {
  const running = await startRunning();
  try {
    console.log('seeding 500 pictures …');
    const id = await seedBoard(running.address, await seedPictures(running.databaseUrl, 500), 5_000);
    await placeAnimations(new TestBoard(running.address, id));
    const bare = await pageIn(browser);
    await bare.goto('about:blank');
    const limit = await intervals(bare, true);
    await bare.context().close();
    const page = await openSharp(browser, running.address, id);
    const middle = { x: AWAY.x + 1.5 * APART, y: AWAY.y + 0.75 * APART };
    await page.evaluate((centre) => window.miraderoStage!.setCamera({ centre, scale: 1 }), middle);
    await page.waitForTimeout(2_000);
    await page.keyboard.press('Shift+M');
    await page.waitForTimeout(3_000);
    if ((await lookOf(page)) === (await page.waitForTimeout(300).then(() => lookOf(page))))
      throw new Error('nothing moves: there is nothing to measure');
    const { mean, p95 } = await intervals(page, false);
    report(
      `${COUNT} animations of ${SIZE.width} × ${SIZE.height} playing at once beside 5,000, the view moving: mean frame`,
      `${ms(mean)} (a bare frame ${ms(limit.mean)})`,
      times(mean / limit.mean),
      '≤ 1.2 ×',
      mean / limit.mean <= 1.2,
    );
    report(
      'the same: p95',
      `${ms(p95)} (a bare frame ${ms(limit.p95)})`,
      times(p95 / limit.p95),
      '≤ 2 ×',
      p95 / limit.p95 <= 2,
    );
    await page.context().close();
  } finally {
    await running.stop();
  }
}
