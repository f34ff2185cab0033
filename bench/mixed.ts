import { randomUUID } from 'node:crypto';
import { keysOnTop } from '@miradero/core/board';
import { createCluster, createNote, noteHeightFor } from '@miradero/core/items';
import type { Item } from '@miradero/core/schema';
import type { Text } from '@miradero/core/text';
import type { Browser, Page } from '@playwright/test';
import { startRunning } from '../e2e/support/running.ts';
import { benchFrames, openSharp } from './frames.ts';
import { ms, report, times } from './report.ts';
import { seedBoard, seedPictures } from './seed.ts';

const PLACEMENTS = 4_400;
const NOTES = 550;
const CLUSTERS = 50;
/** Placements of one row of the grid that lie in one cluster. */
const HELD = 10;
const DRAGGED = 500;

const said = (index: number): Text =>
  index % 3 === 0
    ? {
        blocks: [
          { runs: [{ text: `Rope ${index}: ` }, { text: 'wet, and darker than the hull', marks: ['bold'] }] },
          { list: 'check', isDone: index % 2 === 0, runs: [{ text: 'compare with the lamp' }] },
        ],
      }
    : `Remark ${index}: the glass is the lightest thing on the page, reeds melt first${index === 7 ? ', halyard' : ''}.`;

/** Notes below the grid of placements, and clusters that hold rows of it. */
function besidePlacements(): { create?: Item; item?: string; set?: object }[] {
  const stacks = keysOnTop([], PLACEMENTS + NOTES + CLUSTERS).slice(PLACEMENTS);
  const notes = Array.from({ length: NOTES }, (_, index) => {
    const text = said(index);
    const set = { width: 200, scale: 200 / 240 };
    return createNote({
      ...{ id: `n${index}`, stack: stacks[index]!, text, ...set, height: noteHeightFor(text, set) },
      centre: { x: (index % 100) * 212, y: (PLACEMENTS / 100 + Math.floor(index / 100)) * 145 + 60 },
    });
  });
  const clusters = Array.from({ length: CLUSTERS }, (_, index) =>
    createCluster({
      ...{ id: `c${index}`, stack: `Z${stacks[index]!}`, title: `Shelf ${index}`, titleSize: 10 },
      ...{ width: HELD * 212, height: 170 },
      centre: { x: ((index % 10) * HELD + (HELD - 1) / 2) * 212, y: Math.floor(index / 10) * 145 - 8 },
    }),
  );
  const held = Array.from({ length: CLUSTERS * HELD }, (_, index) => ({
    item: `p${index}`,
    set: { cluster: `c${Math.floor(index / HELD)}` },
  }));
  return [...[...notes, ...clusters].map((create) => ({ create })), ...held];
}

/** Intervals of frames, milliseconds, while the hand does something. */
async function framesWhile(page: Page, act: () => Promise<void>): Promise<{ mean: number; p95: number }> {
  await page.evaluate(() => {
    const intervals: number[] = [];
    Object.assign(window, { intervals, isCounting: true });
    let last = 0;
    const step = (now: number) => {
      if (last > 0) intervals.push(now - last);
      last = now;
      if ((window as unknown as { isCounting: boolean }).isCounting) requestAnimationFrame(step);
    };
    requestAnimationFrame(step);
  });
  await act();
  const intervals = await page.evaluate(() => {
    Object.assign(window, { isCounting: false });
    return (window as unknown as { intervals: number[] }).intervals;
  });
  intervals.sort((a, b) => a - b);
  const mean = intervals.reduce((sum, one) => sum + one, 0) / intervals.length;
  return { mean, p95: intervals[Math.floor(intervals.length * 0.95)]! };
}

/** A drag over the screen in many small moves, as a hand makes it; the button stays down. */
async function sweep(page: Page, from: [number, number], to: [number, number], steps: number): Promise<void> {
  for (let step = 0; step <= steps; step += 1) {
    const share = step / steps;
    await page.mouse.move(from[0] + (to[0] - from[0]) * share, from[1] + (to[1] - from[1]) * share);
  }
}

