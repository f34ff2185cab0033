import AxeBuilder from '@axe-core/playwright';
import { createNote, type Note, noteHeightFor, setNote } from '@miradero/core/items';
import type { Export } from '@miradero/core/schema';
import { plainOf } from '@miradero/core/text';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { clickOnBoard, dragOnBoard, onPage, openBoard, saved, TestBoard } from '../support/board.ts';
import { emptyBoard, paste } from '../support/gathering.ts';
import { expect, test } from '../support/test.ts';

const noteOf = async (board: TestBoard): Promise<Note> =>
  (await board.standing()).find((item): item is Note => item.kind === 'note')!;
const editorOf = (page: Page) => page.getByLabel('Text of the note');

/** Opens *written as* and presses a word of it. */
async function writtenAs(page: Page, action: string): Promise<void> {
  await page.locator('footer [data-family="written-as"]').click();
  await page.locator(`[data-radix-popper-content-wrapper] [data-action="${action}"]`).click();
}

/** Writes a note with its upper left corner at a point of the board. */
async function beginNote(page: Page, at: { x: number; y: number }): Promise<void> {
  const { x, y } = await onPage(page, at);
  await page.mouse.move(x, y);
  await page.keyboard.press('w');
  // The formatting editor, and not what takes letters before it is here.
  await expect(page.locator('.ProseMirror')).toBeFocused();
}

/** How far to the right each line of dark ink reaches in a picture of a note, pixels; one entry for each line of type. */
async function inkEnds(bytes: Uint8Array, lines: number): Promise<number[]> {
  const { data, info } = await sharp(bytes).greyscale().raw().toBuffer({ resolveWithObject: true });
  const ends: number[] = [];
  for (let line = 0; line < lines; line += 1) {
    // From the top of the small letters to the baseline: what hangs or stands out belongs to neighbours, too.
    const [from, to] = [14 + line * 23 + 8, 14 + line * 23 + 16];
    let end = 0;
    for (let y = from; y < to; y += 1)
      for (let x = 4; x < info.width - 4; x += 1) if (data[y * info.width + x]! < 110) end = Math.max(end, x);
    ends.push(end);
  }
  return ends;
}

/** The flat picture that the server makes of a whole board, a pixel a board unit. */
async function flatPicture(board: TestBoard, side: number): Promise<Uint8Array> {
  const ask = async (path: string, body?: object) => {
    const response = await fetch(`${board.address}/api${path}`, {
      ...(body && { method: 'POST', body: JSON.stringify(body) }),
      headers: { 'Content-Type': 'application/json' },
    });
    return ((await response.json()) as { export: Export }).export;
  };
  const wanted = { items: null, as: 'flat', type: 'image/png', side, ground: 'white' };
  let made = await ask(`/boards/${board.id}/exports`, wanted);
  await expect
    .poll(async () => {
      made = await ask(`/exports/${made.id}`);
      return made.state;
    })
    .toBe('done');
  return new Uint8Array(await (await fetch(`${board.address}/api/exports/${made.id}/file`)).arrayBuffer());
}

test('a note breaks at the same words while it is written, on the board and in a picture of it', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'the same words');
  await openBoard(page, board);
  await beginNote(page, { x: -300, y: -200 });
  // Hyphens, slashes and brackets, at which browsers break lines by themselves; formatted across what is one word.
  await page.keyboard.type('The well-known rope/tar (of the lamp-mast) is ');
  await page.keyboard.press('Control+b');
  await page.keyboard.type('darker than the wet');
  await page.keyboard.press('Control+b');
  await page.keyboard.type('ness says: ');
  await page.keyboard.press('Control+i');
  await page.keyboard.type('look at the underside first, by the ramp.');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+i');
  await page.keyboard.type('- the yard, which leans aft by two degrees, and its blocks');
  const written = await page.locator('.note-paper').screenshot();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await saved(page);
  const note = await noteOf(board);
  const lines = setNote(note.text, note).lines;
  expect(lines.length).toBeGreaterThan(5);
  expect(note.height).toBe(28 + lines.length * 23);

  const corner = await onPage(page, { x: -300, y: -200 });
  const clip = { ...corner, width: 240, height: note.height };
  await page.mouse.move(corner.x + 500, corner.y + 400);
  const drawn = await page.screenshot({ clip });
  const flat = await flatPicture(board, Math.max(240, note.height));
  const all = await Promise.all([written, drawn, flat].map((bytes) => inkEnds(bytes, lines.length)));
  const [whileWritten, onBoard, inPicture] = all as [number[], number[], number[]];
  for (const [index, { text }] of lines.entries()) {
    // A word more or less is at least eight pixels; pairs that are kerned are one or two.
    expect(Math.abs(whileWritten[index]! - onBoard[index]!), text).toBeLessThanOrEqual(2);
    expect(Math.abs(inPicture[index]! - onBoard[index]!), text).toBeLessThanOrEqual(5);
    expect(onBoard[index]!, text).toBeGreaterThan(40);
  }
});

