import type { Browser, Page } from '@playwright/test';
import { drive, type Frames, JOURNEYS, type Journey } from './drive.ts';
import { timeUntil } from './measure-stage.ts';
import { servePeers } from './peer-server.ts';
import { ms, report, times } from './report.ts';

/** Of the boards that are driven over: a hundred across, fifty down. */
export const EXTENT = { width: 100 * 212, height: 50 * 145 };

export async function pageIn(browser: Browser): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  // tsx marks named functions with a call of this name, which pages do not know.
  await context.addInitScript('globalThis.__name = (named) => named');
  return context.newPage();
}

/** The peers and the limit, each alone in its page. */
export async function drivePeers(
  browser: Browser,
  address: string,
  names: readonly string[],
): Promise<Record<string, Record<Journey, Frames>>> {
  const results: Record<string, Record<Journey, Frames>> = {};
  for (const peer of names) {
    const page = await pageIn(browser);
    await page.goto(`${address}/${peer}.html`);
    await page.waitForFunction(() => window.setView !== undefined, undefined, { timeout: 120_000 });
    const frames = {} as Record<Journey, Frames>;
    for (const journey of JOURNEYS) frames[journey] = await drive(page, journey, EXTENT);
    results[peer] = frames;
    await page.context().close();
  }
  return results;
}

function reportFrames(
  own: Record<Journey, Frames>,
  peers: Record<string, Record<Journey, Frames>>,
  what: string,
): void {
  for (const journey of JOURNEYS) {
    const { mean, p95, unpainted, renewedMs } = own[journey];
    const limit = peers.blit![journey];
    const to = (peer: string) => peers[peer]![journey].mean / mean;
    report(
      `${what}, ${journey}: mean frame`,
      `${ms(mean)} (limit ${ms(limit.mean)})`,
      times(mean / limit.mean),
      '≤ 1.2 ×',
      mean / limit.mean <= 1.2,
    );
    report(
      `${what}, ${journey}: p95 frame`,
      `${ms(p95)} (limit ${ms(limit.p95)})`,
      times(p95 / limit.p95),
      '≤ 2 ×',
      p95 / limit.p95 <= 2,
    );
    const goal = journey === 'close' ? 6 : 8;
    for (const peer of Object.keys(peers).filter((name) => name !== 'blit')) {
      report(
        `${what}, ${journey}: against ${peer}`,
        ms(peers[peer]![journey].mean),
        times(to(peer)),
        `≥ ${goal} × faster`,
        to(peer) >= goal,
      );
    }
    report(
      `${what}, ${journey}: unpainted share while moving`,
      `${(unpainted * 100).toFixed(2)} %`,
      '',
      '≤ 2 %',
      unpainted <= 0.02,
    );
    report(
      `${what}, ${journey}: oldest buffer shown while moving`,
      ms(renewedMs),
      '',
      '≤ 500 ms',
      renewedMs <= 500,
    );
  }
}

export async function openSharp(browser: Browser, address: string, board: string): Promise<Page> {
  const page = await pageIn(browser);
  await page.goto(`${address}/boards/${board}`);
  await page.waitForFunction(() => window.miraderoStage?.status.isComplete);
  await timeUntil(page, 'isSharp');
  return page;
}

/** Frames while panning and zooming, ours and the peers' on the same board in the same run. */
export async function benchFrames(
  browser: Browser,
  address: string,
  board: string,
  what: string,
  rivals: readonly string[],
): Promise<void> {
  const peerServer = await servePeers(address, board);
  const peers = await drivePeers(browser, peerServer.address, ['blit', ...rivals]);
  peerServer.stop();
  const page = await openSharp(browser, address, board);
  const own = {} as Record<Journey, Frames>;
  for (const journey of JOURNEYS) own[journey] = await drive(page, journey, EXTENT);
  reportFrames(own, peers, what);
  await page.context().close();
}
