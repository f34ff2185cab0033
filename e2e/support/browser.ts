import { spawnSync } from 'node:child_process';
import { readlink } from 'node:fs/promises';
import { join } from 'node:path';
import { type Browser, type BrowserContext, chromium } from '@playwright/test';

/**
 * The last of several such switches counts, so these are Playwright's own and two of ours: each context of a browser loads
 * two hidden pages for an address field that nobody sees, a tenth of all that a run of the tests computes.
 */
const DISABLED = [
  ...['AimEnabled', 'AvoidUnnecessaryBeforeUnloadCheckSync', 'DestroyProfileOnBrowserClose'],
  ...['HttpsFirstBalancedModeAutoEnable', 'HttpsUpgrades', 'LensOverlay', 'MediaRouter', 'OptimizationHints'],
  ...['NetworkTimeServiceQuerying', 'PaintHolding', 'PreconnectToSearch', 'ThirdPartyStoragePartitioning'],
  ...['WebUIOmniboxPopup', 'WebUIOmniboxAimPopup'],
];

const ARGUMENTS = [
  '--no-sandbox',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  // The floating window gets at most a quarter of the screen.
  '--screen-info={1920x1080}',
  `--disable-features=${DISABLED.join()}`,
];

const OPTIONS = { executablePath: '/usr/bin/chromium', headless: true, args: ARGUMENTS };

/**
 * @param more - further arguments, for what this browser alone has (a camera, a screen to share)
 * @param without - of Playwright's own arguments those that it does not get
 */
export const launchBrowser = (
  more: readonly string[] = [],
  without: readonly string[] = [],
): Promise<Browser> =>
  chromium.launch({ ...OPTIONS, args: [...ARGUMENTS, ...more], ignoreDefaultArgs: [...without] });

/** A browser with a profile on disk, which survives being killed. */
export const launchProfile = (folder: string): Promise<BrowserContext> =>
  chromium.launchPersistentContext(folder, { ...OPTIONS, viewport: { width: 1280, height: 800 } });

/** SIGKILL for the whole browser of a profile, by the process id that it wrote into its lock. */
export async function killBrowser(profile: string): Promise<void> {
  const pid = Number((await readlink(join(profile, 'SingletonLock'))).split('-').pop());
  const children = spawnSync('ps', ['-o', 'pid=', '--ppid', String(pid)], { encoding: 'utf8' }).stdout;
  process.kill(pid, 'SIGKILL');
  for (const child of children.split('\n').map(Number).filter(Boolean)) {
    try {
      process.kill(child, 'SIGKILL');
    } catch {
      // It ended with its parent.
    }
  }
}
