import { mkdir, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { isCluster, isPlacement } from '@miradero/core/items';
import type { Picture, Placement } from '@miradero/core/schema';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import {
  asGlb,
  asMtl,
  asObjZip,
  asStl,
  asTextStl,
  ball,
  COLOURS,
  DIE,
  die,
  SIDES,
} from '../../core/src/model/test/made-models.ts';
import {
  clickOnBoard,
  colourAt,
  dragOnBoard,
  onPage,
  openBoard,
  saved,
  stageReady,
  TestBoard,
} from '../support/board.ts';
import { drop } from '../support/drops.ts';
import { picturesOf, placementsOf } from '../support/gathering.ts';
import { makeSubject, patchPicture, pictureAt } from '../support/subjects.ts';
import { expect, test } from '../support/test.ts';

/** As models stand here: 640 × 480. */
const WIDTH = 640;

const rgbOf = (hex: string) => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16));
/** The side of a die whose colour is nearest in hue: light alters the value alone. */
function sideOf(colour: readonly number[]): string {
  const direction = (one: readonly number[]) => {
    const length = Math.hypot(...one) || 1;
    return one.map((value) => value / length);
  };
  const seen = direction(colour);
  if (Math.max(...colour) - Math.min(...colour) < 24) return 'grey';
  const away = COLOURS.map((hex) => {
    const wanted = direction(rgbOf(hex));
    return Math.hypot(...wanted.map((value, at) => value - seen[at]!));
  });
  return SIDES[away.indexOf(Math.min(...away))]!;
}
const sideSeen = async (page: Page, at = { x: 0, y: 0 }) => sideOf(await colourAt(page, at));
const shows = (page: Page, side: string, at?: { x: number; y: number }) =>
  expect.poll(() => sideSeen(page, at), { message: side }).toBe(side);
const light = async (page: Page, at = { x: 0, y: 0 }) => Math.max(...(await colourAt(page, at)));

const card = (page: Page) => page.getByTestId('turning-card');
const figure = (page: Page) => page.getByTestId('view-figure');

async function turning(page: Page, address: string, name: string, bytes: Uint8Array) {
  const board = await TestBoard.create(address, name);
  const [placement] = await board.placeFiles([{ id: 'model', name, bytes, poster: await poster() }], WIDTH);
  await openBoard(page, board);
  await clickOnBoard(page, { x: -200, y: 0 });
  await page.keyboard.press('Shift+J');
  await expect(figure(page)).toContainText('40° round, 20° up');
  return { board, model: placement!.picture };
}

/** What stands for a model until it is turned: flat. */
const poster = () =>
  sharp({ create: { width: 1200, height: 900, channels: 3, background: '#60626a' } })
    .webp()
    .toBuffer();

const stillsOf = async (board: TestBoard, model: string): Promise<Placement[]> =>
  (await board.standing()).filter(isPlacement).filter(({ picture }) => picture !== model);
async function pictureOf(address: string, { picture }: Placement): Promise<Picture> {
  return pictureAt(address, picture);
}
/** Drops files that were made here into the middle of a board. */
async function dropMade(page: Page, files: Readonly<Record<string, Uint8Array>>): Promise<void> {
  const paths = Object.entries(files).map(([name, bytes]) => [test.info().outputPath(name), bytes] as const);
  for (const [path, bytes] of paths) {
    await mkdir(dirname(path), { recursive: true });
    await writeFile(path, bytes);
  }
  await drop(
    page,
    paths.map(([path]) => path),
    640,
    400,
  );
}
/** Pixels of a picture's original. */
async function pixelsOf(address: string, picture: string) {
  const bytes = await (await fetch(`${address}/api/pictures/${picture}/original`)).arrayBuffer();
  const { data, info } = await sharp(bytes).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  return {
    ...info,
    at: (x: number, y: number) => [...data.subarray((y * info.width + x) * 3).subarray(0, 3)],
  };
}

