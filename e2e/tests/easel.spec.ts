import { mkdtemp, open, rename, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Drawing, Placement } from '@miradero/core/schema';
import type { Page } from '@playwright/test';
import { strToU8, zipSync } from 'fflate';
import sharp from 'sharp';
import {
  byName,
  cameraOf,
  clickOnBoard,
  colourAt,
  dragOnBoard,
  lookAt,
  onPage,
  saved,
  stageReady,
  TestBoard,
} from '../support/board.ts';
import { expectClean } from '../support/clean.ts';
import { drop } from '../support/drops.ts';
import { heavyPicture, testPicture } from '../support/pictures.ts';
import { pictureAt } from '../support/subjects.ts';
import { expect, test } from '../support/test.ts';

const undo = (page: Page) => page.keyboard.press('Control+z');
const corner = (page: Page) => page.getByRole('complementary', { name: 'The sheet' });
const followed = (page: Page) => page.getByRole('region', { name: 'Followed files' });

async function openSheet(page: Page, sheet: TestBoard): Promise<void> {
  await page.goto(sheet.url);
  await stageReady(page);
  await expect(followed(page)).toBeVisible();
}

/** Drops a file of the disk where files are followed. */
async function follow(page: Page, path: string): Promise<void> {
  const { x, y } = (await followed(page).boundingBox())!;
  await drop(page, [path], x + 30, y + 10);
}

async function drawingsOf(sheet: TestBoard): Promise<readonly Drawing[]> {
  const response = await fetch(`${sheet.address}/api/boards/${sheet.id}/drawings`);
  return ((await response.json()) as { drawings: Drawing[] }).drawings;
}
const versionsOf = async (sheet: TestBoard) => (await drawingsOf(sheet))[0]?.versions ?? [];
const drawn = async (sheet: TestBoard) =>
  (await sheet.standing()).find((item): item is Placement => item.kind === 'placement' && !!item.drawing);

