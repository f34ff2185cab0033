import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Drawing, Placement } from '@miradero/core/schema';
import type { CDPSession, Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import {
  byName,
  cameraOf,
  clickOnBoard,
  colourAt,
  lookAt,
  onPage,
  openBoard,
  saved,
  stageReady,
  TestBoard,
} from '../support/board.ts';
import { killBrowser, launchBrowser, launchProfile } from '../support/browser.ts';
import { expectClean } from '../support/clean.ts';
import { startRunning } from '../support/running.ts';
import { expect, test } from '../support/test.ts';

const card = (page: Page) => page.getByTestId('painting-card');
const kept = (page: Page) => page.getByTestId('painting-kept');
/** 10 × 7 in at 100 ppi: a board unit is a pixel of the sheet. */
const SHEET = { width: 10, height: 7, unit: 'in', ppi: 100, bleed: 0 } as const;

async function openSheet(page: Page, sheet: TestBoard): Promise<void> {
  await openBoard(page, sheet);
  await lookAt(page, { centre: { x: 400, y: 350 }, scale: 1 });
}
async function drawHere(page: Page): Promise<void> {
  await page.keyboard.press('Alt+Shift+d');
  await expect(card(page)).toBeVisible({ timeout: 90_000 });
  await expect(kept(page)).toHaveText('kept as a version', { timeout: 30_000 });
}
/** A sheet of its own, opened and drawn on. */
async function sheetDrawnOn(page: Page, address: string, name: string): Promise<TestBoard> {
  const sheet = await TestBoard.createSheet(address, name, SHEET);
  await openSheet(page, sheet);
  await drawHere(page);
  return sheet;
}
/** A board with one picture, of which a study was begun. */
async function studyBegun(page: Page, address: string, name: string): Promise<TestBoard> {
  const board = await TestBoard.create(address, name);
  await board.place([4]);
  await openBoard(page, board);
  await page.keyboard.press('Control+a');
  // Pressed twice at once it is one.
  await page.keyboard.press('Alt+Shift+u');
  await page.keyboard.press('Alt+Shift+u');
  await expect(card(page)).toBeVisible({ timeout: 90_000 });
  return board;
}
const choose = (page: Page, word: string) =>
  card(page).getByRole('radio', { name: word, exact: true }).click();
const layer = (page: Page, name: string) =>
  card(page)
    .getByRole('button', { name: new RegExp(`^${name}`), pressed: false })
    .click();

/** A stroke of the mouse, points of the board. */
async function stroke(page: Page, ...points: readonly (readonly [number, number])[]): Promise<void> {
  const [first, ...others] = await Promise.all(points.map(([x, y]) => onPage(page, { x, y })));
  await page.mouse.move(first!.x, first!.y);
  await page.mouse.down();
  for (const { x, y } of others) await page.mouse.move(x, y, { steps: 8 });
  await page.mouse.up();
}
/** The darkest channel is so dark. */
const isDark = ([r, g, b]: readonly number[]): boolean => Math.max(r!, g!, b!) < 120;
const expectDark = (page: Page, x: number, y: number, is = true) =>
  expect.poll(async () => isDark(await colourAt(page, { x, y }))).toBe(is);

async function drawingOf(board: TestBoard): Promise<Drawing> {
  const response = await fetch(`${board.address}/api/boards/${board.id}/drawings`);
  return ((await response.json()) as { drawings: Drawing[] }).drawings[0]!;
}
/** The picture, and the study of it. */
const inOrder = (items: readonly unknown[]): Placement[] =>
  (items as Placement[]).toSorted(
    (one, other) => Number(Boolean(one.drawing)) - Number(Boolean(other.drawing)),
  );
const versionsOf = async (board: TestBoard) => (await drawingOf(board))?.versions ?? [];
/**
 * The files of its newest version, once there are so many, or more: one is made whenever the hand rests, however slow a
 * computer is meanwhile.
 *
 * @param painted - where it is not white any more, pixels: what was painted last
 */
async function newest(
  board: TestBoard,
  count: number,
  painted?: readonly [number, number],
): Promise<Record<string, Uint8Array>> {
  let files: Record<string, Uint8Array> = {};
  const isThere = async () => {
    const versions = await versionsOf(board);
    if (versions.length < count) return false;
    const response = await fetch(`${board.address}/api/pictures/${versions[0]!.picture}/original`);
    files = unzipSync(new Uint8Array(await response.arrayBuffer()));
    return !painted || Math.max(...(await mergedOf(files)).at(...painted)) < 230;
  };
  await expect.poll(isThere, { timeout: 60_000 }).toBe(true);
  return files;
}
/** All that is seen of it. */
async function mergedOf(files: Readonly<Record<string, Uint8Array>>) {
  const image = sharp(files['mergedimage.png']!);
  const metadata = await image.metadata();
  const pixels = await image.removeAlpha().raw().toBuffer();
  const at = (x: number, y: number) => {
    const from = (y * metadata.width + x) * 3;
    return [...pixels.subarray(from, from + 3)];
  };
  return { metadata, at };
}

test('what is drawn on a sheet is a version with layers, a picture on the board, and can be taken back', async ({
  page,
  running,
}) => {
  const sheet = await sheetDrawnOn(page, running.address, 'Lantern');
  await choose(page, 'round');
  await stroke(page, [150, 200], [450, 200]);
  await expectDark(page, 300, 200);
  await layer(page, 'ink');
  await stroke(page, [150, 300], [450, 300]);
  await expectDark(page, 300, 300);
  await page.keyboard.press('Control+z');
  await expectDark(page, 300, 300, false);
  await page.keyboard.press('Control+Shift+z');
  await expectDark(page, 300, 300);
  // A stroke can be meant as something.
  await stroke(page, [150, 400], [300, 420], [450, 400]);
  await expectDark(page, 300, 417);
  await page.keyboard.press('5');
  await expectDark(page, 300, 417, false);
  await expectDark(page, 300, 400);
  // What is drawn beside the sheet is nothing, and is said to be; what was there stays when it is meant as something.
  await lookAt(page, { centre: { x: 600, y: 350 }, scale: 1 });
  await stroke(page, [1060, 300], [1100, 400]);
  await expect(page.getByText('Nothing is painted beside the sheet.')).toBeVisible();
  await page.keyboard.press('5');
  await expect(page.getByText('There is no stroke to be meant as something.')).toBeVisible();
  await expectDark(page, 300, 400);

  // At rest it becomes the second version: a ground alone was the first.
  const files = await newest(sheet, 2, [300, 400]);
  const stack = new TextDecoder().decode(files['stack.xml']);
  expect(stack).toContain('w="1000" h="700" xres="100"');
  expect([...stack.matchAll(/<layer name="(\w+)"/g)].map(([, name]) => name)).toEqual([
    'ink',
    'sketch',
    'ground',
  ]);
  const { metadata, at } = await mergedOf(files);
  expect(metadata).toMatchObject({ width: 1000, height: 700, density: 100 });
  expect(at(300, 200)).toEqual([0x3a, 0x2c, 0x22]);
  expect(at(300, 400)).toEqual([0x3a, 0x2c, 0x22]);
  expect(at(300, 250)).toEqual([255, 255, 255]);
  const placement = (await sheet.standing()).find((item): item is Placement => item.kind === 'placement')!;
  expect(placement.picture).toBe((await versionsOf(sheet))[0]!.picture);

  // Undo is there after the page was loaded anew; so is the layer that was chosen, or the first.
  await page.reload();
  await stageReady(page);
  await lookAt(page, { centre: { x: 400, y: 350 }, scale: 1 });
  await expectDark(page, 300, 200);
  await drawHere(page);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expectDark(page, 300, 300, false);
  await expectDark(page, 300, 200);
  await expectClean(page, 'drawing');
});

/** A pen as the system reports one. */
const pen = (session: CDPSession, type: string, x: number, y: number, force: number, tiltX = 0) =>
  session.send('Input.dispatchMouseEvent', {
    ...{ type: type as 'mouseMoved', x, y, clickCount: 1, pointerType: 'pen', force, tiltX },
    ...{ button: force === 0 ? 'none' : 'left', buttons: force === 0 ? 0 : 1 },
  });

test('a pen paints by its pressure and its lean, and what it drew stays when it is taken away', async ({
  page,
  running,
}) => {
  const sheet = await sheetDrawnOn(page, running.address, 'Pen');
  const session = await page.context().newCDPSession(page);
  const line = async (y: number, force: number, tiltX = 0) => {
    for (let x = 150; x <= 450; x += 20) {
      const at = await onPage(page, { x, y });
      await pen(session, x === 150 ? 'mousePressed' : 'mouseMoved', at.x, at.y, force, tiltX);
    }
    const end = await onPage(page, { x: 450, y });
    await session.send('Input.dispatchMouseEvent', {
      ...{ type: 'mouseReleased', x: end.x, y: end.y, button: 'left', buttons: 0, clickCount: 1 },
      pointerType: 'pen',
    });
  };
  await choose(page, 'round');
  await line(150, 1);
  await line(250, 0.25);
  await choose(page, 'pencil');
  await line(350, 1);
  await line(450, 1, 65);
  // What pressure does is chosen: the round brush as wide at a quarter of it, and paler.
  await choose(page, 'round');
  for (const what of ['size', 'opacity'])
    await card(page)
      .getByRole('button', { name: `Pressure alters ${what}` })
      .click();
  await line(550, 0.25);
  await page.keyboard.press('Escape');
  const { at } = await mergedOf(await newest(sheet, 2, [300, 550]));
  /** Pixels of a column that are painted, about a row. */
  const widthAt = (y: number) => {
    let count = 0;
    for (let row = y - 40; row < y + 40; row += 1) if (at(300, row)[0]! < 230) count += 1;
    return count;
  };
  // 24 px at full pressure; a pencil of 6 px, up to three times as wide where it leans.
  expect(widthAt(150)).toBeGreaterThanOrEqual(23);
  expect(widthAt(150)).toBeLessThanOrEqual(25);
  expect(widthAt(250)).toBeLessThanOrEqual(8);
  expect(widthAt(350)).toBeLessThanOrEqual(7);
  expect(widthAt(450)).toBeGreaterThanOrEqual(12);
  expect(widthAt(550)).toBeGreaterThanOrEqual(22);
  expect(at(300, 550)[0]!).toBeGreaterThan(at(300, 150)[0]! + 80);

  await drawHere(page);
  await choose(page, 'round');
  const [from, to] = [await onPage(page, { x: 600, y: 200 }), await onPage(page, { x: 600, y: 500 })];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 10 });
  await page.evaluate(() => {
    const canvas = document.querySelector('.stage-canvas')!.parentElement!;
    canvas.dispatchEvent(
      new PointerEvent('pointercancel', { pointerId: 1, pointerType: 'pen', bubbles: true }),
    );
  });
  await page.mouse.up();
  await expectDark(page, 600, 350);
});

