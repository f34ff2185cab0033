import {
  addPoints,
  boardToScreen,
  type Camera,
  inflate,
  type Point,
  panBy,
  type Rectangle,
  screenToBoard,
  subtractPoints,
  unionOf,
  type Viewport,
  viewOf,
  zoomAt,
} from '@miradero/core/geometry';
import type { LaidLens } from '@miradero/core/lens';
import type { Item } from '@miradero/core/schema';
import { createStore, type Readable, type StoreApi } from '../state/index.ts';
import { type Buffer, type FrameReport, NO_LENSES, type ViewNow } from './buffer.ts';
import { Buffers } from './buffers.ts';
import { fly } from './camera-flight.ts';
import { around, clipTo, pixelsAround } from './canvas-parts.ts';
import {
  AS_IT_IS,
  alongScreen,
  alongView,
  fillingAlong,
  layTurned,
  type Orientation,
  roomIn,
  showingTurned,
  turnedSize,
} from './orientation.ts';
import { FIT_MARGIN_PX, revealing, revealingBeside } from './revealing.ts';
import type { SceneFeed } from './scene-feed.ts';
import type { Look, ViewStart } from './view-start.ts';

/** Draws above the board: selection, handles, what is being drawn by a hand. CSS pixels. */
export type Overlay = (context: CanvasRenderingContext2D, view: StageView) => void;

const CLOSE_MARGIN_PX = 0;
/** So much of its longer side is seen around what was gone to. */
const VISIT_MARGIN = 0.35;
/** Half of the least that can be met with a pointer. */
const REACH_PX = 5;
const DEFAULT_CAMERA: Camera = { centre: { x: 0, y: 0 }, scale: 1 };

/**
 * One view of a board: a canvas, a camera, buffers. Knows nothing of React and nothing of the global window: it may
 * live in a document of another one, and be moved there.
 */
export class StageView {
  readonly feed: SceneFeed;
  readonly canvas: HTMLCanvasElement;
  readonly #holder: HTMLElement;
  readonly #context: CanvasRenderingContext2D;
  readonly #buffers: Buffers;
  readonly #store: StoreApi<Look>;
  readonly #unsubscribe: readonly (() => void)[];
  readonly #overview = createStore<{ readonly buffer: Buffer | undefined }>(() => ({ buffer: undefined }));
  #ratio = 1;
  #ground = 'rgb(121, 121, 121)';
  #lenses: readonly LaidLens[] = NO_LENSES;
  #frame = 0;
  /** What is to be drawn in the next frame, board units. */
  #due: Rectangle | 'all' | undefined;
  #overlay: Overlay = () => {};
  #observer: ResizeObserver | undefined;
  #stopFlight = () => {};
  #closeOn: string | undefined;
  #cameraBefore: Camera | undefined;
  /** What was brought close fills the view through every change of size, until somebody moves the camera. */
  #closePart: Rectangle | undefined;
  #isSized = false;
  #isClosed = false;
  /** Shows the whole board through every change of size, until somebody moves the camera. */
  #isFitted: boolean;
  #orientation = AS_IT_IS;
  #holderSize: Viewport = { width: 1, height: 1 };
  readonly #marginPx: number;
  readonly #home: ViewStart['home'];
  onFrame: ((report: FrameReport) => void) | undefined;
  /** Resolves once a frame showed something that was painted. */
  readonly shown: Promise<void>;
  #tellShown = () => {};