test('a note says what it is for, is formatted, and all of that is one undo', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'roles');
  await openBoard(page, board);
  await beginNote(page, { x: -300, y: -200 });
  await page.keyboard.type('Photograph the block');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Ask Orla');
  await writtenAs(page, 'role-todo');
  await expect(page.locator('.ProseMirror li')).toHaveCount(2);
  await page.locator('footer [data-family="written-as"]').click();
  await page.getByRole('button', { name: 'Paper: marsh' }).click();
  await page.getByRole('button', { name: 'Ink: brick' }).click();
  await page.keyboard.press('Escape');
  await expect(page.locator('.ProseMirror')).toBeFocused();
  await page.keyboard.press('Escape');
  await saved(page);
  expect(await noteOf(board)).toMatchObject({ role: 'todo', paper: 'marsh', ink: 'brick' });
  await page.keyboard.press('Control+z');
  await saved(page);
  expect(await board.standing()).toEqual([]);
  await page.keyboard.press('Control+Shift+Z');
  await saved(page);
  const note = await noteOf(board);
  expect(note.text).toEqual({
    blocks: ['Photograph the block', 'Ask Orla'].map((text) => ({ list: 'check', runs: [{ text }] })),
  });
  expect(note.height).toBe(noteHeightFor(note.text, note));

  // Selected and not written, the same keys mean all of it, and a box is ticked where it stands.
  await clickOnBoard(page, { x: -150, y: -175 });
  await page.keyboard.press('Control+b');
  await saved(page);
  expect((await noteOf(board)).text).toMatchObject({ blocks: [{ runs: [{ marks: ['bold'] }] }, {}] });
  await clickOnBoard(page, { x: -300 + 14 + 12, y: -200 + 14 + 34 });
  await saved(page);
  expect((await noteOf(board)).text).toMatchObject({ blocks: [{ list: 'check' }, { isDone: true }] });
  await page.keyboard.press('i');
  const label = page.getByRole('region', { name: 'Wall label' });
  await expect(label.getByRole('checkbox', { name: 'Ask Orla' })).toBeChecked();
  await label.getByRole('checkbox', { name: 'Photograph the block' }).check();
  await saved(page);
  expect((await noteOf(board)).text).toMatchObject({ blocks: [{ isDone: true }, { isDone: true }] });
  await page.keyboard.press('Escape');
  for (let step = 0; step < 3; step += 1) await page.keyboard.press('Control+z');
  await saved(page);
  expect(await noteOf(board)).toMatchObject({ text: note.text });
});

test('who writes on a note that another window removed keeps it', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'removed meanwhile');
  await openBoard(page, board);
  await beginNote(page, { x: -300, y: -200 });
  await page.keyboard.type('wet rope');
  await expect.poll(async () => (await board.standing()).length).toBe(1);
  await board.change([{ item: (await noteOf(board)).id, set: { removed: true } }]);
  await expect.poll(async () => (await board.standing()).length).toBe(0);
  await page.keyboard.type(', and tar');
  await page.keyboard.press('Escape');
  await saved(page);
  expect((await noteOf(board)).text).toBe('wet rope, and tar');
});