test('of a stroke only what it alters is drawn anew, and nothing of before is left', async ({
  page,
  running,
}) => {
  await sheetDrawnOn(page, running.address, 'Parts');
  await page.evaluate(() => {
    const { camera } = window.miraderoStage!;
    window.miraderoStage!.setCamera({ ...camera, scale: 0.731 });
  });
  await expect(page.locator('[data-stage="sharp"]').first()).toBeVisible();
  await choose(page, 'soft');
  const at = await onPage(page, { x: 400, y: 300 });
  await page.mouse.move(at.x, at.y);
  await page.mouse.down();
  for (let step = 0; step < 60; step += 1)
    await page.mouse.move(at.x + 110 * Math.sin(step / 7), at.y + 70 * Math.cos(step / 5) - 70);
  await page.mouse.up();
  await page.mouse.move(at.x + 40, at.y + 90, { steps: 9 });
  await page.waitForTimeout(700);
  /** How many pixels of the stage are others once all of it is drawn anew, and also what the drawing hides; how many are painted. */
  const seen = await page.evaluate(async () => {
    const stage = window.miraderoStage!;
    const { canvas } = stage;
    const read = () => canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height).data;
    const drawn = async () => {
      stage.requestDraw();
      await new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)));
      return read();
    };
    const before = read();
    const whole = await drawn();
    Object.assign((stage.feed as unknown as { moving: object }).moving, { covers: () => undefined });
    const withHidden = await drawn();
    const others = { ofParts: 0, ofHidden: 0 };
    let painted = 0;
    for (let byte = 0; byte < whole.length; byte += 4) {
      const isOther = (one: Uint8ClampedArray) =>
        [0, 1, 2].some((part) => Math.abs(one[byte + part]! - whole[byte + part]!) > 1);
      if (isOther(before)) others.ofParts += 1;
      if (isOther(withHidden)) others.ofHidden += 1;
      if (whole[byte]! < 235 && whole[byte]! > whole[byte + 2]! + 3) painted += 1;
    }
    return { others, painted };
  });
  expect(seen.others).toEqual({ ofParts: 0, ofHidden: 0 });
  expect(seen.painted).toBeGreaterThan(2_000);
});