for (const [name, bytes] of [
  ['die.glb', asGlb(die())],
  ['die.zip', asObjZip(die())],
] as const)
  test(`${name} shows each of its sides where it is: by a word, by the hand, by arrows`, async ({
    page,
    running,
  }) => {
    await turning(page, running.address, name, bytes);
    for (const [words, side] of [
      ['front', 'front'],
      ['left side', 'left'],
      ['back', 'back'],
      ['right side', 'right'],
      ['from above', 'top'],
      ['from below', 'bottom'],
    ] as const) {
      await card(page).getByRole('button', { name: words, exact: true }).click();
      await shows(page, side);
      await expect(figure(page)).toContainText(words);
    }
    await card(page).getByRole('button', { name: 'front', exact: true }).click();
    await shows(page, 'front');
    // Half the picture's shorter side to the left: a quarter turn.
    await dragOnBoard(page, { x: 120, y: 0 }, { x: -120, y: 0 });
    await expect(figure(page)).toContainText('90° · 0°');
    await shows(page, 'left');
    await page.keyboard.press('Shift+ArrowUp');
    await page.keyboard.press('Shift+ArrowUp');
    await expect(figure(page)).toContainText('from above');
    await shows(page, 'top');
    for (let press = 0; press < 18; press += 1) await page.keyboard.press('ArrowDown');
    await page.keyboard.press('ArrowLeft');
    await expect(figure(page)).toContainText('95° · 0°');
    await shows(page, 'left');
  });

test('a drag moves the light with Shift and the model with Alt; the wheel comes nearer; Escape takes a drag back', async ({
  page,
  running,
}) => {
  await turning(page, running.address, 'lit.glb', asGlb(die()));
  await card(page).getByRole('button', { name: 'front', exact: true }).click();
  await shows(page, 'front');
  const before = await light(page);
  const lit = async (to: { x: number; y: number }) => {
    await page.keyboard.down('Shift');
    await dragOnBoard(page, { x: 0, y: 10 }, to);
    await page.keyboard.up('Shift');
  };
  await lit({ x: 0, y: 0 });
  await expect.poll(() => light(page)).toBeGreaterThan(before + 15);
  await expect(card(page).getByLabel('Light round, from behind you')).toHaveValue('0');
  // At the rim on the right it comes from the side: the front has only what comes from everywhere.
  await lit({ x: 239, y: 0 });
  await expect(card(page).getByLabel('Light round, from behind you')).toHaveValue(/8[0-9]|90/);
  await expect.poll(() => light(page)).toBeLessThan(before - 30);
  await expect(figure(page)).toContainText('front');

  await card(page).getByRole('radio', { name: 'lights' }).click();
  await dragOnBoard(page, { x: 100, y: 0 }, { x: -5, y: 0 });
  await expect.poll(() => light(page)).toBeGreaterThan(before);
  await card(page).getByRole('radio', { name: 'turns' }).click();

  // Where there was nothing of it, there is once it is pushed aside, and more of it once it is near.
  await shows(page, 'grey', { x: -250, y: 0 });
  await page.keyboard.down('Alt');
  await dragOnBoard(page, { x: 0, y: 0 }, { x: -150, y: 0 });
  await page.keyboard.up('Alt');
  await shows(page, 'front', { x: -250, y: 0 });
  await shows(page, 'grey', { x: 60, y: 100 });
  await card(page).getByRole('button', { name: 'whole' }).click();
  await shows(page, 'grey', { x: -250, y: 0 });
  const at = await onPage(page, { x: 0, y: 0 });
  await page.mouse.move(at.x, at.y);
  for (let notch = 0; notch < 6; notch += 1) await page.mouse.wheel(0, -100);
  await shows(page, 'front', { x: -250, y: 0 });

  await page.mouse.down();
  await page.mouse.move(at.x - 120, at.y, { steps: 4 });
  await expect(figure(page)).toContainText('45° · 0°');
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(figure(page)).toContainText('0° · 0°');
});

