import { heightOf } from '@miradero/core/items';
import type { Placement } from '@miradero/core/schema';
import type { Page } from '@playwright/test';
import {
  clickOnBoard,
  colourAt,
  dragOnBoard,
  lookAt,
  onPage,
  openBoard,
  saved,
  stageReady,
  TestBoard,
} from '../support/board.ts';
import { expect, test } from '../support/test.ts';

/** One way of altering: what the hand does, and what must then be true of the placements. */
interface Way {
  readonly name: string;
  readonly act: (page: Page) => Promise<void>;
  readonly check: (before: Placement, after: Placement, all: readonly Placement[]) => void;
}

const centreX = -170;
const select = (page: Page) => clickOnBoard(page, { x: centreX, y: 0 });

/** The picture under test is p1, at (-170, 0), 300 × 200; p2 stands to its right. */
const WAYS: readonly Way[] = [
  {
    name: 'moving by a drag',
    act: (page) => dragOnBoard(page, { x: centreX, y: 20 }, { x: centreX + 80, y: -90 }),
    check: (before, after) => {
      expect(after.centre.x - before.centre.x).toBeCloseTo(80, 0);
      expect(after.centre.y - before.centre.y).toBeCloseTo(-110, 0);
    },
  },
  {
    name: 'moving along one axis',
    act: async (page) => {
      await select(page);
      const start = await onPage(page, { x: centreX, y: 0 });
      await page.mouse.move(start.x, start.y);
      await page.mouse.down();
      await page.keyboard.down('Shift');
      await page.mouse.move(start.x + 30, start.y + 120, { steps: 5 });
      await page.mouse.up();
      await page.keyboard.up('Shift');
    },
    check: (before, after) => {
      expect(after.centre.x).toBe(before.centre.x);
      expect(after.centre.y - before.centre.y).toBeCloseTo(120, 0);
    },
  },
  {
    name: 'sizing by a corner',
    act: async (page) => {
      await select(page);
      await dragOnBoard(page, { x: centreX + 150, y: 100 }, { x: centreX, y: 0 });
    },
    check: (before, after) => {
      expect(after.width).toBeCloseTo(before.width / 2, 0);
      expect(after.width / heightOf(after)).toBeCloseTo(before.width / heightOf(before), 6);
      expect(after.centre.x - after.width / 2).toBeCloseTo(before.centre.x - before.width / 2, 3);
    },
  },
  {
    name: 'nudging by a key',
    act: async (page) => {
      await select(page);
      await page.keyboard.press('ArrowRight');
      await page.keyboard.press('Shift+ArrowDown');
    },
    check: (before, after) => {
      expect(after.centre).toEqual({ x: before.centre.x + 1, y: before.centre.y + 10 });
    },
  },
  {
    name: 'flipping',
    act: async (page) => {
      await select(page);
      await page.keyboard.press('x');
      await page.keyboard.press('Shift+X');
    },
    check: (_before, after) => expect([after.flipX, after.flipY]).toEqual([true, true]),
  },
  {
    name: 'trimming by one drag',
    act: async (page) => {
      await select(page);
      await page.keyboard.press('t');
      await dragOnBoard(page, { x: centreX - 75, y: -50 }, { x: centreX + 75, y: 50 });
      await page.keyboard.press('Escape');
    },
    check: (before, after) => {
      expect(after.trim.x).toBeCloseTo(0.25, 1);
      expect(after.trim.width).toBeCloseTo(0.5, 1);
      expect(after.width).toBeCloseTo(150, 0);
      expect(after.centre.x).toBeCloseTo(before.centre.x, 0);
    },
  },
  {
    name: 'trimming by a handle',
    act: async (page) => {
      await select(page);
      await page.keyboard.press('t');
      await dragOnBoard(page, { x: centreX + 150, y: 0 }, { x: centreX + 60, y: 30 });
      await page.keyboard.press('Enter');
    },
    check: (_before, after) => {
      expect(after.trim.width).toBeCloseTo(0.7, 1);
      expect(after.trim.height).toBe(1);
    },
  },
  {
    name: 'turning by a held key and a drag',
    act: async (page) => {
      await select(page);
      await page.keyboard.down('r');
      await dragOnBoard(page, { x: centreX + 100, y: 0 }, { x: centreX, y: 100 });
      await page.keyboard.up('r');
    },
    check: (before, after) => {
      expect(after.turn).toBeCloseTo(90, 0);
      expect(after.centre).toEqual(before.centre);
    },
  },
  {
    name: 'turning by the plumb in steps',
    act: async (page) => {
      await select(page);
      const bob = await onPage(page, { x: centreX, y: 100 });
      await page.mouse.move(bob.x, bob.y + 26);
      await page.mouse.down();
      await page.keyboard.down('Shift');
      await page.mouse.move(bob.x - 60, bob.y + 20, { steps: 5 });
      await page.mouse.up();
      await page.keyboard.up('Shift');
    },
    check: (_before, after) => expect(after.turn).toBe(30),
  },
  {
    name: 'turning by keys',
    act: async (page) => {
      await select(page);
      await page.keyboard.press(']');
      await page.keyboard.press('Shift+BracketLeft');
    },
    check: (_before, after) => expect(after.turn).toBe(89),
  },
  {
    name: 'sizing from the centre',
    act: async (page) => {
      await select(page);
      const corner = await onPage(page, { x: centreX + 150, y: 100 });
      await page.mouse.move(corner.x, corner.y);
      await page.mouse.down();
      await page.keyboard.down('Alt');
      await page.mouse.move(corner.x - 75, corner.y - 50, { steps: 5 });
      await page.mouse.up();
      await page.keyboard.up('Alt');
    },
    check: (before, after) => {
      expect(after.width).toBeCloseTo(150, 0);
      expect(after.centre.x).toBeCloseTo(before.centre.x, 6);
      expect(after.centre.y).toBeCloseTo(before.centre.y, 6);
    },
  },
  {
    name: 'sizing by keys',
    act: async (page) => {
      await select(page);
      await page.keyboard.press('Shift+Period');
      await page.keyboard.press('Shift+Period');
      await page.keyboard.press('Shift+Comma');
    },
    check: (before, after) => expect(after.width).toBeCloseTo(before.width * 1.1, 6),
  },
  {
    name: 'fading by a held key and the wheel',
    act: async (page) => {
      await select(page);
      await page.keyboard.down('o');
      for (let notch = 0; notch < 4; notch += 1) await page.mouse.wheel(0, 100);
      await page.waitForTimeout(60);
      await page.keyboard.up('o');
    },
    check: (_before, after) => expect(after.opacity).toBeCloseTo(0.6, 1),
  },
  {
    name: 'fading by keys',
    act: async (page) => {
      await select(page);
      for (let press = 0; press < 3; press += 1) await page.keyboard.press('Alt+ArrowDown');
      await page.keyboard.press('Alt+ArrowUp');
    },
    check: (_before, after) => expect(after.opacity).toBe(0.8),
  },
  {
    name: 'typing numbers on the wall label',
    act: async (page) => {
      await select(page);
      await page.keyboard.press('i');
      for (const [label, text] of [
        ['Width on the board', '150'],
        ['Turned by degrees', '-12,5'],
        ['Opacity in percent', '40 %'],
      ] as const) {
        await page.getByLabel(label).fill(text);
        await page.keyboard.press('Enter');
      }
    },
    check: (before, after) => {
      expect(after).toMatchObject({ width: 150, turn: -12.5, opacity: 0.4 });
      expect(after.centre).toEqual(before.centre);
    },
  },
  {
    name: 'giving back the original state',
    act: async (page) => {
      await select(page);
      for (const key of ['x', ']', 'Alt+ArrowDown', 't']) await page.keyboard.press(key);
      await dragOnBoard(page, { x: centreX - 50, y: -50 }, { x: centreX + 50, y: 50 });
      await page.keyboard.press('Escape');
      await page.keyboard.press('Shift+ArrowRight');
      await page.keyboard.press('a');
    },
    check: (before, after) => {
      expect(after).toMatchObject({ turn: 0, opacity: 1, flipX: false, flipY: false, trim: before.trim });
      expect(after.width).toBeCloseTo(before.width, 6);
    },
  },
  {
    name: 'raising',
    act: async (page) => {
      await select(page);
      await page.keyboard.press('PageUp');
    },
    check: (_before, after, all) =>
      expect(all.every((other) => other.id === 'p1' || other.stack < after.stack)).toBe(true),
  },
  {
    name: 'removing',
    act: async (page) => {
      await select(page);
      await page.keyboard.press('Delete');
    },
    check: (_before, after) => expect(after.removed).toBe(true),
  },
];