test('a sheet is set up with its verdict before it is made; it lies among the sheets and not among the boards', async ({
  page,
  running,
}) => {
  await page.goto(`${running.address}/easel`);
  await page.getByRole('button', { name: 'Set up a sheet' }).click();
  const sheet = page.getByRole('dialog');
  const says = sheet.getByRole('status');
  await expect(says).toContainText('4,800 × 3,840 px');
  await expect(says).toContainText('enough for print up to 16 × 12.8 in at 300 ppi');
  await sheet.getByLabel('Resolution', { exact: true }).fill('72');
  await expect(says).toContainText('864 × 691 px');
  await expect(says).toContainText('not enough for 8 × 10 in at 300 ppi: that needs 3,000 × 2,400 px');
  await expect(says).toContainText('72 ppi is what screens were once said to have');
  await sheet.getByLabel('Width', { exact: true }).fill('9000');
  await expect(sheet.getByRole('alert')).toContainText('at most 30,000 px a side');
  await sheet.getByRole('combobox', { name: 'paper' }).selectOption('A4');
  await sheet.getByLabel('Resolution', { exact: true }).fill('300');
  // A4 on its side: 297 × 210 mm, told in inches as before.
  await expect(says).toContainText('3,508 × 2,480 px');
  await sheet.getByRole('radio', { name: 'mm', exact: true }).click();
  await expect(sheet.getByLabel('Width', { exact: true })).toHaveValue('297');
  await sheet.getByRole('button', { name: 'Set it up' }).click();
  await expect(sheet.getByRole('alert')).toContainText('Give the sheet a name first.');
  await sheet.getByLabel('What is drawn on it?').fill('The winch house');
  await page.keyboard.press('Enter');

  await expect(corner(page)).toContainText('297 × 210 mm at 300 ppi, 3,508 × 2,480 px');
  await expect(corner(page)).toContainText('enough for print up to 11.69 × 8.26 in');
  await expect(page.getByText('An empty board')).toHaveCount(0);
  await page.goto(`${running.address}/boards`);
  await expect(page.getByRole('heading', { name: 'Boards', exact: true })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Open The winch house' })).toHaveCount(0);
  await page.getByRole('link', { name: 'Easel', exact: true }).click();
  await expect(page.getByRole('link', { name: 'Open The winch house' })).toBeVisible();
});

test('a file of another program is followed: saved whole, in pieces, renamed over, deleted and back, over a reload', async ({
  page,
  running,
}) => {
  test.setTimeout(300_000);
  const sheet = await TestBoard.createSheet(running.address, 'Followed');
  const board = await TestBoard.create(running.address, 'Where it stands, too');
  await openSheet(page, sheet);
  const folder = await mkdtemp(join(tmpdir(), 'miradero-follow-'));
  const path = join(folder, 'winch.jpg');
  try {
    await writeFile(path, await testPicture(71, 1200, 960));
    await follow(page, path);
    await expect.poll(() => versionsOf(sheet)).toHaveLength(1);
    await expect(followed(page)).toContainText('saved');
    // The first one fills the sheet.
    await expect
      .poll(() => drawn(sheet))
      .toMatchObject({ width: 1200, centre: { x: 600, y: 480 }, isFixed: true });
    await saved(page);
    const { id: _, ...placed } = (await drawn(sheet))!;
    await board.change([{ create: { ...placed, id: 'there', isFixed: false } }]);

    // Whole, on a board that nobody has open, too.
    await writeFile(path, await testPicture(72, 1200, 960));
    await expect.poll(() => versionsOf(sheet)).toHaveLength(2);
    const second = (await versionsOf(sheet))[0]!.picture;
    await expect.poll(async () => (await drawn(sheet))!.picture).toBe(second);
    await expect.poll(async () => ((await board.item('there')) as Placement).picture).toBe(second);

    // In pieces, slower than a save counts as still.
    const heavy = await heavyPicture(73, 700);
    const file = await open(path, 'w');
    for (const part of [0, 1, 2]) {
      await file.write(heavy.subarray((part * heavy.length) / 3, ((part + 1) * heavy.length) / 3));
      await file.sync();
      await page.waitForTimeout(700);
    }
    await file.close();
    await expect.poll(() => versionsOf(sheet)).toHaveLength(3);

    // Under another name, and renamed over it.
    await writeFile(join(folder, 'saving'), await testPicture(74, 1200, 960));
    await rename(join(folder, 'saving'), path);
    await expect.poll(() => versionsOf(sheet)).toHaveLength(4);

    await rm(path);
    await expect(followed(page)).toContainText('it is not there any more');
    await writeFile(path, await testPicture(75, 1200, 960));
    await expect.poll(() => versionsOf(sheet)).toHaveLength(5);
    await expect(followed(page)).toContainText('saved');

    // What is no picture is none, and what was there stays.
    await writeFile(path, 'no picture at all');
    await expect(followed(page).getByRole('status')).toContainText('This is nothing that can be taken in');
    await writeFile(path, await testPicture(76, 1200, 960));
    await expect.poll(() => versionsOf(sheet)).toHaveLength(6);

    await page.reload();
    await expect(followed(page)).toContainText('winch.jpg');
    await writeFile(path, await testPicture(77, 1200, 960));
    await expect.poll(() => versionsOf(sheet)).toHaveLength(7);

    await followed(page).getByRole('button', { name: 'Follow winch.jpg no more' }).click();
    await expect(followed(page)).not.toContainText('saved');
    expect(await drawn(sheet)).toBeDefined();
  } finally {
    await rm(folder, { recursive: true });
  }
});

test('the merged picture of an OpenRaster file is followed', async ({ page, running }) => {
  const sheet = await TestBoard.createSheet(running.address, 'Layers');
  await openSheet(page, sheet);
  const folder = await mkdtemp(join(tmpdir(), 'miradero-follow-'));
  const path = join(folder, 'winch.ora');
  const merged = await sharp(await testPicture(81, 600, 480))
    .png()
    .toBuffer();
  const archive = zipSync({
    mimetype: [strToU8('image/openraster'), { level: 0 }],
    'stack.xml': strToU8('<image w="600" h="480"><stack/></image>'),
    'mergedimage.png': [new Uint8Array(merged), { level: 0 }],
  });
  try {
    await writeFile(path, archive);
    await follow(page, path);
    await expect.poll(() => versionsOf(sheet)).toHaveLength(1);
    await expect.poll(() => drawn(sheet)).toMatchObject({ pictureWidth: 600, pictureHeight: 480 });
  } finally {
    await rm(folder, { recursive: true });
  }
});

test('of two windows one follows; when it is closed the other goes on, and the drawing stands once', async ({
  page,
  running,
}) => {
  const sheet = await TestBoard.createSheet(running.address, 'In two windows');
  await openSheet(page, sheet);
  const folder = await mkdtemp(join(tmpdir(), 'miradero-follow-'));
  const path = join(folder, 'winch.jpg');
  try {
    await writeFile(path, await testPicture(85, 1200, 960));
    await follow(page, path);
    await expect.poll(() => versionsOf(sheet)).toHaveLength(1);
    const other = await page.context().newPage();
    await openSheet(other, sheet);
    await expect(followed(other)).toContainText('another window follows it');
    await writeFile(path, await testPicture(86, 1200, 960));
    await expect.poll(() => versionsOf(sheet)).toHaveLength(2);
    await page.close();
    await expect(followed(other)).toContainText('saved');
    await writeFile(path, await testPicture(87, 1200, 960));
    await expect.poll(() => versionsOf(sheet)).toHaveLength(3);
    await saved(other);
    expect((await sheet.standing()).filter(({ kind }) => kind === 'placement')).toHaveLength(1);
  } finally {
    await rm(folder, { recursive: true });
  }
});

test('versions are looked at in the place of the drawing, and one is let stand beside the sheet', async ({
  page,
  running,
}) => {
  const sheet = await TestBoard.createSheet(running.address, 'Versions');
  await openSheet(page, sheet);
  const folder = await mkdtemp(join(tmpdir(), 'miradero-follow-'));
  const path = join(folder, 'winch.jpg');
  try {
    await writeFile(path, await testPicture(91, 1200, 960));
    await follow(page, path);
    await expect.poll(() => versionsOf(sheet)).toHaveLength(1);
    await writeFile(path, await testPicture(92, 1200, 960));
    await expect.poll(() => versionsOf(sheet)).toHaveLength(2);
    await page.getByRole('button', { name: 'Versions of winch.jpg' }).click();
    const strip = page.getByRole('region', { name: 'Versions of winch.jpg' });
    const first = strip.getByRole('button', { name: /^Version 1,/ });
    await expect(first).toBeEnabled();
    const shown = () =>
      page.evaluate(() => {
        const { feed } = window.miraderoStage!;
        const [id] = feed.board.previewed;
        const item = id === undefined ? undefined : feed.board.shown(id);
        return item && 'picture' in item ? item.picture : undefined;
      });
    expect(await shown()).toBeUndefined();
    await first.hover();
    const [newest, oldest] = await versionsOf(sheet);
    await expect.poll(shown).toBe(oldest!.picture);
    await page.mouse.move(400, 200);
    await expect.poll(shown).toBeUndefined();
    await expect.poll(async () => (await drawn(sheet))!.picture).toBe(newest!.picture);

    await first.focus();
    await page.keyboard.press('Enter');
    await saved(page);
    const beside = (await sheet.standing()).find((item) => item.kind === 'placement' && !item.drawing);
    expect(beside).toMatchObject({ picture: oldest!.picture, width: 1200 });
    expect(beside!.centre.x - 600).toBeGreaterThan(1200);
    await undo(page);
    await expect
      .poll(async () => (await sheet.standing()).filter(({ kind }) => kind === 'placement'))
      .toHaveLength(1);

    // A page that knows the newest alone shows the pixels of each, also straight from one to the other.
    await page.reload();
    await stageReady(page);
    const at = { x: 1_000, y: 300 };
    const seen = async () => (await colourAt(page, at)).join();
    const now = await seen();
    await page.getByRole('button', { name: 'Versions of winch.jpg' }).click();
    await first.hover();
    const pixel = { left: at.x, top: at.y, width: 1, height: 1 };
    const wanted = await sharp(await testPicture(91, 1200, 960))
      .extract(pixel)
      .raw()
      .toBuffer();
    await expect
      .poll(async () =>
        Math.max(...(await colourAt(page, at)).map((one, part) => Math.abs(one - wanted[part]!))),
      )
      .toBeLessThan(12);
    await strip.getByRole('button', { name: /^Version 2,/ }).hover();
    await expect.poll(seen).toBe(now);
  } finally {
    await rm(folder, { recursive: true });
  }
});

test('the sheet is seen whole while one works close, and no hand takes the paper', async ({
  page,
  running,
}) => {
  const sheet = await TestBoard.createSheet(running.address, 'Whole');
  await sheet.place([61]);
  await openSheet(page, sheet);
  const whole = corner(page).getByRole('img', { name: 'The whole sheet' });
  const { x, y, width, height } = (await whole.boundingBox())!;
  await page.mouse.click(x + width / 4, y + height / 4);
  const centre = () => page.evaluate(() => window.miraderoStage!.camera.centre);
  await expect.poll(async () => Math.round((await centre()).x / 10)).toBe(30);
  await expect.poll(async () => Math.round((await centre()).y / 10)).toBe(24);

  await page.keyboard.press('Home');
  await page.getByRole('application', { name: 'Board' }).focus();
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.press('Delete');
  await saved(page);
  const left = await sheet.standing();
  expect(left.map(({ kind }) => kind)).toEqual(['sheet']);
  await undo(page);
  await expect.poll(async () => (await sheet.standing()).length).toBe(2);
});

test('guides come from the rulers; placing catches to them, and undo takes them back', async ({
  page,
  running,
}) => {
  const sheet = await TestBoard.createSheet(running.address, 'Guides');
  await sheet.place([62]);
  await openSheet(page, sheet);
  await page.keyboard.press('Shift+R');
  const ruler = (await page.locator('[data-ruler=y]').boundingBox())!;
  // From the ruler along the left comes an upright one.
  const target = await onPage(page, { x: 800, y: 500 });
  await page.mouse.move(ruler.x + 8, ruler.y + 300);
  await page.mouse.down();
  await page.mouse.move(target.x, target.y, { steps: 6 });
  await page.mouse.up();
  const guides = async () =>
    ((await sheet.item('sheet')) as unknown as { guides: { x: number[]; y: number[] } }).guides;
  await expect.poll(async () => (await guides()).x.length).toBe(1);
  const [at] = (await guides()).x;
  expect(Math.abs(at! - 800)).toBeLessThan(4);

  // Its right edge is let go a little beside the line, and lies on it.
  const [standing] = (await sheet.standing()).filter((item) => item.kind === 'placement');
  const { centre, width } = standing!;
  const near = { x: at! - (centre.x + width / 2) + 6, y: 230 };
  await dragOnBoard(page, centre, { x: centre.x + near.x, y: centre.y + near.y });
  await saved(page);
  const moved = await sheet.item(standing!.id);
  expect(moved.centre.x + width / 2).toBeCloseTo(at!, 6);

  await undo(page);
  await undo(page);
  await expect.poll(guides).toEqual({ x: [], y: [] });

  // With the keyboard alone: a ruler gives one, arrows move it, Delete takes it away.
  await page.getByRole('button', { name: 'Ruler: a new level guide' }).focus();
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await guides()).y.length).toBe(1);
  const [middle] = (await guides()).y;
  await page.getByRole('slider', { name: 'Level guide' }).focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('ArrowLeft');
  await expect.poll(async () => (await guides()).y).toEqual([middle! + 11]);
  await page.keyboard.press('Delete');
  await expect.poll(guides).toEqual({ x: [], y: [] });
});

