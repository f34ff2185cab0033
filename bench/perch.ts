import type { Browser, Page } from '@playwright/test';
import { startRunning } from '../e2e/support/running.ts';
import { drive, JOURNEYS } from './drive.ts';
import { EXTENT, openSharp } from './frames.ts';
import { ms, report, times } from './report.ts';
import { seedBoard, seedPictures } from './seed.ts';

const SIZE = { width: 480, height: 360 };
const IDLE_MS = 5_000;

/** What was asked for and painted in a window while nothing moved. */
function idle(perch: Page): Promise<{ frames: number; painted: number }> {
  return perch.evaluate(
    (idleMs) =>
      new Promise<{ frames: number; painted: number }>((resolve) => {
        const counted = { frames: 0, painted: 0 };
        const ask = window.requestAnimationFrame;
        window.requestAnimationFrame = (then) => {
          counted.frames += 1;
          return ask.call(window, then);
        };
        for (const stage of window.miraderoPanes!.values())
          stage.onFrame = () => {
            counted.painted += 1;
          };
        setTimeout(() => {
          window.requestAnimationFrame = ask;
          for (const stage of window.miraderoPanes!.values()) stage.onFrame = undefined;
          resolve(counted);
        }, idleMs);
      }),
    IDLE_MS,
  );
}

/** Time between frames of a window in which nothing is drawn, milliseconds. */
function bareFrames(perch: Page): Promise<{ mean: number; p95: number }> {
  return perch.evaluate(
    () =>
      new Promise<{ mean: number; p95: number }>((resolve) => {
        const intervals: number[] = [];
        let last = 0;
        const step = (now: number) => {
          if (last > 0) intervals.push(now - last);
          last = now;
          if (intervals.length < 240) requestAnimationFrame(step);
          else {
            intervals.sort((a, b) => a - b);
            const mean = intervals.reduce((sum, one) => sum + one, 0) / intervals.length;
            resolve({ mean, p95: intervals[Math.floor(intervals.length * 0.95)]! });
          }
        };
        requestAnimationFrame(step);
      }),
  );
}

const bytesOf = (perch: Page): Promise<number> =>
  perch.evaluate(() => [...window.miraderoPanes!.values()].reduce((sum, { bytes }) => sum + bytes, 0));

async function settled(perch: Page): Promise<void> {
  await perch.waitForFunction(() =>
    [...window.miraderoPanes!.values()].every(({ status }) => status.isSharp),
  );
  await perch.waitForTimeout(3_000);
}

/** The perch over a board of 5,000: at rest, panned and zoomed, split in four. */
export async function benchPerch(browser: Browser): Promise<void> {
  const running = await startRunning();
  try {
    console.log('seeding 500 pictures …');
    const board = await seedBoard(running.address, await seedPictures(running.databaseUrl, 500), 5_000);
    const page = await openSharp(browser, running.address, board);
    const opening = page.context().waitForEvent('page');
    await page.keyboard.press('p');
    const perch = await opening;
    await perch.setViewportSize(SIZE);
    await perch.waitForFunction(() => window.miraderoPanes?.size === 1);
    await settled(perch);
    const { frames, painted } = await idle(perch);
    report(
      'perch with nothing moving, 5 s: frames asked for, painted',
      `${frames}, ${painted}`,
      '',
      '0, 0',
      frames + painted === 0,
    );
    const limit = await bareFrames(perch);
    for (const journey of JOURNEYS) {
      const { mean, p95, unpainted, renewedMs } = await drive(perch, journey, EXTENT);
      report(
        `perch over 5,000, ${journey}: mean and p95 frame`,
        `${ms(mean)}, ${ms(p95)} (a bare frame ${ms(limit.mean)}, ${ms(limit.p95)})`,
        `${times(mean / limit.mean)}, ${times(p95 / limit.p95)}`,
        '≤ 1.2 ×, ≤ 2 ×',
        mean / limit.mean <= 1.2 && p95 / limit.p95 <= 2,
      );
      report(
        `perch over 5,000, ${journey}: unpainted share, oldest buffer`,
        `${(unpainted * 100).toFixed(2)} %, ${ms(renewedMs)}`,
        '',
        '≤ 2 %, ≤ 500 ms',
        unpainted <= 0.02 && renewedMs <= 500,
      );
    }
    await perch.keyboard.press('0');
    await settled(perch);
    const one = await bytesOf(perch);
    for (const key of ['Alt+b', 'Alt+u', 'Alt+n', 'Alt+u']) await perch.keyboard.press(key);
    await perch.waitForFunction(() => window.miraderoPanes?.size === 4);
    await settled(perch);
    const four = await bytesOf(perch);
    report(
      'perch in four panes: pixels held, against one view of the same window',
      `${(four / 1e6).toFixed(1)} MB (one: ${(one / 1e6).toFixed(1)} MB)`,
      times(four / one),
      '≤ 1.2 ×, but for an overview each',
      four / one <= 1.2,
    );
    const still = await idle(perch);
    report(
      'the same, 5 s: frames asked for, painted',
      `${still.frames}, ${still.painted}`,
      '',
      '0, 0',
      still.frames + still.painted === 0,
    );
  } finally {
    await running.stop();
  }
}
