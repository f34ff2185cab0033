import { boundsOf } from '@miradero/core/board';
import { type Camera, type Point, panBy, viewOf, zoomAt } from '@miradero/core/geometry';
import type { Desk } from '../desk/index.ts';

/** Draws one thing of a board with a camera of its own. Paints when it, or the camera, altered alone. */
export class PinnedView {
  readonly #canvas: HTMLCanvasElement;
  readonly #desk: Desk;
  readonly #item: string;
  readonly #ends: (() => void)[] = [];
  #camera: Camera | undefined;
  #isFitted = true;
  #isPainting = false;
  #isStale = false;
  #isClosed = false;

  constructor(canvas: HTMLCanvasElement, desk: Desk, item: string) {
    this.#canvas = canvas;
    this.#desk = desk;
    this.#item = item;
    const observer = new ResizeObserver(() => this.#measure());
    observer.observe(canvas);
    this.#ends.push(
      () => observer.disconnect(),
      desk.feed.subscribe(() => this.#paint()),
    );
    this.#measure();
  }

  get camera(): Camera | undefined {
    return this.#camera;
  }

  zoom(at: Point, factor: number): void {
    if (this.#camera) this.#look(zoomAt(this.#camera, this.#viewport, at, factor));
  }

  pan(deltaPx: Point): void {
    if (this.#camera) this.#look(panBy(this.#camera, deltaPx));
  }

  /** Shows all of it again. */
  fit(): void {
    this.#isFitted = true;
    this.#measure();
  }

  close(): void {
    this.#isClosed = true;
    for (const end of this.#ends) end();
  }

  get #viewport() {
    return { width: this.#canvas.clientWidth, height: this.#canvas.clientHeight };
  }

  #look(camera: Camera): void {
    this.#isFitted = false;
    this.#camera = camera;
    this.#paint();
  }

  #measure(): void {
    const { width, height } = this.#viewport;
    const item = this.#desk.session.items.get(this.#item);
    if (width === 0 || height === 0 || !item) return;
    if (this.#isFitted) {
      const { x, y, width: w, height: h } = boundsOf(item);
      this.#camera = {
        centre: { x: x + w / 2, y: y + h / 2 },
        scale: Math.min(width / w, height / h),
      };
    }
    this.#paint();
  }

  #paint(): void {
    const camera = this.#camera;
    const viewport = this.#viewport;
    if (!camera || this.#isClosed || viewport.width === 0) return;
    if (this.#isPainting) {
      this.#isStale = true;
      return;
    }
    this.#isPainting = true;
    this.#isStale = false;
    const ratio = window.devicePixelRatio || 1;
    const request = {
      ...{ view: viewOf(camera, viewport), scale: camera.scale * ratio, ground: null },
      ...{ only: [this.#item], marksOf: [], isLoading: true },
    };
    this.#desk.feed.paint(request).then(
      ({ bitmap }) => {
        this.#isPainting = false;
        if (!this.#isClosed) {
          this.#canvas.width = bitmap.width;
          this.#canvas.height = bitmap.height;
          this.#canvas.getContext('2d')!.drawImage(bitmap, 0, 0);
        }
        bitmap.close();
        if (this.#isStale) this.#paint();
      },
      () => {
        this.#isPainting = false;
      },
    );
  }
}
