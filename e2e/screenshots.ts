import { mkdir, readdir } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { heightOf } from '@miradero/core/items';
import type { LibraryAnswer, Picture, Placement } from '@miradero/core/schema';
import type { Browser, Page } from '@playwright/test';
import sharp from 'sharp';
import { PAGE_AT_THE_EASEL } from '../demo/at-the-easel.ts';
import { BOARDS, type DemoBoard } from '../demo/boards.ts';
import { startCommons } from '../demo/commons/server.ts';
import { loadDemo, waitForLevels } from '../demo/load.ts';
import { SUBJECTS } from '../demo/sorting.ts';
import { viewsOfEasel, viewsOfStudy } from './at-the-easel.ts';
import { linkAndItsPage, shownByItself } from './handed-over.ts';
import { byName, onPage, stageReady, TestBoard } from './support/board.ts';
import { launchBrowser } from './support/browser.ts';
import { startRunning } from './support/running.ts';

/** `npm run screenshots`: one picture of each main view, made from the demo data by the real interface. */
const FOLDER = fileURLToPath(new URL('../docs/screenshots/', import.meta.url));
const PICTURES = fileURLToPath(new URL('../demo/pictures/', import.meta.url));
const SIZE = { width: 1280, height: 800 };
const NARROW = { width: 390, height: 844 };
/** Between the views of a sheet, pixels. */
const GAP = 12;
const [form, light, odra, page7] = BOARDS as [DemoBoard, DemoBoard, DemoBoard, DemoBoard];
const FIRST_TRY = 'Page 7, first try';
const WHEEL = 'Chain wheel, turning';
const MODEL = 'The last chain ferry, model';
const HINGE = 'Bow ramp at its hinge, chain on the roller';

interface Place {
  readonly browser: Browser;
  readonly address: string;
  /** The stand-in web. */
  readonly commons: string;
}

async function openPage({ browser, address }: Place, path: string, viewport = SIZE): Promise<Page> {
  const context = await browser.newContext({ viewport });
  const page = await context.newPage();
  await page.goto(`${address}${path}`);
  return page;
}

async function openBoard(place: Place, { id }: DemoBoard): Promise<Page> {
  const page = await openPage(place, `/boards/${id}`);
  await stageReady(page);
  return page;
}

const openForm = (place: Place) => openBoard(place, form);

/** Where a picture stands on the demo board, by its title: a little below its upper edge, board units. */
async function placeOf(address: string, title: string, board = form): Promise<{ x: number; y: number }> {
  const { pictures } = (await (await fetch(`${address}/api/pictures`)).json()) as { pictures: Picture[] };
  const { items } = await new TestBoard(address, board.id).snapshot();
  const picture = pictures.find(({ name }) => name === title)!;
  const item = items.find((one) => one.kind === 'placement' && one.picture === picture.id) as Placement;
  return { x: item.centre.x, y: item.centre.y - heightOf(item) / 2 + 40 };
}

