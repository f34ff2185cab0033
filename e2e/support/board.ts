import { randomUUID } from 'node:crypto';
import { keysOnTop } from '@miradero/core/board';
import { boardToScreen, type Camera, type Point } from '@miradero/core/geometry';
import { createPlacement, type SheetItem } from '@miradero/core/items';
import type {
  Board,
  BoardSnapshot,
  ChangeOutcome,
  IntakeAnswer,
  Item,
  Picture,
  Placement,
} from '@miradero/core/schema';
import { expect, type Page } from '@playwright/test';
import { testPicture } from './pictures.ts';

/** What a test knows of a board through the HTTP interface, beside what its screen shows. */
interface FileToPlace {
  readonly id: string;
  readonly name: string;
  readonly bytes: Uint8Array;
  /** WebP, of what only a browser can draw. */
  readonly poster?: Uint8Array;
}

export class TestBoard {
  readonly address: string;
  readonly id: string;

  constructor(address: string, id: string) {
    this.address = address;
    this.id = id;
  }

  static async create(address: string, name: string): Promise<TestBoard> {
    const response = await fetch(`${address}/api/boards`, {
      method: 'POST',
      body: JSON.stringify({ name }),
      headers: { 'Content-Type': 'application/json' },
    });
    const { board } = (await response.json()) as { board: Board };
    return new TestBoard(address, board.id);
  }

  /** A sheet of the easel, 1,200 × 960 px where nothing else is said. */
  static async createSheet(
    address: string,
    name: string,
    more: Partial<SheetItem['setup']> = {},
  ): Promise<TestBoard> {
    const setup = { width: 12, height: 9.6, unit: 'in', ppi: 100, bleed: 0, ...more };
    const need = { width: 8, height: 10, unit: 'in', ppi: 300 };
    const response = await fetch(`${address}/api/boards`, {
      method: 'POST',
      body: JSON.stringify({ name, sheet: { setup, need } }),
      headers: { 'Content-Type': 'application/json' },
    });
    const { board } = (await response.json()) as { board: Board };
    return new TestBoard(address, board.id);
  }

  get url(): string {
    return `${this.address}/boards/${this.id}`;
  }

  async snapshot(): Promise<BoardSnapshot> {
    return (await (await fetch(`${this.address}/api/boards/${this.id}`)).json()) as BoardSnapshot;
  }

  async item(id: string): Promise<Item> {
    return (await this.snapshot()).items.find((item) => item.id === id)!;
  }

  async standing(): Promise<Item[]> {
    return (await this.snapshot()).items.filter((item) => !item.removed);
  }

  async change(operations: readonly object[]): Promise<ChangeOutcome[]> {
    const response = await fetch(`${this.address}/api/boards/${this.id}/changes`, {
      method: 'POST',
      body: JSON.stringify({ changes: [{ id: randomUUID(), operations }] }),
      headers: { 'Content-Type': 'application/json' },
    });
    return ((await response.json()) as { outcomes: ChangeOutcome[] }).outcomes;
  }

  /** Brings pictures in and lets them stand in a row, 300 wide, 40 apart, centred about (0, 0). */
  async place(seeds: readonly number[]): Promise<Placement[]> {
    const made = seeds.map(async (seed) => ({
      id: `p${seed}`,
      name: `picture ${seed}.jpg`,
      bytes: await testPicture(seed),
    }));
    return this.placeFiles(await Promise.all(made));
  }

  /** The same with pictures of one's own. @param width - of each, board units */
  async placeFiles(files: readonly FileToPlace[], width = 300): Promise<Placement[]> {
    const stacks = keysOnTop([], files.length);
    const placed: Placement[] = [];
    for (const [index, { id, name, bytes, poster }] of files.entries()) {
      const form = new FormData();
      form.append('file', new Blob([new Uint8Array(bytes)]), name);
      if (poster) form.append('poster', new Blob([new Uint8Array(poster)]), 'poster.webp');
      const response = await fetch(`${this.address}/api/pictures`, { method: 'POST', body: form });
      const [picture] = ((await response.json()) as IntakeAnswer).pictures;
      placed.push(
        createPlacement({
          ...{ id, stack: stacks[index]!, picture: picture!.id, width },
          ...{ pictureWidth: picture!.width, pictureHeight: picture!.height },
          centre: { x: (index - (files.length - 1) / 2) * (width + 40), y: 0 },
        }),
      );
    }
    await this.change(placed.map((create) => ({ create })));
    return placed;
  }

