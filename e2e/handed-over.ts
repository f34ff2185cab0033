import { mkdir, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import type { Browser, Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import { byName, stageReady } from './support/board.ts';
import { freePort } from './support/free-port.ts';

interface Size {
  readonly width: number;
  readonly height: number;
}

/** A board file as it shows itself from a folder of the disk. */
export async function shownByItself(browser: Browser, viewport: Size, file: string): Promise<Buffer> {
  const folder = await mkdtemp(join(tmpdir(), 'board-file-'));
  const context = await browser.newContext({ viewport, offline: true });
  try {
    for (const [entry, bytes] of Object.entries(unzipSync(await readFile(file)))) {
      await mkdir(dirname(join(folder, entry)), { recursive: true });
      await writeFile(join(folder, entry), bytes);
    }
    const page = await context.newPage();
    await page.goto(`file://${folder}/${(await readdir(folder))[0]}/index.html`);
    await page.waitForTimeout(1_500);
    await page.mouse.click(500, 330);
    await page.waitForTimeout(300);
    return await page.screenshot();
  } finally {
    await context.close();
    await rm(folder, { recursive: true, force: true });
  }
}

/** A link that is made on the board in front, and what somebody sees who follows it. */
export async function linkAndItsPage(
  browser: Browser,
  viewport: Size,
  page: Page,
  address: string,
): Promise<Buffer[]> {
  const links = { isOn: true, host: '127.0.0.1', port: await freePort() };
  await fetch(`${address}/api/settings`, {
    method: 'PATCH',
    body: JSON.stringify({ links }),
    headers: { 'Content-Type': 'application/json' },
  });
  await page.reload();
  await stageReady(page);
  await byName(page, 'links to look');
  const sheet = page.getByRole('dialog', { name: 'Links to look' });
  await sheet.getByLabel(/^Tasks/).fill('Which three say most about how she is built?');
  await sheet.getByLabel('originals may be fetched').check();
  await sheet.getByRole('button', { name: 'Make a link' }).click();
  const link = (await sheet.getByText(/http:\/\/127\.0\.0\.1:\d+\/l\//).innerText()).trim();
  const looker = await (await browser.newContext({ viewport })).newPage();
  await looker.goto(link);
  await looker.getByLabel('Your name').fill('Ilse Brand');
  await looker.getByRole('button', { name: 'Begin' }).click();
  await looker.getByText('0 yes, 0 no, 0 remarks').waitFor();
  await looker.locator('#board').focus();
  // From picture to picture, each answer heard before the next.
  for (const [at, key] of ['y', 'n', 'y', 'y', ''].entries()) {
    await looker.keyboard.press('PageDown');
    if (key === '') continue;
    await looker.keyboard.press(key);
    await looker.getByText(`${[1, 1, 2, 3][at]} yes`).waitFor();
  }
  await looker.getByRole('button', { name: 'whole board' }).click();
  await looker.waitForTimeout(1_000);
  const shown = await looker.screenshot();
  await looker.context().close();
  await sheet.getByText('Ilse Brand').waitFor();
  return [await page.screenshot(), shown];
}