test('points that come together in one event are all drawn through, not the last alone', async ({
  page,
  running,
}) => {
  await sheetDrawnOn(page, running.address, 'together');
  await choose(page, 'round');
  await page.evaluate(() => {
    const counts: number[] = [];
    Object.assign(window, { together: counts });
    addEventListener('pointermove', (event) => counts.push(event.getCoalescedEvents().length), true);
  });
  const session = await page.context().newCDPSession(page);
  const move = async (x: number, y: number, type = 'mouseMoved') => {
    const at = await onPage(page, { x, y });
    return pen(session, type, at.x, at.y, 1);
  };
  await move(150, 200, 'mousePressed');
  // While the page is busy, the way goes up to a peak and down again: it comes as one event.
  const way = await Promise.all(
    Array.from({ length: 21 }, (_, at) =>
      onPage(page, { x: 150 + at * 15, y: 200 + 150 * (1 - Math.abs(at - 10) / 10) }),
    ),
  );
  const busy = page.evaluate(() => {
    for (const until = performance.now() + 1_500; performance.now() < until; );
  });
  await Promise.all(way.map(({ x, y }) => pen(session, 'mouseMoved', x, y, 1)));
  await busy;
  await page.mouse.up();
  const counts = await page.evaluate(() => (window as unknown as { together: number[] }).together);
  expect(Math.max(...counts)).toBeGreaterThan(5);
  await expectDark(page, 300, 347);
  await expectDark(page, 300, 210, false);
});