test('a lens shows as much as one of a 35-mm camera, and what is near is larger by just so much', async ({
  page,
  running,
}) => {
  const { address } = running;
  const { board, model } = await turning(page, address, 'lens.glb', asGlb(die()));
  await card(page).getByRole('button', { name: 'front', exact: true }).click();
  await shows(page, 'front');
  /** How much of the picture's width the die takes, by a picture that is taken of it. */
  const widthSeen = async (lensMm: number | null) => {
    const known = (await stillsOf(board, model)).map(({ id }) => id);
    const fresh = async () => (await stillsOf(board, model)).filter(({ id }) => !known.includes(id));
    await card(page).getByRole('button', { name: 'this view as a picture' }).click();
    await expect.poll(async () => (await fresh()).length).toBe(1);
    await saved(page);
    const [still] = await fresh();
    expect((await pictureOf(address, still!)).facts.taken).toMatchObject({ azimuthDeg: 0, lensMm });
    const { width, height, at } = await pixelsOf(address, still!.picture);
    const ground = at(2, 2).join();
    return (
      Array.from({ length: width }, (_, x) => at(x, height / 2).join() !== ground).filter(Boolean).length /
      width
    );
  };
  for (const [words, lensMm] of [
    ['Lens of 18 mm', 18],
    ['Lens of 135 mm', 135],
    ['parallel', null],
  ] as const) {
    await card(page).getByRole('button', { name: words }).click();
    await card(page).getByRole('button', { name: 'whole' }).click();
    const front = await widthSeen(lensMm);
    await card(page).getByRole('radio', { name: 'depth' }).click();
    const middle = await widthSeen(lensMm);
    await card(page).getByRole('radio', { name: 'none' }).click();
    if (lensMm === null) {
      expect(front / middle).toBeCloseTo(1, 2);
      continue;
    }
    // How much larger the front is seen than the middle tells how far away the camera stands, and that how much it sees:
    // four fifths of the diagonal are its width.
    const distance = (DIE.depth / 2) * (front / (front - middle));
    const halfWidth = DIE.width / 2 / middle / distance;
    const ofCamera = ((Math.hypot(36, 24) / 2) * (4 / 5)) / lensMm;
    expect(halfWidth / ofCamera).toBeGreaterThan(0.97);
    expect(halfWidth / ofCamera).toBeLessThan(1.03);
  }
});

test('this view as a picture fills a blind spot of what the model serves, with its true figures', async ({
  page,
  running,
}) => {
  const { address } = running;
  const subject = await makeSubject(address, 'The die', 'dots');
  const { board, model } = await turning(
    page,
    address,
    'served.glb',
    asGlb(die({ width: 1, height: 1, depth: 2 })),
  );
  await patchPicture(address, model, {
    addParts: [subject.id],
    name: 'die',
    source: { creator: 'Ines Talhof' },
  });
  await card(page).getByRole('button', { name: 'left side', exact: true }).click();
  await card(page).getByRole('button', { name: 'Lens of 85 mm' }).click();
  await card(page).getByLabel('Light round, from behind you').fill('60');
  await page.keyboard.press('Enter');
  await card(page).getByLabel('Light above the horizon').fill('30');
  await page.keyboard.press('Enter');
  await shows(page, 'left');
  await page.locator('.stage').first().focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('This view stands below, as a picture.')).toBeVisible();
  await expect(page.getByText('It counts for what the model serves')).toBeVisible();
  await saved(page);
  const [still] = await stillsOf(board, model);
  const picture = await pictureOf(address, still!);
  const figures = { azimuthDeg: 90, elevationDeg: 0, lightAzimuthDeg: 60, lightElevationDeg: 30 };
  expect(picture).toMatchObject({
    name: 'die, left side',
    parts: [subject.id],
    views: { [subject.id]: { ...figures, lensMm: 85, distance: null } },
    facts: { taken: { model, ...figures, lensMm: 85 }, focalLength35Mm: 85 },
    source: { creator: 'Ines Talhof', title: 'die' },
  });
  // It shows what it says: the left hand's side in the middle, all of it in the picture.
  const pixels = await pixelsOf(address, still!.picture);
  expect(sideOf(pixels.at(pixels.width / 2, pixels.height / 2))).toBe('left');
  expect(Math.max(pixels.width, pixels.height)).toBe(2_400);

  await page.goto(`${address}/subjects/${subject.id}`);
  const spots = page.getByRole('region', { name: 'Blind spots' });
  await expect(spots).toContainText('1 of 48 views are covered');
  await expect(spots.getByRole('button', { name: 'from the right 1' })).toBeVisible();
  // Of the model itself no view is asked: it has them all.
  await expect(spots).not.toContainText('nobody said the view');
});

test('a turn of stills goes all around, stands as a cluster, and one undo takes it back', async ({
  page,
  running,
}) => {
  const { address } = running;
  const { board, model } = await turning(page, address, 'turn.glb', asGlb(die()));
  await card(page).getByRole('button', { name: 'front', exact: true }).click();
  await card(page).getByLabel('Stills of a turn').fill('4');
  await page.keyboard.press('Enter');
  await card(page).getByRole('button', { name: 'a turn of' }).click();
  await expect(page.getByText('4 views stand below.')).toBeVisible({ timeout: 90_000 });
  await saved(page);
  const standing = await board.standing();
  const cluster = standing.find(isCluster)!;
  const stills = await stillsOf(board, model);
  expect(stills.map((one) => one.cluster)).toEqual(Array(4).fill(cluster.id));
  const pictures = await Promise.all(stills.map((still) => pictureOf(address, still)));
  const seen = new Map<number, string>();
  for (const { id, facts } of pictures) {
    const pixels = await pixelsOf(address, id);
    seen.set(facts.taken!.azimuthDeg, sideOf(pixels.at(pixels.width / 2, pixels.height / 2)));
  }
  expect(Object.fromEntries(seen)).toEqual({ 0: 'front', 90: 'left', 180: 'back', '-90': 'right' });
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await board.standing()).length).toBe(1);
});

