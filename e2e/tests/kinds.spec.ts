import { readFile } from 'node:fs/promises';
import type { Placement } from '@miradero/core/schema';
import sharp from 'sharp';
import { colourAt, lookAt, saved, stageReady, TestBoard } from '../support/board.ts';
import { drop, withFiles } from '../support/drops.ts';
import { expect, test } from '../support/test.ts';

const DRAWING =
  '<svg xmlns="http://www.w3.org/2000/svg" width="96" height="64"><rect width="48" height="64" fill="#b9791a"/><rect x="48" width="48" height="64" fill="#2c7a6b"/></svg>';
const heic = () => readFile(new URL('../../server/src/test/fixtures/two-grounds.heic', import.meta.url));
const isNear = (colour: readonly number[], wanted: readonly number[]) =>
  Math.max(...colour.map((level, index) => Math.abs(level - wanted[index]!))) < 14;

test('every kind of still is dropped, seen and kept', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'kinds');
  await page.goto(board.url);
  await stageReady(page);
  const grounds = sharp(Buffer.from(DRAWING)).removeAlpha();
  const files = {
    'drawing.svg': Buffer.from(DRAWING),
    'scan.tif': await grounds.clone().tiff().toBuffer(),
    'new.avif': await grounds.clone().avif({ lossless: true }).toBuffer(),
    'old.gif': await grounds.clone().gif().toBuffer(),
    'phone.heic': await heic(),
    'print.jpg': await grounds
      .clone()
      .toColourspace('cmyk')
      .withIccProfile('cmyk')
      .jpeg({ quality: 98 })
      .toBuffer(),
    'sixteen.png': await grounds.clone().toColourspace('rgb16').png().toBuffer(),
  };
  await withFiles(files, async (paths) => {
    await drop(page, paths, 640, 400);
    await expect.poll(async () => (await board.standing()).length).toBe(paths.length);
  });
  await saved(page);
  await page.keyboard.press('0');
  await stageReady(page);
  for (const item of (await board.standing()) as Placement[]) {
    const at = (share: number) => colourAt(page, { x: item.centre.x + item.width * share, y: item.centre.y });
    const looks = async () =>
      isNear(await at(-0.25), [0xb9, 0x79, 0x1a]) && isNear(await at(0.25), [0x2c, 0x7a, 0x6b]);
    const isPrint = item.pictureWidth === 96 && (await board.item(item.id)) !== undefined;
    if (isPrint)
      await expect.poll(async () => (await at(-0.25))[0] - (await at(0.25))[0]).toBeGreaterThan(70);
    else await expect.poll(looks).toBe(true);
  }
});

test('fine lettering on a picture wider than 8,000 px is sharp when one zooms into it', async ({
  page,
  running,
}) => {
  test.setTimeout(240_000);
  const board = await TestBoard.create(running.address, 'blueprint');
  await page.goto(board.url);
  await stageReady(page);
  // Lines three pixels wide, three apart: at the largest level of the ladder they are one even grey.
  const comb = await sharp({ create: { width: 300, height: 200, channels: 3, background: '#ffffff' } })
    .composite(
      Array.from({ length: 50 }, (_, line) => ({
        input: { create: { width: 3, height: 200, channels: 3 as const, background: '#000000' } },
        left: line * 6,
        top: 0,
      })),
    )
    .png()
    .toBuffer();
  // As wide as asks for tiles, and no higher than the comb needs.
  const [width, height] = [8_200, 400];
  const blueprint = await sharp({
    create: { width, height, channels: 3, background: '#2c4a7a' },
    limitInputPixels: false,
  })
    .composite([{ input: comb, left: 6_000, top: 100 }])
    .png({ compressionLevel: 3 })
    .toBuffer();
  await withFiles({ 'blueprint.png': blueprint }, async (paths) => {
    await drop(page, paths, 640, 400);
    await expect.poll(async () => (await board.standing()).length, { timeout: 60_000 }).toBe(1);
  });
  await saved(page);
  const [placement] = (await board.standing()) as Placement[];
  await expect
    .poll(
      async () => {
        const response = await fetch(`${running.address}/api/pictures/${placement!.picture}`);
        return ((await response.json()) as { picture: { hasTiles: boolean } }).picture.hasTiles;
      },
      { timeout: 150_000 },
    )
    .toBe(true);
  const unit = placement!.width / width;
  const onBoard = (x: number, y: number) => ({
    x: placement!.centre.x + (x - width / 2) * unit,
    y: placement!.centre.y + (y - height / 2) * unit,
  });
  // One picture pixel covers four of the screen.
  const scale = Math.min(32, 4 / unit);
  await lookAt(page, { centre: onBoard(6_150, 200), scale });
  const dark = () => colourAt(page, onBoard(6_150 + 1.5, 200));
  const light = () => colourAt(page, onBoard(6_150 + 4.5, 200));
  await expect.poll(async () => (await light())[0] - (await dark())[0]).toBeGreaterThan(180);

  // What is computed with comes from the same tiles, across their edges.
  const region = await page.evaluate(
    async ([width, height]) => {
      const { feed } = window.miraderoStage!;
      const [item] = feed.board.items.values();
      const source = feed.source((item as { picture: string }).picture)!;
      const part = { x: 6_140 / width, y: 205 / height, width: 20 / width, height: 10 / height };
      const asked = { source, part, side: Number.POSITIVE_INFINITY };
      const { data, ...size } = await window.miraderoPixels!.ask('region', asked);
      return { ...size, row: Array.from({ length: 20 }, (_, x) => data[4 * (20 * 9 + x)]!) };
    },
    [width, height] as const,
  );
  expect([region.width, region.height, region.side]).toEqual([20, 10, Math.max(width, height)]);
  const isDark = (x: number) => region.row[x]! < 60;
  expect(Array.from({ length: 18 }, (_, x) => isDark(x + 1))).toEqual(
    Array.from({ length: 18 }, (_, x) => isDark(((x + 1) % 6) + 6)),
  );
  expect(new Set(region.row.map((value) => value < 128)).size).toBe(2);
});

