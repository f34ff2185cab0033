import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';

const percentile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))]!;

async function post(address: string, board: string, operations: readonly object[]): Promise<number> {
  const started = performance.now();
  const response = await fetch(`${address}/api/boards/${board}/changes`, {
    method: 'POST',
    body: JSON.stringify({ changes: [{ id: randomUUID(), operations }] }),
    headers: { 'Content-Type': 'application/json' },
  });
  const { outcomes } = (await response.json()) as { outcomes: object[] };
  if (!('revision' in outcomes[0]!)) throw new Error(JSON.stringify(outcomes));
  return performance.now() - started;
}

/** Changes one after another for some seconds at the given rate. @returns p95 until durable, ms, and the rate reached */
export async function sustained(address: string, board: string, perSecond: number, seconds: number) {
  const took: number[] = [];
  const started = performance.now();
  const pending: Promise<void>[] = [];
  for (let index = 0; index < perSecond * seconds; index += 1) {
    const due = started + (index * 1000) / perSecond;
    await new Promise((resolve) => setTimeout(resolve, Math.max(0, due - performance.now())));
    const operation = { item: `p${index % 500}`, set: { centre: { x: index, y: 3 } } };
    pending.push(post(address, board, [operation]).then((ms) => void took.push(ms)));
  }
  await Promise.all(pending);
  return { p95: percentile(took, 0.95), rate: took.length / ((performance.now() - started) / 1000) };
}

/** All placements of a board moved by one change. @returns milliseconds until durable */
export const settleAll = (address: string, board: string, count: number): Promise<number> =>
  post(
    address,
    board,
    Array.from({ length: count }, (_, index) => ({
      item: `p${index}`,
      set: { centre: { x: index % 100, y: index } },
    })),
  );

/**
 * From the gesture to the screen and to the server, through the real interface: nudges by key.
 * @returns p95 in milliseconds: `screen` until a frame with the new place was drawn, `saved` until the mark said so
 */
export async function nudges(page: Page, count: number): Promise<{ screen: number; saved: number }> {
  const screen: number[] = [];
  const saved: number[] = [];
  for (let index = 0; index < count; index += 1) {
    await page.evaluate(() => {
      const mark = document.querySelector('[data-testid=saved]')!;
      const times = { pressed: 0, drawn: 0, saved: 0 };
      Object.assign(window, { times });
      const onKey = () => {
        times.pressed = performance.now();
        window.miraderoStage!.onFrame = () => {
          if (times.drawn === 0 && window.miraderoStage!.status.isCurrent) times.drawn = performance.now();
        };
      };
      window.addEventListener('keydown', onKey, { capture: true, once: true });
      const watch = new MutationObserver(() => {
        if (times.pressed > 0 && mark.getAttribute('data-state') === 'saved') {
          times.saved = performance.now();
          watch.disconnect();
        }
      });
      watch.observe(mark, { attributes: true });
    });
    await page.keyboard.press('ArrowRight');
    await page.waitForFunction(() => {
      const { times } = window as unknown as { times: { drawn: number; saved: number } };
      return times.drawn > 0 && times.saved > 0;
    });
    const times = await page.evaluate(() => (window as unknown as { times: Record<string, number> }).times);
    screen.push(times.drawn! - times.pressed!);
    saved.push(times.saved! - times.pressed!);
  }
  await page.evaluate(() => {
    window.miraderoStage!.onFrame = undefined;
  });
  return { screen: percentile(screen, 0.95), saved: percentile(saved, 0.95) };
}