test('a section lays open what is inside; plain grey leaves the colours out; as it stood is its poster again', async ({
  page,
  running,
}) => {
  await turning(page, running.address, 'cut.glb', asGlb(die()));
  await card(page).getByRole('button', { name: 'front', exact: true }).click();
  await shows(page, 'front');
  await card(page).getByRole('radio', { name: 'depth' }).click();
  // Half of it is gone, and the rest is laid open in one flat colour.
  await expect.poll(() => colourAt(page, { x: 0, y: 0 })).toEqual(rgbOf('#b4532f'));
  await card(page).getByRole('button', { name: 'other side' }).click();
  await shows(page, 'front');
  // Of what lies beyond a plane right in front there is all, of what lies beyond one right behind nothing.
  await card(page).getByRole('button', { name: 'other side' }).click();
  await card(page).getByLabel('Where the section lies').fill('1');
  await shows(page, 'front');
  await card(page).getByLabel('Where the section lies').fill('0');
  await expect.poll(() => colourAt(page, { x: 0, y: 0 })).toEqual(rgbOf('#797979'));
  await card(page).getByRole('radio', { name: 'none' }).click();
  await shows(page, 'front');
  await card(page).getByRole('radio', { name: 'plain grey' }).click();
  await shows(page, 'grey');
  expect(await light(page)).toBeGreaterThan(130);
  await card(page).getByRole('button', { name: 'as it stood' }).click();
  await expect(card(page).getByRole('button', { name: 'as it stood' })).toHaveCount(0);
  await expect(figure(page)).toContainText('40° round, 20° up');
});

test('which way it stands is said once, for every picture of it and in every window', async ({
  page,
  running,
}) => {
  const { address } = running;
  const { model, board } = await turning(page, address, 'stands.glb', asGlb(die()));
  await card(page).getByRole('radio', { name: 'z up' }).click();
  await card(page).getByRole('button', { name: 'front', exact: true }).click();
  // Its file's front lies on top now, and its bottom in front.
  await shows(page, 'bottom');
  await card(page).getByRole('button', { name: 'from above', exact: true }).click();
  await shows(page, 'front');
  await card(page).getByRole('radio', { name: 'y up' }).click();
  await card(page).getByRole('button', { name: 'left side', exact: true }).click();
  await shows(page, 'left');
  await card(page).getByRole('button', { name: 'this is its front' }).click();
  await expect(figure(page)).toContainText('front');
  await shows(page, 'left');
  await card(page).getByRole('button', { name: 'left side', exact: true }).click();
  await shows(page, 'back');
  await saved(page);
  expect((await pictureAt(address, model)).facts.stance).toEqual({ up: 'y', frontDeg: 90 });
  await page.reload();
  await stageReady(page);
  await clickOnBoard(page, { x: -200, y: 0 });
  await page.keyboard.press('Shift+J');
  await card(page).getByRole('button', { name: 'front', exact: true }).click();
  await shows(page, 'left');
  await page.locator('.stage').first().focus();
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await stillsOf(board, model)).length).toBe(1);
});