const placements = async (board: TestBoard) => (await board.snapshot()).items as Placement[];

/** Of each kind one; that every change reaches other windows and outlives a reload is held by the tests of sessions. */
const WHOLE_JOURNEYS = [
  'moving by a drag',
  'sizing by a corner',
  'turning by the plumb in steps',
  'removing',
];

for (const { name, act, check } of WAYS.filter((way) => WHOLE_JOURNEYS.includes(way.name))) {
  test(`${name} is shown in both windows, saved, kept over a reload, undone and redone`, async ({
    page,
    running,
  }) => {
    const board = await TestBoard.create(running.address, name);
    const [before] = await board.place([1, 2]);
    await openBoard(page, board);
    const second = await page.context().newPage();
    await second.goto(board.url);
    await stageReady(second);

    await act(page);
    await saved(page);
    const all = await placements(board);
    const after = all.find((item) => item.id === 'p1')!;
    check(before!, after, all);
    const shownIn = (one: Page) =>
      one.evaluate(() => {
        const { feed } = window.miraderoStage as unknown as {
          feed: { board: { items: ReadonlyMap<string, unknown> } };
        };
        return feed.board.items.get('p1');
      });
    await expect.poll(() => shownIn(second)).toEqual(after);

    // As many undos as the hand made changes; then as many redos.
    const { revision } = await board.snapshot();
    for (let change = 1; change < revision; change += 1) await page.keyboard.press('Control+z');
    await saved(page);
    expect(await board.item('p1')).toEqual(before);
    for (let change = 1; change < revision; change += 1) await page.keyboard.press('Control+Shift+Z');
    await saved(page);
    expect(await board.item('p1')).toEqual(after);

    await page.reload();
    await stageReady(page);
    expect(await shownIn(page)).toEqual(after);
    await second.close();
  });
}

