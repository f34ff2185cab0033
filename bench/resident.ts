import { readFileSync } from 'node:fs';
import type { Browser } from '@playwright/test';

/** Resident bytes of the renderer that shows a page, found by the process ids that Chromium reports. */
export async function residentCounter(browser: Browser): Promise<() => number> {
  const session = await browser.newBrowserCDPSession();
  const { processInfo } = (await session.send('SystemInfo.getProcessInfo')) as {
    processInfo: { type: string; id: number }[];
  };
  const ids = processInfo.filter(({ type }) => type === 'renderer').map(({ id }) => id);
  const resident = (id: number) => {
    try {
      return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${id}/status`, 'utf8'))?.[1] ?? 0) * 1024;
    } catch {
      return 0;
    }
  };
  return () => Math.max(...ids.map(resident));
}