test('its side draws how wide its words run, its corner how large they are', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'wrapping');
  const text = 'The glass is the lightest thing on page seven, and the wet rope the darkest.';
  const height = noteHeightFor(text, { width: 240 });
  const made = createNote({ id: 'n', stack: 'a0', centre: { x: 0, y: 0 }, width: 240, height, text });
  await board.change([{ create: made }]);
  await openBoard(page, board);
  await clickOnBoard(page, { x: 0, y: 0 });
  await dragOnBoard(page, { x: 120, y: 0 }, { x: 360, y: 20 });
  await saved(page);
  const wide = await noteOf(board);
  expect(wide).toMatchObject({ scale: 1 });
  expect(wide.width).toBeCloseTo(480, -1);
  expect(wide.height).toBe(noteHeightFor(text, wide));
  expect(wide.height).toBeLessThan(height);
  expect(wide.centre.x - wide.width / 2).toBeCloseTo(-120, 6);
  expect(wide.centre.y - wide.height / 2).toBeCloseTo(-height / 2, 6);
  await page.keyboard.press('Control+z');
  await saved(page);
  expect(await noteOf(board)).toMatchObject({ width: 240, height, scale: null, centre: { x: 0, y: 0 } });
  // What it lacked it lacks again, and is drawn so after a reload, too.
  await writtenAs(page, 'role-title');
  await saved(page);
  await page.keyboard.press('Control+z');
  await saved(page);
  expect(await noteOf(board)).toMatchObject({ role: 'remark', height });
  await dragOnBoard(page, { x: 120, y: height / 2 }, { x: 240, y: height });
  await saved(page);
  const large = await noteOf(board);
  expect(large.width).toBeGreaterThan(300);
  expect(large.height / large.width).toBeCloseTo(height / 240, 6);
});

test('a link is written, followed with Ctrl alone, and what is pasted keeps what a note has', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'links');
  await openBoard(page, board);
  await page.context().route('https://ferry.example/**', (route) => route.fulfill({ body: 'the rope page' }));
  await beginNote(page, { x: -300, y: -200 });
  await writtenAs(page, 'link-words');
  const field = page.getByLabel('Address that the words lead to');
  await field.fill('javascript:alert(1)');
  await field.press('Enter');
  await expect(page.getByText('That is no address of a page.')).toBeVisible();
  await field.fill('ferry.example/rope');
  await field.press('Enter');
  await expect(page.locator('.ProseMirror')).toBeFocused();
  await page.keyboard.press('Enter');
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData(
      'text/html',
      `<h1 style="color:red">Tar</h1><script>window.ran = true</script><img src="x" onerror="window.ran = true">
       <table><tr><td><b>wet</b></td></tr></table><a href="javascript:alert(1)">no</a><ol><li>one<ul><li>two</li></ul></li></ol>`,
    );
    document
      .querySelector('.ProseMirror')!
      .dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await page.keyboard.press('Escape');
  await saved(page);
  const note = await noteOf(board);
  const link = 'https://ferry.example/rope';
  expect(note.text).toMatchObject({ blocks: [{ runs: [{ text: link, link }] }, {}, {}, {}, {}, {}] });
  expect(plainOf(note.text)).toBe(`${link}\nTar\nwet\nno\none\ntwo`);
  const { blocks } = note.text as Exclude<Note['text'], string>;
  expect(blocks.slice(1)).toEqual([
    { runs: [{ text: 'Tar' }] },
    { runs: [{ text: 'wet', marks: ['bold'] }] },
    { runs: [{ text: 'no' }] },
    { list: 'number', runs: [{ text: 'one' }] },
    { list: 'bullet', depth: 1, runs: [{ text: 'two' }] },
  ]);
  expect(await page.evaluate(() => 'ran' in window)).toBe(false);

  // A press selects; with Ctrl it follows, and the selection stays as it was.
  await page.keyboard.press('Escape');
  const at = await onPage(page, { x: -250, y: -200 + 14 + 12 });
  await page.mouse.click(at.x, at.y);
  expect(page.context().pages()).toHaveLength(1);
  await page.keyboard.press('Escape');
  const opening = page.context().waitForEvent('page');
  await page.keyboard.down('Control');
  await page.mouse.click(at.x, at.y);
  await page.keyboard.up('Control');
  const opened = await opening;
  await expect(opened).toHaveURL(link);
  await opened.close();
});

test('without the server letters are written all the same, and a formatted note is not lost by it', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'without');
  await page.route('**/rich-editor-*.js', (route) => route.abort());
  await openBoard(page, board);
  const { x, y } = await onPage(page, { x: -300, y: -200 });
  await page.mouse.move(x, y);
  await page.keyboard.press('w');
  await page.keyboard.type('plain, and kept');
  await expect(page.getByText('Letters cannot be formatted right now')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await saved(page);
  expect((await noteOf(board)).text).toBe('plain, and kept');
  await page.keyboard.press('Control+b');
  await saved(page);
  const bold = (await noteOf(board)).text;
  expect(bold).toEqual({ blocks: [{ runs: [{ text: 'plain, and kept', marks: ['bold'] }] }] });
  await page.keyboard.press('Enter');
  await expect(editorOf(page)).not.toBeEditable();
  await page.keyboard.type('x');
  await page.keyboard.press('Escape');
  await saved(page);
  expect((await noteOf(board)).text).toEqual(bold);
});