test('a learner copies the lantern: toned ground, block-in, and no bare ground left', async ({
  page,
  running,
}) => {
  const board = await studyBegun(page, running.address, 'The lantern');
  // A frame of the same proportions beside it.
  const placements = async () => (await board.standing()).filter((item) => item.kind === 'placement');
  await expect.poll(async () => (await placements()).length).toBe(2);
  const [reference, study] = inOrder(await placements());
  expect(study!.width).toBe(reference!.width);
  expect(study!.pictureWidth / study!.pictureHeight).toBeCloseTo(1.5, 2);
  expect(study!.centre.x - reference!.centre.x).toBeCloseTo(reference!.width * 1.04, 3);
  // The ground is of the mean colour of the reference.
  const response = await fetch(`${running.address}/api/pictures/${reference!.picture}/original`);
  const data = await sharp(Buffer.from(await response.arrayBuffer()))
    .removeAlpha()
    .raw()
    .toBuffer();
  const linear = (value: number) => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4);
  const encoded = (value: number) =>
    255 * (value <= 0.0031308 ? value * 12.92 : 1.055 * value ** (1 / 2.4) - 0.055);
  const mean = [0, 1, 2].map((part) => {
    let sum = 0;
    for (let at = part; at < data.length; at += 3) sum += linear(data[at]! / 255);
    return encoded(sum / (data.length / 3));
  });
  const middle = study!.centre;
  await page.waitForTimeout(600);
  await expect
    .poll(async () =>
      Math.max(...(await colourAt(page, middle)).map((one, part) => Math.abs(one - mean[part]!))),
    )
    .toBeLessThan(6);
  await expect(card(page)).toContainText('100 % bare ground');

  // Block-in: a lasso filled, then the rest by a fill.
  await layer(page, 'colour');
  await choose(page, 'lasso filled');
  const { x, y } = middle;
  await stroke(
    page,
    [x - 100, y - 60],
    [x + 100, y - 60],
    [x + 100, y + 60],
    [x - 100, y + 60],
    [x - 100, y - 50],
  );
  await expectDark(page, x, y);
  await expect(card(page)).toContainText(/(5\d|6\d) % bare ground/);
  await card(page).getByRole('button', { name: 'bare ground' }).click();
  await expect.poll(async () => (await colourAt(page, { x: x - 130, y }))[0]).toBeGreaterThan(180);
  await card(page).getByRole('button', { name: 'bare ground' }).click();
  await choose(page, 'fill');
  const corner = await onPage(page, { x: x - 130, y });
  await page.mouse.click(corner.x, corner.y);
  await expect(card(page)).toContainText('no bare ground left');
  // Paint keeps to the frame: beside it the board is as it was.
  await page.keyboard.press('Escape');
  await newest(board, 2);
  await saved(page);

  // Taken up again it comes to lie beside the card; who works close on it stays there.
  const upAgain = async (camera: Parameters<typeof lookAt>[1]) => {
    await lookAt(page, camera);
    await clickOnBoard(page, middle);
    await page.keyboard.press('Alt+Shift+d');
    await expect(card(page)).toBeVisible();
  };
  await upAgain({ centre: { x: x + 300, y }, scale: 1 });
  const { x: from, width } = (await card(page).boundingBox())!;
  const left = async () => (await onPage(page, { x: x - study!.width / 2, y })).x;
  await expect.poll(left).toBeGreaterThan(from + width);
  await page.keyboard.press('Escape');
  const close = { centre: { x: x + 10, y }, scale: 6 };
  await upAgain(close);
  await page.waitForTimeout(600);
  expect(await cameraOf(page)).toEqual(close);
});