test('a picture is pinned: it stays while the board moves, zooms for itself by wheel and by one pen, and goes by the key that pinned it', async ({
  page,
  running,
}) => {
  const sheet = await TestBoard.createSheet(running.address, 'Pinned');
  await sheet.place([67]);
  await openSheet(page, sheet);
  await page.keyboard.press('Shift+Z');
  await expect(page.getByText('Select a picture, or point at one')).toBeVisible();
  await clickOnBoard(page, { x: 0, y: 0 });
  await page.keyboard.press('Shift+Z');
  const pinned = page.getByRole('region', { name: 'Pinned: picture 67' });
  await expect(pinned).toBeVisible();
  const before = (await pinned.boundingBox())!;
  const shown = () =>
    pinned.locator('canvas').evaluate((canvas) => {
      const { width, height } = canvas as HTMLCanvasElement;
      const context = (canvas as HTMLCanvasElement).getContext('2d')!;
      // The light square of the picture: how much of what is seen it is.
      const { data } = context.getImageData(0, 0, width, height);
      let light = 0;
      for (let at = 0; at < data.length; at += 4)
        if (data[at + 3] === 255 && data[at]! + data[at + 1]! + data[at + 2]! > 540) light += 1;
      return light / (data.length / 4);
    });
  await expect.poll(shown).toBeGreaterThan(0.05);
  await lookAt(page, { centre: { x: 4_000, y: 4_000 }, scale: 0.3 });
  const camera = await cameraOf(page);
  expect((await pinned.boundingBox())!).toEqual(before);
  // The wheel zooms it alone.
  const share = await shown();
  await page.mouse.move(before.x + 0.25 * before.width, before.y + 0.3 * before.height);
  await page.mouse.wheel(0, -400);
  await expect.poll(shown).toBeGreaterThan(share * 1.5);
  expect(await cameraOf(page)).toEqual(camera);
  // One pen, along its edge.
  const larger = await shown();
  const edge = (await pinned.locator('[data-pinned-zoom]').boundingBox())!;
  const session = await page.context().newCDPSession(page);
  const pen = (type: string, y: number) =>
    session.send('Input.dispatchMouseEvent', {
      type: type as 'mousePressed',
      ...{ x: edge.x + 8, y, button: 'left', buttons: 1, clickCount: 1, pointerType: 'pen' },
    });
  await pen('mousePressed', edge.y + 20);
  for (const step of [40, 80, 120]) await pen('mouseMoved', edge.y + 20 + step);
  await pen('mouseReleased', edge.y + 140);
  await expect.poll(shown).toBeLessThan(larger * 0.8);
  const all = async () => {
    await pinned.getByRole('button', { name: 'all of it' }).click();
    await expect.poll(async () => Math.abs((await shown()) - share)).toBeLessThan(0.02);
  };
  await all();
  // Two fingers, apart and together again: the board stays.
  const middle = { x: before.x + 0.3 * before.width, y: before.y + 0.35 * before.height };
  const fingers = (type: 'touchStart' | 'touchMove' | 'touchEnd', apart?: number) =>
    session.send('Input.dispatchTouchEvent', {
      type,
      touchPoints:
        apart === undefined ? [] : [-apart, apart].map((dx, id) => ({ x: middle.x + dx, y: middle.y, id })),
    });
  await fingers('touchStart', 15);
  for (const apart of [20, 26, 32]) await fingers('touchMove', apart);
  await expect.poll(shown).toBeGreaterThan(share * 1.5);
  for (const apart of [26, 20, 15]) await fingers('touchMove', apart);
  await fingers('touchEnd');
  await expect.poll(async () => Math.abs((await shown()) - share)).toBeLessThan(0.03);
  expect(await cameraOf(page)).toEqual(camera);
  await all();

  // Moved by the mouse and by arrows, made larger by its corner.
  const head = pinned.getByRole('button', { name: 'Move picture 67' });
  const { x, y } = (await head.boundingBox())!;
  await page.mouse.move(x + 20, y + 8);
  await page.mouse.down();
  await page.mouse.move(x + 220, y + 108, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => (await pinned.boundingBox())!.x - before.x).toBe(200);
  await head.press('ArrowRight');
  await expect.poll(async () => (await pinned.boundingBox())!.x - before.x).toBe(216);
  const corner = (await pinned.locator('[data-pinned-size]').boundingBox())!;
  await page.mouse.move(corner.x + 10, corner.y + 10);
  await page.mouse.down();
  await page.mouse.move(corner.x + 90, corner.y + 60, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => (await pinned.boundingBox())!.width - before.width).toBe(80);

  await page.getByRole('application', { name: 'Board' }).focus();
  await page.keyboard.press('Shift+Z');
  await expect(pinned).toHaveCount(0);
});

