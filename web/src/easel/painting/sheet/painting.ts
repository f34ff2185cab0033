import { boundsOf, compareStacking, frameMatrix } from '@miradero/core/board';
import {
  type Affine,
  applyAffine,
  compose,
  inflate,
  invertAffine,
  type Point,
  type Rectangle,
  unionOf,
} from '@miradero/core/geometry';
import { isMultiplied, isPlacement, type Placement, pictureToFrame } from '@miradero/core/items';
import { groundOf, type LayerFacts, type PenPoint, type Rgb8 } from '@miradero/core/paint';
import type { Desk } from '../../../desk/index.ts';
import { type DrawnLive, drawOver, type LiveSource, liveIn } from '../../../live/index.ts';
import type { ViewOfMoving } from '../../../stage/index.ts';
import { createStore, type Readable, type StoreApi } from '../../../state/index.ts';
import type {
  AreaWish,
  FreshSheet,
  FromPaint,
  LayerAct,
  PaintFacts,
  SeenPart,
  SheetFormat,
  StrokeWish,
  ToPaint,
} from '../messages.ts';
import { boundsAfter, PartInView } from './part-in-view.ts';
import { PaintSurface } from './surface.ts';
import { Takings } from './takings.ts';

export interface PaintState {
  readonly facts: PaintFacts | undefined;
  /** Why it cannot be painted on, in words. */
  readonly why: string | undefined;
  readonly trouble: 'full' | 'failed' | null;
  /** Whether all of it is on this computer's disk. */
  readonly isKept: boolean;
  /** Where something was taken that can be carried elsewhere, pixels of the sheet: once it was, until something else is done. */
  readonly taken: Rectangle | null;
  /** Id of the layer on which one draws. */
  readonly active: string;
  readonly isBareShown: boolean;
}

/** The edge of what hides something is smoothed: so far within it nothing is seen through, CSS pixels. */
const COVERED_FROM_PX = 2;

/** On which layer one draws at first. */
const FIRST_LAYER = 'sketch';

export interface Exported {
  readonly file: Blob;
  readonly change: number;
}

/** What alters what there is. */
const ACTS: ReadonlySet<ToPaint['kind']> = new Set([
  ...(['begin', 'cancel', 'undo', 'redo', 'lasso', 'fill', 'take', 'discard'] as const),
  ...(['shrink', 'ground', 'layers'] as const),
]);

interface Question {
  resolve(exported: Exported): void;
  reject(error: Error): void;
}

