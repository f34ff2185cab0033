import type { CDPSession, Page } from '@playwright/test';

/** Waits until the stage says that its view is as it should be. @returns milliseconds since the call */
export function timeUntil(page: Page, state: 'isSharp' | 'isComplete'): Promise<number> {
  return page.evaluate(
    (state) =>
      new Promise<number>((resolve) => {
        const started = performance.now();
        const look = () => {
          if (window.miraderoStage?.status[state]) resolve(performance.now() - started);
          else setTimeout(look, 4);
        };
        look();
      }),
    state,
  );
}

/**
 * Milliseconds from navigation until every placement in view is drawn with at least its small copy.
 *
 * @param shown - selector of what is there once the stage has what it is to show
 */
export async function openingTime(page: Page, url: string, shown?: string): Promise<number> {
  await page.goto('about:blank');
  await page.goto(url, { waitUntil: 'commit' });
  await page.waitForFunction(
    (shown) =>
      (shown === undefined || document.querySelector(shown) !== null) &&
      window.miraderoStage?.status.isComplete,
    shown,
    { polling: 10 },
  );
  return page.evaluate(() => performance.now());
}

/**
 * Sharp again after the hand rests, levels decoded: goes to each view twice and measures the second time, from the
 * last move of the camera. @returns the slowest, milliseconds
 */
export async function sharpAgain(page: Page, extent: { width: number; height: number }): Promise<number> {
  const { width, height } = extent;
  const views = [
    { centre: { x: width / 2, y: height / 2 }, scale: Math.min(1200 / width, 700 / height) },
    { centre: { x: width / 3, y: height / 3 }, scale: 0.5 },
    { centre: { x: width / 2, y: height / 2 }, scale: 1.5 },
  ];
  let slowest = 0;
  for (const pass of [0, 1]) {
    for (const view of views) {
      // From a smaller scale beside it: no buffer at hand shows the view as it should be.
      const near = { scale: view.scale * 0.7, centre: { x: view.centre.x + 300, y: view.centre.y } };
      await page.evaluate((camera) => window.miraderoStage!.setCamera(camera), near);
      await page.waitForTimeout(pass === 0 ? 2500 : 400);
      await page.evaluate((camera) => window.miraderoStage!.setCamera(camera), view);
      const took = await timeUntil(page, 'isSharp');
      if (pass === 1) slowest = Math.max(slowest, took);
    }
  }
  return slowest;
}

/** Bytes of the renderer process that shows the page, by its own account (`Memory` of the heap and the stage's count). */
export interface MemoryCount {
  readonly own: number;
  readonly heap: number;
  readonly resident: number;
}

export async function memoryOf(
  page: Page,
  session: CDPSession,
  residentOf: () => number,
): Promise<MemoryCount> {
  const { usedSize } = (await session.send('Runtime.getHeapUsage')) as { usedSize: number };
  const own = await page.evaluate(() => {
    const stage = window.miraderoStage!;
    return stage.bytes + stage.feed.painter.report.bytes;
  });
  return { own, heap: usedSize, resident: residentOf() };
}