test('a colour is picked while a key is held: copied as hex, at hand in the corner, and the hand goes on', async ({
  page,
  running,
}) => {
  const sheet = await TestBoard.createSheet(running.address, 'Picked');
  await sheet.place([69]);
  await openSheet(page, sheet);
  await page.evaluate(() => {
    navigator.clipboard.writeText = (text) => {
      (window as { copiedHere?: string }).copiedHere = text;
      return Promise.resolve();
    };
  });
  const { x, y } = await onPage(page, { x: 0, y: 0 });
  await page.mouse.move(x, y);
  await page.keyboard.down('k');
  await expect(page.getByTestId('colour-card')).toContainText('#');
  await page.waitForTimeout(400);
  await page.keyboard.up('k');
  await expect(page.getByTestId('colour-card')).toHaveCount(0);
  const copied = () => page.evaluate(() => (window as { copiedHere?: string }).copiedHere);
  await expect.poll(copied).toMatch(/^#[0-9a-f]{6}$/);
  const hex = await copied();
  await expect(page.getByText(`Picked and copied: ${hex}.`)).toBeVisible();
  await expect(corner(page).getByRole('button', { name: `Copy ${hex}` })).toBeVisible();
  // A tap takes the tool, as ever.
  await page.keyboard.press('k');
  await expect(page.getByTestId('colour-card')).toBeVisible();
});

test('references are hidden while a key is held, and for good by a tap; the drawing is knocked back', async ({
  page,
  running,
}) => {
  const sheet = await TestBoard.createSheet(running.address, 'Over it');
  const [placement] = await sheet.place([68]);
  await openSheet(page, sheet);
  const isPainted = () => page.evaluate((id) => window.miraderoStage!.feed.isSeen(id), placement!.id);
  expect(await isPainted()).toBe(true);
  await page.keyboard.down('Shift');
  await page.keyboard.down('W');
  await expect.poll(isPainted).toBe(false);
  await page.waitForTimeout(600);
  await page.keyboard.up('W');
  await page.keyboard.up('Shift');
  await expect.poll(isPainted).toBe(true);
  await page.keyboard.press('Shift+W');
  await expect.poll(isPainted).toBe(false);
  await page.keyboard.press('Shift+W');
  await expect.poll(isPainted).toBe(true);

  await page.keyboard.press('Shift+Q');
  await expect(page.getByText('There is no drawing here to knock back.')).toBeVisible();
  const drawing = '00000000-0000-4000-8000-000000000001';
  await sheet.change([{ item: placement!.id, set: { drawing } }]);
  await expect
    .poll(() =>
      page.evaluate((id) => {
        const item = window.miraderoStage!.feed.board.items.get(id);
        return item && 'drawing' in item ? item.drawing : undefined;
      }, placement!.id),
    )
    .toBe(drawing);
  await page.keyboard.press('Shift+Q');
  await expect.poll(async () => (await sheet.item(placement!.id)).opacity).toBe(0.35);
  await page.keyboard.press('Shift+Q');
  await expect.poll(async () => (await sheet.item(placement!.id)).opacity).toBe(1);
});

test('a reference is multiplied with what is below it, under the hand, too, and taken back by one undo', async ({
  page,
  running,
}) => {
  const sheet = await TestBoard.createSheet(running.address, 'Multiplied');
  const plain = (colour: string) =>
    sharp({ create: { width: 400, height: 300, channels: 3, background: colour } })
      .png()
      .toBuffer();
  const [below, above] = await sheet.placeFiles(
    [
      { id: 'below', name: 'below.png', bytes: await plain('rgb(200, 120, 255)') },
      { id: 'above', name: 'above.png', bytes: await plain('rgb(128, 255, 51)') },
    ],
    400,
  );
  const at = (x: number, y: number) => ({ centre: { x, y } });
  await sheet.change([
    { item: below!.id, set: at(300, 300) },
    { item: above!.id, set: at(400, 300) },
  ]);
  await openSheet(page, sheet);
  await lookAt(page, { centre: { x: 350, y: 300 }, scale: 1 });
  const both = { x: 420, y: 380 };
  await expect.poll(() => colourAt(page, both)).toEqual([128, 255, 51]);
  await clickOnBoard(page, { x: 500, y: 200 });
  await byName(page, 'multiply');
  // Source: W3C Compositing and Blending Level 1, section 10.1.2.
  const multiplied = [200, 120, 255].map((value, band) => Math.round((value * [128, 255, 51][band]!) / 255));
  const isNear = async (point: { x: number; y: number }, colour: readonly number[]) =>
    (await colourAt(page, point)).every((value, band) => Math.abs(value - colour[band]!) <= 1);
  await expect.poll(() => isNear(both, multiplied)).toBe(true);
  // Over white paper it is itself.
  await expect.poll(() => isNear({ x: 560, y: 300 }, [128, 255, 51])).toBe(true);
  await saved(page);
  expect(await sheet.item(above!.id)).toMatchObject({ blend: 'multiply' });

  const start = await onPage(page, { x: 520, y: 300 });
  await page.mouse.move(start.x, start.y);
  await page.mouse.down();
  await page.mouse.move(start.x - 40, start.y + 30, { steps: 6 });
  await expect.poll(() => isNear({ x: 200, y: 380 }, multiplied)).toBe(true);
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await undo(page);
  await expect.poll(() => colourAt(page, both)).toEqual([128, 255, 51]);
});

test('a photograph of paper becomes the drawing, the next one its next version; undo takes it off', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'No sheet');
  const sheet = await TestBoard.createSheet(running.address, 'On paper');
  const [first, second] = await sheet.place([93, 94]);
  await sheet.change(
    [first, second].map((one, index) => ({
      item: one!.id,
      set: {
        centre: { x: -400, y: 300 + 400 * index },
        ...(index === 1 && { trim: { x: 0.1, y: 0, width: 0.5, height: 1 } }),
      },
    })),
  );
  await openSheet(page, sheet);
  await lookAt(page, { centre: { x: 0, y: 500 }, scale: 0.5 });
  await byName(page, 'as the drawing');
  await expect(page.getByText('Select the one photograph that shows the drawing.')).toBeVisible();
  await clickOnBoard(page, { x: -400, y: 300 });
  await byName(page, 'as the drawing');
  await expect(page.getByText('This is the drawing now.')).toBeVisible();
  await saved(page);
  await expect.poll(() => versionsOf(sheet)).toHaveLength(1);
  expect((await versionsOf(sheet))[0]!.picture).toBe(first!.picture);
  expect(await drawn(sheet)).toMatchObject({ id: first!.id, centre: { x: 600, y: 480 }, isFixed: true });

  await clickOnBoard(page, { x: -400, y: 700 });
  await byName(page, 'as the drawing');
  await expect.poll(() => versionsOf(sheet)).toHaveLength(2);
  await saved(page);
  expect(await drawn(sheet)).toMatchObject({ id: first!.id, picture: second!.picture, trim: { width: 0.5 } });
  expect(await sheet.item(second!.id)).toMatchObject({ removed: true });
  await expect(page.getByRole('button', { name: 'Versions of On paper' })).toHaveText('2 versions');
  await undo(page);
  await saved(page);
  expect(await drawn(sheet)).toMatchObject({ picture: first!.picture });
  expect(await sheet.item(second!.id)).toMatchObject({ removed: false });

  await page.goto(board.url);
  await stageReady(page);
  await byName(page, 'as the drawing');
  await expect(page.getByText('On a sheet of the easel a photograph')).toBeVisible();
});

