import type { Point } from '@miradero/core/geometry';
import type { Page } from '@playwright/test';
import { cameraOf, onPage, saved, stageReady, TestBoard } from '../support/board.ts';
import { placementsOf } from '../support/gathering.ts';
import { testPicture } from '../support/pictures.ts';
import { bringPicture, makeSubject, pictureAt } from '../support/subjects.ts';
import { expect, test } from '../support/test.ts';

type Finger = (type: 'touchStart' | 'touchMove' | 'touchEnd', points: readonly Point[]) => Promise<unknown>;

/** Fingers as the system reports them. */
async function fingersOn(page: Page): Promise<Finger> {
  const session = await page.context().newCDPSession(page);
  return (type, points) =>
    session.send('Input.dispatchTouchEvent', {
      type,
      touchPoints: points.map(({ x, y }, id) => ({ x, y, id })),
    });
}

async function fingerDrag(finger: Finger, from: Point, to: Point): Promise<void> {
  await finger('touchStart', [from]);
  for (let step = 1; step <= 5; step += 1)
    await finger('touchMove', [
      { x: from.x + ((to.x - from.x) * step) / 5, y: from.y + ((to.y - from.y) * step) / 5 },
    ]);
  // A tap that follows at once is a tap: the stage sees to it that the browser takes no drag for a fling.
  await finger('touchEnd', []);
}

/** A word of the sill, perhaps behind its last one. */
async function tapWord(page: Page, name: string): Promise<void> {
  const footer = page.locator('footer').first();
  await footer.locator('.sill-words').waitFor();
  const word = footer.getByRole('button', { name, exact: true }).filter({ visible: true });
  if ((await word.count()) === 0) {
    await footer.getByRole('button', { name: 'more', exact: true }).tap();
    await page
      .getByRole('dialog', { name: 'What else can be done' })
      .getByRole('button', { name, exact: true })
      .tap();
    return;
  }
  await word.first().tap();
}

/** A tap beside a sheet leaves it. */
async function leaveSheet(page: Page): Promise<void> {
  await page.touchscreen.tap(4, 4);
  await expect(page.getByRole('dialog')).toHaveCount(0);
}

async function goTo(page: Page, place: string): Promise<void> {
  const word = page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: place });
  if (!(await word.first().isVisible())) await page.locator('.places-word').tap();
  await word.filter({ visible: true }).first().tap();
}