  constructor(holder: HTMLElement, feed: SceneFeed, { camera, marginPx, home }: ViewStart = {}) {
    this.shown = new Promise((resolve) => {
      this.#tellShown = resolve;
    });
    this.feed = feed;
    this.#marginPx = marginPx ?? FIT_MARGIN_PX;
    this.#home = home;
    this.#holder = holder;
    this.#store = createStore<Look>(() => ({
      camera: camera ?? DEFAULT_CAMERA,
      viewport: { width: 1, height: 1 },
    }));
    this.#isFitted = camera === undefined;
    this.canvas = holder.ownerDocument.createElement('canvas');
    this.canvas.className = 'stage-canvas';
    views.set(this.canvas, this);
    holder.prepend(this.canvas);
    this.#context = this.canvas.getContext('2d', { alpha: false })!;
    this.#buffers = new Buffers(feed, () => this.requestDraw());
    this.#unsubscribe = [
      feed.subscribe(() => {
        this.#buffers.refresh();
        this.requestDraw();
      }),
      feed.onMoved((part) => this.requestDraw(part)),
    ];
    this.settle();
  }

  /** Where it looks, told after every move of the camera and every new size. */
  get store(): Readable<Look> {
    return this.#store;
  }
  get camera(): Camera {
    return this.#store.getState().camera;
  }
  get viewport(): Viewport {
    return this.#store.getState().viewport;
  }
  /** Size of what holds it, CSS pixels: turned, the view is larger than that, so that it reaches every corner. */
  get holderSize(): Viewport {
    return this.#holderSize;
  }
  /** Size of the largest part of this view, about its middle, of which nothing is beyond the holder. */
  get room(): Viewport {
    return roomIn(this.#holderSize, this.viewport, this.#orientation.degrees);
  }
  /** A small picture of the whole board; told when it was painted anew. */
  get overview(): Readable<{ readonly buffer: Buffer | undefined }> {
    return this.#overview;
  }
  /** The part of the board in view. */
  get view(): Rectangle {
    return viewOf(this.camera, this.viewport);
  }
  get bytes(): number {
    return this.#buffers.bytes + this.canvas.width * this.canvas.height * 4;
  }
  get status() {
    return this.#buffers.status;
  }
  /** True while nobody has moved the camera: where it looks is no choice to be kept. */
  get isFitted(): boolean {
    return this.#isFitted;
  }
  /** What was brought close and not yet taken back. */
  get closeOn(): string | undefined {
    return this.#closeOn;
  }
  /** True while a picture was brought close and not yet taken back. */
  get isClose(): boolean {
    return this.#closeOn !== undefined;
  }

  set overlay(overlay: Overlay) {
    this.#overlay = overlay;
    this.requestDraw();
  }

  /** What is looked through. Amounts that are lengths are CSS pixels. */
  set lenses(lenses: readonly LaidLens[]) {
    if (lenses === this.#lenses) return;
    this.#lenses = lenses;
    this.#look(false);
  }

  get lensesNow(): readonly LaidLens[] {
    return this.#lenses;
  }

  get ground(): string {
    return this.#ground;
  }

  set ground(colour: string) {
    if (colour === this.#ground) return;
    this.#ground = colour;
    this.#look(false);
  }

  get orientation(): Orientation {
    return this.#orientation;
  }

  /** Turns and mirrors what is seen, for looking only. What React lays over the view does not turn with it. */
  set orientation(orientation: Orientation) {
    const { degrees, isMirrored } = orientation;
    if (degrees === this.#orientation.degrees && isMirrored === this.#orientation.isMirrored) return;
    this.#orientation = orientation;
    this.#measure();
  }

  /** Takes up the document that the holder is in now; call after it was moved to another window. */
  settle(): void {
    this.#observer?.disconnect();
    const window = this.#window();
    this.#observer = new window.ResizeObserver(() => this.#measure());
    this.#observer.observe(this.#holder);
    this.#measure();
  }

  close(): void {
    this.#isClosed = true;
    this.#stopFlight();
    this.#observer?.disconnect();
    this.#window().cancelAnimationFrame(this.#frame);
    for (const end of this.#unsubscribe) end();
    this.#buffers.close();
    this.canvas.remove();
  }

  /** Says what the hand will most likely take next: it is lifted for it in advance. */
  expect(ids: readonly string[]): void {
    this.#buffers.expect(ids);
  }

  /** Position in CSS pixels of this view of a pointer event. */
  pointOf({ clientX, clientY }: { clientX: number; clientY: number }): Point {
    const away = subtractPoints({ x: clientX, y: clientY }, this.#middleOnPage());
    return addPoints(this.along(away), middleOf(this.viewport));
  }

  /** The same, back: where a point of this view is in the window of its document. */
  onPage(pointPx: Point): Point {
    return addPoints(this.#fromMiddle(pointPx), this.#middleOnPage());
  }

  /** Where a point of the board is seen in what holds this view, CSS pixels: where React lays something beside it. */
  seenAt(pointBoard: Point): Point {
    return this.inHolder(boardToScreen(this.camera, this.viewport, pointBoard));
  }

  /** Whether it shows the board as it is, neither turned nor in the mirror. */
  get isUpright(): boolean {
    return this.#orientation.degrees === 0 && !this.#orientation.isMirrored;
  }

  /** Where a point of this view is seen in what holds it, however it is turned. */
  inHolder(pointPx: Point): Point {
    return addPoints(this.#fromMiddle(pointPx), middleOf(this.holderSize));
  }

  #fromMiddle(pointPx: Point): Point {
    return alongScreen(subtractPoints(pointPx, middleOf(this.viewport)), this.#orientation);
  }

  /** Turned about its middle or not, that of the canvas is that of its holder. */
  #middleOnPage(): Point {
    const { left, top, width, height } = this.canvas.getBoundingClientRect();
    return { x: left + width / 2, y: top + height / 2 };
  }

  /** A way on the screen, in CSS pixels of this view. */
  along(deltaPx: Point): Point {
    return alongView(deltaPx, this.#orientation);
  }

  /** What is its whole may be another now: shows that, as long as nobody moved the camera. */
  fitAgain(): void {
    if (this.#isFitted) this.#measure();
  }

  /** What a press at a point of the screen takes hold of. */
  itemAt(pointPx: Point): Item | undefined {
    return this.feed.itemAt(this.toBoard(pointPx), REACH_PX / this.camera.scale);
  }

  toBoard(pointPx: Point): Point {
    return screenToBoard(this.camera, this.viewport, pointPx);
  }

  setCamera(camera: Camera): void {
    this.#stopFlight();
    this.#closePart = undefined;
    this.#show(camera);
  }

  pan(deltaPx: Point): void {
    this.setCamera(panBy(this.camera, deltaPx));
  }

  zoom(pointPx: Point, factor: number): void {
    this.setCamera(zoomAt(this.camera, this.viewport, pointPx, factor));
  }

  /** Zooms about the middle of the view. */
  zoomMiddle(factor: number): void {
    const { width, height } = this.viewport;
    this.flyTo(zoomAt(this.camera, this.viewport, { x: width / 2, y: height / 2 }, factor));
  }

  zoomTo(scale: number): void {
    this.zoomMiddle(scale / this.camera.scale);
  }

  /** Shows a part of the board whole, with some space around it. */
  showPart(part: Rectangle): void {
    this.flyTo(this.#showing(part, FIT_MARGIN_PX));
  }

  /** Shows a part of the board as wide, or as high, as the view is. */
  fitAlong(part: Rectangle, along: 'width' | 'height'): void {
    this.flyTo(fillingAlong(part, this.holderSize, this.#orientation, along));
  }

  /** Shows exactly a part of the board, whatever the shape of the view. */
  show(part: Rectangle): void {
    this.flyTo(this.#showing(part, 0));
  }

  /** Goes to something: it stands in the middle, with what is around it, and no larger than it is. */
  visit(part: Rectangle): void {
    const around = inflate(part, Math.max(part.width, part.height) * VISIT_MARGIN);
    const camera = this.#showing(around, 0);
    this.flyTo(camera.scale > 1 ? { ...camera, scale: 1 } : camera);
  }

  /** Moves so far that a part of the board is in view whole. @param coveredPx - width of what lies over the left of the view: it is moved beside it, where there is room */
  reveal(part: Rectangle, coveredPx = 0): void {
    const isBeside = this.isUpright && this.room.width > 2 * coveredPx;
    const wholeIn = (holder: Viewport) => showingTurned(part, holder, this.#orientation, FIT_MARGIN_PX);
    const to = isBeside
      ? revealingBeside(part, this.camera, this.room, { coveredPx, wholeIn })
      : revealing(part, this.camera, this.room, wholeIn(this.holderSize));
    if (to) this.flyTo(to);
  }

  /** Shows for a moment how things go from where they stood to where they stand now. */
  glide(from: ReadonlyMap<string, Item>): void {
    if (!this.#window().matchMedia('(prefers-reduced-motion: reduce)').matches) this.#buffers.glide(from);
  }

  /** Takes the keyboard. */
  focus(): void {
    this.#holder.focus({ preventScroll: true });
  }

  flyTo(camera: Camera): void {
    this.#stopFlight();
    this.#closePart = undefined;
    this.#stopFlight = fly(this.#window(), this.camera, camera, (step) => this.#show(step));
  }

  showWholeBoard(): void {
    this.#closeOn = undefined;
    this.#cameraBefore = undefined;
    this.flyTo(this.#wholeBoard());
  }

  /** Brings something close so that it fills the view; the same again goes back exactly to where the view was. */
  comeClose(id: string, bounds: Rectangle): void {
    if (this.#closeOn === id && this.#cameraBefore) {
      this.goBack();
      return;
    }
    this.#cameraBefore ??= this.camera;
    this.#closeOn = id;
    this.flyTo(this.#showing(bounds, CLOSE_MARGIN_PX));
    this.#closePart = bounds;
  }

  goBack(): void {
    const before = this.#cameraBefore;
    this.#closeOn = undefined;
    this.#cameraBefore = undefined;
    if (before) this.flyTo(before);
  }

  /** @param part - what of it alters, board units; by default all */
  requestDraw(part?: Rectangle): void {
    if (!part || this.#due === 'all') this.#due = 'all';
    else this.#due = this.#due ? unionOf([this.#due, part])! : part;
    if (this.#frame !== 0 || this.#isClosed) return;
    this.#frame = this.#window().requestAnimationFrame(() => {
      this.#frame = 0;
      this.#draw();
    });
  }

  #window(): Window & typeof globalThis {
    return (this.#holder.ownerDocument.defaultView ?? window) as Window & typeof globalThis;
  }

  #showing(part: Rectangle, marginPx: number): Camera {
    return showingTurned(part, this.holderSize, this.#orientation, marginPx);
  }

  #wholeBoard(room = this.room): Camera {
    const extent = this.#home?.(room) ?? this.feed.extent;
    if (extent === undefined) return DEFAULT_CAMERA;
    const camera = this.#showing(extent, Math.min(this.#marginPx, Math.min(room.width, room.height) / 4));
    return camera.scale > 1 ? { ...camera, scale: 1 } : camera;
  }

  #measure(): void {
    const { clientWidth, clientHeight } = this.#holder;
    if (clientWidth === 0 || clientHeight === 0) return;
    this.#holderSize = { width: clientWidth, height: clientHeight };
    this.#ratio = this.#window().devicePixelRatio || 1;
    const { degrees } = this.#orientation;
    const viewport = turnedSize(this.#holderSize, degrees);
    this.canvas.width = Math.round(viewport.width * this.#ratio);
    this.canvas.height = Math.round(viewport.height * this.#ratio);
    layTurned(this.canvas, this.#holderSize, viewport, this.#orientation);
    const room = roomIn(this.#holderSize, viewport, degrees);
    // A flight to it was for the size of before.
    if (this.#closePart) this.#stopFlight();
    const camera = this.#isFitted
      ? this.#wholeBoard(room)
      : this.#closePart
        ? this.#showing(this.#closePart, CLOSE_MARGIN_PX)
        : this.camera;
    // Those who draw above it know where it looks, before it is drawn.
    this.#store.setState({ camera, viewport });
    // Of another size the canvas is empty, whatever part of it was asked for.
    this.#due = 'all';
    if (this.#isSized) this.#draw();
    this.#isSized = true;
    this.#look(false);
  }

  #show(camera: Camera): void {
    this.#isFitted = false;
    this.#store.setState({ camera });
    this.#look(true);
  }

  #look(isMove: boolean): void {
    this.#buffers.look(this.#now(), isMove);
    this.requestDraw();
  }

  #now(): ViewNow {
    return {
      ...{ view: this.view, scale: this.camera.scale * this.#ratio },
      ...{ ground: this.#ground, lenses: this.#lenses, ratio: this.#ratio },
    };
  }

  /** Draws what was painted, but for what something that moves hides of it anyway. */
  #blit(): FrameReport {
    const covered = this.feed.moving?.covers(this);
    const { width, height } = this.canvas;
    if (!covered) return this.#buffers.blit(this.#context, this.#now());
    const [first, ...others] = around({ x: 0, y: 0, width, height }, covered, this.#ratio);
    const report = this.#blitWithin(first ?? { x: 0, y: 0, width: 0, height: 0 });
    for (const strip of others) this.#blitWithin(strip);
    return report;
  }

  #blitWithin(part: Rectangle): FrameReport {
    this.#context.save();
    clipTo(this.#context, part);
    const report = this.#buffers.blit(this.#context, this.#now());
    this.#context.restore();
    return report;
  }

  #draw(): void {
    const context = this.#context;
    const due = this.#due ?? 'all';
    this.#due = undefined;
    context.save();
    if (due !== 'all') clipTo(context, pixelsAround(due, this.#now()));
    const report = this.#blit();
    context.setTransform(this.#ratio, 0, 0, this.#ratio, 0, 0);
    this.feed.moving?.draw(context, this);
    this.#overlay(context, this);
    context.restore();
    const { isCurrent, isSharp, isComplete } = this.status;
    const state = isSharp ? 'sharp' : isComplete ? 'complete' : isCurrent ? 'current' : 'behind';
    if (this.#holder.dataset.stage !== state) this.#holder.dataset.stage = state;
    if (isCurrent) this.#tellShown();
    const { overview } = this.#buffers;
    if (overview !== this.#overview.getState().buffer) this.#overview.setState({ buffer: overview });
    this.onFrame?.(report);
  }
}

const middleOf = ({ width, height }: Viewport): Point => ({ x: width / 2, y: height / 2 });

const views = new WeakMap<Element, StageView>();

/** The stage whose canvas an element is. */
export const stageOf = (element: Element): StageView | undefined => views.get(element);