async function select(page: Page, title: string, board = form): Promise<void> {
  const { x, y } = await onPage(page, await placeOf(new URL(page.url()).origin, title, board));
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

interface PlacedShot {
  readonly input: Buffer;
  readonly left: number;
  readonly top: number;
}

/** Several views of one size on a sheet, side by side. */
async function composeSheet(
  shots: readonly Buffer[],
  { width, height }: typeof SIZE,
  across: number,
  name: string,
): Promise<void> {
  const sheet = sharp({
    create: {
      ...{ width: across * (width + GAP) - GAP, channels: 3, background: '#d5d5d2' },
      height: Math.ceil(shots.length / across) * (height + GAP) - GAP,
    },
  }).composite(
    shots.map((input, at) => ({
      ...{ input, left: (at % across) * (width + GAP) },
      top: Math.floor(at / across) * (height + GAP),
    })),
  );
  await sharp(await sheet.png().toBuffer())
    .resize(1280)
    .png()
    .toFile(`${FOLDER}${name}.png`);
  console.log(`${name}.png`);
}

/** Until everything that came in was measured: searches by colour and ranks need it. */
async function waitForMeasures(address: string): Promise<void> {
  for (let patience = 0; patience < 600; patience += 1) {
    const { pictures } = (await (await fetch(`${address}/api/library?limit=500`)).json()) as LibraryAnswer;
    if (pictures.every(({ measures }) => measures)) return;
    await new Promise((resolve) => setTimeout(resolve, 1_000));
  }
}

/** A page of the library or of subjects, once its pictures are there. */
async function openLibrary(place: Place, path: string): Promise<Page> {
  await waitForMeasures(place.address);
  const page = await openPage(place, path);
  await page.waitForLoadState('networkidle');
  return page;
}

const SHOTS: Readonly<Record<string, (place: Place) => Promise<void>>> = {
  async board(place) {
    const page = await openForm(place);
    await select(page, HINGE);
    await page.keyboard.press('i');
    await shoot(page, 'board');
  },
  /** The board with what is drawn on it: all of it, a stroke just drawn, a mark chosen, what is rubbed out. */
  async marked(place) {
    const page = await openBoard(place, page7);
    const shots: Buffer[] = [];
    const keep = async () => {
      await stageReady(page);
      await page.waitForTimeout(900);
      shots.push(await page.screenshot());
    };
    await page.keyboard.press('0');
    await keep();
    await select(page, FIRST_TRY, page7);
    await page.keyboard.press('f');
    await page.waitForTimeout(900);
    await page.keyboard.press('g');
    await page.getByTestId('drawing-card').getByRole('radio', { name: 'ochre' }).click();
    await page.mouse.move(520, 330);
    await page.mouse.down();
    for (let step = 0; step <= 40; step += 1) {
      const angle = (step * Math.PI) / 19;
      await page.mouse.move(640 - 120 * Math.cos(angle), 330 - 96 * Math.sin(angle) + 3 * Math.sin(step));
    }
    await page.mouse.up();
    await keep();
    await page.keyboard.press('7');
    await page.keyboard.press('Shift+D');
    await page.getByTestId('choosing-card').waitFor();
    await page.mouse.click(316, 560);
    await page.mouse.move(900, 620);
    await keep();
    await page.keyboard.press('d');
    await page.getByTestId('rubbing-card').waitFor();
    await page.mouse.move(600, 190);
    await page.mouse.down();
    for (let step = 0; step <= 20; step += 1) await page.mouse.move(600 + step * 4, 200 + step * 9);
    await keep();
    await page.mouse.up();
    await composeSheet(shots, SIZE, 2, 'marked');
    await page.context().close();
  },
  async library(place) {
    const page = await openLibrary(place, '/library?purpose=light&sort=lightness');
    await page.getByRole('option', { name: 'Head, from below, raking from above' }).click();
    await page
      .getByRole('option', { name: 'Head, front, raking from above' })
      .click({ modifiers: ['Control'] });
    await shoot(page, 'library');
  },
  async picture(place) {
    await waitForMeasures(place.address);
    const found = await fetch(`${place.address}/api/library?words=chain+wheel+raking`);
    const { pictures } = (await found.json()) as LibraryAnswer;
    const page = await openLibrary(place, `/library/${pictures[0]!.id}`);
    await stageReady(page);
    await page.getByRole('slider', { name: 'View of The ferry' }).scrollIntoViewIfNeeded();
    await shoot(page, 'picture');
  },
  /** One sheet: a subject with its parts, and one whose blind spot is gathered for. */
  async subject(place) {
    const parts = await openLibrary(place, `/subjects/${SUBJECTS[1]!.id}`);
    await parts.getByRole('button', { name: 'head', exact: true }).click();
    const spots = await openLibrary(place, `/subjects/${SUBJECTS[0]!.id}`);
    await spots.getByRole('button', { name: 'back and left, raised: no picture' }).first().click();
    await spots.getByRole('button', { name: 'gather for it', exact: true }).first().click();
    const shots: Buffer[] = [];
    for (const page of [parts, spots]) {
      await page.waitForTimeout(900);
      shots.push(await page.screenshot());
      await page.context().close();
    }
    await composeSheet(shots, SIZE, 2, 'subject');
  },
  async trouble(place) {
    const page = await openForm(place);
    await page.route('**/changes', (route) => route.abort());
    await select(page, 'Chain wheel, raking light');
    await page.keyboard.press('ArrowRight');
    await page.locator('[data-trouble]').waitFor();
    await shoot(page, 'trouble');
  },
  /** On one sheet: the perch with a working set, split in two, with everything it can do, small, and the narrow window beside the work. */
  async perch(place) {
    const page = await openForm(place);
    await page.getByRole('radio', { name: 'Value 5' }).click();
    const opening = page.context().waitForEvent('page');
    await page.keyboard.press('p');
    const perch = await opening;
    const shots: PlacedShot[] = [];
    const keep = async (of: Page, left: number, top: number) => {
      await of.locator('[data-stage="sharp"]').first().waitFor();
      await of.waitForTimeout(700);
      shots.push({ input: await of.screenshot(), left, top });
    };
    // A context with a fixed viewport forces that size on the floating window, too.
    await perch.setViewportSize({ width: 420, height: 360 });
    await perch.locator('.stage').first().waitFor();
    await perch.keyboard.press('Alt+s');
    await perch.keyboard.press('Alt+s');
    await perch.waitForTimeout(900);
    await perch.mouse.move(200, 340);
    await keep(perch, 0, 0);
    await perch.getByRole('button', { name: 'more' }).click();
    await keep(perch, 430, 0);
    await perch.keyboard.press('Escape');
    await perch.mouse.move(200, 60);
    await perch.keyboard.press('Alt+b');
    await perch.keyboard.press('Alt+s');
    await perch.waitForTimeout(900);
    await perch.keyboard.press('v');
    await keep(perch, 0, 370);
    await perch.keyboard.press('Alt+x');
    await perch.setViewportSize({ width: 240, height: 200 });
    await perch.waitForTimeout(500);
    await perch.mouse.dblclick(90, 60);
    await keep(perch, 430, 370);
    await perch.keyboard.press('f');
    await perch.mouse.move(90, 60);
    await perch.keyboard.press('k');
    await perch.getByTestId('colour').waitFor();
    await keep(perch, 430, 580);
    const narrow = await page.context().newPage();
    await narrow.setViewportSize({ width: 360, height: 780 });
    await narrow.goto(`${place.address}/perch/${form.id}`);
    await narrow.locator('[data-stage="sharp"]').first().waitFor();
    await narrow.keyboard.press('Alt+s');
    await narrow.waitForTimeout(600);
    await narrow.keyboard.press('Alt+k');
    await keep(narrow, 860, 0);
    await sharp({ create: { width: 1220, height: 780, channels: 3, background: '#d5d5d2' } })
      .composite(shots)
      .png()
      .toFile(`${FOLDER}perch.png`);
    console.log('perch.png');
    await page.context().close();
  },
  /** One sheet: a note being written, two boards side by side, what a note's label tells, a dark surround and the lamp theme. */
  async written(place) {
    const page = await openForm(place);
    await page.keyboard.press('0');
    const shots: Buffer[] = [];
    const keep = async () => {
      await stageReady(page);
      await page.waitForTimeout(900);
      shots.push(await page.screenshot());
    };
    // Once: the next one is where the first was.
    await page.mouse.move(960, 420);
    await page.keyboard.press('w');
    await page.locator('.ProseMirror').waitFor();
    await page.keyboard.type('The fender is ');
    await page.keyboard.press('Control+b');
    await page.keyboard.type('lighter than the hull');
    await page.keyboard.press('Control+b');
    await page.keyboard.type(' below it:');
    await page.keyboard.press('Enter');
    await page.keyboard.type('- wet rope, value 3');
    await page.keyboard.press('Enter');
    await page.keyboard.type('rust in the light, value 5');
    await page.locator('footer [data-family="written-as"]').click();
    await keep();
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Control+z');
    await page.goto(`${place.address}/boards/${page7.id}?panes=${page7.id},${light.id}`);
    await stageReady(page);
    await page.keyboard.press('0');
    await keep();
    await page.goto(`${place.address}/boards/${page7.id}`);
    await stageReady(page);
    await page.keyboard.press('/');
    await page.keyboard.type('hull shorter');
    await page.keyboard.press('Enter');
    await page.waitForTimeout(700);
    await page.keyboard.press('Escape');
    const stage = (await page.locator('.stage').boundingBox())!;
    await page.mouse.click(stage.x + stage.width / 2, stage.y + stage.height / 2);
    await page.keyboard.press('i');
    await keep();
    await page.goto(`${place.address}/boards/${form.id}`);
    await stageReady(page);
    await page.getByRole('radio', { name: 'Value 2' }).click();
    await select(page, HINGE);
    await keep();
    await composeSheet(shots, SIZE, 2, 'written');
    await page.context().close();
  },
  /** One sheet: a colour read, a guess, a palette with what is told of it, a value study, a lit ball, edges. */
  async colour(place) {
    const page = await openBoard(place, light);
    await page.keyboard.press('0');
    const shots: Buffer[] = [];
    const keep = async () => {
      await page.waitForTimeout(900);
      shots.push(await page.screenshot());
    };
    await page.mouse.move(420, 330);
    await page.keyboard.press('k');
    await page.getByTestId('colour').waitFor();
    await page.mouse.click(560, 420);
    await page.getByRole('radio', { name: '31', exact: true }).click();
    await page.mouse.move(600, 300);
    await keep();
    await page.getByRole('button', { name: 'guess first' }).click();
    await page.mouse.click(640, 300);
    await page.getByRole('slider', { name: 'value' }).fill('7');
    await page.getByRole('slider', { name: 'hue' }).fill('50');
    await page.getByRole('button', { name: 'see it' }).click();
    await keep();
    await page.keyboard.press('Escape');
    await page.mouse.click(660, 330);
    await page.keyboard.press('Alt+k');
    const plot = page.getByRole('region', { name: 'Palette', exact: true }).getByRole('figure');
    await plot.waitFor();
    await plot.evaluate((shown) => shown.scrollIntoView({ block: 'end' }));
    await keep();
    await page.keyboard.press('Control+z');
    await page.goto(`${place.address}/boards/${odra.id}`);
    await stageReady(page);
    await select(page, 'Head, three-quarter, from the side', odra);
    await byName(page, 'value study');
    await page.getByTestId('study-shares').and(page.locator('[data-exact]')).waitFor({ timeout: 60_000 });
    await keep();
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    await byName(page, 'Light on the head');
    await page.keyboard.press('f');
    await page.keyboard.press('i');
    await page.getByRole('region', { name: 'Lit ball' }).waitFor();
    await keep();
    await page.keyboard.press('i');
    for (let press = 0; press < 3; press += 1) await page.keyboard.press('Escape');
    await page.keyboard.press('0');
    await byName(page, 'edges: hard, soft, lost');
    await page.waitForTimeout(1_500);
    await keep();
    await composeSheet(shots, SIZE, 2, 'colour');
    await page.context().close();
  },
  async picking(place) {
    const page = await openForm(place);
    await page.keyboard.press('Shift+A');
    await page.getByRole('textbox', { name: 'Addresses' }).fill(`${place.commons}/gallery/ferries`);
    await page.getByRole('button', { name: 'Look there' }).click();
    const sheet = page.getByRole('dialog');
    await sheet.getByRole('button', { name: /^Rust/ }).click({ timeout: 30_000 });
    await sheet.getByRole('button', { name: /^Where the ramp hinges/ }).click();
    await page.waitForLoadState('networkidle');
    await shoot(page, 'picking');
  },
  /** What came in, and where it is from, on one sheet. */
  async landing(place) {
    const landing = await openPage(place, '/landing');
    await landing.getByRole('button', { name: /rust/i }).first().click();
    const sources = await openLibrary(place, `/sources?board=${light.id}`);
    const shots: Buffer[] = [];
    for (const page of [landing, sources]) {
      await page.waitForTimeout(900);
      shots.push(await page.screenshot());
      await page.context().close();
    }
    await composeSheet(shots, SIZE, 2, 'landing');
  },
  /** One sheet: set-up, guides and versions, a picture pinned, two panes, a window captured, and tracing paper over it. */
  async easel(place) {
    const page = await openPage(place, '/easel');
    const shots: Buffer[] = [];
    await viewsOfEasel(page, place.address, async (shown) => {
      shots.push(await shown.screenshot());
    });
    await page.context().close();
    const drawing = await openPage(place, '/easel');
    await viewsOfStudy(drawing, place.address, async (shown) => {
      shots.push(await shown.screenshot());
    });
    await drawing.context().close();
    await composeSheet(shots, SIZE, 2, 'easel');
  },
  /** A board handed over, on one sheet: how it was, the board as one file, that file in its own viewer, pages at true size. */
  async 'handed-over'(place) {
    const shots: Buffer[] = [];
    const page = await openPage(place, `/boards/${light.id}/history?at=12`);
    await stageReady(page);
    await page.waitForTimeout(1_500);
    shots.push(await page.screenshot());
    await page.goto(`${place.address}/boards/${form.id}`);
    await stageReady(page);
    await byName(page, 'save the board as one file');
    const sheet = page.getByRole('dialog', { name: 'Save the board as one file' });
    await sheet.waitFor();
    await page.waitForTimeout(600);
    shots.push(await page.screenshot());
    const downloading = page.waitForEvent('download');
    await sheet.getByRole('button', { name: 'Save', exact: true }).click();
    shots.push(await shownByItself(place.browser, SIZE, await (await downloading).path()));
    await byName(page, 'save as a drawing');
    await page.getByRole('radio', { name: 'pages' }).click();
    await page.getByRole('button', { name: 'A3' }).click();
    await page.waitForTimeout(600);
    shots.push(await page.screenshot());
    await page.keyboard.press('Escape');
    shots.push(...(await linkAndItsPage(place.browser, SIZE, page, place.address)));
    await composeSheet(shots, SIZE, 2, 'handed-over');
    await page.context().close();
  },
  async paper(place) {
    const page = await openBoard(place, light);
    await page.keyboard.press('Shift+P');
    await page.getByRole('button', { name: 'Sketch on paper' }).click({ timeout: 20_000 });
    await page.getByText('The corners were found').waitFor();
    await shoot(page, 'paper');
  },
  async boards(place) {
    const page = await openPage(place, '/boards');
    // Previews are painted some seconds after the last picture of a board got its levels.
    await page.waitForTimeout(20_000);
    await page.reload();
    await page.locator('[data-board] img').first().waitFor();
    await shoot(page, 'boards');
  },
  /** Every view at 390 px under a finger, on one sheet. */
  async narrow(place) {
    await waitForMeasures(place.address);
    const { pictures } = (await (
      await fetch(`${place.address}/api/library?words=chain+wheel+raking`)
    ).json()) as LibraryAnswer;
    const views: readonly (readonly [path: string, act?: (page: Page) => Promise<void>])[] = [
      ['/boards'],
      [`/boards/${form.id}`, (page) => select(page, HINGE)],
      [`/boards/${light.id}`, (page) => page.locator('.places-word').tap()],
      ['/easel'],
      [`/boards/${PAGE_AT_THE_EASEL.id}`],
      ['/library', (page) => page.getByRole('option').nth(3).tap()],
      [`/library/${pictures[0]!.id}`],
      [`/subjects/${SUBJECTS[0]!.id}`],
      ['/landing'],
      [`/sources?board=${light.id}`],
      [`/bring?board=${page7.id}`],
      ['/settings'],
    ];
    const shots: Buffer[] = [];
    for (const [path, act] of views) {
      const context = await place.browser.newContext({ viewport: NARROW, hasTouch: true, isMobile: true });
      const page = await context.newPage();
      await page.goto(`${place.address}${path}`);
      await page.waitForLoadState('networkidle');
      await page.waitForTimeout(900);
      await act?.(page);
      await page.waitForTimeout(500);
      shots.push(await page.screenshot());
      await context.close();
    }
    await composeSheet(shots, NARROW, 6, 'narrow');
  },
  /** One board laid out, on one sheet: as it was, without holes, on shelves, a word found, what opens, a bay. */
  async 'laid-out'(place) {
    await waitForMeasures(place.address);
    const response = await fetch(`${place.address}/api/boards/${light.id}/copies`, {
      method: 'POST',
      body: JSON.stringify({ name: 'Light on the marsh, laid out' }),
      headers: { 'Content-Type': 'application/json' },
    });
    const { board } = (await response.json()) as { board: { id: string } };
    const page = await openPage(place, `/boards/${board.id}`);
    await stageReady(page);
    const shots: Buffer[] = [];
    const keep = async () => {
      await page.waitForTimeout(900);
      shots.push(await page.screenshot());
    };
    await page.keyboard.press('0');
    await keep();
    await page.keyboard.press('Alt+y');
    await page.waitForTimeout(600);
    await page.keyboard.press('0');
    await keep();
    await page.locator('[data-family="lay-out"]').click();
    await page.locator('[data-action="shelves-hue"]').click();
    await page.waitForTimeout(900);
    await page.keyboard.press('0');
    await keep();
    await page.keyboard.press('/');
    await page.keyboard.type('dawn');
    await keep();
    await page.keyboard.press('Escape');
    await page.locator('[data-family="lay-out"]').click();
    await keep();
    await page.keyboard.press('Escape');
    await page.keyboard.press('Shift+B');
    await page.mouse.move(124, 74);
    await page.mouse.down();
    await page.mouse.move(1190, 575, { steps: 5 });
    await page.mouse.up();
    await page.keyboard.type('For the cover');
    await page.keyboard.press('Enter');
    await page.keyboard.press('i');
    await keep();
    await composeSheet(shots, SIZE, 2, 'laid-out');
    await page.context().close();
  },
  /** One board looked at and worked on, on one sheet: values, a lasso, what is saved as a picture, a clip frame by frame, stills of it, a model turned and laid open. */
  async looked(place) {
    const page = await openForm(place);
    await page.keyboard.press('Alt+l');
    const shots: Buffer[] = [];
    const keep = async () => {
      await stageReady(page);
      await page.waitForTimeout(900);
      shots.push(await page.screenshot());
    };
    await page.mouse.move(640, 20);
    await page.keyboard.press('v');
    await keep();
    await page.keyboard.press('v');
    await page.keyboard.press('q');
    await keep();
    await page.keyboard.press('q');
    await page.keyboard.press('Alt+l');
    await select(page, HINGE);
    await page.keyboard.press('f');
    await page.waitForTimeout(900);
    await page.keyboard.press('Alt+t');
    await page.mouse.move(900, 400);
    await page.mouse.down();
    for (let step = 0; step <= 40; step += 1) {
      const angle = (step * Math.PI) / 20;
      const wave = 1 + 0.12 * Math.sin(angle * 5);
      await page.mouse.move(640 + 260 * wave * Math.cos(angle), 400 + 250 * wave * Math.sin(angle));
    }
    await page.mouse.up();
    await keep();
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Escape');
    await page.keyboard.press('f');
    await page.keyboard.press('Control+a');
    await page.keyboard.press('Alt+p');
    await keep();
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    await select(page, WHEEL);
    await page.keyboard.press('f');
    await page.waitForTimeout(900);
    await page.keyboard.press('Shift+N');
    await page.getByTestId('frame-figure').waitFor();
    for (let step = 0; step < 6; step += 1) await page.keyboard.press('ArrowRight');
    await page.getByRole('group', { name: 'neighbours over it' }).getByRole('button', { name: '2' }).click();
    await page.waitForTimeout(600);
    await keep();
    await page.getByRole('button', { name: 'each' }).click();
    await page.getByText('stills stand below').waitFor();
    await page.keyboard.press('2');
    await keep();
    await page.keyboard.press('Escape');
    await page.keyboard.press('Control+z');
    await page.keyboard.press('0');
    await page.waitForTimeout(900);
    await select(page, MODEL);
    await page.keyboard.press('f');
    await page.waitForTimeout(900);
    await page.keyboard.press('Shift+J');
    const model = page.getByTestId('turning-card');
    await model.getByText('triangles').waitFor();
    await model.getByRole('button', { name: 'Lens of 28 mm' }).click();
    await page.mouse.move(500, 400);
    await page.mouse.wheel(0, -200);
    await page.mouse.down();
    await page.mouse.move(440, 430, { steps: 3 });
    await page.mouse.up();
    await page.waitForTimeout(3_000);
    await keep();
    await model.getByRole('radio', { name: 'plain grey' }).click();
    await model.getByRole('radio', { name: 'depth' }).click();
    await model.getByLabel('Where the section lies').fill('0.55');
    await page.waitForTimeout(4_000);
    await keep();
    await composeSheet(shots, SIZE, 2, 'looked');
    await page.context().close();
  },
  /** Last: what it brings in keeps the server busy. */
  async intake(place) {
    const page = await openBoard(place, light);
    await page.keyboard.press('0');
    // The server is slow to take them, as over a weak network: the line shows how far it is.
    await page.route('**/api/pictures', async (route) => {
      await new Promise((resolve) => setTimeout(resolve, 4_000));
      await route.continue();
    });
    const names = (await readdir(PICTURES)).filter((name) => /^(mannequin|lantern)-\d+\.jpg$/.test(name));
    // Other bytes than those that are here: what is known is not named anew.
    const files = names.slice(0, 24).map(async (name) => ({
      ...{ name, mimeType: 'image/jpeg' },
      buffer: await sharp(`${PICTURES}${name}`).jpeg({ quality: 86 }).toBuffer(),
    }));
    await page.setInputFiles('#choose-files', await Promise.all(files));
    await page.getByText(/Name the/).waitFor();
    await page.getByTestId('uploads').waitFor();
    await page.keyboard.press('0');
    await shoot(page, 'intake');
  },
};

async function main(): Promise<void> {
  const wanted = process.argv.slice(2);
  await mkdir(FOLDER, { recursive: true });
  const commons = await startCommons(0);
  const running = await startRunning({ fetchesFrom: [new URL(commons.address).host] });
  const browser = await launchBrowser();
  try {
    await loadDemo(running.address, commons.address, running.databaseUrl);
    await waitForLevels(running.address);
    for (const [name, take] of Object.entries(SHOTS)) {
      if (wanted.length === 0 || wanted.includes(name))
        await take({ browser, address: running.address, commons: commons.address });
    }
  } finally {
    await browser.close();
    await running.stop();
    await commons.stop();
  }
}

await main();