test('a picture and the working set stand beside the sheet, each with its own camera and lens', async ({
  page,
  running,
}) => {
  const sheet = await TestBoard.createSheet(running.address, 'With references');
  const placed = await sheet.place([91, 92]);
  await sheet.change(
    placed.map(({ id }, index) => ({ item: id, set: { centre: { x: 300 + 400 * index, y: 300 } } })),
  );
  await openSheet(page, sheet);
  await byName(page, 'what is selected, beside');
  await expect(page.getByText('Select what is to stand beside this board.')).toBeVisible();
  await lookAt(page, { centre: { x: 500, y: 300 }, scale: 0.5 });
  await clickOnBoard(page, { x: 300, y: 300 });
  await byName(page, 'what is selected, beside');
  const stages = page.locator('.stage');
  await expect(stages).toHaveCount(2);
  const { name } = (await pictureAt(running.address, placed[0]!.picture))!;
  const beside = page.getByRole('region', { name, exact: true });
  await expect(beside).toBeVisible();
  const box = (await beside.boundingBox())!;
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };

  // Pressed it is in front: keys and the wheel are its, and the sheet stays as it is.
  const scaleNow = () => page.evaluate(() => window.miraderoStage!.camera.scale);
  expect(await scaleNow()).toBe(0.5);
  await page.mouse.click(middle.x, middle.y);
  await expect(beside.locator('[data-front]')).toBeVisible();
  const fitted = await scaleNow();
  await page.mouse.wheel(0, -300);
  await expect.poll(scaleNow).toBeGreaterThan(fitted);
  // A drag pans here and moves nothing on the sheet.
  await page.keyboard.press('Escape');
  await page.mouse.down();
  await page.mouse.move(middle.x + 60, middle.y + 30, { steps: 4 });
  await page.mouse.up();
  await page.keyboard.press('Shift+V');
  await saved(page);
  expect(await sheet.item(placed[0]!.id)).toMatchObject({ centre: { x: 300, y: 300 } });
  await page.mouse.click(box.x - 200, box.y + box.height - 60);
  expect(await scaleNow()).toBe(0.5);

  // A colour is picked where the pointer is, whatever is in front, and said there.
  await page.evaluate(() => {
    navigator.clipboard.writeText = () => Promise.resolve();
  });
  await page.mouse.move(middle.x, middle.y);
  await page.keyboard.down('k');
  await expect(page.getByTestId('colour-card')).toContainText('#');
  await page.waitForTimeout(400);
  await page.keyboard.up('k');
  await expect(beside.getByText(/Picked and copied: #/)).toBeVisible();
  await expect(beside.locator('[data-front]')).toHaveCount(0);

  // The working set, in a third; a reload shows the same, and what no longer stands is said to be gone.
  await byName(page, 'the working set, beside');
  await expect(page.getByText('This board has no working set yet.')).toBeVisible();
  await clickOnBoard(page, { x: 700, y: 300 });
  await page.keyboard.press('s');
  await byName(page, 'the working set, beside');
  await expect(stages).toHaveCount(3);
  await saved(page);
  await page.reload();
  await expect(stages).toHaveCount(3);
  await sheet.change([{ item: placed[0]!.id, set: { removed: true } }]);
  await expect(page.getByText('Nothing of it stands on its board now.')).toBeVisible();
  await page.getByRole('button', { name: /Take 0 of With references from beside/ }).click();
  await expect(stages).toHaveCount(2);
  await expect(corner(page)).toBeVisible();
});

test('the paper is changed with what is lost told before, and taken back by one undo', async ({
  page,
  running,
}) => {
  const sheet = await TestBoard.createSheet(running.address, 'Size');
  const [placement] = await sheet.place([63]);
  await openSheet(page, sheet);
  await corner(page).getByRole('button', { name: 'size', exact: true }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('New width').fill('600');
  await expect(dialog.getByRole('status')).toContainText('75 % of its pixels are lost');
  await dialog.getByRole('radio', { name: 'change the paper' }).click();
  await dialog.getByLabel('its proportions stay').uncheck();
  await dialog.getByLabel('New height').fill('960');
  await dialog.getByRole('radio', { name: 'middle right' }).check();
  await expect(dialog.getByRole('status')).toContainText('Off the paper: 600 px left; 50 % of it.');
  await dialog.getByRole('button', { name: 'Change the paper' }).click();
  await expect(corner(page)).toContainText('6 × 9.6 in at 100 ppi, 600 × 960 px');
  await saved(page);
  expect((await sheet.item(placement!.id)).centre.x).toBe(placement!.centre.x - 600);
  await undo(page);
  await expect(corner(page)).toContainText('1,200 × 960 px');
  await expect.poll(async () => (await sheet.item(placement!.id)).centre.x).toBe(placement!.centre.x);

  // Nothing is no size. What it is printed like may alter: its pixels stay.
  await corner(page).getByRole('button', { name: 'size', exact: true }).click();
  await dialog.getByLabel('New width').fill('0');
  await expect(dialog.getByText('A sheet is wider and higher than nothing.')).toBeVisible();
  await dialog.getByRole('radio', { name: 'its print' }).click();
  await dialog.getByLabel('Resolution', { exact: true }).fill('200');
  await dialog.getByLabel('Bleed').fill('0.25');
  await dialog.getByLabel('Width of the print').fill('4');
  await dialog.getByLabel('Height of the print').fill('5');
  await dialog.getByLabel('Resolution of the print').fill('150');
  await expect(dialog.getByRole('status')).toContainText('with its bleed 1,300 × 1,060 px');
  await expect(dialog.getByRole('status')).toContainText('enough for print up to 8 × 6.4 in at 150 ppi');
  await dialog.getByRole('button', { name: 'Keep it' }).click();
  await expect(corner(page)).toContainText('6 × 4.8 in at 200 ppi, 1,200 × 960 px');
  await expect(corner(page)).toContainText('enough for print up to 8 × 6.4 in at 150 ppi');
  await saved(page);
  expect(await sheet.item('sheet')).toMatchObject({ width: 1300, height: 1060, centre: { x: 600, y: 480 } });
  await undo(page);
  await expect(corner(page)).toContainText('12 × 9.6 in at 100 ppi');
});

test('the easel is clean and fits, in both themes at three widths', async ({ page, running }) => {
  test.setTimeout(240_000);
  const sheet = await TestBoard.createSheet(
    running.address,
    'A sheet whose name is longer than there is room for it',
  );
  await sheet.place([64]);
  await page.goto(`${running.address}/easel`);
  await expect(page.getByRole('link', { name: /^Open A sheet whose/ })).toBeVisible();
  await expectClean(page, 'easel');
  await page.getByRole('button', { name: 'Set up a sheet' }).click();
  await expectClean(page, 'set-up', '[role="dialog"]');
  await openSheet(page, sheet);
  const folder = await mkdtemp(join(tmpdir(), 'miradero-follow-'));
  const path = join(folder, 'a drawing whose name is longer than there is room.jpg');
  try {
    await writeFile(path, await testPicture(65, 1200, 960));
    await follow(page, path);
    await expect.poll(() => versionsOf(sheet)).toHaveLength(1);
    await page.getByRole('button', { name: /^Versions of/ }).click();
    await expect(page.getByRole('region', { name: /^Versions of/ })).toBeVisible();
    await page.keyboard.press('Shift+R');
    await expect(page.getByTestId('rulers')).toBeVisible();
    await expectClean(page, 'sheet');
    await corner(page).getByRole('button', { name: 'size', exact: true }).click();
    await expectClean(page, 'size', '[role="dialog"]');
    await page.getByRole('radio', { name: 'its print' }).click();
    await expectClean(page, 'print', '[role="dialog"]');
    const [reference] = (await sheet.standing()).filter(
      (item) => item.kind === 'placement' && !(item as Placement).drawing,
    );
    await page.goto(`${sheet.url}?panes=${sheet.id},items.${sheet.id}.${reference!.id}`);
    await expect(page.getByRole('region', { name: 'picture 64' })).toBeVisible();
    await stageReady(page);
    await expectClean(page, 'beside');
  } finally {
    await rm(folder, { recursive: true });
  }
});
