import {
  boundsOf,
  boundsOfItems,
  compareStacking,
  cornersOf,
  distanceToItem,
  duplicate,
  HANDLES,
  handlePoint,
  isOnItem,
  keysOnTop,
  moveBy,
  sizeAbout,
  sizeFactor,
  withMarks,
  wrapTo,
} from '@miradero/core/board';
import {
  applyAffine,
  boardToScreen,
  type Camera,
  centreOf,
  invertAffine,
  overlaps,
  type Point,
  rectangleBetween,
  screenToBoard,
  subtractPoints,
  type Viewport,
} from '@miradero/core/geometry';
import {
  drawnOf,
  heightOf,
  isNote,
  isPictureMark,
  type Note,
  noteWith,
  pressedOfNote,
  trimBetween,
  trimByLasso,
} from '@miradero/core/items';
import type { Item, Operation } from '@miradero/core/schema';
import { isMarked, markedAll } from '@miradero/core/text';
import type { Page } from '@playwright/test';
import { saved, stageReady, type TestBoard } from '../support/board.ts';
import { BoardModel } from './model.ts';

/** Fewer things than this are not removed from, more are not added to. */
const FEWEST = 4;
/** Presses within so long are one step: `web/src/desk/alter.ts`. */
const BURST_MS = 600;
const MOST = 40;
/** Removed ones stay on the board; beyond so many in all nothing is added any more. */
const MOST_EVER = 150;
/** Handles of a selection reach so far, and its plumb hangs so low; presses elsewhere keep away from them. CSS pixels. */
const KEEP_AWAY_PX = 40;
/** Nearer than this to a dot, a press takes the dot. */
const NEAR_PX = 8;
const SLIP_PX = 8;
const FAR = 20_000;
/** What layouts alter. */
const LAID_OUT = new Set(['centre', 'width', 'height', 'scale']);

interface Seen {
  readonly camera: Camera;
  readonly viewport: Viewport;
  readonly left: number;
  readonly top: number;
}

/** Numbers 0 ..< 1 from a seed. Source: mulberry32, public domain. */
export function randomFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** Does random things to a board through its real interface, and knows from core alone what must come of each. */
export class Soak {
  readonly page: Page;
  readonly board: TestBoard;
  readonly model: BoardModel;
  readonly #random: () => number;
  #lastClick = { x: 0, y: 0, atMs: 0 };
  /** What was done, the last first to be looked at when something is wrong. */
  readonly log: string[] = [];

  constructor(page: Page, board: TestBoard, items: readonly Item[], seed: number) {
    this.page = page;
    this.board = board;
    this.model = new BoardModel(items);
    this.#random = randomFrom(seed);
  }

  /** Does `count` things and compares after each. @throws Error naming the first thing that went wrong */
  async run(count: number, onStep: (index: number) => Promise<void> = async () => {}): Promise<void> {
    for (let index = 0; index < count; index += 1) {
      const [name, act] = this.#choose();
      this.log.push(`${index}: ${name}`);
      await act.call(this);
      await this.#compare();
      if (index % 50 === 49) await this.compareServer();
      await onStep(index);
    }
    await this.compareServer();
  }

  /** The server has, to the last digit, what the screen shows. */
  async compareServer(): Promise<void> {
    await saved(this.page);
    const { items } = await this.board.snapshot();
    const byId = new Map(items.map((item) => [item.id, item]));
    for (const item of this.model.items.values()) this.#same(item, byId.get(item.id), 'the server');
  }

