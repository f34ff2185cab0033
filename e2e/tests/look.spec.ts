import { randomUUID } from 'node:crypto';
import { clickOnBoard, onPage, openBoard, saved, stageReady, TestBoard } from '../support/board.ts';
import { expectClean, PHONE, troublesOn } from '../support/clean.ts';
import { drop, withFiles } from '../support/drops.ts';
import { faultsOfText } from '../support/layout.ts';
import { bringPicture, makeSubject, patchPicture } from '../support/subjects.ts';
import { expect, test } from '../support/test.ts';

const LONG_LICENCE =
  'A licence with an address (http://127.0.0.1:41719/licences/to-look-at-and-to-paint-from)';
const DIALOG = '[role="dialog"]';

test('every page is clean and fits, in both themes at three widths', async ({ page, running }) => {
  test.setTimeout(900_000);
  const board = await TestBoard.create(
    running.address,
    'A name that is long enough to be cut off where there is little room',
  );
  const [placement] = await board.place([1, 2]);
  await board.change([{ item: placement!.id, set: { turn: 3 } }]);
  const named = {
    board: board.id,
    revision: 1,
    name: 'A state whose name is longer than its place on the line',
  };
  await fetch(`${running.address}/api/named-states/${randomUUID()}`, {
    method: 'PATCH',
    body: JSON.stringify(named),
    headers: { 'Content-Type': 'application/json' },
  });
  const { id: subject } = await makeSubject(
    running.address,
    'The chain ferry at Low Sallow, as she was before the winter',
    'hull[plates-and-rust rub-rail] ramps[hinge] winch-house[door-and-windows crank] lamp-mast deck-and-rails underside',
  );
  await bringPicture(
    running.address,
    7_701,
    'A picture whose name is longer than the place where it is written',
  );
  const empty = await TestBoard.create(running.address, 'Nothing yet');
  const paths = [
    ...['/boards', '/landing', '/library', '/library?sort=zz&words=nothing+like+it', '/subjects'],
    ...[`/subjects/${subject}`, `/library/${placement!.picture}`, `/sources?board=${board.id}`, '/settings'],
    ...[`/boards/${board.id}/history`, `/boards/${empty.id}/history`],
    ...['/bring', '/clip', `/boards/${empty.id}`, `/perch/${board.id}`, '/boards/nope'],
  ];
  for (const path of paths) {
    await page.goto(`${running.address}${path}`);
    await page.waitForLoadState('networkidle');
    await expectClean(page, path.replaceAll(/[0-9a-f-]{36}/g, ':id'));
  }
});

