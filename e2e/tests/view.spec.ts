import type { Page } from '@playwright/test';
import sharp from 'sharp';
import {
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
import { expect, test } from '../support/test.ts';

const boardUnder = (page: Page, x: number, y: number) =>
  page.evaluate(
    ({ x, y }) => {
      const { camera, viewport, canvas } = window.miraderoStage!;
      const { left, top } = canvas.getBoundingClientRect();
      return {
        x: (x - left - viewport.width / 2) / camera.scale + camera.centre.x,
        y: (y - top - viewport.height / 2) / camera.scale + camera.centre.y,
      };
    },
    { x, y },
  );

test('the wheel zooms at the pointer, from 1 % to 3,200 %', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'wheel');
  await board.place([1]);
  await openBoard(page, board);
  await page.mouse.move(400, 300);
  const before = await boardUnder(page, 400, 300);
  await page.mouse.wheel(0, -300);
  await expect.poll(async () => (await cameraOf(page)).scale).toBeGreaterThan(1.5);
  const after = await boardUnder(page, 400, 300);
  expect(after.x).toBeCloseTo(before.x, 3);
  expect(after.y).toBeCloseTo(before.y, 3);
  for (let notch = 0; notch < 4; notch += 1) await page.mouse.wheel(0, -1500);
  await expect(page.getByTestId('zoom')).toHaveText(/3,200\s%/);
  for (let notch = 0; notch < 8; notch += 1) await page.mouse.wheel(0, 1500);
  await expect(page.getByTestId('zoom')).toHaveText(/1\.0\s%/);
});

test('Space and drag, and the middle button, pan; a plain drag on the ground does not', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'pan');
  await board.place([1]);
  await openBoard(page, board);
  const drag = async () => {
    await page.mouse.move(700, 650);
    await page.mouse.down();
    await page.mouse.move(640, 620, { steps: 4 });
    await page.mouse.up();
  };
  await drag();
  expect((await cameraOf(page)).centre).toEqual({ x: 0, y: 0 });
  await page.keyboard.down('Space');
  await drag();
  await page.keyboard.up('Space');
  expect((await cameraOf(page)).centre).toEqual({ x: 60, y: 30 });
  await page.mouse.move(600, 400);
  await page.mouse.down({ button: 'middle' });
  await page.mouse.move(610, 400, { steps: 2 });
  await page.mouse.up({ button: 'middle' });
  expect((await cameraOf(page)).centre).toEqual({ x: 50, y: 30 });
});

test('two fingers pan and zoom, each staying on what it touches', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'fingers');
  await board.place([1]);
  await openBoard(page, board);
  const session = await page.context().newCDPSession(page);
  const touch = (type: string, ...points: [number, number][]) =>
    session.send('Input.dispatchTouchEvent', {
      type: type as 'touchStart',
      touchPoints: points.map(([x, y], id) => ({ x, y, id })),
    });
  const held = await boardUnder(page, 500, 400);
  await touch('touchStart', [500, 400]);
  await touch('touchStart', [500, 400], [700, 400]);
  for (let step = 1; step <= 10; step += 1)
    await touch('touchMove', [500 - step * 10, 400], [700 + step * 10, 400 + step * 2]);
  await touch('touchEnd');
  const { scale } = await cameraOf(page);
  expect(scale).toBeGreaterThan(1.9);
  expect(scale).toBeLessThan(2.1);
  const after = await boardUnder(page, 400, 400);
  expect(after.x).toBeCloseTo(held.x, 0);
});

test('a trackpad pinch zooms', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'trackpad');
  await board.place([1]);
  await openBoard(page, board);
  await page.mouse.move(640, 400);
  await page.keyboard.down('Control');
  await page.mouse.wheel(0, -70);
  await page.keyboard.up('Control');
  await expect.poll(async () => (await cameraOf(page)).scale).toBeCloseTo(Math.exp(0.7), 2);
});

