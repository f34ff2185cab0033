import { hexOfRgb, writeColour } from '@miradero/core/colour';
import { applyAffine, boardToScreen, type Point } from '@miradero/core/geometry';
import { isPlacement, type Placement, pictureToBoard } from '@miradero/core/items';
import { MOST_PURPOSES } from '@miradero/core/schema';
import { type Desk, type Seat, sourcesOf, type Tool } from '../desk/index.ts';
import type { Press, StageView } from '../stage/index.ts';
import { createStore, type Readable } from '../state/index.ts';
import { Lasso, STROKES, strokeLine } from './lasso.ts';
import type { Reader, ReadingShown } from './reader.ts';
import { ReadingCard } from './reading-card.tsx';
import { copyText, NotRead, onPicture, pictureAt, type Reading, readPart, readScreen } from './readings.ts';
import { recentColours } from './recent.ts';
import { type AreaSize, colourSettings } from './settings.ts';

const NOTHING: ReadingShown = {
  ...{ live: undefined, held: undefined, before: undefined, copied: undefined, trouble: undefined },
  ...{ isGuessing: false, isScreenOpen: false },
};

const RING_PX = 9;

type Pointed = ReturnType<typeof pictureAt>;

/** Reads colours: under the pointer as it moves, where it presses for good, and of what it draws around. */
export class ReadingTool implements Tool, Reader {
  readonly onlyLooks = true;
  readonly id = 'read-colour';
  readonly #store = createStore<ReadingShown>(() => NOTHING);
  readonly #desk: Desk;
  #hovered: Pointed;
  #isReading = false;
  #asked = 0;
  readonly #lasso = new Lasso();

  readonly #ends: readonly (() => void)[];

