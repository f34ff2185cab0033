import { mkdir } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import type { Browser, Page } from '@playwright/test';
import { BOARDS } from '../demo/boards.ts';
import { loadDemo } from '../demo/load.ts';
import { onPage, stageReady } from './support/board.ts';
import { launchBrowser } from './support/browser.ts';
import { startRunning } from './support/running.ts';

/** `npm run screenshots`: one picture of each main view, made from the demo data by the real interface. */
const FOLDER = fileURLToPath(new URL('../docs/screenshots/', import.meta.url));
const SIZE = { width: 1280, height: 800 };
const form = BOARDS[0]!;

interface Place {
  readonly browser: Browser;
  readonly address: string;
}

async function openPage({ browser, address }: Place, path: string, viewport = SIZE): Promise<Page> {
  const context = await browser.newContext({ viewport });
  const page = await context.newPage();
  await page.goto(`${address}${path}`);
  return page;
}

async function openForm(place: Place): Promise<Page> {
  const page = await openPage(place, `/boards/${form.id}`);
  await stageReady(page);
  return page;
}

/** The middle of a placement of the demo board, board units. */
function middleOf(file: string): { x: number; y: number } {
  const placement = form.placements.find((known) => known.file === file)!;
  return { x: placement.x + placement.width / 2, y: placement.y + 60 };
}

async function select(page: Page, file: string): Promise<void> {
  const { x, y } = await onPage(page, middleOf(file));
  await page.mouse.click(x, y);
}

/** Saves what the page shows once nothing moves any more, and closes it. */
async function shoot(page: Page, name: string, shown = page): Promise<void> {
  await shown.evaluate(() => document.fonts.ready.then(() => undefined));
  await shown.waitForTimeout(700);
  await shown.screenshot({ path: `${FOLDER}${name}.png` });
  console.log(`${name}.png`);
  await page.context().close();
}

const SHOTS: Readonly<Record<string, (place: Place) => Promise<void>>> = {
  async boards(place) {
    const page = await openPage(place, '/boards');
    // The preview is painted some seconds after the board was loaded.
    await page.locator('[data-board] img').first().waitFor();
    await shoot(page, 'boards');
  },
  async board(place) {
    const page = await openForm(place);
    await select(page, 'storm-lantern-dusk.jpg');
    await page.keyboard.press('i');
    await shoot(page, 'board');
  },
  async trim(place) {
    const page = await openForm(place);
    await select(page, 'dawn-fog-wide.jpg');
    await page.keyboard.press('t');
    await shoot(page, 'trim');
  },
  async turning(place) {
    const page = await openForm(place);
    await select(page, 'storm-lantern-dusk.jpg');
    const from = await onPage(page, { x: 1060, y: 120 });
    await page.keyboard.down('r');
    await page.mouse.move(from.x, from.y);
    await page.mouse.down();
    await page.mouse.move(from.x - 6, from.y + 34, { steps: 6 });
    await page.waitForTimeout(300);
    await shoot(page, 'turning');
  },
  async keys(place) {
    const page = await openForm(place);
    await page.keyboard.press('Shift+?');
    await shoot(page, 'keys');
  },
  async phone(place) {
    const page = await openPage(place, `/boards/${form.id}`, { width: 390, height: 844 });
    await stageReady(page);
    await shoot(page, 'phone');
  },
  async trouble(place) {
    const page = await openForm(place);
    await page.route('**/changes', (route) => route.abort());
    await select(page, 'chain-wheel-raking.jpg');
    await page.keyboard.press('ArrowRight');
    await page.locator('[data-trouble]').waitFor();
    await shoot(page, 'trouble');
  },
  async perch(place) {
    const page = await openForm(place);
    await page.getByRole('radio', { name: 'Value 5' }).click();
    const opening = page.context().waitForEvent('page');
    await page.keyboard.press('p');
    const perch = await opening;
    // A context with a fixed viewport forces that size on the floating window, too.
    await perch.setViewportSize({ width: 480, height: 360 });
    await stageReady(perch);
    await perch.mouse.dblclick(100, 120);
    await shoot(page, 'perch', perch);
  },
  async 'board-dark'(place) {
    const page = await openForm(place);
    await page.getByRole('radio', { name: 'Value 2' }).click();
    await select(page, 'dawn-fog-wide.jpg');
    await shoot(page, 'board-dark');
  },
  async palette(place) {
    const page = await openForm(place);
    await page.keyboard.press('Control+k');
    await page.keyboard.type('turn');
    await shoot(page, 'palette');
  },
};

async function main(): Promise<void> {
  const wanted = process.argv.slice(2);
  await mkdir(FOLDER, { recursive: true });
  const running = await startRunning();
  const browser = await launchBrowser();
  try {
    await loadDemo(running.address);
    for (const [name, take] of Object.entries(SHOTS)) {
      if (wanted.length === 0 || wanted.includes(name)) await take({ browser, address: running.address });
    }
  } finally {
    await browser.close();
    await running.stop();
  }
}

await main();