  /** Lets pictures that are here stand in a row about (0, 0), 300 board units wide. */
  async placePictures(pictures: readonly Picture[]): Promise<void> {
    const stacks = keysOnTop([], pictures.length);
    const placements = pictures.map((picture, index) =>
      createPlacement({
        ...{ id: randomUUID(), stack: stacks[index]!, picture: picture.id, width: 300 },
        ...{ pictureWidth: picture.width, pictureHeight: picture.height },
        centre: { x: 340 * index, y: 0 },
      }),
    );
    await this.change(placements.map((create) => ({ create })));
  }
}

/** Shows a board at zoom 1 with (0, 0) in the middle, every picture sharp. */
export async function openBoard(page: Page, board: TestBoard): Promise<void> {
  await page.goto(board.url);
  await stageReady(page);
  await lookAt(page, { centre: { x: 0, y: 0 }, scale: 1 });
}

export async function stageReady(page: Page): Promise<void> {
  await expect(page.locator('[data-stage="sharp"]').first()).toBeVisible({ timeout: 90_000 });
}

export async function lookAt(page: Page, camera: Camera): Promise<void> {
  await page.evaluate((to) => window.miraderoStage!.setCamera(to), camera);
  await page.waitForTimeout(150);
  await stageReady(page);
}

export const cameraOf = (page: Page): Promise<Camera> =>
  page.evaluate(() => {
    const { centre, scale } = window.miraderoStage!.camera;
    return { centre: { ...centre }, scale };
  });

/** Waits until the camera stands still: what flies there has arrived. */
export async function atRest(page: Page): Promise<void> {
  let [last, still] = ['', 0];
  await expect
    .poll(
      async () => {
        const now = JSON.stringify(await cameraOf(page));
        still = now === last ? still + 1 : 0;
        last = now;
        return still;
      },
      { intervals: [80] },
    )
    .toBeGreaterThan(2);
}

/** Where a point of the board is on the page, CSS pixels. */
export async function onPage(page: Page, point: Point): Promise<Point> {
  const { camera, viewport, left, top } = await page.evaluate(() => {
    const stage = window.miraderoStage!;
    const { left, top } = stage.canvas.getBoundingClientRect();
    return { camera: stage.camera, viewport: stage.viewport, left, top };
  });
  const { x, y } = boardToScreen(camera, viewport, point);
  return { x: x + left, y: y + top };
}

/** Drags with the real mouse from one point of the page to another, CSS pixels. */
export async function dragOnScreen(page: Page, from: Point, to: Point, steps = 6): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps });
  await page.mouse.up();
}

/** Drags with the real mouse from one board point to another. */
export async function dragOnBoard(page: Page, from: Point, to: Point, steps = 6): Promise<void> {
  const start = await onPage(page, from);
  await dragOnScreen(page, start, await onPage(page, to), steps);
}

export async function clickOnBoard(
  page: Page,
  point: Point,
  modifiers: ('Shift' | 'Control')[] = [],
): Promise<void> {
  const { x, y } = await onPage(page, point);
  for (const key of modifiers) await page.keyboard.down(key);
  await page.mouse.click(x, y);
  for (const key of modifiers) await page.keyboard.up(key);
}

/** The saved mark says that the server has everything. */
export async function saved(page: Page): Promise<void> {
  await expect(page.getByTestId('saved')).toHaveAttribute('data-state', 'saved', { timeout: 40_000 });
}

/** The colour that the stage shows at a board point, as the screen has it. */
export async function colourAt(page: Page, point: Point): Promise<[number, number, number]> {
  const { x, y } = await onPage(page, point);
  return page.evaluate(
    ({ x, y }) => {
      const { canvas } = window.miraderoStage!;
      const { left, top, width } = canvas.getBoundingClientRect();
      const ratio = canvas.width / width;
      const { data } = canvas.getContext('2d')!.getImageData((x - left) * ratio, (y - top) * ratio, 1, 1);
      return [data[0]!, data[1]!, data[2]!] as [number, number, number];
    },
    { x, y },
  );
}

/** Does something by its name, as one types it. */
export async function byName(page: Page, words: string): Promise<void> {
  await page.keyboard.press('Control+k');
  await page.keyboard.type(words);
  await page.getByRole('option', { name: words }).first().waitFor();
  await page.keyboard.press('Enter');
  // It runs once the list has given the focus back: no hand is quicker.
  await page.getByRole('dialog', { name: 'Anything by name' }).waitFor({ state: 'hidden' });
}