test('an archive is a model with its surface, what else lies in it comes in by itself; STL stands on its plane', async ({
  page,
  running,
}) => {
  const { address } = running;
  const board = await TestBoard.create(address, 'brought');
  await openBoard(page, board);
  const paint = (background: string) =>
    sharp({ create: { width: 8, height: 8, channels: 3, background } })
      .png()
      .toBuffer();
  const zip = asObjZip(die(), {
    'model/die.mtl': new TextEncoder().encode(asMtl({ front: 'planks.png', back: 'gone.png' })),
    'model/textures/planks.png': new Uint8Array(await paint('#30c060')),
    'photographs/quay.png': new Uint8Array(await paint('#806040')),
  });
  await dropMade(page, {
    'die with planks.zip': zip,
    'tower.stl': asStl(die({ width: 1, height: 1, depth: 3 })),
  });
  await expect.poll(async () => (await placementsOf(board)).length, { timeout: 60_000 }).toBe(3);
  await expect
    .poll(
      async () =>
        (await picturesOf(address, `board=${board.id}`))
          .map(({ kind, state }) => `${kind} ${state}`)
          .sort()
          .join(),
      { timeout: 60_000 },
    )
    .toBe('model ready,model ready,still ready');
  const pictures = await picturesOf(address, `board=${board.id}`);
  expect(pictures.map(({ type }) => type).sort()).toEqual(['image/png', 'model/stl', 'model/x.obj+zip']);
  const placed = await placementsOf(board);
  const placeOf = (type: string) =>
    placed.find(({ picture }) => picture === pictures.find((one) => one.type === type)!.id)!;
  // Posters are views of them: the picture of the front, and a tower that stands.
  const posterOf = async (type: string) => {
    const { levels } = pictures.find((one) => one.type === type)!;
    const bytes = await (await fetch(`${address}/api/levels/${levels.at(-1)!.hash}`)).arrayBuffer();
    const { data, info } = await sharp(bytes).removeAlpha().raw().toBuffer({ resolveWithObject: true });
    return {
      ...info,
      at: (x: number, y: number) => [
        ...data.subarray((Math.floor(y) * info.width + Math.floor(x)) * 3).subarray(0, 3),
      ],
    };
  };
  const die1 = await posterOf('model/x.obj+zip');
  const [red, green, blue] = die1.at(die1.width * 0.3, die1.height * 0.6);
  expect(green! - Math.max(red!, blue!)).toBeGreaterThan(30);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await clickOnBoard(page, placeOf('model/x.obj+zip').centre);
  await page.keyboard.press('Shift+J');
  await expect(card(page)).toContainText('12 triangles');
  await expect(card(page)).toContainText('Of its surface gone.png did not come with it.');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  const tower = placeOf('model/stl');
  await clickOnBoard(page, tower.centre);
  await page.keyboard.press('Shift+J');
  await card(page).getByRole('button', { name: 'front', exact: true }).click();
  // Upright: high above its middle there is still something of it, and nothing as far aside.
  const above = { x: tower.centre.x, y: tower.centre.y - tower.width * 0.25 };
  const aside = { x: tower.centre.x + tower.width * 0.25, y: tower.centre.y };
  await expect.poll(async () => Math.abs((await light(page, above)) - 0x79)).toBeGreaterThan(10);
  expect(Math.abs((await light(page, aside)) - 0x79)).toBeLessThan(4);
  // One worker draws all of them, with one 3D context.
  expect(page.workers().filter((worker) => worker.url().includes('models.worker'))).toHaveLength(1);
});

test('what is broken is said in words and nothing is lost; millions of triangles are made fewer, and that is said', async ({
  page,
  running,
}) => {
  test.setTimeout(300_000);
  const { address } = running;
  const board = await TestBoard.create(address, 'broken');
  await openBoard(page, board);
  for (const ending of ['.glb', '.stl', '.obj', '.zip'])
    expect(await page.locator('#choose-files').getAttribute('accept')).toContain(ending);
  // Nothing of it is fetched before a model is there.
  expect(page.workers().filter((worker) => worker.url().includes('models.worker'))).toHaveLength(0);
  const nan = asStl(die({ width: Number.NaN, height: Number.NaN, depth: Number.NaN }));
  await dropMade(page, {
    'cut off.glb': asGlb(die()).subarray(0, 500),
    'lines.obj': new TextEncoder().encode('v 0 0 0\nv 1 1 1\nl 1 2\n'),
    'nowhere.stl': nan,
    'text.stl': asTextStl(die()),
  });
  await expect(page.getByText('is damaged or incomplete').first()).toBeVisible({ timeout: 90_000 });
  await expect.poll(async () => (await placementsOf(board)).length, { timeout: 30_000 }).toBe(3);
  await expect
    .poll(async () => (await picturesOf(address, `board=${board.id}`)).map(({ name }) => name), {
      timeout: 30_000,
    })
    .toContain('nowhere');
  const { id } = (await picturesOf(address, `board=${board.id}`)).find(({ name }) => name === 'nowhere')!;
  const item = (await placementsOf(board)).find(({ picture }) => picture === id)!;
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await clickOnBoard(page, item.centre);
  await page.keyboard.press('Shift+J');
  await expect(card(page).getByRole('alert')).toContainText(
    'The model cannot be read: its file is damaged or incomplete.',
  );
  await page.keyboard.press('Escape');
  await page.keyboard.press('Enter');

  const large = await TestBoard.create(address, 'large');
  await large.placeFiles(
    [{ id: 'model', name: 'large.stl', bytes: asStl(ball(1_400_000)), poster: await poster() }],
    WIDTH,
  );
  await openBoard(page, large);
  await clickOnBoard(page, { x: -200, y: 0 });
  await page.keyboard.press('Shift+J');
  await expect(card(page)).toContainText(
    /1,39\d,\d{3} triangles: it is shown with [5-9]\d\d,\d{3}, so that it can be turned/,
    { timeout: 60_000 },
  );
  await card(page).getByRole('button', { name: 'front', exact: true }).click();
  await expect.poll(() => light(page), { timeout: 30_000 }).toBeGreaterThan(125);
});