test('pictures in pasted HTML come in by their data, named by their text; nothing in it runs', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'html');
  await page.goto(board.url);
  await stageReady(page);
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write'], { origin: running.address });
  const png = (await sharp(Buffer.from(DRAWING)).png().toBuffer()).toString('base64');
  const html = `<p>from a page</p><script>window.ran = true</script><img alt="Chain wheel, raking" src="data:image/png;base64,${png}"><img src="https://elsewhere.example/a.png" onerror="window.ran = true"><img src="data:image/png;base64,@@@">`;
  await page.evaluate(async (html) => {
    await navigator.clipboard.write([
      new ClipboardItem({ 'text/html': new Blob([html], { type: 'text/html' }) }),
    ]);
  }, html);
  await page.mouse.move(700, 400);
  await page.keyboard.press('Control+v');
  await expect.poll(async () => (await board.standing()).length).toBe(1);
  await saved(page);
  const { pictures } = (await (await fetch(`${running.address}/api/pictures?board=${board.id}`)).json()) as {
    pictures: { name: string }[];
  };
  expect(pictures.map(({ name }) => name)).toEqual(['Chain wheel, raking']);
  expect(await page.evaluate(() => 'ran' in window)).toBe(false);
});

test('the paste button does what the key does', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'paste button');
  await page.goto(board.url);
  await stageReady(page);
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write'], { origin: running.address });
  const png = (await sharp(Buffer.from(DRAWING)).png().toBuffer()).toString('base64');
  await page.evaluate(async (base64) => {
    const bytes = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
    await navigator.clipboard.write([
      new ClipboardItem({ 'image/png': new Blob([bytes], { type: 'image/png' }) }),
    ]);
  }, png);
  await page.locator('footer').getByRole('button', { name: 'paste a picture' }).click();
  await expect.poll(async () => (await board.standing()).length).toBe(1);
});

test('a placement follows when the server reads other sides than the head of the file had said', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'sides');
  await page.goto(board.url);
  await stageReady(page);
  // The orientation of a TIFF stands where the browser's reader does not look.
  const turned = await sharp(Buffer.from(DRAWING))
    .removeAlpha()
    .withMetadata({ orientation: 6 })
    .tiff()
    .toBuffer();
  await page.setInputFiles('#choose-files', { name: 'turned.tif', mimeType: 'image/tiff', buffer: turned });
  await expect.poll(async () => (await board.standing()).length).toBe(1);
  await expect
    .poll(async () => {
      const [item] = (await board.standing()) as Placement[];
      return [item!.pictureWidth, item!.pictureHeight];
    })
    .toEqual([64, 96]);
});
