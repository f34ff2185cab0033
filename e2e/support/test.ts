import { type Browser, test as base, type Page } from '@playwright/test';
import { type RunningCommons, startCommons } from '../../demo/commons/server.ts';
import { launchBrowser } from './browser.ts';
import { type Running, startRunning } from './running.ts';

interface Shared {
  /** The stand-in web; our server may ask it. */
  commons: RunningCommons;
  running: Running;
  chromium: Browser;
}

/** Tests that share one server and one browser; each has pages and boards of its own. */
export const test = base.extend<{ page: Page }, Shared>({
  commons: [
    // biome-ignore lint/correctness/noEmptyPattern: Playwright reads the names of what a fixture needs from here
    async ({}, use) => {
      const commons = await startCommons(0, { slowMs: 2_500 });
      await use(commons);
      await commons.stop();
    },
    { scope: 'worker' },
  ],
  running: [
    async ({ commons }, use) => {
      const running = await startRunning({ fetchesFrom: [new URL(commons.address).host] });
      await use(running);
      await running.stop();
    },
    { scope: 'worker', timeout: 180_000 },
  ],
  chromium: [
    // biome-ignore lint/correctness/noEmptyPattern: see above
    async ({}, use) => {
      const browser = await launchBrowser();
      await use(browser);
      await browser.close();
    },
    { scope: 'worker' },
  ],
  page: async ({ chromium }, use) => {
    const context = await chromium.newContext({ viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    const troubles: string[] = [];
    page.on('pageerror', (error) => troubles.push(error.message));
    await use(page);
    await context.close();
    if (troubles.length > 0) throw new Error(`the page had errors: ${troubles.join('; ')}`);
  },
});

export { expect } from '@playwright/test';