  async #compare(): Promise<void> {
    const shown = await this.#shown();
    const byId = new Map(shown.map((item) => [item.id, item]));
    if (byId.size !== this.model.items.size) this.#fail(`${byId.size} items, not ${this.model.items.size}`);
    for (const item of this.model.items.values()) this.#same(item, byId.get(item.id), 'the screen');
  }

  #same(wanted: Item, found: Item | undefined, where: string): void {
    if (!found) this.#fail(`${where} lacks ${wanted.id}`);
    for (const [property, value] of Object.entries(wanted)) {
      const other = (found as unknown as Record<string, unknown>)[property];
      if (!isClose(value, other)) {
        this.#fail(
          `${where}: ${property} of ${wanted.id} is ${JSON.stringify(other)}, not ${JSON.stringify(value)}`,
        );
      }
    }
  }

  #fail(what: string): never {
    throw new Error(`${what}\n${this.log.slice(-8).join('\n')}`);
  }

  #pick<T>(values: readonly T[]): T {
    return values[Math.floor(this.#random() * values.length)]!;
  }
  #between(low: number, high: number): number {
    return Math.round(low + this.#random() * (high - low));
  }

  #choose(): [string, () => Promise<void>] {
    const { size } = this.model.selection;
    if (size === 0 || this.#random() < 0.2) {
      return this.#pick<[string, () => Promise<void>]>([
        ['click', this.#click],
        ['click', this.#click],
        ['add', this.#add],
        ['band', this.#band],
        ['all', () => this.#key('Control+a', () => this.#selectAll())],
        ['look', this.#look],
        ['draw', this.#draw],
        ['draw', this.#draw],
        ['reload', this.#random() < 0.15 ? this.#reload : this.#look],
      ]);
    }
    return this.#pick<[string, () => Promise<void>]>([
      ['drag', this.#drag],
      ['drag', this.#drag],
      ['size by a corner', this.#sizeByCorner],
      ['trim', this.#trim],
      ['lasso', this.#lasso],
      ['lens', this.#lens],
      ['wrap by a side', this.#wrapBySide],
      ['bold', this.#bold],
      ['settle', () => this.#layOut('y')],
      ['even out', () => this.#layOut('e')],
      ['line up', () => this.#layOut('u')],
      ['equal gaps', () => this.#layOut('Shift+U')],
      ['cluster and undo', this.#cluster],
      ['nudge', () => this.#nudge()],
      ['flip', () => this.#key('x', () => this.model.mirror('flipX'))],
      ['upside down', () => this.#key('Shift+X', () => this.model.mirror('flipY'))],
      ['quarter', () => this.#key(']', () => this.model.turn(90))],
      ['degree', () => this.#apart('Shift+BracketLeft', () => this.model.turn(-1))],
      ['fainter', () => this.#apart('Alt+ArrowDown', () => this.model.fade(-0.1))],
      ['stronger', () => this.#apart('Alt+ArrowUp', () => this.model.fade(0.1))],
      ['as it came', () => this.#key('a', () => this.model.restore())],
      ['raise', () => this.#key('PageUp', () => this.model.restack('raise'))],
      ['lower', () => this.#key('PageDown', () => this.model.restack('lower'))],
      ['smaller', () => this.#apart('Shift+Comma', () => this.model.size(1 / 1.1))],
      ['duplicate', this.#duplicate],
      ['remove', this.#remove],
      ['undo', () => this.#key('Control+z', () => this.model.undo())],
      ['undo', () => this.#key('Control+z', () => this.model.undo())],
      ['redo', () => this.#key('Control+Shift+Z', () => this.model.redo())],
    ]);
  }

  /** A key whose presses are one step when they follow each other at once; how fast they do is not for a model to know. */
  async #apart(press: string, expect: () => void): Promise<void> {
    await this.page.waitForTimeout(BURST_MS + 50);
    await this.#key(press, expect);
  }

  async #key(press: string, expect: () => void): Promise<void> {
    await this.page.keyboard.press(press);
    expect();
  }

  #selectAll(): void {
    this.model.selection = new Set(this.model.standing.map((item) => item.id));
  }

  #seen(): Promise<Seen> {
    return this.page.evaluate(() => {
      const stage = window.miraderoStage!;
      const { left, top } = stage.canvas.getBoundingClientRect();
      const { centre, scale } = stage.camera;
      return { camera: { centre: { ...centre }, scale }, viewport: { ...stage.viewport }, left, top };
    });
  }

  /** Whole pixels of the page; what the hand presses is whole pixels, too. */
  #toPage(seen: Seen, point: Point): Point {
    const { x, y } = boardToScreen(seen.camera, seen.viewport, point);
    return { x: Math.round(x + seen.left), y: Math.round(y + seen.top) };
  }
  #toBoard({ camera, viewport, left, top }: Seen, page: Point): Point {
    return screenToBoard(camera, viewport, { x: page.x - left, y: page.y - top });
  }
  #isInView({ viewport, left, top }: Seen, page: Point, margin = 24): boolean {
    const [x, y] = [page.x - left, page.y - top];
    return x >= margin && y >= margin && x <= viewport.width - margin && y <= viewport.height - margin;
  }

  /** Corners, sides of a note, middle of the lower edge and plumb of the selection, page pixels. */
  #gripsOf(seen: Seen): Point[] {
    const { selected } = this.model;
    if (selected.length === 0) return [];
    const bounds = boundsOfItems(selected);
    const corners =
      selected.length === 1
        ? cornersOf(selected[0]!)
        : [
            { x: bounds.x, y: bounds.y },
            { x: bounds.x + bounds.width, y: bounds.y },
            { x: bounds.x, y: bounds.y + bounds.height },
            { x: bounds.x + bounds.width, y: bounds.y + bounds.height },
          ];
    const [only] = selected;
    const isFlipped = only?.kind === 'placement' && only.flipY;
    const low =
      selected.length === 1
        ? handlePoint(only!, { x: 0, y: isFlipped ? -1 : 1 })
        : { x: bounds.x + bounds.width / 2, y: bounds.y + bounds.height };
    // Words are wrapped by the sides.
    const sides =
      selected.length === 1 && only?.kind === 'note'
        ? ([1, -1] as const).map((x) => handlePoint(only, { x, y: 0 }))
        : [];
    return [...corners, ...sides, low].map((point) => this.#toPage(seen, point));
  }

  /** A page point in view that lies on an item, away from handles; the whole board comes into view where there is none. */
  async #pointOnItem(): Promise<{ seen: Seen; page: Point; item: Item } | undefined> {
    for (const isRetry of [false, true]) {
      const seen = await this.#seen();
      const grips = this.#gripsOf(seen);
      for (let attempt = 0; attempt < 20; attempt += 1) {
        const target = this.#pick(this.model.standing);
        const { x, y } = this.#toPage(seen, target.centre);
        // A mouse stands on whole pixels; what is smaller may lie between them.
        const page = { x: Math.round(x), y: Math.round(y) };
        const item = this.model.itemAt(this.#toBoard(seen, page));
        const isFree = grips.every((grip) => Math.hypot(grip.x - page.x, grip.y - page.y) > KEEP_AWAY_PX);
        if (!item || !isFree || !this.#isInView(seen, page)) continue;
        // A box would be ticked.
        if (item.kind === 'note' && isOnBox(item, this.#toBoard(seen, page), seen)) continue;
        if (await this.#isOnStage(page)) return { seen, page, item };
      }
      if (!isRetry) await this.page.keyboard.press('0');
    }
    return undefined;
  }

  /** What hangs over the board (a message, the wall label) takes the press for itself. */
  #isOnStage(point: Point): Promise<boolean> {
    return this.page.evaluate(({ x, y }) => {
      const under = document.elementFromPoint(x, y);
      return under?.closest('.stage') !== null && under !== null;
    }, point);
  }

  async #click(): Promise<void> {
    const found = await this.#pointOnItem();
    if (!found) return;
    this.log.push(`  at ${found.page.x},${found.page.y} on ${found.item.id}`);
    // Two clicks in a row on one place would be a double click.
    const { x, y, atMs } = this.#lastClick;
    const isSame = Math.hypot(found.page.x - x, found.page.y - y) < 30;
    if (isSame) await this.page.waitForTimeout(Math.max(0, atMs + 400 - Date.now()));
    await this.page.mouse.click(found.page.x, found.page.y);
    this.#lastClick = { ...found.page, atMs: Date.now() };
    this.model.selection = new Set([found.item.id]);
  }

  async #add(): Promise<void> {
    const found = await this.#pointOnItem();
    if (!found) return;
    await this.page.keyboard.down('Shift');
    await this.page.mouse.click(found.page.x, found.page.y);
    await this.page.keyboard.up('Shift');
    if (!this.model.selection.delete(found.item.id)) this.model.selection.add(found.item.id);
  }

  async #band(): Promise<void> {
    await this.page.keyboard.press('Escape');
    await this.page.keyboard.press('Escape');
    this.model.selection.clear();
    await this.page.keyboard.press('0');
    const seen = await this.#seen();
    const from = { x: Math.round(seen.left + 6), y: Math.round(seen.top + 6) };
    const bare = this.#toBoard(seen, from);
    if (this.model.standing.some((item) => distanceToItem(item, bare) < NEAR_PX / seen.camera.scale)) return;
    const to = {
      x: this.#between(seen.left + 200, seen.left + 1000),
      y: this.#between(seen.top + 150, seen.top + 600),
    };
    await this.#dragMouse(from, to);
    const area = rectangleBetween(this.#toBoard(seen, from), this.#toBoard(seen, to));
    const inside = this.model.standing.filter((item) => overlaps(boundsOf(item), area));
    this.model.selection = new Set(inside.map((item) => item.id));
  }

  async #dragMouse(from: Point, to: Point, modifier?: string): Promise<void> {
    await this.page.mouse.move(from.x, from.y);
    await this.page.mouse.down();
    if (modifier) await this.page.keyboard.down(modifier);
    await this.page.mouse.move(to.x, to.y, { steps: 3 });
    await this.page.mouse.up();
    if (modifier) await this.page.keyboard.up(modifier);
  }

  /** Moves what is selected, or what is pressed; with `Alt`, so that nothing lines up by itself. */
  async #drag(): Promise<void> {
    const found = await this.#pointOnItem();
    if (!found) return;
    const { seen, page, item } = found;
    const to = { x: page.x + this.#between(-160, 160), y: page.y + this.#between(-120, 120) };
    if (!this.#isInView(seen, to) || Math.hypot(to.x - page.x, to.y - page.y) < SLIP_PX) return;
    if (!this.model.selection.has(item.id)) this.model.selection = new Set([item.id]);
    await this.#dragMouse(page, to, 'Alt');
    this.log.push(`  from ${page.x},${page.y} to ${to.x},${to.y} at scale ${seen.camera.scale.toFixed(4)}`);
    this.model.commit(
      moveBy(this.model.selected, subtractPoints(this.#toBoard(seen, to), this.#toBoard(seen, page))),
    );
  }

  async #sizeByCorner(): Promise<void> {
    const seen = await this.#seen();
    const { selected } = this.model;
    const corner = this.#pick(HANDLES.filter(({ x, y }) => x !== 0 && y !== 0));
    const opposite = { x: -corner.x, y: -corner.y } as typeof corner;
    const bounds = boundsOfItems(selected);
    const pointOf = (handle: typeof corner): Point =>
      selected.length === 1
        ? handlePoint(selected[0]!, handle)
        : {
            x: bounds.x + ((handle.x + 1) / 2) * bounds.width,
            y: bounds.y + ((handle.y + 1) / 2) * bounds.height,
          };
    const grip = pointOf(corner);
    const from = this.#toPage(seen, grip);
    const isCentred = this.#random() < 0.4;
    const anchor = isCentred ? centreOf(bounds) : pointOf(opposite);
    const away = this.#toPage(seen, anchor);
    const reach = Math.hypot(from.x - away.x, from.y - away.y);
    if (!this.#isInView(seen, from) || reach < 2 * KEEP_AWAY_PX) return;
    const factor = 0.7 + this.#random() * 0.6;
    const to = {
      x: Math.round(away.x + (from.x - away.x) * factor),
      y: Math.round(away.y + (from.y - away.y) * factor),
    };
    if (!this.#isInView(seen, to) || Math.hypot(to.x - from.x, to.y - from.y) < SLIP_PX) return;
    await this.#dragMouse(from, to, isCentred ? 'Alt' : undefined);
    this.model.commit(sizeAbout(selected, anchor, sizeFactor(anchor, grip, this.#toBoard(seen, to))));
  }

  /** The only selected picture and where its middle is, where there is room for a hand on it. */
  async #underHand() {
    const [item] = this.model.selected;
    if (this.model.selection.size !== 1 || item?.kind !== 'placement') return undefined;
    const seen = await this.#seen();
    const centre = this.#toPage(seen, item.centre);
    const side = Math.min(item.width, boundsOf(item).height) * seen.camera.scale;
    return side < 160 || !this.#isInView(seen, centre, 120) ? undefined : { item, seen, centre, side };
  }

  async #trim(): Promise<void> {
    const under = await this.#underHand();
    if (!under) return;
    const { item, seen, centre, side } = under;
    const from = { x: centre.x - Math.round(side * 0.3), y: centre.y - Math.round(side * 0.25) };
    const to = { x: centre.x + Math.round(side * 0.3), y: centre.y + Math.round(side * 0.25) };
    // A turned picture may not lie under a point that its bounds hold.
    if (this.model.itemAt(this.#toBoard(seen, from))?.id !== item.id) return;
    await this.page.keyboard.press('t');
    await this.#dragMouse(from, to);
    await this.#leaveTrim();
    const trim = trimBetween(item, this.#toBoard(seen, from), this.#toBoard(seen, to));
    if (trim.width > 0 && trim.height > 0) this.model.trim(item.id, trim);
  }

  /** What is said at the time is left before the tool is. */
  async #leaveTrim(): Promise<void> {
    const sill = this.page.locator('footer').first();
    for (let times = 0; times < 3 && (await sill.innerText()).startsWith('Trim'); times += 1)
      await this.page.keyboard.press('Escape');
  }

  async #lasso(): Promise<void> {
    const under = await this.#underHand();
    if (!under) return;
    const { item, seen, centre, side } = under;
    const line = [0, 1, 2, 3, 4, 5, 6].map((step) => ({
      x: Math.round(centre.x + side * 0.25 * Math.cos(step)),
      y: Math.round(centre.y + side * 0.2 * Math.sin(step)),
    }));
    if (this.model.itemAt(this.#toBoard(seen, line[0]!))?.id !== item.id) return;
    await this.page.keyboard.press('Alt+t');
    const { mouse } = this.page;
    await mouse.move(line[0]!.x, line[0]!.y);
    await mouse.down();
    for (const { x, y } of line.slice(1)) await mouse.move(x, y);
    await mouse.up();
    const kept = trimByLasso(
      item,
      line.map((point) => this.#toBoard(seen, point)),
    );
    await this.#leaveTrim();
    if (kept) this.model.trim(item.id, kept.frame, kept.outline);
  }

  /** Draws the width of the only selected note by its right side. */
  async #wrapBySide(): Promise<void> {
    const [item] = this.model.selected;
    if (this.model.selection.size !== 1 || item?.kind !== 'note') return;
    const seen = await this.#seen();
    const [right, left] = [handlePoint(item, { x: 1, y: 0 }), handlePoint(item, { x: -1, y: 0 })];
    const [from, other] = [this.#toPage(seen, right), this.#toPage(seen, left)];
    const factor = 0.6 + this.#random();
    const to = {
      x: Math.round(other.x + (from.x - other.x) * factor),
      y: Math.round(other.y + (from.y - other.y) * factor),
    };
    // Of a low note its corners are nearer than the middle of its side.
    const isHigh = heightOf(item) * seen.camera.scale > 2 * KEEP_AWAY_PX;
    if (!isHigh || !this.#isInView(seen, from) || !this.#isInView(seen, to)) return;
    if (Math.hypot(to.x - from.x, to.y - from.y) < SLIP_PX || !(await this.#isOnStage(from))) return;
    await this.#dragMouse(from, to);
    const across = subtractPoints(right, left);
    const drawn = subtractPoints(this.#toBoard(seen, to), left);
    const width = (drawn.x * across.x + drawn.y * across.y) / Math.hypot(across.x, across.y);
    const operation = wrapTo(item, Math.max(1, width), 1);
    if (operation) this.model.commit([operation]);
  }

  /** Marks all that the selected notes say as bold, or no longer. */
  async #bold(): Promise<void> {
    const notes = this.model.selected.filter(isNote);
    if (notes.length === 0) return;
    const isOn = !notes.every(({ text }) => isMarked(text, 'bold'));
    const setFor = (note: Note) => noteWith(note, { text: markedAll(note.text, 'bold', isOn) });
    await this.#key('Control+b', () =>
      this.model.commit(notes.map((note) => ({ item: note.id, set: setFor(note) }))),
    );
  }

  /** Lays out what is selected. How, core's own tests say; here nothing but places and sizes of what was selected may alter. */
  async #layOut(press: string): Promise<void> {
    if (this.model.selection.size < 2) return;
    const operations = await this.#alterations(() => this.page.keyboard.press(press));
    for (const operation of operations) {
      if (!('set' in operation) || !this.model.selection.has(operation.item))
        this.#fail(`${JSON.stringify(operation)} was not selected`);
      const strange = Object.keys(operation.set).filter((one) => !LAID_OUT.has(one));
      if (strange.length > 0) this.#fail(`${strange} of ${operation.item} altered`);
    }
    this.model.commit(operations);
  }

  #shown(): Promise<Item[]> {
    return this.page.evaluate(() => [
      ...window.miraderoStage!.feed.board.items.values(),
    ]) as unknown as Promise<Item[]>;
  }

  /** What alters on the screen by something that is done, to the last digit: also what nobody sees is a step. */
  async #alterations(act: () => Promise<void>): Promise<Operation[]> {
    const known = new Map((await this.#shown()).map((item) => [item.id, item]));
    await act();
    let after = await this.#shown();
    for (let text = ''; text !== JSON.stringify(after); ) {
      text = JSON.stringify(after);
      await this.page.waitForTimeout(150);
      after = await this.#shown();
    }
    return after.flatMap((item): Operation[] => {
      const before = known.get(item.id);
      if (!before) return [{ create: item }];
      const set = Object.fromEntries(
        Object.entries(item).filter(
          ([property, value]) =>
            JSON.stringify(value) !== JSON.stringify((before as Record<string, unknown>)[property]),
        ),
      );
      return Object.keys(set).length > 0 ? [{ item: item.id, set }] : [];
    });
  }

  /** Makes a cluster of what is selected and takes that back; what a model of things side by side knows of it ends with a nudge. */
  async #cluster(): Promise<void> {
    if (this.model.selection.size < 2 || this.model.items.size > MOST_EVER) return;
    const operations = await this.#alterations(async () => {
      await this.page.keyboard.press('Control+g');
      // Its title is asked for.
      await this.page.keyboard.press('Escape');
    });
    const made = operations.flatMap((one) => ('create' in one ? [one.create] : []));
    if (made.length !== 1 || made[0]?.kind !== 'cluster') this.#fail(`made ${JSON.stringify(made)}`);
    this.model.commit(operations);
    this.model.selection = new Set([made[0]!.id]);
    await this.#key('Control+z', () => this.model.undo());
    await this.#key('Control+a', () => this.#selectAll());
    await this.#nudge();
  }

  /** Draws a mark somewhere, and leaves the pen: on a picture where all of it lies there, on the board where it does not begin on one. */
  async #draw(): Promise<void> {
    const found = await this.#pointOnItem();
    if (!found || this.model.standing.length >= MOST || this.model.items.size > MOST_EVER) return;
    const { seen, page } = found;
    const to = { x: page.x + this.#between(-120, 120), y: page.y + this.#between(-90, 90) };
    const operations = await this.#alterations(async () => {
      await this.page.keyboard.press('g');
      await this.page.getByTestId('drawing-card').waitFor();
      const isFree = (await this.#isOnStage(page)) && this.#isInView(seen, to);
      if (isFree) await this.#dragMouse(page, to);
      await this.page.keyboard.press('Escape');
      // It steps back one thing: where something was being said, that goes first.
      if (await this.page.getByTestId('drawing-card').isVisible()) await this.page.keyboard.press('Escape');
    });
    this.model.selection.clear();
    const made = operations.flatMap((one) => ('create' in one ? [one.create] : []));
    if (operations.length !== made.length || made.length > 1)
      this.#fail(`drew ${JSON.stringify(operations)}`);
    const way = [0, 1, 2, 3, 4].map((step) => ({
      x: page.x + ((to.x - page.x) * step) / 4,
      y: page.y + ((to.y - page.y) * step) / 4,
    }));
    const under = way.map((at) => this.#underPen(this.#toBoard(seen, at)));
    const [mark] = made;
    const isOnPicture = under[0]?.kind === 'placement' && under.every((item) => item === under[0]);
    const isOn = mark && isPictureMark(mark) ? mark.on : undefined;
    if (mark && isOnPicture && isOn !== under[0]!.id) this.#fail(`${mark.id} is not on ${under[0]!.id}`);
    if (isOn !== undefined && isOn !== under[0]?.id) this.#fail(`${mark!.id} is on ${isOn}`);
    this.model.commit(operations);
  }

  /** What a pen touches: marks are no paper. */
  #underPen(at: Point): Item | undefined {
    return this.model.standing.findLast((item) => item.kind !== 'mark' && isOnItem(item, at));
  }

  /** Looks through a lens, or no longer: nothing alters. */
  async #lens(): Promise<void> {
    await this.#key(this.#pick(['v', 'q', 'm', 'Alt+d', 'Alt+v', 'Alt+l']), () => {});
  }

  async #nudge(): Promise<void> {
    const { camera } = await this.#seen();
    await this.#apart('ArrowRight', () => this.model.nudge({ x: 1 / camera.scale, y: 0 }));
    await this.#apart('Shift+ArrowUp', () => this.model.nudge({ x: 0, y: -10 / camera.scale }));
  }

  async #duplicate(): Promise<void> {
    const originals = withMarks(this.model.items, this.model.selected).sort(compareStacking);
    const { size } = this.model.items;
    if (this.model.standing.length + originals.length > MOST || size + originals.length > MOST_EVER) return;
    const { camera } = await this.#seen();
    const offset = 24 / camera.scale;
    const known = new Set(this.model.items.keys());
    await this.page.keyboard.press('b');
    const shown = await this.#shown();
    const made = shown.filter(({ id }) => !known.has(id));
    if (made.length !== originals.length) this.#fail(`${made.length} copies of ${originals.length}`);
    const keys = keysOnTop(this.model.items.values(), originals.length);
    // The copies lie in the order of their originals; their ids are the interface's own.
    const ids = made.sort((a, b) => (a.stack < b.stack ? -1 : 1)).map(({ id }) => id);
    const copies = duplicate(originals, { x: offset, y: offset }, () => ids.shift()!, keys);
    this.model.commit(copies.map((create) => ({ create })));
    this.model.selection = new Set(copies.filter((item) => !isPictureMark(item)).map(({ id }) => id));
  }

  async #remove(): Promise<void> {
    if (this.model.standing.length - this.model.selection.size < FEWEST) return;
    await this.#key('Delete', () => this.model.remove());
  }

  /** Looks around: nothing on the board may alter. */
  async #look(): Promise<void> {
    const seen = await this.#seen();
    const middle = { x: seen.left + seen.viewport.width / 2, y: seen.top + seen.viewport.height / 2 };
    await this.page.mouse.move(middle.x, middle.y);
    await this.page.mouse.wheel(0, this.#between(-400, 400));
    if (Math.abs(seen.camera.centre.x) > FAR || this.#random() < 0.5) await this.page.keyboard.press('0');
  }

  async #reload(): Promise<void> {
    await saved(this.page);
    await this.page.reload();
    await stageReady(this.page);
    this.model.reload();
  }
}

const isOnBox = (note: Note, at: Point, { camera }: Seen): boolean => {
  const own = applyAffine(invertAffine(drawnOf(note).frame), at);
  return pressedOfNote(note, own, NEAR_PX / camera.scale) !== undefined;
};

/** Equal, numbers to within rounding: the hand's numbers go through JSON and through another order of sums. */
function isClose(a: unknown, b: unknown): boolean {
  if (typeof a === 'number' && typeof b === 'number') {
    return Math.abs(a - b) <= 1e-6 * Math.max(1, Math.abs(a));
  }
  if (typeof a !== 'object' || a === null || typeof b !== 'object' || b === null) return a === b;
  if (Object.keys(a).length !== Object.keys(b).length) return false;
  return Object.entries(a).every(([key, value]) => isClose(value, (b as Record<string, unknown>)[key]));
}
