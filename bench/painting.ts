import type { SheetItem } from '@miradero/core/items';
import type { Browser, Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import { onPage, TestBoard } from '../e2e/support/board.ts';
import { startRunning } from '../e2e/support/running.ts';
import { drive, JOURNEYS } from './drive.ts';
import { drivePeers, openSharp, pageIn } from './frames.ts';
import { median } from './median.ts';
import { servePeers } from './peer-server.ts';
import { ms, report, times } from './report.ts';
import { residentCounter } from './resident.ts';
import { type Latency, latencyOf, middleOf } from './stroke.ts';

const SIDE = { width: 6_000, height: 4_000 } as const;
const ROUNDS = 3;
/** A stroke that goes on for so long is painted, ms. */
const STROKE_MS = 4_000;
const LAYERS = ['sketch', 'colour', 'shadow', 'light', 'ink'] as const;

/** Counts what the worker that paints tells while strokes are made, and notes when it told last. */
function countPainted(): void {
  const told: number[] = [];
  const noted = { painted: told, toldMs: 0 };
  const Before = window.Worker;
  window.Worker = class extends Before {
    constructor(address: string | URL, options?: WorkerOptions) {
      super(address, options);
      this.addEventListener('message', ({ data }) => {
        if (data?.kind !== 'parts') return;
        noted.toldMs = performance.now();
        if (data.number !== null) told.push(noted.toldMs);
      });
    }
  };
  Object.assign(window, { noted, painted: told });
}

const card = (page: Page) => page.getByTestId('painting-card');
async function draw(page: Page): Promise<void> {
  await page.keyboard.press('Alt+Shift+d');
  await card(page).waitFor({ timeout: 60_000 });
}
const choose = (page: Page, word: string) =>
  card(page).getByRole('radio', { name: word, exact: true }).click();
async function setSize(page: Page, px: number): Promise<void> {
  const field = card(page).getByRole('textbox', { name: 'Size of the brush in pixels' });
  await field.fill(String(px));
  await field.press('Enter');
}

/** Counts the frames of a page in which the pen was seen to move. */
function countFrames(): void {
  const told: number[] = [];
  let hasMoved = false;
  addEventListener('pointermove', () => {
    if (hasMoved) return;
    hasMoved = true;
    requestAnimationFrame((now) => {
      hasMoved = false;
      told.push(now);
    });
  });
  Object.assign(window, { painted: told });
}

/** Paints around the middle of the view with a pen that moves with every frame. @returns updates a second */
async function paintedRate(page: Page): Promise<number> {
  const session = await page.context().newCDPSession(page);
  const pen = (type: 'mousePressed' | 'mouseMoved' | 'mouseReleased', at: number) =>
    session.send('Input.dispatchMouseEvent', {
      ...{ type, pointerType: 'pen', force: 0.7, clickCount: 1, button: 'left' },
      ...{ x: 480 + 260 * Math.cos(at / 700), y: 400 + 220 * Math.sin(at / 700) },
      buttons: type === 'mouseReleased' ? 0 : 1,
    });
  const before = await page.evaluate(() => (window as unknown as { painted: number[] }).painted.length);
  const start = performance.now();
  await pen('mousePressed', 0);
  for (let at = 0; at < STROKE_MS; at = performance.now() - start)
    await Promise.all([pen('mouseMoved', at), new Promise((resolve) => setTimeout(resolve, 8))]);
  const took = performance.now() - start;
  const count = await page.evaluate(
    (from) => (window as unknown as { painted: number[] }).painted.length - from,
    before,
  );
  await pen('mouseReleased', STROKE_MS);
  await page.waitForTimeout(1_500);
  await session.detach();
  return (1_000 * count) / took;
}

/** Time in which a browser decodes the layers of a sheet, one after the other, ms. */
async function decodingOf(page: Page, address: string, picture: string): Promise<number> {
  const response = await fetch(`${address}/api/pictures/${picture}/original`);
  const files = unzipSync(new Uint8Array(await response.arrayBuffer()));
  const layers = Object.entries(files).filter(([path]) => path.startsWith('data/'));
  let sum = 0;
  for (const [, bytes] of layers)
    sum += await page.evaluate(async (base64) => {
      const raw = Uint8Array.from(atob(base64), (sign) => sign.charCodeAt(0));
      const start = performance.now();
      (await createImageBitmap(new Blob([raw]))).close();
      return performance.now() - start;
    }, Buffer.from(bytes).toString('base64'));
  return sum;
}

/** Nothing more is told of a sheet that was opened after so long, ms. */
const QUIET_MS = 2_000;
const OPENINGS = 5;

/** Opens a sheet to be drawn on. @returns time until all of it is shown from its layers, ms */
async function openingOf(page: Page): Promise<number> {
  await page.reload();
  await page.waitForFunction(() => window.miraderoStage?.status.isComplete);
  await page.waitForTimeout(QUIET_MS);
  const start = await page.evaluate(() => performance.now());
  await draw(page);
  const last = await page.waitForFunction((quietMs) => {
    const { toldMs } = (window as unknown as { noted: { toldMs: number } }).noted;
    return toldMs > 0 && performance.now() - toldMs > quietMs ? toldMs : undefined;
  }, QUIET_MS);
  return ((await last.jsonValue()) as number) - start;
}

/** A painted sheet under the moving camera, against one cached image that is moved. */
async function benchPanning(browser: Browser, page: Page, sheet: TestBoard): Promise<void> {
  const item = (await sheet.standing()).find(({ kind }) => kind === 'sheet') as SheetItem;
  const peers = await servePeers(sheet.address, sheet.id);
  const { blit } = await drivePeers(browser, peers.address, ['blit']);
  peers.stop();
  for (const journey of JOURNEYS) {
    const { mean } = await drive(page, journey, { width: item.width, height: item.height });
    const limit = blit![journey].mean;
    report(
      `layers of 24 MP moved about while one draws, ${journey}: mean frame`,
      `${ms(mean)} (limit ${ms(limit)})`,
      times(mean / limit),
      '≤ 1.2 ×',
      mean / limit <= 1.2,
    );
  }
}

/** Of a print of 14 inches: what is looked for in memory. */
const LARGE = { width: 14, height: 14, unit: 'in', ppi: 350 } as const;
/** Further layers, so that eight can be painted on beside the ground. */
const FURTHER = ['sketch', 'colour', 'ink'] as const;
const MOST_MB = 512;
const MOST_LAYERS = 8;

/** Where on the page the sheet is painted: as far as the right and lower edge of the stage let it, CSS pixels. */
const [RIGHT, BOTTOM] = [1_060, 745];
/** So many times a soft brush goes to and fro, so large. */
const ROWS = 9;
const SOFT_PX = 1_000;
type Way = readonly (readonly [x: number, y: number])[];

async function drawAlong(page: Page, way: Way): Promise<void> {
  for (const [at, [x, y]] of way.entries()) {
    await page.mouse.move(x, y, { steps: 6 });
    if (at === 0) await page.mouse.down();
  }
  await page.mouse.up();
}

/** What eight layers of which half is covered need. */
async function benchMemory(browser: Browser, address: string): Promise<void> {
  const sheet = await TestBoard.createSheet(address, 'Large', LARGE);
  const page = await openSharp(browser, address, sheet.id);
  const residentOf = await residentCounter(browser);
  const before = residentOf();
  await draw(page);
  for (const kind of FURTHER)
    await card(page).getByRole('combobox', { name: 'Add a layer' }).selectOption(kind);
  const layers = card(page).getByRole('button', { name: /^(sketch|colour|shadow|light|ink)/ });
  await layers.nth(MOST_LAYERS - 1).waitFor();
  const count = await layers.count();
  // The right half: the card lies over the left. At the rim of the stage a press moves the view.
  const { centre, height } = (await sheet.standing()).find(({ kind }) => kind === 'sheet') as SheetItem;
  const top = await onPage(page, { x: centre.x, y: centre.y - height / 2 });
  const around: Way = [
    [top.x, top.y + 2],
    [RIGHT, top.y + 2],
    [RIGHT, BOTTOM],
    [top.x, BOTTOM],
    [top.x, top.y + 20],
  ];
  const overAll: Way = [...Array(ROWS).keys()].flatMap((row) => {
    const y = top.y + ((row + 0.5) * (BOTTOM - top.y)) / ROWS;
    return row % 2 === 0
      ? [
          [top.x + 30, y],
          [RIGHT, y],
        ]
      : [
          [RIGHT, y],
          [top.x + 30, y],
        ];
  });
  for (const [words, implement, way] of [
    ['of one colour each', 'lasso filled', around],
    ['by a soft brush: no pixel is like the next', 'soft', overAll],
  ] as const) {
    await choose(page, implement);
    if (implement === 'soft') await setSize(page, SOFT_PX);
    let most = 0;
    for (let at = 0; at < count; at += 1) {
      await layers.nth(at).click();
      await drawAlong(page, way);
      await page.waitForTimeout(2_500);
      most = Math.max(most, residentOf() - before);
    }
    const text = (await card(page).textContent()) ?? '';
    const bare = Number(/(\d+) % bare ground/.exec(text)?.[1] ?? 0);
    const mb = most / 1024 / 1024;
    report(
      `${count} layers of 14 × 14 in at 350 ppi, painted ${words}, ${100 - bare} % of the sheet covered: memory more than without`,
      `${mb.toFixed(0)} MB`,
      '',
      `≤ ${MOST_MB} MB for 8 layers, half covered`,
      mb <= MOST_MB && count === MOST_LAYERS && bare <= 55,
    );
  }
  await page.context().close();
}

/** Drawing on a sheet of 24 megapixels, and what a larger one needs. */
export async function benchPainting(browser: Browser): Promise<void> {
  const running = await startRunning();
  try {
    const sheet = await TestBoard.createSheet(running.address, 'Measured', { ...SIDE, unit: 'px', ppi: 300 });
    const peers = await servePeers(running.address, sheet.id);
    const bare = await pageIn(browser);
    await bare.goto(`${peers.address}/ink.html`);
    const page = await openSharp(browser, running.address, sheet.id);
    await page.context().addInitScript(countPainted);
    await page.reload();
    await page.waitForFunction(() => window.miraderoStage?.status.isComplete);
    await draw(page);

    await choose(page, 'pencil');
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
      'a pencil on a sheet of 24 MP, from a move of the pen to the end of its frame: mean',
      `${ms(mine.mean)} (a bare canvas ${ms(its.mean)})`,
      times(mine.mean / its.mean),
      '≤ 1.2 ×',
      mine.mean / its.mean <= 1.2,
    );

    await choose(page, 'soft');
    await setSize(page, 400);
    await bare.evaluate(countFrames);
    const whole = await page.evaluate(() => window.miraderoStage!.camera);
    await paintedRate(page);
    for (const [words, scale] of [
      ['the whole sheet in view', undefined],
      ['at its own size', 1],
    ] as const) {
      if (scale !== undefined)
        await page.evaluate(
          (to) => window.miraderoStage!.setCamera({ ...window.miraderoStage!.camera, scale: to }),
          scale,
        );
      await page.waitForTimeout(800);
      // What the machine gives a canvas with one line at this minute.
      const [limit, rate] = [await paintedRate(bare), await paintedRate(page)];
      report(
        `a soft brush of 400 px on a sheet of 24 MP, ${words}: painted anew`,
        `${rate.toFixed(1)} times a second (a bare canvas ${limit.toFixed(1)})`,
        times(rate / limit),
        '≥ 50 of 60',
        rate / limit >= 50 / 60,
      );
    }

    await page.evaluate((to) => window.miraderoStage!.setCamera(to), whole);
    for (const layer of LAYERS) {
      await card(page)
        .getByRole('button', { name: new RegExp(`^${layer}`) })
        .first()
        .click();
      await paintedRate(page);
    }
    await benchPanning(browser, page, sheet);
    await page.keyboard.press('Escape');
    // Its last version is made at rest.
    await page.waitForTimeout(8_000);
    await page.waitForFunction(
      () => document.querySelector('[data-testid=saved]')?.getAttribute('data-state') === 'saved',
      undefined,
      { timeout: 120_000 },
    );
    const placement = (await sheet.standing()).find((item) => item.kind === 'placement')!;
    const { picture } = placement as { picture: string };
    // Each beside its own decoding: a shared machine is another a minute later.
    const pairs: { readonly took: number; readonly decoding: number }[] = [];
    for (let time = 0; time < OPENINGS; time += 1) {
      const decoding = await decodingOf(bare, running.address, picture);
      pairs.push({ decoding, took: await openingOf(page) });
    }
    const ratio = median(pairs.map(({ took, decoding }) => took / decoding));
    report(
      `opening a sheet of 24 MP with six layers, until all of it is shown from them: middle of ${OPENINGS}`,
      `${ms(median(pairs.map(({ took }) => took)))} (its layers are decoded in ${ms(median(pairs.map(({ decoding }) => decoding)))})`,
      times(ratio),
      '≤ 2 ×',
      ratio <= 2,
    );
    await page.context().close();
    await bare.context().close();
    await benchMemory(browser, running.address);
  } finally {
    await running.stop();
  }
}