test('every other way of altering does what it says, and is taken back whole', async ({ page, running }) => {
  test.setTimeout(300_000);
  const board = await TestBoard.create(running.address, 'every way');
  const [before] = await board.place([1, 2]);
  await openBoard(page, board);
  for (const { name, act, check } of WAYS.filter((way) => !WHOLE_JOURNEYS.includes(way.name)))
    await test.step(name, async () => {
      await lookAt(page, { centre: { x: 0, y: 0 }, scale: 1 });
      const { revision } = await board.snapshot();
      await act(page);
      await saved(page);
      const all = await placements(board);
      check(before!, all.find((item) => item.id === 'p1')!, all);
      const made = (await board.snapshot()).revision - revision;
      expect(made, name).toBeGreaterThan(0);
      await page.keyboard.press('Escape');
      for (let change = 0; change < made; change += 1) await page.keyboard.press('Control+z');
      await saved(page);
      expect(await board.item('p1'), name).toEqual(before);
      await clickOnBoard(page, { x: 0, y: 300 });
    });
});

test('duplicating makes a copy beside, selected; undo takes it away', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'duplicate');
  await board.place([1, 2]);
  await openBoard(page, board);
  await select(page);
  await page.keyboard.press('b');
  await saved(page);
  const copies = await board.standing();
  expect(copies).toHaveLength(3);
  expect(copies.find((item) => !['p1', 'p2'].includes(item.id))!.centre).toEqual({ x: centreX + 24, y: 24 });
  await page.keyboard.press('ArrowRight');
  await saved(page);
  expect((await board.item('p1')).centre.x).toBe(centreX);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await saved(page);
  expect((await board.standing()).map((item) => item.id).sort()).toEqual(['p1', 'p2']);
});