for (const [name, act] of [
  ['F', (page: Page) => page.keyboard.press('f')],
  [
    'a double click',
    async (page: Page) => {
      const { x, y } = await onPage(page, { x: -170, y: 30 });
      await page.mouse.dblclick(x, y);
    },
  ],
] as const) {
  test(`${name} brings a picture close so that it fills the view, and the same goes back exactly`, async ({
    page,
    running,
  }) => {
    const board = await TestBoard.create(running.address, `close by ${name}`);
    await board.place([1, 2]);
    await openBoard(page, board);
    await lookAt(page, { centre: { x: -33.25, y: 12.5 }, scale: 0.87 });
    const { x, y } = await onPage(page, { x: -170, y: 30 });
    await page.mouse.move(x, y);
    const before = await cameraOf(page);
    await act(page);
    await expect.poll(async () => (await cameraOf(page)).centre).toEqual({ x: -170, y: 0 });
    const { scale } = await cameraOf(page);
    const viewport = await page.evaluate(() => window.miraderoStage!.viewport);
    expect(scale).toBeCloseTo(Math.min(viewport.width / 300, viewport.height / 200), 3);
    await page.waitForTimeout(400);
    if (name === 'F') await page.keyboard.press('f');
    else await page.mouse.dblclick(640, 400);
    await expect.poll(() => cameraOf(page)).toEqual(before);
  });
}

test('0 shows the whole board', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'whole');
  await board.place([1, 2, 3]);
  await openBoard(page, board);
  await lookAt(page, { centre: { x: 5000, y: 5000 }, scale: 4 });
  await page.keyboard.press('0');
  await expect.poll(async () => (await cameraOf(page)).centre).toEqual({ x: 0, y: 0 });
});

test('the camera of a board is kept over a reload', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'camera');
  await board.place([1]);
  await openBoard(page, board);
  // At once, before the camera has rested.
  await page.evaluate(() => {
    window.miraderoStage!.setCamera({ centre: { x: 12, y: -7 }, scale: 2.5 });
    location.reload();
  });
  await page.waitForEvent('load');
  await stageReady(page);
  expect(await cameraOf(page)).toEqual({ centre: { x: 12, y: -7 }, scale: 2.5 });
});

test('detail beyond the largest level comes from the original: single pixels are squares', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'pixels');
  // Black and white by single pixels, wider than the largest level: every level shows it as one grey.
  const [width, height] = [2_600, 300];
  const chequered = Buffer.alloc(width * height);
  for (let at = 0; at < chequered.length; at += 1)
    chequered[at] = ((at % width) + Math.floor(at / width)) % 2 === 0 ? 0 : 255;
  const bytes = await sharp(chequered, { raw: { width, height, channels: 1 } })
    .png()
    .toBuffer();
  const originals: string[] = [];
  page.on('request', (request) => {
    if (request.url().endsWith('/original')) originals.push(request.url());
  });
  await board.placeFiles([{ id: 'chequered', name: 'chequered.png', bytes }], width);
  await page.goto(board.url);
  await stageReady(page);
  // The whole board at once is far from single pixels, and needs no original.
  await lookAt(page, { centre: { x: 0, y: 0 }, scale: 0.25 });
  const grey = await colourAt(page, { x: 100, y: 20 });
  expect(Math.abs(grey[1] - (await colourAt(page, { x: 104, y: 20 }))[1])).toBeLessThan(60);
  expect(originals).toEqual([]);

  // One picture pixel covers sixteen of the screen, each of one colour from edge to edge.
  await lookAt(page, { centre: { x: 100, y: 20 }, scale: 16 });
  for (let x = 96; x < 104; x += 1) {
    const isWhite = (x + width / 2 + 20 + height / 2) % 2 !== 0;
    for (const within of [0.2, 0.5, 0.8]) {
      const [, green] = await colourAt(page, { x: x + within, y: 20.5 });
      expect([x, within, isWhite ? green > 230 : green < 25]).toEqual([x, within, true]);
    }
  }
  expect(originals.length).toBeGreaterThan(0);
});

