import { fileURLToPath } from 'node:url';
import { openBoard, TestBoard } from '../support/board.ts';
import { launchBrowser } from '../support/browser.ts';
import { startRunning } from '../support/running.ts';
import { placeAll } from './place-all.ts';
import { writeSoak } from './report.ts';
import { Soak } from './soak.ts';

/** `npm run soak [-- count seed]`: random actions through the real interface against the model in core, memory watched. */
const COUNT = Number(process.argv[2] ?? 10_000);
const SEED = Number(process.argv[3] ?? 1);
const MB = 1024 * 1024;
/** Later readings may lie this much above earlier ones: garbage is collected when the browser likes. */
const FLAT = 1.3;

interface Reading {
  readonly index: number;
  readonly heapMb: number;
  readonly pixelsMb: number;
}

const median = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

const running = await startRunning();
const browser = await launchBrowser();
const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' });
const page = await context.newPage();
const errors: string[] = [];
page.on('pageerror', (error) => errors.push(error.message));
const session = await context.newCDPSession(page);
const readings: Reading[] = [];
const every = Math.max(50, Math.floor(COUNT / 40));

async function read(index: number): Promise<void> {
  await session.send('HeapProfiler.collectGarbage');
  const { usedSize } = (await session.send('Runtime.getHeapUsage')) as { usedSize: number };
  const pixels = await page.evaluate(() => {
    const stage = window.miraderoStage!;
    return stage.bytes + stage.feed.painter.report.bytes;
  });
  readings.push({ index, heapMb: usedSize / MB, pixelsMb: pixels / MB });
  console.log(`${index}: heap ${(usedSize / MB).toFixed(1)} MB, pixels ${(pixels / MB).toFixed(0)} MB`);
}

let trouble: unknown;
const started = Date.now();
try {
  const board = await TestBoard.create(running.address, 'soaked');
  const items = await placeAll(board);
  await openBoard(page, board);
  const soak = new Soak(page, board, items, SEED);
  await soak.run(COUNT, async (index) => {
    if (index % every === every - 1) await read(index + 1);
  });
  if (errors.length > 0) throw new Error(`the page had errors: ${errors.join('; ')}`);
  const quarter = Math.floor(readings.length / 4);
  const early = readings.slice(quarter, 2 * quarter);
  const late = readings.slice(-quarter);
  const grown = (of: (reading: Reading) => number) => median(late.map(of)) / median(early.map(of));
  const [heap, pixels] = [grown(({ heapMb }) => heapMb), grown(({ pixelsMb }) => pixelsMb)];
  const words = `${COUNT.toLocaleString('en')} random actions by seed ${SEED} in ${Math.round((Date.now() - started) / 60_000)} minutes: no error, no drift. Last quarter against second quarter: heap × ${heap.toFixed(2)} (${median(late.map(({ heapMb }) => heapMb)).toFixed(1)} MB), pixels × ${pixels.toFixed(2)} (${median(late.map(({ pixelsMb }) => pixelsMb)).toFixed(0)} MB).`;
  console.log(words);
  if (heap > FLAT || pixels > FLAT) throw new Error('memory is not flat');
  writeSoak('Random actions', words);
} catch (error) {
  trouble = error;
  const words = await page.evaluate(() => ({
    selected: document.querySelector('[role="toolbar"]')?.textContent,
    said: [...document.querySelectorAll('[role="status"]')].map((status) => status.textContent),
  }));
  console.error(words, errors);
  await page.screenshot({ path: fileURLToPath(new URL('../../.cache/soak.png', import.meta.url)) });
}
await browser.close();
await running.stop();
if (trouble) {
  console.error(trouble);
  process.exit(1);
}