test('with the server gone it is said, and read once it is back', async ({ page, running }) => {
  const { address } = running;
  const board = await TestBoard.create(address, 'away');
  await board.placeFiles(
    [
      {
        id: 'model',
        name: 'away.glb',
        bytes: asGlb(die({ width: 5, height: 1, depth: 1 })),
        poster: await poster(),
      },
    ],
    WIDTH,
  );
  await openBoard(page, board);
  await clickOnBoard(page, { x: -200, y: 0 });
  await page.route('**/original', (route) => route.abort());
  await page.keyboard.press('Shift+J');
  await expect(card(page).getByRole('alert')).toContainText('The server is away');
  await page.unroute('**/original');
  await card(page).getByRole('button', { name: 'again' }).click();
  await expect(figure(page)).toContainText('40° round, 20° up');
});

test('its card is usable by anybody, and one line on a narrow screen under a finger', async ({
  chromium,
  page,
  running,
}) => {
  const { board } = await turning(page, running.address, 'card.glb', asGlb(die()));
  await card(page).getByRole('radio', { name: 'height' }).click();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html).join(' ')}`)).toEqual([]);

  const context = await chromium.newContext({
    viewport: { width: 390, height: 780 },
    hasTouch: true,
    isMobile: true,
  });
  const phone = await context.newPage();
  await openBoard(phone, board);
  const at = await onPage(phone, { x: 0, y: 0 });
  await phone.touchscreen.tap(at.x, at.y);
  await phone.locator('footer').getByRole('button', { name: 'turn a model' }).tap();
  await expect(card(phone)).toContainText('40° round, 20° up, 50 mm');
  const folded = (await card(phone).boundingBox())!;
  expect(folded.height).toBeLessThan(80);
  const touch = await context.newCDPSession(phone);
  const send = (type: 'touchStart' | 'touchMove' | 'touchEnd', x?: number) =>
    touch.send('Input.dispatchTouchEvent', { type, touchPoints: x === undefined ? [] : [{ x, y: at.y }] });
  await send('touchStart', at.x + 60);
  for (const x of [50, 20, 0, -20, -60]) await send('touchMove', at.x + x);
  await send('touchEnd');
  await expect(card(phone)).toContainText('85° round, 20° up');
  await card(phone).getByRole('button', { name: 'more' }).tap();
  await card(phone).getByRole('button', { name: 'from above', exact: true }).tap();
  await expect(figure(phone)).toContainText('from above');
  const box = (await card(phone).boundingBox())!;
  expect(box.x).toBeGreaterThanOrEqual(0);
  expect(box.x + box.width).toBeLessThanOrEqual(390);
  await context.close();
});

test('a model that no browser has seen yet gets its poster when it is turned', async ({ page, running }) => {
  const { address } = running;
  const board = await TestBoard.create(address, 'unseen');
  const [placement] = await board.placeFiles(
    [{ id: 'model', name: 'unseen.glb', bytes: asGlb(die({ width: 2, height: 6, depth: 3 })) }],
    WIDTH,
  );
  const stateNow = async () => (await pictureAt(address, placement!.picture)).state;
  await expect.poll(stateNow, { timeout: 30_000 }).toBe('failed');
  await page.goto(board.url);
  await expect(page.locator('[data-stage]').first()).toBeVisible();
  await page.waitForTimeout(1_000);
  await clickOnBoard(page, { x: 0, y: 0 });
  await page.keyboard.press('Shift+J');
  await expect(figure(page)).toContainText('40° round, 20° up');
  await expect.poll(stateNow, { timeout: 30_000 }).toBe('ready');
  expect((await board.standing()).length).toBe(1);
});