test('pixels are handed out as they are in the original: of a part, and of all of it; what is wanted no more is left', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'read pixels');
  const [width, height] = [2_700, 310];
  // Each pixel says where it is.
  const raw = Buffer.alloc(width * height * 3);
  for (let at = 0; at < width * height; at += 1) {
    const [x, y] = [at % width, Math.floor(at / width)];
    raw.set([x % 256, y % 256, (x >> 8) * 16], at * 3);
  }
  const bytes = await sharp(raw, { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();
  await board.placeFiles([{ id: 'told', name: 'told.png', bytes }], width);
  await page.goto(board.url);
  await stageReady(page);
  const read = await page.evaluate(
    async ([width, height]) => {
      const { feed } = window.miraderoStage!;
      const pool = window.miraderoPixels!;
      const [item] = feed.board.items.values();
      const source = feed.source((item as { picture: string }).picture)!;
      const part = { x: 1_000 / width, y: 100 / height, width: 3 / width, height: 2 / height };
      const side = Number.POSITIVE_INFINITY;
      const region = await pool.ask('region', { source, part, side });
      const small = await pool.ask('region', {
        source,
        part: { x: 0, y: 0, width: 1, height: 1 },
        side: 200,
      });
      const heard: number[] = [];
      const whole = await pool.ask(
        'region',
        { source: { ...source, id: 'anew' }, part: { x: 0, y: 0, width: 1, height: 1 }, side },
        { onProgress: ({ done, total }) => heard.push(done / (total ?? Number.NaN)) },
      );
      const at = (x: number, y: number) => [
        ...whole.data.slice(4 * (y * width + x), 4 * (y * width + x) + 3),
      ];
      const colour = await pool.ask('colour', { source, at: { x: 2_699.5 / width, y: 0.5 / height }, side });
      const ending = new AbortController();
      const left = pool.ask('region', { source: { ...source, id: 'left' }, part, side }, ending);
      ending.abort(new Error('left'));
      const absent = {
        ...source,
        id: 'absent',
        levels: [{ side: 256, hash: '0'.repeat(64) }],
        wholePath: null,
      };
      const troubles = await Promise.all(
        [left, pool.ask('colour', { source: absent, at: { x: 0, y: 0 }, side: 1 })].map((one) =>
          one.then(
            () => 'answered',
            (error: Error & { trouble?: string }) => error.trouble ?? error.message,
          ),
        ),
      );
      return {
        ...{ size: [region.width, region.height, region.side], data: [...region.data] },
        ...{ small: [small.side, small.width, small.height], wholeSide: whole.side },
        ...{ pixels: [at(0, 0), at(2_600, 300)], colour: [...colour], troubles, end: heard.at(-1) },
      };
    },
    [width, height] as const,
  );
  const told = (x: number, y: number) => [x % 256, y % 256, (x >> 8) * 16];
  expect(read.size).toEqual([3, 2, width]);
  expect(read.data).toEqual(
    [100, 101].flatMap((y) => [1_000, 1_001, 1_002].flatMap((x) => [...told(x, y), 255])),
  );
  expect(read.small).toEqual([256, 256, 29]);
  expect([read.wholeSide, read.pixels]).toEqual([width, [told(0, 0), told(2_600, 300)]]);
  expect(read.colour).toEqual(told(2_699, 0));
  expect(read.troubles).toEqual(['left', 'absent']);
  expect(read.end).toBe(1);
});

test('nothing is painted and no frame is asked for while nothing moves', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'still');
  await board.place([1, 2]);
  await openBoard(page, board);
  await saved(page);
  await page.evaluate(() => {
    const counts = { asked: 0, drawn: 0 };
    const ask = window.requestAnimationFrame.bind(window);
    window.requestAnimationFrame = (callback) => {
      counts.asked += 1;
      return ask(callback);
    };
    window.miraderoStage!.onFrame = () => {
      counts.drawn += 1;
    };
    Object.assign(window, { counts });
  });
  // What is still made of pictures (of other tests, too) is news, and rightly painted; then it rests.
  const inFiveSeconds = async () => {
    await page.evaluate(() =>
      Object.assign((window as unknown as { counts: object }).counts, { asked: 0, drawn: 0 }),
    );
    await page.waitForTimeout(5_000);
    return page.evaluate(() => ({ ...(window as unknown as { counts: object }).counts }));
  };
  await expect.poll(inFiveSeconds, { timeout: 60_000 }).toEqual({ asked: 0, drawn: 0 });
  // The counter counts: a move is seen by it.
  await clickOnBoard(page, { x: -170, y: 0 });
  await expect
    .poll(() => page.evaluate(() => (window as unknown as { counts: { drawn: number } }).counts.drawn))
    .toBeGreaterThan(0);
});
