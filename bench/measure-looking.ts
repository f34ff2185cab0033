import type { Page } from '@playwright/test';

/** A key is looked at so often before its time counts: the first presses of a page run cold code. */
const COLD = 2;

/**
 * From the key of a lens until a frame shows the view through it.
 *
 * @param count - presses that count, each on from off
 * @returns milliseconds, the middle one
 */
export async function lensTime(page: Page, key: string, count: number): Promise<number> {
  const took: number[] = [];
  for (let index = 0; index < count + COLD; index += 1) {
    const ms = await page.evaluate(async (key) => {
      const stage = document.querySelector<HTMLElement>('[data-stage]')!;
      const until = (isSo: () => boolean) =>
        new Promise<void>((resolve) => {
          const look = () => (isSo() ? resolve() : requestAnimationFrame(look));
          look();
        });
      const started = performance.now();
      for (const type of ['keydown', 'keyup'])
        window.dispatchEvent(new KeyboardEvent(type, { key, code: `Key${key.toUpperCase()}` }));
      await until(() => stage.dataset.stage === 'behind');
      await until(() => stage.dataset.stage !== 'behind');
      return performance.now() - started;
    }, key);
    if (index >= COLD) took.push(ms);
    await page.waitForTimeout(700);
    // Off again.
    await page.keyboard.press('Alt+v');
    await page.waitForTimeout(900);
  }
  return took.sort((a, b) => a - b)[Math.floor(took.length / 2)]!;
}

/** A whole board as one flat PNG. @returns seconds until it is there, and its pixels */
export async function takeOut(address: string, board: string, side: number) {
  const started = performance.now();
  const asked = await fetch(`${address}/api/boards/${board}/exports`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ items: null, as: 'flat', type: 'image/png', side, ground: 'surround' }),
  });
  const { export: made } = (await asked.json()) as { export: { id: string } };
  const file = await fetch(`${address}/api/exports/${made.id}/file`);
  const bytes = Buffer.from(await file.arrayBuffer());
  return { seconds: (performance.now() - started) / 1000, bytes };
}
