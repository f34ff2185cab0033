import { type Browser, type BrowserContext, chromium } from '@playwright/test';

const ARGUMENTS = [
  '--no-sandbox',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  // The floating window gets at most a quarter of the screen.
  '--screen-info={1920x1080}',
];

const OPTIONS = { executablePath: '/usr/bin/chromium', headless: true, args: ARGUMENTS };

/** @param more - further arguments, for what this browser alone has (a camera, a screen to share) */
export const launchBrowser = (more: readonly string[] = []): Promise<Browser> =>
  chromium.launch({ ...OPTIONS, args: [...ARGUMENTS, ...more] });

/** A browser with a profile on disk, which survives being killed. */
export const launchProfile = (folder: string): Promise<BrowserContext> =>
  chromium.launchPersistentContext(folder, { ...OPTIONS, viewport: { width: 1280, height: 800 } });
