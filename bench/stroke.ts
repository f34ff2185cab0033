import type { Browser, Page } from '@playwright/test';
import { startRunning } from '../e2e/support/running.ts';
import { openSharp, pageIn } from './frames.ts';
import { servePeers } from './peer-server.ts';
import { ms, report, times } from './report.ts';
import { seedBoard, seedPictures } from './seed.ts';

/** Moves of the pen in one stroke, and so long apart, ms. */
const MOVES = 400;
const APART_MS = 10;
const ROUNDS = 3;

export interface Latency {
  readonly mean: number;
  readonly p95: number;
}

/** Draws one stroke around the middle with a pen. @returns from each move of the pen to the end of the frame that shows it, ms */
export async function latencyOf(page: Page): Promise<Latency> {
  const session = await page.context().newCDPSession(page);
  const watching = await page.evaluateHandle(() => {
    const took: number[] = [];
    const waiting: number[] = [];
    const channel = new MessageChannel();
    // What is posted in a frame comes once it is painted.
    channel.port1.onmessage = () => {
      const now = performance.now();
      took.push(...waiting.splice(0).map((at) => now - at));
    };
    const note = (event: PointerEvent) => {
      if (event.buttons === 0) return;
      if (waiting.length === 0) requestAnimationFrame(() => channel.port2.postMessage(undefined));
      waiting.push(event.timeStamp);
    };
    window.addEventListener('pointermove', note, { capture: true });
    return {
      took,
      end: () => window.removeEventListener('pointermove', note, { capture: true }),
    };
  });
  const pen = (type: 'mousePressed' | 'mouseMoved' | 'mouseReleased', step: number) => {
    const radius = 60 + step / 2;
    return session.send('Input.dispatchMouseEvent', {
      ...{ type, pointerType: 'pen', force: 0.5, clickCount: 1 },
      ...{ x: 640 + radius * Math.cos(step / 9), y: 400 + radius * Math.sin(step / 9) },
      ...{ button: 'left', buttons: type === 'mouseReleased' ? 0 : 1 },
    });
  };
  await pen('mousePressed', 0);
  for (let step = 1; step <= MOVES; step += 1) {
    await Promise.all([pen('mouseMoved', step), new Promise((resolve) => setTimeout(resolve, APART_MS))]);
  }
  await pen('mouseReleased', MOVES);
  await page.waitForTimeout(200);
  const took = await watching.evaluate(({ took, end }) => {
    end();
    return took.sort((a, b) => a - b);
  });
  await session.detach();
  if (took.length < MOVES / 2) throw new Error(`only ${took.length} moves of the pen were seen`);
  return {
    mean: took.reduce((sum, one) => sum + one, 0) / took.length,
    p95: took[Math.floor(took.length * 0.95)]!,
  };
}

export const middleOf = (all: readonly Latency[]): Latency =>
  [...all].sort((a, b) => a.mean - b.mean)[all.length >> 1]!;

/** From the move of a pen to the frame that shows the point under it, on a board of 5,000, against a canvas that has nothing else to do. */
export async function benchStroke(browser: Browser): Promise<void> {
  const running = await startRunning();
  try {
    console.log('seeding 500 pictures …');
    const board = await seedBoard(running.address, await seedPictures(running.databaseUrl, 500), 5_000);
    const peers = await servePeers(running.address, board);
    const bare = await pageIn(browser);
    await bare.goto(`${peers.address}/ink.html`);
    const page = await openSharp(browser, running.address, board);
    await page.keyboard.press('g');
    await page.getByTestId('drawing-card').waitFor();
    // By turns: a shared machine is quick and slow by the minute. The first of each runs cold code.
    const [own, limit]: [Latency[], Latency[]] = [[], []];
    for (let round = 0; round <= ROUNDS; round += 1) {
      const [here, there] = [await latencyOf(page), await latencyOf(bare)];
      if (round === 0) continue;
      own.push(here);
      limit.push(there);
    }
    peers.stop();
    const [mine, its] = [middleOf(own), middleOf(limit)];
    report(
      `a stroke of ${MOVES} moves on 5,000 placements, from a move of the pen to the end of its frame: mean`,
      `${ms(mine.mean)} (a bare canvas ${ms(its.mean)})`,
      times(mine.mean / its.mean),
      '≤ 1.2 ×',
      mine.mean / its.mean <= 1.2,
    );
    report(
      'the same: p95',
      `${ms(mine.p95)} (a bare canvas ${ms(its.p95)})`,
      times(mine.p95 / its.p95),
      '≤ 1.2 ×',
      mine.p95 / its.p95 <= 1.2,
    );
    await page.context().close();
    await bare.context().close();
  } finally {
    await running.stop();
  }
}