  constructor(desk: Desk) {
    this.#desk = desk;
    // The pointer left the board: what is held is shown again.
    const left = desk.hover.subscribe(() => {
      if (desk.pointer || !this.#hovered) return;
      this.#hovered = undefined;
      void this.#readLive();
    });
    this.#ends = [left, desk.sync.shelf.subscribe(() => this.#readExactly())];
  }

  leave(): void {
    for (const end of this.#ends) end();
  }

  get store(): Readable<ReadingShown> {
    return this.#store;
  }
  get now(): ReadingShown {
    return this.#store.getState();
  }

  Surface: NonNullable<Tool['Surface']> = ReadingCard;

  offer(): ReturnType<Tool['offer']> {
    return {
      title: 'Read a colour',
      ids: ['escape', 'read-screen'],
      hint: this.now.isGuessing
        ? 'Press a point: its colour stays hidden until you guessed it.'
        : 'Press where it is read, or draw around it (with Shift: a rectangle); arrows go pixel by pixel, Enter pins it.',
    };
  }

  hover(seat: Seat, point: Point): string {
    this.#hovered = this.now.isGuessing ? undefined : pictureAt(seat.view, point);
    void this.#readLive();
    return 'crosshair';
  }

  /** One at a time: what lies under the pointer when the last one is done comes next. */
  async #readLive(): Promise<void> {
    if (this.#isReading) return;
    this.#isReading = true;
    try {
      let done: Pointed;
      do {
        done = this.#hovered;
        await this.#readHovered(done);
      } while (done !== this.#hovered);
    } finally {
      this.#isReading = false;
    }
  }

  async #readHovered(
    hovered: { readonly placement: Placement; readonly at: Point } | undefined,
  ): Promise<void> {
    if (!hovered) {
      this.#store.setState({ live: undefined, trouble: undefined });
      return;
    }
    const onSoon = (live: Reading) => this.#hovered === hovered && this.#store.setState({ live });
    try {
      const read = { at: hovered.at, sizePx: colourSettings.now.sizePx };
      const live = await readPart(this.#desk, hovered.placement, read, { onSoon });
      this.#store.setState({ live, trouble: undefined });
    } catch (error) {
      this.#store.setState({ live: undefined, trouble: wordsOf(error) });
    }
  }

  press(seat: Seat, { point }: Press): ReturnType<Tool['press']> {
    const at = pictureAt(seat.view, point);
    if (!at) {
      return { move: () => {}, end: () => this.forget(), cancel: () => {} };
    }
    const { view } = seat;
    this.#lasso.begin(point);
    return {
      move: (to, { isShift }) => {
        // With Shift it is the other of the two.
        if (isShift === (colourSettings.now.drawn === 'rectangle')) this.#lasso.add(to);
        else this.#lasso.set(rectangleBetween(at.placement, view, point, to));
        view.requestDraw();
      },
      end: (isClick) => {
        const drawn = this.#lasso.points.map((one) => onPicture(at.placement, view.toBoard(one)));
        this.#forgetLasso(seat);
        if (isClick || drawn.length < 3)
          void this.hold(at.placement, { at: at.at, sizePx: colourSettings.now.sizePx });
        else void this.hold(at.placement, { outline: drawn.map(clamped) });
      },
      cancel: () => this.#forgetLasso(seat),
    };
  }

  #forgetLasso({ view }: Seat): void {
    this.#lasso.forget();
    view.requestDraw();
  }

  /** Reads a part for good: what was held before stands beside it. */
  async hold(placement: Placement, read: Parameters<typeof readPart>[2], isBeside = true): Promise<void> {
    this.#asked += 1;
    const asked = this.#asked;
    const { held: last, before } = this.now;
    const beside = isBeside ? last : before;
    const onSoon = (held: Reading) =>
      asked === this.#asked && this.#store.setState({ held, before: beside, copied: undefined });
    try {
      const held = await readPart(this.#desk, placement, read, { onSoon });
      if (asked !== this.#asked) return;
      this.#store.setState({ held, before: beside, trouble: undefined });
      this.#desk.view?.requestDraw();
      if (this.now.isGuessing) return;
      recentColours.add(hexOfRgb(held.colour));
      await this.copy();
    } catch (error) {
      if (asked === this.#asked) this.#store.setState({ trouble: wordsOf(error) });
    }
  }

  /** What is under the pointer becomes the colour that was picked last, as hex for another program. @returns it */
  async pick(): Promise<string | undefined> {
    const { live } = this.now;
    if (!live) return undefined;
    const hex = hexOfRgb(live.colour);
    recentColours.add(hex);
    await copyText(window, hex);
    return hex;
  }

  /** Reads what the pointer rests on, as if it had just come there. */
  readUnder(): void {
    this.#hovered = this.#pointed();
    void this.#readLive();
  }

  #pointed(): Pointed {
    const { view, pointer } = this.#desk;
    return view && pointer && pictureAt(view, boardToScreen(view.camera, view.viewport, pointer));
  }

  /** Reads what is under the pointer, or in the middle of what is selected. */
  async readHere(): Promise<void> {
    const { targets } = this.#desk;
    const pointed = this.#pointed();
    const selected = targets.find(isPlacement);
    const at = pointed ?? (selected && { placement: selected, at: onPicture(selected, selected.centre) });
    if (at) await this.hold(at.placement, { at: at.at, sizePx: colourSettings.now.sizePx });
  }

  /** Exact pixels that were waited for are there: what is held is read of them. */
  #readExactly(): void {
    const { held } = this.now;
    const placement = held?.of && this.#placement(held.of.placement);
    if (held?.exactness !== 'awaited' || !held.of || !placement) return;
    if (sourcesOf(this.#desk.sync.shelf).source(placement.picture)?.exact === null) return;
    const { at, outline } = held.of;
    void this.hold(placement, outline ? { outline } : { at, sizePx: colourSettings.now.sizePx }, false);
  }

  /** The same place is read again, as it is set now. */
  async readAgain(sizePx: AreaSize): Promise<void> {
    colourSettings.set({ sizePx });
    const of = this.now.held?.of;
    const placement = of && this.#placement(of.placement);
    if (of && placement && !of.outline) await this.hold(placement, { at: of.at, sizePx }, false);
  }

  #placement(id: string): Placement | undefined {
    const item = this.#desk.session.items.get(id);
    return item && isPlacement(item) && !item.removed ? item : undefined;
  }

  /** An arrow: the next pixel of the original that way, ten with Shift. */
  arrow(_: Desk, to: 'left' | 'right' | 'up' | 'down', isFar: boolean): void {
    const of = this.now.held?.of;
    const placement = of && this.#placement(of.placement);
    if (!of || !placement) {
      void this.readHere();
      return;
    }
    const by = (isFar ? 10 : 1) * (to === 'left' || to === 'up' ? -1 : 1);
    const isAcross = to === 'left' || to === 'right';
    // From middle to middle: what lies on the edge of a pixel is on either by rounding.
    const middle = (share: number, length: number, steps: number) =>
      (Math.floor(share * length + 1e-6) + 0.5 + steps) / length;
    const at = clamped({
      x: middle(of.at.x, of.size.width, isAcross ? by : 0),
      y: middle(of.at.y, of.size.height, isAcross ? 0 : by),
    });
    void this.hold(placement, { at, sizePx: colourSettings.now.sizePx }, false);
  }

  async readScreen(): Promise<void> {
    const held = await readScreen(window);
    if (held) await this.holdScreen(held);
  }

  showScreen(isScreenOpen: boolean): void {
    this.#store.setState({ isScreenOpen });
  }

  async holdScreen(held: Reading): Promise<void> {
    this.#store.setState({ held, before: this.now.held, trouble: undefined });
    recentColours.add(hexOfRgb(held.colour));
    await this.copy();
  }

  /** Nothing of what is under the pointer is told while one guesses. */
  get hidesValues(): boolean {
    return this.now.isGuessing;
  }

  toggleGuessing(): void {
    this.#hovered = undefined;
    this.#store.setState({ ...NOTHING, isGuessing: !this.now.isGuessing });
    this.#desk.retell();
    this.#desk.view?.requestDraw();
  }

  forget(): void {
    this.#store.setState({ ...NOTHING, isGuessing: this.now.isGuessing });
    this.#desk.view?.requestDraw();
  }

  /** Copies what is held as it is written by the chosen notation. */
  async copy(text = this.written()): Promise<void> {
    if (text !== undefined && (await copyText(window, text))) this.#store.setState({ copied: text });
  }

  written(): string | undefined {
    const { held } = this.now;
    return held && writeColour(held.colour, colourSettings.now.notation);
  }

  /** What is held stays on the picture, as a labelled point. */
  confirm(desk: Desk): void {
    const { held, isGuessing } = this.now;
    const of = held?.of;
    if (isGuessing) return;
    const known = of && desk.sync.shelf.get(of.picture)?.picture;
    if (!held || !of)
      desk.say('Nothing is read yet that could be pinned.', ['Press a point of a picture first.']);
    else if (!known) desk.say('This picture is still on its way; pin it in a moment.');
    else if (known.purposes.length >= MOST_PURPOSES)
      desk.say(`A picture has ${MOST_PURPOSES} labels at most.`, ['Forget one on its wall label first.']);
    else {
      const word = `${writeColour(held.colour, 'name')} ${hexOfRgb(held.colour)}`;
      const digits = (share: number) => Math.round(share * 1e5) / 1e5;
      const region = { x: digits(of.at.x), y: digits(of.at.y), width: 0, height: 0 };
      const pinned = {
        purpose: 'colour',
        isNot: false,
        word,
        region,
        colour: hexOfRgb(held.colour),
      } as const;
      desk.patchPicture(of.picture, { purposes: [...known.purposes, pinned] });
      desk.say(`Pinned: ${word}.`, ['It stays on the picture; its wall label lists it.']);
    }
  }

  overlay({ desk, view }: Seat, context: CanvasRenderingContext2D): void {
    const { held, before } = this.now;
    for (const one of [before, held]) {
      const of = one?.of;
      const placement = of && desk.session.shown(of.placement);
      if (!of || !placement || !isPlacement(placement) || placement.removed) continue;
      const seen = (at: Point) =>
        boardToScreen(view.camera, view.viewport, applyAffine(pictureToBoard(placement), at));
      if (of.outline) strokeLine(context, of.outline.map(seen), true);
      else ring(context, seen(of.at));
    }
    this.#lasso.draw(context);
  }
}

/** Corners of the rectangle of a placed picture between two points of the screen, as they are seen. */
function rectangleBetween(placement: Placement, view: StageView, from: Point, to: Point): Point[] {
  const [a, b] = [from, to].map((one) => clamped(onPicture(placement, view.toBoard(one)))) as [Point, Point];
  const corners = [a, { x: b.x, y: a.y }, b, { x: a.x, y: b.y }];
  return corners.map((at) =>
    boardToScreen(view.camera, view.viewport, applyAffine(pictureToBoard(placement), at)),
  );
}

const wordsOf = (error: unknown): string =>
  error instanceof NotRead ? error.message : `The colour cannot be read: ${String(error)}`;

const clamped = ({ x, y }: Point): Point => ({
  x: Math.min(1 - 1e-9, Math.max(0, x)),
  y: Math.min(1 - 1e-9, Math.max(0, y)),
});

function ring(context: CanvasRenderingContext2D, { x, y }: Point): void {
  context.beginPath();
  context.arc(x, y, RING_PX, 0, 2 * Math.PI);
  for (const [width, colour] of STROKES) {
    context.lineWidth = width;
    context.strokeStyle = colour;
    context.stroke();
  }
}
