import { inflate, type Rectangle } from '@miradero/core/geometry';
import type { ViewOfMoving } from '../stage/index.ts';

interface Painted {
  readonly bitmap: ImageBitmap;
  readonly view: Rectangle;
  /** What it was painted for: where this is another, it is painted anew. */
  readonly key: string;
}

/** What is painted aside. */
export interface AsideTask {
  /** Ids. */
  readonly only: readonly string[];
  /** Of these, what a hand drew on them alone. */
  readonly marksOf?: readonly string[];
  /** CSS colour behind it; null: nothing. */
  readonly ground: string | null;
}

/** What lacked pixels when it was painted is painted again after so long. */
const AGAIN_MS = 400;

/** Some of what is in view, painted by itself and kept until something of it alters. */
export class Aside {
  readonly #view: ViewOfMoving;
  #painted: Painted | undefined;
  #isPainting = false;
  #isOld = false;

  constructor(view: ViewOfMoving) {
    this.#view = view;
  }

  /** Draws it where it is; what is not painted yet is drawn as it was before. CSS pixels of the view. */
  draw(context: CanvasRenderingContext2D, task: AsideTask): void {
    const { feed, view, camera } = this.#view;
    const { x, y, width, height } = view;
    const { only, marksOf = [], ground } = task;
    const key = [feed.version, x, y, width, height, ground, ...only, '', ...marksOf].join(' ');
    if (key !== this.#painted?.key || this.#isOld) void this.#paint(key, task);
    const painted = this.#painted;
    if (!painted) return;
    const { scale } = camera;
    context.drawImage(
      painted.bitmap,
      ...([(painted.view.x - x) * scale, (painted.view.y - y) * scale] as const),
      ...([painted.view.width * scale, painted.view.height * scale] as const),
    );
  }

  async #paint(key: string, task: AsideTask): Promise<void> {
    if (this.#isPainting) return;
    this.#isPainting = true;
    this.#isOld = false;
    const { feed, camera } = this.#view;
    const scale = camera.scale * window.devicePixelRatio;
    const view = inflate(this.#view.view, 1 / scale);
    try {
      const { bitmap, isSharp } = await feed.paint({ ...task, view, scale, isLoading: true });
      this.#painted?.bitmap.close();
      this.#painted = { bitmap, view, key };
      if (!isSharp)
        setTimeout(() => {
          this.#isOld = true;
          this.#view.requestDraw();
        }, AGAIN_MS);
    } catch {
      // The painter is begun anew: it is asked again for the next frame.
    } finally {
      this.#isPainting = false;
    }
    this.#view.requestDraw();
  }

  close(): void {
    this.#painted?.bitmap.close();
    this.#painted = undefined;
  }
}
