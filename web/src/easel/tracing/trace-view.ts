import { pixelsOfSheet } from '@miradero/core/easel';
import type { Rectangle } from '@miradero/core/geometry';
import { isPlacement } from '@miradero/core/items';
import { createStore, type Readable } from '../../state/index.ts';
import { sheetOf } from '../sheet-of.ts';
import { pixelsOf } from './capture.ts';
import type { Tracing } from './tracing.ts';

/** Where the sheet lies is looked for so often at most while the window alters, ms. */
const TRACK_MS = 250;
/** What is laid over is at first so strong. */
const FIRST_OPACITY = 0.5;

export interface TraceState {
  readonly opacity: number;
  /** The key that hides it is held. */
  readonly isHidden: boolean;
  /** Where the sheet lies cannot be told. */
  readonly isLost: boolean;
  /** Nobody shares the window any more. */
  readonly isOver: boolean;
  /** Something stands on the sheet that could be laid over. */
  readonly isEmpty: boolean;
  /** Frames that were drawn; none come while the window stands still. */
  readonly frames: number;
  /** From a frame's arrival until it was drawn, ms. */
  readonly delayMs: number;
}

/** Draws a captured sheet as it is now, and over it what stands on the board's sheet, without the drawing. Draws when something altered alone. */
export class TraceView {
  readonly #tracing: Tracing;
  readonly #canvas: HTMLCanvasElement;
  readonly #context: CanvasRenderingContext2D;
  readonly #store = createStore<TraceState>(() => ({
    ...{ opacity: FIRST_OPACITY, isHidden: false, isLost: false, isOver: false, isEmpty: false },
    ...{ frames: 0, delayMs: 0 },
  }));
  readonly #ends: (() => void)[] = [];
  #rectangle: Rectangle;
  #overlay: { readonly bitmap: ImageBitmap; readonly key: string } | undefined;
  #isPainting = false;
  #frame = 0;
  #lastTrackMs = 0;
  #isTracking = false;
  #trackTimer: ReturnType<typeof setTimeout> | undefined;
  #arrivedMs = 0;
  #isClosed = false;

  constructor(canvas: HTMLCanvasElement, tracing: Tracing) {
    this.#canvas = canvas;
    this.#context = canvas.getContext('2d', { alpha: false })!;
    this.#tracing = tracing;
    this.#rectangle = tracing.upright.rectangle;
    const observer = new (tracing.window as Window & typeof globalThis).ResizeObserver(() => this.#size());
    observer.observe(canvas.parentElement!);
    this.#ends.push(
      () => observer.disconnect(),
      tracing.desk.feed.subscribe(() => this.#paintOverlay()),
    );
    this.#size();
    tracing.capture.listen({
      onFrame: () => {
        this.#arrivedMs = performance.now();
        this.#store.setState(({ frames }) => ({ frames: frames + 1 }));
        this.#draw();
        this.#track();
      },
      onEnd: () => this.#store.setState({ isOver: true }),
    });
  }

  get store(): Readable<TraceState> {
    return this.#store;
  }

  /** Where the sheet lies now in the capture, turned upright, its pixels. */
  get rectangle(): Rectangle {
    return this.#rectangle;
  }

  setOpacity(opacity: number): void {
    this.#store.setState({ opacity: Math.min(1, Math.max(0, opacity)) });
    this.#draw();
  }

  hide(isHidden: boolean): void {
    if (isHidden === this.#store.getState().isHidden) return;
    this.#store.setState({ isHidden });
    this.#draw();
  }

  close(): void {
    this.#isClosed = true;
    clearTimeout(this.#trackTimer);
    this.#tracing.window.cancelAnimationFrame(this.#frame);
    this.#tracing.capture.listen(undefined);
    for (const end of this.#ends) end();
    this.#overlay?.bitmap.close();
  }

  #size(): void {
    const { clientWidth, clientHeight } = this.#canvas.parentElement!;
    const ratio = this.#tracing.window.devicePixelRatio || 1;
    this.#canvas.width = Math.max(1, Math.round(clientWidth * ratio));
    this.#canvas.height = Math.max(1, Math.round(clientHeight * ratio));
    this.#paintOverlay();
    this.#draw();
  }

  /** Where the sheet is drawn, device pixels: whole, in the middle. */
  #place(): (Rectangle & { readonly scale: number }) | undefined {
    const sheet = sheetOf(this.#tracing.desk);
    if (!sheet) return undefined;
    const { trimmed } = pixelsOfSheet(sheet.setup);
    const { width, height } = this.#canvas;
    const scale = Math.min(width / trimmed.width, height / trimmed.height);
    const size = { width: trimmed.width * scale, height: trimmed.height * scale };
    return { x: (width - size.width) / 2, y: (height - size.height) / 2, ...size, scale };
  }

  /** What lies over the drawing, painted once for a size and a state of the board. */
  #paintOverlay(): void {
    const place = this.#place();
    if (!place || this.#isPainting || this.#isClosed) return;
    const { desk } = this.#tracing;
    const only = desk.session.standing
      .filter((item) => !(isPlacement(item) && item.drawing))
      .map(({ id }) => id);
    this.#store.setState({ isEmpty: only.length === 0 });
    const key = `${desk.feed.version} ${place.width} ${place.height}`;
    const view = { x: 0, y: 0, width: place.width / place.scale, height: place.height / place.scale };
    this.#isPainting = true;
    desk.feed.paint({ view, scale: place.scale, ground: null, only, isLoading: true }).then(
      (frame) => {
        this.#isPainting = false;
        if (this.#isClosed) {
          frame.bitmap.close();
          return;
        }
        this.#overlay?.bitmap.close();
        this.#overlay = { bitmap: frame.bitmap, key };
        this.#draw();
        const now = this.#place();
        if (now && key !== `${desk.feed.version} ${now.width} ${now.height}`) this.#paintOverlay();
      },
      () => {
        this.#isPainting = false;
      },
    );
  }

  #draw(): void {
    if (this.#frame !== 0 || this.#isClosed) return;
    this.#frame = this.#tracing.window.requestAnimationFrame(() => {
      this.#frame = 0;
      this.#drawNow();
    });
  }

  #drawNow(): void {
    const { last } = this.#tracing.capture;
    const context = this.#context;
    const place = this.#place();
    context.fillStyle = '#797979';
    context.fillRect(0, 0, this.#canvas.width, this.#canvas.height);
    if (!place) return;
    const { opacity, isHidden, isLost } = this.#store.getState();
    if (last && !isLost) {
      const from = this.#rectangle;
      context.save();
      context.beginPath();
      context.rect(place.x, place.y, place.width, place.height);
      context.clip();
      const [x, y] = [place.width / from.width, place.height / from.height];
      // All of it, so that what lies beyond the window's edge is simply not there.
      context.transform(x, 0, 0, y, place.x - from.x * x, place.y - from.y * y);
      context.transform(...this.#tracing.upright.toUpright);
      context.drawImage(last, 0, 0, last.displayWidth, last.displayHeight);
      context.restore();
    } else if (last) {
      const scale = Math.min(
        this.#canvas.width / last.displayWidth,
        this.#canvas.height / last.displayHeight,
      );
      const [width, height] = [last.displayWidth * scale, last.displayHeight * scale];
      context.drawImage(
        last,
        ...[(this.#canvas.width - width) / 2, (this.#canvas.height - height) / 2, width, height],
      );
    }
    if (this.#overlay && !isHidden && !isLost) {
      context.globalAlpha = opacity;
      context.drawImage(this.#overlay.bitmap, place.x, place.y, place.width, place.height);
      context.globalAlpha = 1;
    }
    if (this.#arrivedMs > 0) {
      this.#store.setState({ delayMs: performance.now() - this.#arrivedMs });
      this.#arrivedMs = 0;
    }
  }

  /** Looks where the sheet lies now: while frames come now and then, and once more after the last. */
  #track(): void {
    clearTimeout(this.#trackTimer);
    const waitMs = this.#lastTrackMs + TRACK_MS - performance.now();
    if (this.#isTracking || waitMs > 0) {
      this.#trackTimer = setTimeout(() => this.#track(), Math.max(waitMs, TRACK_MS / 4));
      return;
    }
    const { capture, tracker, upright } = this.#tracing;
    if (!capture.last || this.#isClosed) return;
    this.#isTracking = true;
    this.#lastTrackMs = performance.now();
    void tracker.ask({ kind: 'see', pixels: pixelsOf(capture.last, upright) }).then((rectangle) => {
      this.#isTracking = false;
      if (this.#isClosed) return;
      if (rectangle) this.#rectangle = rectangle;
      this.#store.setState({ isLost: rectangle === undefined });
      this.#draw();
    });
  }
}
