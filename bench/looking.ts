import type { Browser } from '@playwright/test';
import sharp from 'sharp';
import { startRunning } from '../e2e/support/running.ts';
import { openSharp } from './frames.ts';
import { lensTime, takeOut } from './measure-looking.ts';
import { ms, report, times } from './report.ts';
import { seedBoard, seedPictures } from './seed.ts';

/** Longest side of the flat picture that is taken out, pixels. */
const FLAT_SIDE = 8_000;

/** Looking at a board of 5,000 through lenses, and taking it out as a picture. */
export async function benchLooking(browser: Browser): Promise<void> {
  const running = await startRunning();
  try {
    console.log('seeding 500 pictures …');
    const board = await seedBoard(running.address, await seedPictures(running.databaseUrl, 500), 5000);
    const page = await openSharp(browser, running.address, board);
    for (const where of ['close', 'whole'] as const) {
      if (where === 'whole') await page.keyboard.press('0');
      await page.waitForTimeout(2_000);
      for (const [key, lens] of [
        ['v', 'values'],
        ['q', 'squint'],
        ['m', 'the mirror'],
      ] as const) {
        const took = await lensTime(page, key, 5);
        report(
          `5,000, ${where}: ${lens} over all in view, until seen`,
          ms(took),
          '',
          '≤ 150 ms',
          took <= 150,
        );
      }
    }
    await page.context().close();
    const { seconds, bytes } = await takeOut(running.address, board, FLAT_SIDE);
    const opened = sharp(bytes, { limitInputPixels: false });
    const { width, height } = await opened.metadata();
    const raw = await opened.raw().toBuffer();
    const started = performance.now();
    await sharp(raw, { raw: { width, height, channels: 3 } })
      .png({ compressionLevel: 2, adaptiveFiltering: false })
      .toBuffer();
    const bare = (performance.now() - started) / 1000;
    report(
      `5,000 as a flat PNG of ${width} × ${height} px`,
      `${seconds.toFixed(1)} s (packing its pixels alone: ${bare.toFixed(1)} s)`,
      times(seconds / bare),
      '',
      true,
    );
  } finally {
    await running.stop();
  }
}