/** A board of 5,000 with notes and clusters among its pictures: seen, banded, dragged, found on, settled. */
export async function benchMixed(browser: Browser): Promise<void> {
  const running = await startRunning();
  try {
    console.log('seeding 500 pictures …');
    const board = await seedBoard(running.address, await seedPictures(running.databaseUrl, 500), PLACEMENTS);
    const sent = await fetch(`${running.address}/api/boards/${board}/changes`, {
      method: 'POST',
      body: JSON.stringify({ changes: [{ id: randomUUID(), operations: besidePlacements() }] }),
      headers: { 'Content-Type': 'application/json' },
    });
    const { outcomes } = (await sent.json()) as { outcomes: { problem?: object }[] };
    if (outcomes[0]?.problem) throw new Error(JSON.stringify(outcomes[0]));
    await benchFrames(browser, running.address, board, '5,000 with notes and clusters among them', []);

    const page = await openSharp(browser, running.address, board);
    await page.keyboard.press('0');
    await page.waitForTimeout(1_500);
    const idle = await framesWhile(page, () => page.waitForTimeout(1_500));
    const against = (what: string, { mean, p95 }: { mean: number; p95: number }) =>
      report(
        `the same, ${what}: frame while the hand moves, mean and p95`,
        `${ms(mean)}, ${ms(p95)} (at rest ${ms(idle.mean)})`,
        times(p95 / idle.mean),
        'p95 ≤ 2 ×',
        p95 <= 2 * idle.mean,
      );

    await page.mouse.move(60, 60);
    const banding = await framesWhile(page, async () => {
      await page.mouse.down();
      await sweep(page, [60, 60], [1260, 740], 150);
    });
    await page.mouse.up();
    against('a band over all of it', banding);
    await page.keyboard.press('Escape');

    // Half a thousand of them taken by a band from the corner, then dragged.
    const corner = await page.evaluate((count) => {
      const stage = window.miraderoStage!;
      const { left, top } = stage.canvas.getBoundingClientRect();
      const rows = count / 100;
      const to = { x: 100 * 212, y: (5 + rows - 0.5) * 145 };
      const from = { x: -150, y: 4.6 * 145 };
      const onPage = ({ x, y }: { x: number; y: number }): [number, number] => [
        (x - stage.camera.centre.x) * stage.camera.scale + stage.viewport.width / 2 + left,
        (y - stage.camera.centre.y) * stage.camera.scale + stage.viewport.height / 2 + top,
      ];
      return { from: onPage(from), to: onPage(to), on: onPage({ x: 50 * 212, y: 7 * 145 }) };
    }, DRAGGED);
    await page.mouse.move(...corner.from);
    await page.mouse.down();
    await sweep(page, corner.from, corner.to, 20);
    await page.mouse.up();
    const title = await page.locator('footer').first().innerText();
    console.log(`dragging: ${title.split('\n')[0]}`);
    await page.mouse.move(...corner.on);
    await page.waitForTimeout(600);
    const dragging = await framesWhile(page, async () => {
      await page.mouse.down();
      await sweep(page, corner.on, [corner.on[0] + 200, corner.on[1] + 120], 150);
    });
    await page.mouse.up();
    against(`${DRAGGED} dragged`, dragging);
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Escape');

    await page.keyboard.press('/');
    await page.waitForTimeout(300);
    const started = Date.now();
    await page.keyboard.insertText('halyard');
    await page.locator('search').getByText(/^1$/).waitFor({ timeout: 20_000 });
    const foundMs = Date.now() - started;
    report(
      'the same: a word found, from its last letter until it is lit',
      ms(foundMs),
      '',
      '≤ 200 ms',
      foundMs <= 200,
    );
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');

    await page.keyboard.press('Control+a');
    await page.keyboard.press('y');
    const settledMs = await page.evaluate(async () => {
      const begun = performance.now();
      const mark = document.querySelector('[data-testid=saved]')!;
      const until = (isSo: () => boolean) =>
        new Promise<void>((resolve) => {
          const look = () => (isSo() ? resolve() : requestAnimationFrame(look));
          look();
        });
      await until(() => mark.getAttribute('data-state') !== 'saved');
      await until(() => mark.getAttribute('data-state') === 'saved');
      return performance.now() - begun;
    });
    report(
      'the same: all of it settled by a key, until the mark says saved',
      ms(settledMs),
      '',
      '≤ 1,500 ms',
      settledMs <= 1_500,
    );
    await page.context().close();
  } finally {
    await running.stop();
  }
}