test('everything that opens over a page is clean and fits, too', async ({ page, running }) => {
  test.setTimeout(900_000);
  // The browser's own choice of a screen would lie over everything and take the keys.
  await page.addInitScript(() => {
    navigator.mediaDevices.getDisplayMedia = () => Promise.reject(new DOMException('no', 'NotAllowedError'));
  });
  const board = await TestBoard.create(running.address, 'Sheets');
  const [placement] = await board.place([1, 2]);
  // Words that are longer than any room for them.
  await patchPicture(running.address, placement!.picture, {
    source: {
      creator: 'o'.repeat(180),
      licence: LONG_LICENCE,
    },
  });
  await openBoard(page, board);
  await clickOnBoard(page, { x: -170, y: 0 });
  await page.keyboard.press('i');
  await expect(page.getByRole('region', { name: 'Wall label' })).toBeVisible();
  await expectClean(page, 'board with a wall label');
  await page.keyboard.press('i');
  await page.keyboard.press('t');
  await expectClean(page, 'trimming');
  await page.keyboard.press('Escape');
  await page.keyboard.press('w');
  await page.keyboard.type('rope');
  await expectClean(page, 'writing');
  await page.keyboard.press('Escape');

  const sheets: readonly (readonly [string, string])[] = [
    ...([
      ['Shift+?', 'Keys'],
      ['Control+k', 'Anything by name'],
    ] as const),
    ...([
      ['Shift+A', 'By address'],
      ['Shift+G', 'Grab from the screen'],
    ] as const),
    ['Alt+p', 'Save as a picture'],
    ['Shift+P', ''],
  ];
  for (const [key, name] of sheets) {
    await page.keyboard.press(key);
    await expect(name ? page.getByRole('dialog', { name }) : page.getByRole('dialog')).toBeVisible();
    await expectClean(page, `sheet by ${key}`, DIALOG);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog'), key).toHaveCount(0);
  }
  await fetch(`${running.address}/api/links`, {
    method: 'POST',
    body: JSON.stringify({ id: randomUUID(), board: board.id, withOriginals: true, tasks: 'Paint it.' }),
    headers: { 'Content-Type': 'application/json' },
  });
  for (const [words, name] of [
    ['save the board as one file', 'Save the board as one file'],
    ['drawing, layers', 'Save for other programs'],
    ['name this state', 'Name this state'],
    ['links to look', 'Links to look'],
  ] as const) {
    await page.keyboard.press('Control+k');
    await page.keyboard.type(words);
    await page.keyboard.press('Enter');
    const sheet = page.getByRole('dialog', { name });
    await expect(sheet).toBeVisible();
    if (name === 'Links to look') await expect(sheet.getByText('with originals, with tasks')).toBeVisible();
    if (name === 'Save for other programs') await sheet.getByRole('radio', { name: 'pages' }).click();
    await expectClean(page, words, DIALOG);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog'), words).toHaveCount(0);
  }
  await clickOnBoard(page, { x: -170, y: 0 });
  const at = await onPage(page, { x: -170, y: 0 });
  await page.mouse.click(at.x, at.y, { button: 'right' });
  await expect(page.locator('.hand-card')).toBeVisible();
  await expectClean(page, 'hand card', '.hand-card');
  await page.keyboard.press('Escape');

  await withFiles({ 'none.png': Buffer.from('none') }, async (files) => {
    await drop(page, files, 900, 300);
    await expect(page.getByText('1 did not come')).toBeVisible();
  });
  await page.getByText('1 did not come').click();
  await expectClean(page, 'what did not come', DIALOG);

  await page.goto(`${running.address}/library`);
  await page.getByRole('option').first().click();
  for (const word of ['that are …', 'newest first', 'kept searches']) {
    await page.getByRole('button', { name: word, exact: true }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    await expectClean(page, `library: ${word}`, DIALOG);
    await page.keyboard.press('Escape');
  }
  await page.goto(`${running.address}/library?licence=${encodeURIComponent(LONG_LICENCE)}`);
  await expect(page.getByTestId('asked')).toContainText('1 picture');
  await expectClean(page, 'library: of one licence');
  await page.getByRole('option').first().click();
  await page.keyboard.press('b');
  await expectClean(page, 'library with somewhere to drop');
  await page.getByRole('button', { name: 'close', exact: true }).click();
  await page.getByRole('combobox', { name: 'What it is here for' }).click();
  await page.keyboard.type('form');
  await expectClean(page, 'library: what is said, being found');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'look elsewhere' }).click();
  await expect(page.getByRole('dialog', { name: 'Look elsewhere' })).toBeVisible();
  await expectClean(page, 'look elsewhere', DIALOG);
  await page.keyboard.press('Escape');

  await openBoard(page, board);
  await clickOnBoard(page, { x: -170, y: 0 });
  await page.locator('footer').getByRole('button', { name: 'more', exact: true }).click();
  await expectClean(page, 'what else can be done', DIALOG);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.mouse.move(640, 5);
  await page.keyboard.press('ArrowRight');
  await expect(page.locator('.stage')).toHaveAttribute('aria-activedescendant', /walked/);
  await expectClean(page, 'walking');
  await page.setViewportSize(PHONE);
  await page.locator('.places-word').click();
  await expect(page.getByRole('dialog', { name: 'Places' })).toBeVisible();
  expect(await faultsOfText(page)).toEqual([]);
  expect(await troublesOn(page, DIALOG)).toEqual([]);
});