test('what was on a sheet when the browser was killed in the middle of a stroke is there again', async ({
  running,
}) => {
  const sheet = await TestBoard.createSheet(running.address, 'cut off', SHEET);
  const folder = await mkdtemp(join(tmpdir(), 'miradero-profile-'));
  try {
    const first = await launchProfile(folder);
    const page = first.pages()[0]!;
    await openSheet(page, sheet);
    await drawHere(page);
    await choose(page, 'round');
    await stroke(page, [150, 200], [450, 200]);
    const [from, to] = [await onPage(page, { x: 150, y: 300 }), await onPage(page, { x: 450, y: 300 })];
    await page.mouse.move(from.x, from.y);
    await page.mouse.down();
    await page.mouse.move(to.x, to.y, { steps: 10 });
    // So much may be lost, and a busy computer takes longer to write.
    await page.waitForTimeout(1_500);
    await expect(kept(page)).toHaveText('kept on this computer');
    await killBrowser(folder);
    expect(await versionsOf(sheet)).toHaveLength(1);

    const second = await launchProfile(folder);
    const again = second.pages()[0]!;
    await openSheet(again, sheet);
    // Nobody has to take up the pen for it: it is there, and becomes a version.
    await expectDark(again, 300, 200);
    await expectDark(again, 300, 300);
    await newest(sheet, 2);
    await drawHere(again);
    await again.keyboard.press('Control+z');
    await expectDark(again, 300, 300, false);
    await expectDark(again, 300, 200);
    await second.close();
  } finally {
    await rm(folder, { recursive: true, force: true, maxRetries: 5, retryDelay: 200 });
  }
});

test('a server that is killed in the middle of a stroke loses nothing; another browser goes on from the layers', async () => {
  const running = await startRunning();
  const browser = await launchBrowser();
  try {
    const sheet = await TestBoard.createSheet(running.address, 'away', SHEET);
    const page = await (await browser.newContext()).newPage();
    await openSheet(page, sheet);
    await drawHere(page);
    await choose(page, 'round');
    const [from, to] = [await onPage(page, { x: 150, y: 200 }), await onPage(page, { x: 450, y: 200 })];
    await page.mouse.move(from.x, from.y);
    await page.mouse.down();
    await page.mouse.move((from.x + to.x) / 2, from.y, { steps: 6 });
    await running.killServer();
    await page.mouse.move(to.x, to.y, { steps: 6 });
    await page.mouse.up();
    await layer(page, 'ink');
    await stroke(page, [150, 300], [450, 300]);
    await page.keyboard.press('Escape');
    await expectDark(page, 440, 200);
    await running.startServer();
    await newest(sheet, 2);

    const other = await (await browser.newContext()).newPage();
    await openSheet(other, sheet);
    await expectDark(other, 440, 200);
    await expectDark(other, 440, 300);
    await drawHere(other);
    await card(other).getByRole('button', { name: 'Hide ink' }).click();
    await expectDark(other, 440, 300, false);
    await expectDark(other, 440, 200);
    await other.keyboard.press('Control+z');
    await expectDark(other, 440, 300);
  } finally {
    await browser.close();
    await running.stop();
  }
});

