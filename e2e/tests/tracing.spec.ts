import type { Drawing, Placement } from '@miradero/core/schema';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { saved, stageReady, TestBoard } from '../support/board.ts';
import { launchBrowser } from '../support/browser.ts';
import { expect, test } from '../support/test.ts';

interface At {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** What the page lends to those who measure it: `web/src/easel/tracing`. */
interface Measured extends Window {
  miraderoTracing?: {
    readonly rectangle: At;
    readonly store: {
      getState(): { opacity: number; isHidden: boolean; isLost: boolean; frames: number; delayMs: number };
    };
  };
  miraderoStandIn?: {
    readonly sheet: At;
    scroll(dx: number, dy: number): void;
    draw(colour: string): void;
    close(): void;
  };
}

const state = (page: Page) =>
  page.evaluate(() => {
    const { miraderoTracing, miraderoStandIn } = window as Measured;
    const { rectangle } = miraderoTracing!;
    return { ...miraderoTracing!.store.getState(), rectangle, real: miraderoStandIn?.sheet };
  });
const standIn = (page: Page, what: 'scroll' | 'draw' | 'close', ...given: (number | string)[]) =>
  page.evaluate(
    ([what, given]) => {
      const { miraderoStandIn } = window as Measured;
      (miraderoStandIn![what] as (...given: unknown[]) => void)(...given);
    },
    [what, given] as const,
  );

/** A sheet of 1,200 × 960 px with one picture over its middle, open. */
async function openSheet(page: Page, address: string, name: string): Promise<TestBoard> {
  const sheet = await TestBoard.createSheet(address, name);
  const [placement] = await sheet.place([66]);
  await sheet.change([{ item: placement!.id, set: { centre: { x: 600, y: 480 }, width: 700 } }]);
  await page.goto(sheet.url);
  await stageReady(page);
  await page.getByRole('button', { name: 'tracing paper' }).click();
  return sheet;
}

const near = (one: At, other: At, within: number): boolean =>
  (['x', 'y', 'width', 'height'] as const).every((side) => Math.abs(one[side] - other[side]) <= within);

test('a captured window lies under what stands on the sheet: found, followed, lost and found again, silent at rest', async ({
  page,
  running,
}) => {
  await openSheet(page, running.address, 'Traced');
  await page.getByRole('button', { name: 'try it with a stand-in' }).click();
  await expect(page.getByText('The sheet was found.')).toBeVisible();
  const [over] = await Promise.all([
    page.context().waitForEvent('page'),
    page.getByRole('button', { name: 'Lay it over' }).click(),
  ]);
  await expect(over.getByRole('img', { name: 'The drawing, with its references over it' })).toBeVisible();
  const first = await state(page);
  expect(near(first.rectangle, first.real!, 1)).toBe(true);

  // At rest nothing is asked for: no frame comes, none is drawn.
  await page.waitForTimeout(800);
  const { frames } = await state(page);
  await page.waitForTimeout(1_000);
  expect((await state(page)).frames).toBe(frames);

  // What is drawn there is seen here.
  await standIn(page, 'draw', '#ff2020');
  await expect.poll(async () => (await state(page)).frames).toBeGreaterThan(frames);

  // Scrolled so that its sides are out of view, it is followed by what is drawn on it.
  await standIn(page, 'scroll', -150, -90);
  await expect
    .poll(async () => {
      const { rectangle, real, isLost } = await state(page);
      return !isLost && near(rectangle, real!, 1);
    })
    .toBe(true);
  await standIn(page, 'scroll', -900, 0);
  await expect(over.getByText('The canvas cannot be followed')).toBeVisible();
  expect((await state(page)).isLost).toBe(true);
  await standIn(page, 'scroll', 1_050, 90);
  await expect(over.getByText('The canvas cannot be followed')).toHaveCount(0);
  await expect.poll(async () => near((await state(page)).rectangle, first.real!, 1)).toBe(true);

  // How strong by the wheel and by arrows; hidden while a key is held.
  await over.mouse.move(200, 150);
  await over.mouse.wheel(0, -100);
  await expect.poll(async () => (await state(page)).opacity).toBeCloseTo(0.55, 5);
  await over.keyboard.press('ArrowDown');
  await expect.poll(async () => (await state(page)).opacity).toBeCloseTo(0.5, 5);
  await over.keyboard.down('Space');
  await expect.poll(async () => (await state(page)).isHidden).toBe(true);
  await over.keyboard.up('Space');
  await expect.poll(async () => (await state(page)).isHidden).toBe(false);

  // Ended by the other side.
  await standIn(page, 'close');
  await expect(over.getByText('That window is shared no more.')).toBeVisible();
  const closed = over.waitForEvent('close');
  // The window is gone before the press is told to be over.
  await over.keyboard.press('Escape').catch(() => {});
  await closed;
  await expect.poll(() => page.evaluate(() => (window as Measured).miraderoTracing)).toBeUndefined();
});

test('what is refused is said; a sheet that is not found is marked by two corners; what is seen is kept as a version', async ({
  page,
  running,
}) => {
  const sheet = await openSheet(page, running.address, 'Marked');
  await page.evaluate(() => {
    navigator.mediaDevices.getDisplayMedia = () => Promise.reject(new DOMException('no', 'NotAllowedError'));
  });
  await page.getByRole('button', { name: 'Choose the window' }).click();
  await expect(page.getByRole('alert')).toContainText('No window was chosen');

  // A window that shows nothing but one colour: no sheet is found there.
  await page.evaluate(() => {
    navigator.mediaDevices.getDisplayMedia = () => {
      const canvas = document.createElement('canvas');
      canvas.width = 800;
      canvas.height = 600;
      const context = canvas.getContext('2d')!;
      context.fillStyle = '#335577';
      context.fillRect(0, 0, 800, 600);
      return Promise.resolve(canvas.captureStream(5));
    };
  });
  await page.getByRole('button', { name: 'Choose the window' }).click();
  await expect(page.getByText('The sheet was not found')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Lay it over' })).toBeDisabled();
  const { x, y, width } = (await page.getByTestId('captured').locator('canvas').boundingBox())!;
  const scale = width / 800;
  await page.mouse.click(x + 100 * scale, y + 80 * scale);
  await expect(page.getByText('Now press the corner across.')).toBeVisible();
  await page.mouse.click(x + 600 * scale, y + 480 * scale);
  await expect(page.getByTestId('found-sheet')).toBeVisible();
  await page.getByRole('button', { name: 'keep it as a version' }).click();
  await expect(page.getByText('What the window shows was kept as a version.')).toBeVisible();
  await saved(page);
  const drawings = async () =>
    (
      (await (await fetch(`${running.address}/api/boards/${sheet.id}/drawings`)).json()) as {
        drawings: Drawing[];
      }
    ).drawings;
  await expect.poll(async () => (await drawings()).map(({ versions }) => versions.length)).toEqual([1]);
  const drawn = (await sheet.standing()).find(
    (item): item is Placement => item.kind === 'placement' && !!item.drawing,
  );
  // 500 px wide and of the sheet's proportions; it fills the sheet.
  expect(drawn).toMatchObject({ width: 1200, centre: { x: 600, y: 480 } });
  expect(Math.abs(drawn!.pictureWidth - 500)).toBeLessThanOrEqual(2);
});

test('a sheet that is turned in its window is marked by two corners, one that is mirrored by three; both lie upright here', async ({
  page,
  running,
}) => {
  const sheet = await openSheet(page, running.address, 'Turned');
  const corners = { first: { x: 250, y: 90 }, turnDeg: 20, width: 500, height: 400 };
  /** Shows a sheet, turned and maybe mirrored; its upper left quarter is red. */
  const show = (isMirrored: boolean) =>
    page.evaluate(
      ({ first, turnDeg, width, height, isMirrored }) => {
        navigator.mediaDevices.getDisplayMedia = () => {
          const canvas = document.createElement('canvas');
          canvas.width = 900;
          canvas.height = 720;
          const context = canvas.getContext('2d')!;
          context.fillStyle = '#335577';
          context.fillRect(0, 0, 900, 720);
          context.translate(first.x + (isMirrored ? 480 : 0), first.y);
          context.rotate(((isMirrored ? -turnDeg : turnDeg) * Math.PI) / 180);
          context.scale(isMirrored ? -1 : 1, 1);
          context.fillStyle = '#40b060';
          context.fillRect(0, 0, width, height);
          context.fillStyle = '#d03020';
          context.fillRect(0, 0, width / 2, height / 2);
          return Promise.resolve(canvas.captureStream(5));
        };
      },
      { ...corners, isMirrored },
    );
  const at = (x: number, y: number, isMirrored: boolean) => {
    const turn = ((isMirrored ? -corners.turnDeg : corners.turnDeg) * Math.PI) / 180;
    const across = isMirrored ? -x : x;
    return {
      x: corners.first.x + (isMirrored ? 480 : 0) + across * Math.cos(turn) - y * Math.sin(turn),
      y: corners.first.y + across * Math.sin(turn) + y * Math.cos(turn),
    };
  };
  const press = async (x: number, y: number, isMirrored: boolean) => {
    const box = (await page.getByTestId('captured').locator('canvas').boundingBox())!;
    const point = at(x, y, isMirrored);
    await page.mouse.click(box.x + (point.x * box.width) / 900, box.y + (point.y * box.width) / 900);
  };
  const keep = async () => {
    await page.getByRole('button', { name: 'keep it as a version' }).click();
    await expect(page.getByText('What the window shows was kept as a version.')).toBeVisible();
    await saved(page);
  };
  const shownColours = async () => {
    const drawn = (await sheet.standing()).find(
      (item): item is Placement => item.kind === 'placement' && !!item.drawing,
    )!;
    const answer = await fetch(`${running.address}/api/pictures/${drawn.picture}/original`);
    const { data, info } = await sharp(Buffer.from(await answer.arrayBuffer()))
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    return [0.25, 0.75].flatMap((y) =>
      [0.25, 0.75].map((x) => {
        const offset = (Math.round(y * info.height) * info.width + Math.round(x * info.width)) * 3;
        return data[offset]! > data[offset + 1]! ? 'red' : 'green';
      }),
    );
  };
  const upright = ['red', 'green', 'green', 'green'];

  await show(false);
  await page.getByRole('button', { name: 'Choose the window' }).click();
  await expect(page.getByText('press its upper left corner')).toBeVisible();
  await press(0, 0, false);
  await press(500, 400, false);
  await expect(page.getByTestId('found-sheet')).toBeVisible();
  await keep();
  await expect.poll(shownColours).toEqual(upright);

  await show(true);
  await page.getByRole('button', { name: 'tracing paper' }).click();
  await page.getByRole('button', { name: 'Choose the window' }).click();
  await expect(page.getByText('press its upper left corner')).toBeVisible();
  await press(0, 0, true);
  await press(500, 400, true);
  await page.getByRole('button', { name: 'a third corner' }).click();
  await expect(page.getByText('Now press its upper right corner.')).toBeVisible();
  await press(500, 0, true);
  const [over] = await Promise.all([
    page.context().waitForEvent('page'),
    page.getByRole('button', { name: 'Lay it over' }).click(),
  ]);
  // Laid over, its quarters are where they are on an upright sheet.
  const canvas = over.getByRole('img', { name: 'The drawing, with its references over it' });
  await expect(canvas).toBeVisible();
  await over.keyboard.down('Space');
  const seen = () =>
    canvas.evaluate((element) => {
      const { width, height } = element as HTMLCanvasElement;
      const context = (element as HTMLCanvasElement).getContext('2d')!;
      const scale = Math.min(width / 1200, height / 960);
      const [left, top] = [(width - 1200 * scale) / 2, (height - 960 * scale) / 2];
      return [0.25, 0.75].flatMap((y) =>
        [0.25, 0.75].map((x) => {
          const [red, green] = context.getImageData(
            left + x * 1200 * scale,
            top + y * 960 * scale,
            1,
            1,
          ).data;
          return red! > 180 ? 'red' : green! > 150 ? 'green' : 'other';
        }),
      );
    });
  await expect.poll(seen).toEqual(upright);
});

test('a tab of this browser is captured by its title, and its sheet found within a pixel', async ({
  running,
}) => {
  const title = 'Stand-in to be captured';
  const browser = await launchBrowser([
    `--auto-select-tab-capture-source-by-title=${title}`,
    '--enable-usermedia-screen-capturing',
  ]);
  try {
    const context = await browser.newContext({ viewport: { width: 1000, height: 700 } });
    const other = await context.newPage();
    await other.setContent(`<title>${title}</title>
      <body style="margin:0;background:#808080"><div style="position:absolute;left:150px;top:60px;width:650px;height:520px;background:#faf9f5">
      <div style="position:absolute;left:90px;top:70px;width:120px;height:200px;background:#a33"></div></div></body>`);
    const page = await context.newPage();
    await openSheet(page, running.address, 'Captured tab');
    await page.getByRole('button', { name: 'Choose the window' }).click();
    await expect(page.getByText('The sheet was found.')).toBeVisible();
    const box = async (id: string) => (await page.getByTestId(id).boundingBox())!;
    const [captured, found] = [
      (await page.getByTestId('captured').locator('canvas').boundingBox())!,
      await box('found-sheet'),
    ];
    const pixels = await page
      .getByTestId('captured')
      .locator('canvas')
      .evaluate((canvas) => (canvas as HTMLCanvasElement).width);
    const scale = pixels / captured.width;
    // Of the capture; a tab may be captured smaller than it is.
    const shrunk = pixels / 1000;
    expect(Math.abs((found.x - captured.x) * scale - 150 * shrunk)).toBeLessThanOrEqual(1 + scale / 2);
    expect(Math.abs(found.width * scale - 650 * shrunk)).toBeLessThanOrEqual(2 + scale);
  } finally {
    await browser.close();
  }
});
