import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, Page } from '@playwright/test';
import sharp from 'sharp';
import { stageReady, TestBoard } from '../e2e/support/board.ts';
import { drop } from '../e2e/support/drops.ts';
import { startRunning } from '../e2e/support/running.ts';
import { pageIn } from './frames.ts';
import { median } from './median.ts';
import { ms, report, times } from './report.ts';

/** 24 megapixels, as a drawing program saves them. */
const SIDE = { width: 6_000, height: 4_000 };
const SAVES = 4;
/** Frames of a captured window that are measured; 25 a second. */
const FRAMES = 100;
const FRAME_MS = 40;
/** What must stand still before a save counts: nobody can be faster. */
const STILL_MS = 300;

/** A drawing of one flat colour with lines over it; its number is its colour. */
async function drawing(number: number): Promise<Buffer> {
  const lines = Array.from(
    { length: 400 },
    (_, index) =>
      `<path d="M${(index * 137) % 6000} ${(index * 71) % 4000} q 300 -200 700 ${(index * 37) % 500}" stroke="hsl(${index} 50% 40%)" stroke-width="14" fill="none"/>`,
  );
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${SIDE.width}" height="${SIDE.height}"><rect width="100%" height="100%" fill="hsl(${number * 67} 40% 60%)"/>${lines.join('')}</svg>`;
  return sharp(Buffer.from(svg), { unlimited: true }).png({ compressionLevel: 3 }).toBuffer();
}

const makeSheet = (address: string): Promise<TestBoard> =>
  TestBoard.createSheet(address, 'Measured', { ...SIDE, unit: 'px', ppi: 300 });

/** Colour of the stage's middle, as one text. */
const middleOf = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const { canvas } = window.miraderoStage!;
    return canvas
      .getContext('2d')!
      .getImageData(canvas.width >> 1, 8 + (canvas.height >> 1), 1, 1)
      .data.join();
  });

/** How long it takes alone to decode a file and draw it, ms. */
const bareDecode = (page: Page, bytes: Buffer): Promise<number> =>
  page.evaluate(async (base64) => {
    const blob = await (await fetch(`data:image/png;base64,${base64}`)).blob();
    const context = new OffscreenCanvas(1_000, 667).getContext('2d')!;
    const start = performance.now();
    const bitmap = await createImageBitmap(blob);
    context.drawImage(bitmap, 0, 0, 1_000, 667);
    context.getImageData(0, 0, 1, 1);
    return performance.now() - start;
  }, bytes.toString('base64'));

/** From when a save of 24 megapixels stands still until the sheet shows it. */
async function benchFollowed(browser: Browser): Promise<void> {
  const running = await startRunning();
  const folder = await mkdtemp(join(tmpdir(), 'miradero-bench-'));
  const path = join(folder, 'drawing.png');
  try {
    const sheet = await makeSheet(running.address);
    const bare = await pageIn(browser);
    await bare.goto('about:blank');
    const page = await pageIn(browser);
    await page.goto(sheet.url);
    await stageReady(page);
    const region = page.getByRole('region', { name: 'Followed files' });
    await region.waitFor();
    await writeFile(path, await drawing(0));
    const { x, y } = (await region.boundingBox())!;
    let shown = await middleOf(page);
    const untilAnother = async () => {
      while ((await middleOf(page)) === shown) await page.waitForTimeout(5);
      shown = await middleOf(page);
    };
    await drop(page, [path], x + 30, y + 10);
    await untilAnother();
    const seen: number[] = [];
    const decoded: number[] = [];
    for (let save = 1; save <= SAVES; save += 1) {
      const bytes = await drawing(save);
      decoded.push(await bareDecode(bare, bytes));
      // What came before is sent, and its copies are made.
      await page.waitForTimeout(8_000);
      shown = await middleOf(page);
      await writeFile(path, bytes);
      const start = performance.now();
      await untilAnother();
      seen.push(performance.now() - start - STILL_MS);
    }
    await bare.context().close();
    const [took, alone] = [median(seen), median(decoded)];
    report(
      `a followed PNG of ${SIDE.width} × ${SIDE.height}, from when a save stood still until the sheet shows it`,
      `${ms(took)} (its decode alone ${ms(alone)})`,
      times(took / alone),
      '≤ 1.5 ×',
      took / alone <= 1.5,
    );
  } finally {
    await rm(folder, { recursive: true });
    await running.stop();
  }
}

interface Traced {
  miraderoTracing?: { readonly store: { getState(): { frames: number; delayMs: number } } };
  miraderoStandIn?: { draw(colour: string): void };
}

/** Delay and rate of a captured window under tracing paper, and its silence at rest. */
async function benchTracing(browser: Browser): Promise<void> {
  const running = await startRunning();
  try {
    const sheet = await makeSheet(running.address);
    const [placement] = await sheet.place([1]);
    await sheet.change([{ item: placement!.id, set: { centre: { x: 3_000, y: 2_000 }, width: 4_000 } }]);
    const page = await pageIn(browser);
    await page.goto(sheet.url);
    await stageReady(page);
    await page.getByRole('button', { name: 'tracing paper' }).click();
    await page.getByRole('button', { name: 'try it with a stand-in' }).click();
    await page.getByText('The sheet was found.').waitFor();
    const opening = page.context().waitForEvent('page');
    await page.getByRole('button', { name: 'Lay it over' }).click();
    await opening;
    await page.waitForTimeout(2_000);
    const measured = await page.evaluate(
      async ([count, everyMs]) => {
        const { miraderoTracing, miraderoStandIn } = window as Window & Traced;
        const state = () => miraderoTracing!.store.getState();
        const delays: number[] = [];
        const first = state().frames;
        const start = performance.now();
        for (let frame = 0; frame < count; frame += 1) {
          miraderoStandIn!.draw(`hsl(${(frame * 47) % 360} 70% 50%)`);
          await new Promise((resolve) => setTimeout(resolve, everyMs));
          delays.push(state().delayMs);
        }
        const seconds = (performance.now() - start) / 1_000;
        const shown = state().frames - first;
        await new Promise((resolve) => setTimeout(resolve, 1_500));
        const atRest = state().frames;
        await new Promise((resolve) => setTimeout(resolve, 3_000));
        delays.sort((a, b) => a - b);
        return {
          rate: shown / seconds,
          p90: delays[Math.floor(delays.length * 0.9)]!,
          restFrames: state().frames - atRest,
        };
      },
      [FRAMES, FRAME_MS] as const,
    );
    report(
      'tracing paper: from a frame of the window until it is drawn, p90',
      ms(measured.p90),
      '',
      '≤ 150 ms',
      measured.p90 <= 150,
    );
    report(
      'tracing paper: frames a second of a window that draws 25',
      measured.rate.toFixed(1),
      '',
      '≥ 10',
      measured.rate >= 10,
    );
    report(
      'tracing paper: frames in 3 s of a window that stands still',
      String(measured.restFrames),
      '',
      '0',
      measured.restFrames === 0,
    );
  } finally {
    await running.stop();
  }
}

/** What is followed, and what is laid over. */
export async function benchEasel(browser: Browser): Promise<void> {
  await benchFollowed(browser);
  await benchTracing(browser);
}