test('a colour is picked with a key held, also by a press, and one draws on with it; without a ground one sees through', async ({
  page,
  running,
}) => {
  const board = await studyBegun(page, running.address, 'picked');
  await expect.poll(async () => (await board.standing()).length).toBe(2);
  const [reference, study] = inOrder(await board.standing());
  const at = await onPage(page, { x: reference!.centre.x - 60, y: reference!.centre.y + 40 });
  const wanted = await colourAt(page, { x: reference!.centre.x - 60, y: reference!.centre.y + 40 });
  await choose(page, 'round');
  await page.mouse.move(at.x, at.y);
  await page.keyboard.down('k');
  await page.mouse.move(at.x + 1, at.y);
  await expect(card(page)).toHaveCount(0);
  await expect(page.getByText(/^#[0-9a-f]{6}$/).first()).toBeVisible();
  await page.mouse.click(at.x + 1, at.y);
  await page.waitForTimeout(400);
  await page.keyboard.up('k');
  await expect(card(page)).toBeVisible();
  const picked = async () => {
    const hex = await card(page).getByLabel('Colour to paint with').inputValue();
    return [1, 3, 5].map((start) => Number.parseInt(hex.slice(start, start + 2), 16));
  };
  const far = (one: readonly number[], other: readonly number[]) =>
    Math.max(...[0, 1, 2].map((part) => Math.abs(one[part]! - other[part]!)));
  await expect.poll(async () => far(await picked(), wanted)).toBeLessThan(4);
  const { x, y } = study!.centre;
  await stroke(page, [x - 80, y], [x + 80, y]);
  await expect.poll(async () => far(await colourAt(page, study!.centre), wanted)).toBeLessThan(4);

  // The newest version, with its ground, must not be seen below.
  const beside = { x, y: y + study!.width * 0.4 };
  const desk = await colourAt(page, beside);
  await layer(page, 'ground');
  await card(page).getByRole('button', { name: 'none', exact: true }).click();
  const bare = () => colourAt(page, { x, y: y + 50 });
  await expect.poll(async () => far(await bare(), desk)).toBeLessThan(3);
  await expect.poll(async () => far(await colourAt(page, study!.centre), wanted)).toBeLessThan(4);
  // Where one can draw is still seen.
  const edge = { x: x - study!.width / 2, y };
  expect(far(await colourAt(page, edge), desk)).toBeGreaterThan(30);
  // The picture is looked up for one that is painted under: what was asked for after it stays.
  await card(page).evaluate((element) => {
    const press = (word: string) =>
      [...element.querySelectorAll('button')].find(({ textContent }) => textContent === word)!.click();
    press('painted under, cool');
    press('white');
  });
  const white = [255, 255, 255];
  await expect.poll(async () => far(await bare(), white)).toBeLessThan(3);
  await page.waitForTimeout(2_000);
  expect(far(await bare(), white)).toBeLessThan(3);
});

test('a part is taken, moved and turned, made room around; layers go up and down and are merged', async ({
  page,
  running,
}) => {
  await sheetDrawnOn(page, running.address, 'parts');
  await choose(page, 'round');
  await stroke(page, [150, 200], [250, 200]);
  await choose(page, 'move a part');
  await stroke(page, [130, 160], [270, 160], [270, 240], [130, 240], [130, 170]);
  await expect(card(page)).toContainText('the knob turns it');
  await stroke(page, [200, 200], [300, 400]);
  await expectDark(page, 200, 200, false);
  await expectDark(page, 300, 400);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+z');
  await expectDark(page, 200, 200);
  await expectDark(page, 300, 400, false);
  // All of the layer by keys: carried, taken away, and taken back.
  await page.keyboard.press('Control+a');
  await expect(card(page)).toContainText('the knob turns it');
  for (let press = 0; press < 5; press += 1) await page.keyboard.press('Shift+ArrowDown');
  await expectDark(page, 200, 250);
  // Escape first puts it back where it was; the drawing goes on.
  await page.keyboard.press('Escape');
  await expectDark(page, 200, 250, false);
  await expectDark(page, 200, 200);
  await expect(card(page)).toBeVisible();
  await page.keyboard.press('Control+a');
  await expect(card(page)).toContainText('the knob turns it');
  for (let press = 0; press < 5; press += 1) await page.keyboard.press('Shift+ArrowDown');
  await expectDark(page, 200, 250);
  await page.keyboard.press('Delete');
  await expectDark(page, 200, 250, false);
  await expectDark(page, 200, 200, false);
  await page.keyboard.press('Control+z');
  await expectDark(page, 200, 200);
  await page.keyboard.press('Delete');
  await expect(page.getByText('Nothing of the drawing is taken up.')).toBeVisible();
  // Nothing is taken where nothing is.
  await stroke(page, [600, 160], [700, 160], [700, 240], [600, 240]);
  await expect(page.getByText('Nothing is painted there')).toBeVisible();
  await page.keyboard.press('Escape');
  // From corner to corner, where a rectangle is chosen.
  await choose(page, 'a rectangle');
  await stroke(page, [130, 160], [270, 240]);
  await expect(card(page)).toContainText('the knob turns it');
  await page.keyboard.press('Escape');
  await expect(card(page)).toContainText('Draw around a part of the layer');
  // Who leaves puts it down.
  await page.keyboard.press('Control+a');
  await expect(card(page)).toContainText('the knob turns it');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await expectDark(page, 200, 220);
  await card(page).getByRole('button', { name: 'done' }).click();
  await expect(card(page)).toHaveCount(0);
  await drawHere(page);
  await expect(card(page)).toContainText('Draw around a part of the layer');
  await expectDark(page, 200, 220);
  await page.keyboard.press('Control+z');
  await expectDark(page, 200, 200);
  await expectDark(page, 200, 220, false);
  await choose(page, 'freely');

  await byName(page, 'make room around the drawing');
  // 200, 200 from the middle at 500, 350.
  await expectDark(page, 500 - 270, 350 - 135);
  await choose(page, 'round');
  await layer(page, 'shadow');
  await expect(card(page).getByRole('button', { name: 'merge down' })).toBeDisabled();
  await layer(page, 'colour');
  await card(page).getByRole('button', { name: 'merge down' }).click();
  await expect(card(page).getByRole('button', { name: /^colour/ })).toHaveCount(0);
  await card(page).getByRole('button', { name: 'Hide sketch' }).click();
  await expectDark(page, 500 - 270, 350 - 135, false);
  const at = await onPage(page, { x: 300, y: 500 });
  await page.mouse.click(at.x, at.y);
  await expect(page.getByText('“sketch” is hidden')).toBeVisible();
});

test('without room on the disk no drawing is begun: it is said so, and one can once there is some', async ({
  page,
  running,
}) => {
  const sheet = await TestBoard.createSheet(running.address, 'full', SHEET);
  await openSheet(page, sheet);
  const session = await page.context().newCDPSession(page);
  const origin = running.address;
  await session.send('Storage.overrideQuotaForOrigin', { origin, quotaSize: 1 });
  await page.keyboard.press('Alt+Shift+d');
  await expect(page.getByText(/no room|It cannot be kept/).first()).toBeVisible();
  await expect(card(page)).toHaveCount(0);
  await session.send('Storage.overrideQuotaForOrigin', { origin });
  await drawHere(page);
  await choose(page, 'round');
  await stroke(page, [150, 300], [450, 300]);
  await expectDark(page, 300, 300);
});

test('a study that stands twice is drawn on where the hand is, and both are seen to alter', async ({
  page,
  running,
}) => {
  const board = await studyBegun(page, running.address, 'twice');
  await expect.poll(async () => (await board.standing()).length).toBe(2);
  const [, study] = inOrder(await board.standing());
  const copy = { ...study!, id: 'copy', centre: { x: study!.centre.x, y: study!.centre.y + 220 } };
  await board.change([{ create: copy }]);
  await lookAt(page, { centre: { x: study!.centre.x - 60, y: study!.centre.y + 110 }, scale: 1 });
  await choose(page, 'round');
  for (const { centre: drawn } of [copy, study!]) {
    await expect.poll(async () => isDark(await colourAt(page, drawn))).toBe(false);
    await stroke(page, [drawn.x - 60, drawn.y], [drawn.x + 60, drawn.y]);
    for (const { centre } of [study!, copy]) await expectDark(page, centre.x + 30, centre.y);
    await page.keyboard.press('Control+z');
    for (const { centre } of [study!, copy]) await expectDark(page, centre.x + 30, centre.y, false);
  }
});

test('a sheet too large, and one that another window has, are told in words', async ({ page, running }) => {
  const large = await TestBoard.createSheet(running.address, 'large', {
    ...SHEET,
    width: 40,
    height: 28,
    ppi: 300,
  });
  await openBoard(page, large);
  await page.keyboard.press('Alt+Shift+d');
  await expect(page.getByText('It has 101 million pixels')).toBeVisible();

  const sheet = await sheetDrawnOn(page, running.address, 'no room');
  const other = await page.context().newPage();
  await openSheet(other, sheet);
  await other.keyboard.press('Alt+Shift+d');
  await expect(other.getByText('It is being drawn on in another window')).toBeVisible();
  await other.close();
});