test('the check of texts sees what was wrong once: words of the sill over each other, blind spots over parts', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'As it was');
  await board.place([1]);
  await page.setViewportSize(PHONE);
  await openBoard(page, board);
  await page.keyboard.press('Control+a');
  expect(await faultsOfText(page, true)).toEqual([]);
  // As the sill was: every word in one row that scrolls, the last one cut.
  await page.locator('footer .sill-words').evaluate((live) => {
    // A copy fits nothing in.
    const row = live.cloneNode(true) as HTMLElement;
    live.replaceWith(row);
    const words = [...row.children] as HTMLElement[];
    for (const word of words) word.hidden = false;
    const [first, second] = words.map(({ offsetWidth }) => offsetWidth);
    Object.assign(row.style, { overflowX: 'auto', flex: 'none', width: `${first! + second! * 0.85}px` });
  });
  expect((await faultsOfText(page, true)).join()).toMatch(/is cut off by div\.flex/);
  await page.locator('footer .sill-words').evaluate((row) => {
    for (const word of row.children)
      Object.assign((word as HTMLElement).style, { flex: '0 1 0', minWidth: '0' });
  });
  expect((await faultsOfText(page, true)).join()).toContain('lies over');

  const { id } = await makeSubject(
    running.address,
    'The old barge',
    'hull[plates rail] ramps winch[door] mast deck underside wheel cabin lamp',
  );
  await page.goto(`${running.address}/subjects/${id}`);
  await expect(page.getByRole('region', { name: 'Blind spots' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'underside', exact: true })).toBeVisible();
  expect(await faultsOfText(page, true)).toEqual([]);
  // As the page was: two rows of a grid in a height of its own, each lower than what it holds.
  await page.getByRole('region', { name: 'Blind spots' }).evaluate((spots) => {
    const room = spots.parentElement!.parentElement!;
    room.style.display = 'grid';
    room.style.height = '400px';
    Object.assign(room.style, { gridTemplateRows: '1fr 1fr', gridTemplateColumns: '1fr' });
    for (const half of room.children)
      Object.assign((half as HTMLElement).style, { minHeight: '0', overflow: 'visible' });
  });
  expect((await faultsOfText(page, true)).join()).toContain('lies over');
});

test('no text is smaller than 12 px', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'small print');
  await board.place([1]);
  await openBoard(page, board);
  await clickOnBoard(page, { x: 0, y: 0 });
  await page.keyboard.press('i');
  const smallest = () =>
    page.evaluate(() =>
      Math.min(
        ...[...document.querySelectorAll('body *')]
          .filter((element) =>
            [...element.childNodes].some((node) => node.nodeType === 3 && node.textContent!.trim() !== ''),
          )
          .map((element) => Number.parseFloat(getComputedStyle(element).fontSize)),
      ),
    );
  expect(await smallest()).toBeGreaterThanOrEqual(12);
  await page.keyboard.press('Shift+?');
  expect(await smallest()).toBeGreaterThanOrEqual(12);
});

test('the surround carries its value into the theme, at once and over a reload', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'surround');
  await board.place([1]);
  await openBoard(page, board);
  const theme = () => page.evaluate(() => document.documentElement.dataset.theme);
  expect(await theme()).toBe('paper');
  await page.getByRole('radio', { name: 'Value 3' }).click();
  await expect.poll(theme).toBe('lamp');
  await saved(page);
  await page.reload();
  await stageReady(page);
  expect(await theme()).toBe('lamp');
  await page.getByRole('radio', { name: 'Value 4' }).click();
  await expect.poll(theme).toBe('paper');
});