test('writing, what formats, and boards side by side have nothing serious for axe; a finger writes, too', async ({
  chromium,
  running,
}) => {
  const context = await chromium.newContext({ viewport: { width: 1280, height: 800 }, hasTouch: true });
  const page = await context.newPage();
  const board = await TestBoard.create(running.address, 'written by a finger');
  const other = await TestBoard.create(running.address, 'beside it');
  const grave = async () => {
    const { violations } = await new AxeBuilder({ page }).analyze();
    return violations
      .filter(({ impact }) => impact === 'serious' || impact === 'critical')
      .map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`);
  };
  await page.goto(`${board.url}?panes=${board.id},${other.id}`);
  await expect(page.locator('.stage')).toHaveCount(2);
  await expect(page.locator('footer')).toBeVisible();
  await page.locator('footer [data-action="write"]').tap();
  await expect(page.locator('.ProseMirror')).toBeFocused();
  await page.keyboard.type('wet rope');
  await page.locator('footer [data-family="written-as"]').tap();
  await page.locator('[data-radix-popper-content-wrapper] [data-action="role-todo"]').tap();
  expect(await grave()).toEqual([]);
  await page.locator('footer [data-family="written-as"]').tap();
  expect(await grave()).toEqual([]);
  await page.keyboard.press('Escape');
  await page.touchscreen.tap(1100, 600);
  await expect(page).toHaveURL(new RegExp(`^${other.url}`));
  await expect(page.locator('.ProseMirror')).toHaveCount(0);
  await saved(page);
  // A finger ticks the box, within its reach.
  const note = await noteOf(board);
  expect(note).toMatchObject({ role: 'todo' });
  await page.touchscreen.tap(200, 700);
  const front = page.getByRole('region', { name: 'written by a finger' }).locator('[data-front]');
  await expect(front).toBeVisible();
  const box = await onPage(page, {
    x: note.centre.x - note.width / 2 + (14 + 12) * note.scale!,
    y: note.centre.y - note.height / 2 + (14 + 10) * note.scale!,
  });
  await page.touchscreen.tap(box.x + 8, box.y + 6);
  await saved(page);
  expect((await noteOf(board)).text).toMatchObject({ blocks: [{ list: 'check', isDone: true }] });
  await context.close();
});

test('formatted text that is pasted onto the board becomes a note with what of it a note can have, and nothing of its page', async ({
  page,
  running,
}) => {
  const board = await emptyBoard(page, running.address, 'pasted formatting');
  const foreign = `<meta charset="utf-8"><style>p { color: red }</style><script>window.isRun = true</script>
    <h2 style="font-size:40px">Ropes</h2><p onclick="window.isRun = true">Wet ones are <b>darker</b> and <a href="javascript:alert(1)">sag</a>.</p>
    <ul><li>cleat</li><li><i>block</i></li></ul><img src="http://127.0.0.1:1/none.png" onerror="window.isRun = true">`;
  // A picture of the piece would be taken for what was meant.
  await paste(page, {
    'text/html': foreign.replace(/<img[^>]*>/, ''),
    'text/plain': 'Ropes\nWet ones are darker and sag.\ncleat\nblock',
  });
  await expect.poll(async () => (await board.standing()).length).toBe(1);
  const [note] = (await board.standing()) as Note[];
  const { blocks } = note!.text as {
    blocks: readonly {
      list?: string;
      runs: readonly { text: string; marks?: readonly string[]; link?: string }[];
    }[];
  };
  expect(blocks.map(({ list, runs }) => [list, runs.map(({ text }) => text).join('')])).toEqual([
    [undefined, 'Ropes'],
    [undefined, 'Wet ones are darker and sag.'],
    ['bullet', 'cleat'],
    ['bullet', 'block'],
  ]);
  const runs = blocks.flatMap(({ runs }) => runs);
  expect(runs.find(({ text }) => text === 'darker')?.marks).toEqual(['bold']);
  expect(runs.some(({ link }) => link !== undefined)).toBe(false);
  expect(await page.evaluate(() => 'isRun' in window)).toBe(false);
  // Text without formatting stays plain.
  await page.keyboard.press('Escape');
  await page.mouse.move(300, 600);
  await paste(page, { 'text/html': '<p>only words</p>', 'text/plain': 'only words' });
  await expect
    .poll(async () => (await board.standing()).map((item) => (item as Note).text))
    .toContain('only words');
});