test('a trim is taken back whole by one key', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'untrim');
  const [before] = await board.place([1]);
  await board.change([
    { item: 'p1', set: { trim: { x: 0.5, y: 0.5, width: 0.5, height: 0.5 }, width: 150 } },
  ]);
  await openBoard(page, board);
  await clickOnBoard(page, { x: 0, y: 0 });
  await page.keyboard.press('Shift+T');
  await saved(page);
  const after = (await board.item('p1')) as Placement;
  expect(after.trim).toEqual({ x: 0, y: 0, width: 1, height: 1 });
  expect(after.width).toBeCloseTo(before!.width, 6);
});

test('selecting: click, add, band, all, none', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'select');
  await board.place([1, 2, 3]);
  await openBoard(page, board);
  const title = page.locator('footer').first();
  await clickOnBoard(page, { x: -340, y: 0 });
  await expect(title).toContainText('picture 1');
  await clickOnBoard(page, { x: 0, y: 0 }, ['Shift']);
  await expect(title).toContainText('2 selected');
  await clickOnBoard(page, { x: 0, y: 0 }, ['Shift']);
  await expect(title).toContainText('picture 1');
  await dragOnBoard(page, { x: -180, y: -200 }, { x: 250, y: 50 });
  await expect(title).toContainText('2 selected');
  await page.keyboard.press('Control+a');
  await expect(title).toContainText('3 selected');
  await clickOnBoard(page, { x: 0, y: 250 });
  await expect(title).toContainText('paste a picture');
});

test('several are moved and sized together', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'together');
  await board.place([1, 2]);
  await openBoard(page, board);
  await page.keyboard.press('Control+a');
  // Common bounds: (-320, -100) to (320, 100); the lower right corner goes half way in.
  await dragOnBoard(page, { x: 320, y: 100 }, { x: 0, y: 0 });
  await saved(page);
  const [a, b] = (await placements(board)).sort((x, y) => x.centre.x - y.centre.x);
  expect(a!.width).toBeCloseTo(150, 0);
  expect(b!.centre.x - a!.centre.x).toBeCloseTo(170, 0);
  expect(a!.centre.x - a!.width / 2).toBeCloseTo(-320, 0);
});

test('Escape in the middle of a drag leaves everything as it was', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'escape');
  const [before] = await board.place([1]);
  await openBoard(page, board);
  const start = await onPage(page, { x: 0, y: 0 });
  await page.mouse.move(start.x, start.y);
  await page.mouse.down();
  await page.mouse.move(start.x + 100, start.y + 60, { steps: 4 });
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await saved(page);
  expect(await board.item('p1')).toEqual(before);
});

test('what is dragged is seen under the hand, and where it was shows the ground', async ({
  page,
  running,
}) => {
  const board = await TestBoard.create(running.address, 'pixels');
  await board.place([1]);
  await openBoard(page, board);
  const [r, g, b] = await colourAt(page, { x: 100, y: -50 });
  expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeGreaterThan(30);
  const start = await onPage(page, { x: 0, y: 0 });
  await page.mouse.move(start.x, start.y);
  await page.mouse.down();
  await page.mouse.move(start.x, start.y + 240, { steps: 8 });
  await expect.poll(() => colourAt(page, { x: 100, y: 190 })).toEqual([r, g, b]);
  await expect.poll(() => colourAt(page, { x: 100, y: -50 })).toEqual([121, 121, 121]);
  await page.mouse.up();
});

test('undo leaves what another window has set since, and says so', async ({ page, running }) => {
  const board = await TestBoard.create(running.address, 'skip');
  await board.place([1]);
  await openBoard(page, board);
  await dragOnBoard(page, { x: 0, y: 0 }, { x: 50, y: 0 });
  await saved(page);
  await board.change([{ item: 'p1', set: { centre: { x: 7, y: 7 } } }]);
  const seen = () =>
    page.evaluate(() => {
      const { feed } = window.miraderoStage as unknown as {
        feed: { board: { items: ReadonlyMap<string, { centre: object }> } };
      };
      return feed.board.items.get('p1')!.centre;
    });
  await expect.poll(seen).toEqual({ x: 7, y: 7 });
  await page.keyboard.press('Control+z');
  await expect(page.getByText('left as another window has set it since')).toBeVisible();
  expect((await board.item('p1')).centre).toEqual({ x: 7, y: 7 });
});