/** One drawing that is painted here, in this window: the worker that owns its sheet, and what is seen of it. */
export class Painting implements LiveSource {
  readonly drawing: string;
  readonly #desk: Desk;
  readonly #worker: Worker;
  readonly #keeper: Worker;
  readonly #store: StoreApi<PaintState> = createStore<PaintState>(() => ({
    ...{
      facts: undefined,
      why: undefined,
      trouble: null,
      isKept: true,
      taken: null,
      active: FIRST_LAYER,
      isBareShown: false,
    },
  }));
  readonly #questions = new Map<number, Question>();
  readonly #waiting = new Map<number, () => void>();
  #asks = 0;
  #acts = 0;
  readonly #takings = new Takings();
  readonly #part = new PartInView({
    ask: (window) => this.#post({ kind: 'look', window }),
    redraw: () => this.#desk.feed.redraw(),
  });
  #surface: PaintSurface | undefined;
  /** Of the stroke that is made: its last point that was told, and that is seen. */
  #number = 0;
  #seenNumber = 0;
  #isClosed = false;
  /** Id of the placement on which one draws; else the uppermost. */
  #aimed: string | undefined;

  /** @param version - picture of its newest version, and its file, which comes while it is opened */
  constructor(
    desk: Desk,
    drawing: string,
    { file, ...from }: { version: string | null; file: Promise<Blob | null>; fresh: FreshSheet | null },
  ) {
    this.drawing = drawing;
    this.#desk = desk;
    this.#worker = new Worker(new URL('../worker/paint.worker.ts', import.meta.url), { type: 'module' });
    this.#keeper = new Worker(new URL('../worker/keeper.worker.ts', import.meta.url), { type: 'module' });
    this.#worker.onmessage = ({ data }: MessageEvent<FromPaint>) => this.#hear(data);
    const between = new MessageChannel();
    this.#keeper.postMessage(between.port1, [between.port1]);
    this.#post({ kind: 'open', drawing, keeper: between.port2, ...from }, [between.port2]);
    void file.then((come) => this.#post({ kind: 'file', file: come }));
  }

  get store(): Readable<PaintState> {
    return this.#store;
  }
  get facts(): PaintFacts | undefined {
    return this.#store.getState().facts;
  }
  /** The layer on which one draws; another where that is gone. */
  get layer(): LayerFacts | undefined {
    const { facts, active } = this.#store.getState();
    return facts?.layers.find(({ id }) => id === active) ?? facts?.layers.at(-1);
  }
  chooseLayer(active: string): void {
    this.#store.setState({ active });
  }
  /** All that shows it on the board, lowest first: it may have been duplicated. */
  get placements(): readonly Placement[] {
    return [...this.#desk.session.items.values()]
      .filter(isPlacement)
      .filter((one) => !one.removed && one.drawing === this.drawing)
      .sort(compareStacking);
  }
  /** On which of them one draws. */
  get placement(): Placement | undefined {
    const { placements } = this;
    return placements.find(({ id }) => id === this.#aimed) ?? placements.at(-1);
  }
  /** From now on one draws on what shows it at a point, where something does. @param point - of the board */
  aimAt(point: Point): void {
    const item = this.#desk.feed.itemAt(point);
    if (item && isPlacement(item) && item.drawing === this.drawing) this.#aimed = item.id;
  }
  /** What the hand's tool drew over it last, board units: it may go when more of the stroke is seen. */
  drawnOver: Rectangle | undefined;

  /** Number of the last point of the stroke that is seen. */
  get seenNumber(): number {
    return this.#seenNumber;
  }

  /** From pixels of the sheet to board units. */
  toBoard(item: Placement): Affine {
    const { width, height } = this.#surface?.size ?? { width: 1, height: 1 };
    return compose(frameMatrix(item), compose(pictureToFrame(item), [1 / width, 0, 0, 1 / height, 0, 0]));
  }

  /** A point of the board in pixels of the sheet. */
  onSheet(item: Placement, point: Point): Point {
    return applyAffine(invertAffine(this.toBoard(item)), point);
  }

  // What the hand does

  /** Grows with everything that is asked to be done: what was done last is the last as long as it is the same. */
  get acts(): number {
    return this.#acts;
  }
  /** @param isInstead - of the stroke that was made last */
  begin(wish: StrokeWish, isInstead = false): void {
    this.#number = 0;
    this.#seenNumber = 0;
    this.#post({ kind: 'begin', wish, isInstead });
  }
  /** @returns the number of the last of them */
  goOn(points: readonly PenPoint[]): number {
    this.#number += points.length;
    this.#post({ kind: 'way', points, number: this.#number });
    return this.#number;
  }
  end(): void {
    this.#post({ kind: 'end' });
  }
  cancel(): void {
    this.#post({ kind: 'cancel' });
  }
  turn(side: 'undo' | 'redo'): void {
    this.#post({ kind: side });
  }
  lasso(wish: AreaWish, corners: readonly Point[]): void {
    this.#post({ kind: 'lasso', wish, corners });
  }
  fill(wish: AreaWish, at: Point, gapPx: number): void {
    this.#post({ kind: 'fill', wish, at, gapPx });
  }
  take(layer: string, corners: readonly Point[]): void {
    this.#store.setState({ taken: null });
    this.#post({ kind: 'take', layer, corners, number: this.#takings.add() });
  }
  /** Something is being taken: what it is, is not known yet. */
  get isTaking(): boolean {
    return this.#takings.isUnderWay(this.facts);
  }
  carry(to: Affine): void {
    this.#post({ kind: 'carry', to });
  }
  alterLayers(what: LayerAct): void {
    this.#post({ kind: 'layers', what });
  }
  /** What was taken is taken away. */
  discard(): void {
    this.#post({ kind: 'discard' });
  }
  /** What was taken stays where it is. */
  settle(): void {
    this.#post({ kind: 'settle' });
  }
  /** The same, where anything was taken. */
  putDown(): void {
    if (this.isTaking || this.#store.getState().taken) this.settle();
  }
  shrink(by: number): void {
    this.#post({ kind: 'shrink', by });
  }
  showBare(isShown: boolean): void {
    this.#store.setState({ isBareShown: isShown });
    this.#post({ kind: 'show-bare', isShown });
  }
  toneGround(colour: Rgb8 | null, picture: ImageBitmap | null): void {
    this.#post({ kind: 'ground', colour, picture }, picture ? [picture] : []);
  }
  versioned(version: string, change: number): void {
    this.#post({ kind: 'versioned', version, change });
  }

  /** @throws Error in words */
  exported(as: SheetFormat, waits = false): Promise<Exported> {
    this.#asks += 1;
    const ask = this.#asks;
    this.#post({ kind: 'export', ask, as, waits });
    return new Promise((resolve, reject) => this.#questions.set(ask, { resolve, reject }));
  }

  /** Puts what was painted on this computer's disk at once. */
  keep(): Promise<void> {
    this.#asks += 1;
    const ask = this.#asks;
    this.#post({ kind: 'keep', ask });
    return new Promise((resolve) => this.#waiting.set(ask, resolve));
  }

  /** Called once, when it is seen no more; whoever has it ends it. */
  onClose: (() => void) | undefined;

  /** It is seen no more; what was painted may still be made a version. */
  close(): void {
    if (this.#isClosed) return;
    this.#isClosed = true;
    if (this.onClose) this.onClose();
    else this.terminate();
  }

  terminate(): void {
    this.#part.stop();
    this.#worker.terminate();
    this.#keeper.terminate();
    for (const { reject } of this.#questions.values()) reject(new Error('It was closed.'));
  }

  // What is seen

  /** What stands upright, wholly there and untrimmed hides what lies below it, but for its rim. */
  covers(view: ViewOfMoving): Rectangle | undefined {
    const { placement } = this;
    if (this.#isClosed || !this.#surface?.isThere || !placement || this.isClear) return undefined;
    const item = liveIn(view, placement.id);
    if (!item || item.opacity < 1 || isMultiplied(item) || item.trim.outline) return undefined;
    const [, b, c] = this.toBoard(item);
    if (b !== 0 || c !== 0) return undefined;
    const { scale } = view.camera;
    const { x, y, width, height } = boundsOf(item);
    const seen = { x: (x - view.view.x) * scale, y: (y - view.view.y) * scale };
    return inflate({ ...seen, width: width * scale, height: height * scale }, -COVERED_FROM_PX);
  }

  draw(context: CanvasRenderingContext2D, view: ViewOfMoving): DrawnLive {
    const surface = this.#surface;
    const placement = this.placement;
    const nothing = { drawn: [], nextMs: Number.POSITIVE_INFINITY };
    if (this.#isClosed || !surface || !placement) return nothing;
    const item = liveIn(view, placement.id);
    const isFine =
      item !== undefined && this.#isLead(view) && this.#part.look(view, this.toBoard(item), surface);
    // Until then its newest version is seen.
    if (!surface.isThere) return nothing;
    const drawn = this.placements.flatMap(({ id }) => liveIn(view, id) ?? []);
    for (const one of drawn) {
      const images = surface
        .images(isFine && one === item, this.isClear)
        .map(({ image, ...place }) => ({ image, opacity: 1, place }));
      drawOver(context, view, one, images, this.isClear);
    }
    return { drawn, nextMs: Number.POSITIVE_INFINITY };
  }

  /** Without a ground one sees through it, and its newest version would be seen below. */
  get isClear(): boolean {
    const { facts, isBareShown } = this.#store.getState();
    return !isBareShown && facts !== undefined && groundOf(facts.layers) === null;
  }

  /** Of several views the one that keys act on is seen sharp. */
  #isLead(view: ViewOfMoving): boolean {
    return !this.#desk.view || view === (this.#desk.view as ViewOfMoving);
  }

  #hear(message: FromPaint): void {
    switch (message.kind) {
      case 'opened':
        this.#surface = new PaintSurface(message.facts, message.coarse);
        this.#store.setState({ facts: message.facts });
        break;
      case 'unopened':
        this.#store.setState({ why: message.why });
        break;
      case 'facts':
        this.#store.setState({ facts: message.facts, taken: this.#takings.carriedOf(message.facts) });
        return;
      case 'parts':
        this.#surface?.put(message.parts);
        if (message.number !== null) this.#seenNumber = message.number;
        this.#showParts(message.parts, message.number);
        return;
      case 'exported':
        this.#questions.get(message.ask)?.resolve(message);
        this.#questions.delete(message.ask);
        return;
      case 'unexported':
        this.#questions.get(message.ask)?.reject(new Error(message.why));
        this.#questions.delete(message.ask);
        return;
      case 'kept':
        this.#waiting.get(message.ask)?.();
        this.#waiting.delete(message.ask);
        return;
      case 'refused':
        this.#desk.say(message.why);
        return;
      case 'keeping':
        this.#store.setState({ trouble: message.trouble, isKept: message.isKept });
        return;
    }
    this.#desk.feed.redraw();
  }

  /** Of a stroke only what it altered is drawn anew. */
  #showParts(parts: readonly SeenPart[], number: number | null): void {
    if (!this.#surface?.isThere) return;
    const { placements } = this;
    if (number === null || placements.length === 0) {
      this.#desk.feed.redraw();
      return;
    }
    const altered = placements.flatMap((placement) => {
      const toBoard = this.toBoard(placement);
      return parts.map(({ level, x, y, width, height }) => {
        const step = 1 << level;
        return boundsAfter(toBoard, { x: x * step, y: y * step, width: width * step, height: height * step });
      });
    });
    const part = unionOf([...altered, ...(this.drawnOver ? [this.drawnOver] : [])]);
    if (part) this.#desk.feed.redrawMoving(part);
  }

  #post(message: ToPaint, transfer: Transferable[] = []): void {
    if (ACTS.has(message.kind)) this.#acts += 1;
    this.#worker.postMessage(message, transfer);
    if (this.#takings.endBy(message.kind)) this.#store.setState({ taken: null });
  }
}