for (const width of [390, 820])
  test(`what the README names in six lines is done by finger alone, ${width} px wide`, async ({
    chromium,
    running,
  }) => {
    test.setTimeout(300_000);
    const { address } = running;
    const subject = `The smack ${width}`;
    await makeSubject(address, subject, 'boom');
    const name = `Smack ${width} drying out`;
    const extra = await bringPicture(address, 6_100 + width, name);
    const board = await TestBoard.create(address, `By finger ${width}`);
    const context = await chromium.newContext({
      ...{ viewport: { width, height: 844 }, hasTouch: true, isMobile: true },
    });
    const page = await context.newPage();
    page.setDefaultTimeout(60_000);
    const troubles: string[] = [];
    page.on('pageerror', ({ message }) => troubles.push(message));
    await page.goto(board.url);
    await stageReady(page);
    const finger = await fingersOn(page);
    const first = async () => (await placementsOf(board))[0]!;

    // 1. Files are chosen, and named.
    const choosing = page.waitForEvent('filechooser');
    await tapWord(page, 'choose files');
    await (await choosing).setFiles({
      ...{ name: 'IMG_1.jpg', mimeType: 'image/jpeg', buffer: await testPicture(6_300 + width, 300, 200) },
    });
    await page.getByPlaceholder('Enter, then type').tap();
    await page.keyboard.type('Gaff');
    await page.keyboard.press('Enter');
    await saved(page);
    await expect.poll(async () => (await placementsOf(board)).length).toBe(1);

    // 2. Moved by a finger, turned and faded by words, both ways; two fingers zoom.
    const at = await onPage(page, (await first()).centre);
    await page.touchscreen.tap(at.x, at.y);
    const before = await first();
    await fingerDrag(finger, at, { x: at.x + 30, y: at.y - 40 });
    await saved(page);
    expect((await first()).centre.y).toBeLessThan(before.centre.y);
    await tapWord(page, 'fainter');
    await tapWord(page, 'fainter');
    await tapWord(page, 'stronger');
    await tapWord(page, 'turn');
    await tapWord(page, 'turn right by 90°');
    await tapWord(page, 'leave');
    await saved(page);
    expect((await first()).opacity).toBeCloseTo(0.9, 5);
    expect((await first()).turn).toBe(90);
    const scale = (await cameraOf(page)).scale;
    const middle = { x: width / 2, y: 420 };
    await finger('touchStart', [
      { x: middle.x - 40, y: middle.y },
      { x: middle.x + 40, y: middle.y },
    ]);
    for (const away of [55, 70, 90])
      await finger('touchMove', [
        { x: middle.x - away, y: middle.y },
        { x: middle.x + away, y: middle.y },
      ]);
    await finger('touchEnd', []);
    await page.waitForTimeout(400);
    await expect.poll(async () => (await cameraOf(page)).scale).toBeGreaterThan(scale * 1.5);
    await tapWord(page, 'undo');
    await expect.poll(async () => (await first()).turn).toBe(0);
    await tapWord(page, 'redo');
    await expect.poll(async () => (await first()).turn).toBe(90);

    // 3. Close and back by two taps, trimmed by a drag, flipped; a note.
    const where = await onPage(page, (await first()).centre);
    const far = await cameraOf(page);
    await page.touchscreen.tap(where.x, where.y);
    await page.touchscreen.tap(where.x, where.y);
    await expect.poll(async () => (await cameraOf(page)).scale).not.toBe(far.scale);
    await tapWord(page, 'come close');
    await expect.poll(async () => (await cameraOf(page)).scale).toBeCloseTo(far.scale, 4);
    await tapWord(page, 'trim');
    await fingerDrag(finger, { x: where.x - 30, y: where.y - 30 }, { x: where.x + 30, y: where.y + 30 });
    await tapWord(page, 'leave');
    await tapWord(page, 'flip');
    await saved(page);
    expect((await first()).trim.width).toBeLessThan(1);
    expect((await first()).flipX).toBe(true);
    await page.touchscreen.tap(where.x, 120);
    await tapWord(page, 'write a note');
    await page.keyboard.type('ash, not oak');
    await page.touchscreen.tap(where.x, 760);
    await saved(page);
    expect((await board.standing()).map(({ kind }) => kind).sort()).toEqual(['note', 'placement']);

    // 4. The value rail, the label, keys and names.
    await page.getByRole('radio', { name: 'Value 4' }).tap();
    await expect.poll(async () => (await board.snapshot()).board.surround).toBe(4);
    const stood = await onPage(page, (await first()).centre);
    await page.touchscreen.tap(stood.x, stood.y);
    await tapWord(page, 'wall label');
    await expect(page.getByRole('region', { name: 'Wall label' })).toBeVisible();
    await tapWord(page, 'keys');
    await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
    await leaveSheet(page);
    await tapWord(page, 'anything');
    await expect(page.getByRole('dialog', { name: 'Anything by name' })).toBeVisible();
    await leaveSheet(page);

    // 5. The library: found by word, told what it is for, given to a part; the subject; the sources.
    await goTo(page, 'Library');
    await page.getByRole('searchbox', { name: 'Find pictures by word' }).tap();
    await page.keyboard.type(`smack ${width} drying`);
    await expect(page.getByRole('option')).toHaveCount(1);
    await page.getByRole('option', { name }).tap();
    await page.getByRole('combobox', { name: 'What it is here for' }).tap();
    await page.keyboard.type('light');
    await page.getByRole('option', { name: /^light purpose/ }).tap();
    await expect
      .poll(async () => (await pictureAt(address, extra)).purposes.map(({ purpose }) => purpose))
      .toEqual(['light']);
    await tapWord(page, 'to a board or part');
    await page.keyboard.type(`${subject} boom`);
    await page.getByRole('button', { name: `${subject} boom` }).tap();
    await expect.poll(async () => (await pictureAt(address, extra)).parts.length).toBe(1);
    await page.getByRole('button', { name: 'close', exact: true }).tap();
    await goTo(page, 'Subjects');
    await page.getByRole('navigation', { name: 'Subjects' }).getByRole('link', { name: subject }).tap();
    await expect(page.getByRole('textbox', { name: 'Name of the subject' })).toHaveValue(subject);
    await page.getByRole('link', { name: 'sources' }).tap();
    await expect(page.getByRole('heading', { level: 1 })).toContainText(`Sources of ${subject}`);

    // 6. The bookmark in the settings; the perch.
    await goTo(page, 'Settings');
    await expect(page.getByRole('heading', { name: 'Clip from any page' })).toBeVisible();
    await page.goto(board.url);
    await stageReady(page);
    const opening = context.waitForEvent('page');
    await page.getByRole('button', { name: 'perch' }).tap();
    await (await opening).close();
    expect(troubles).toEqual([]);
    await context.close();
  });
