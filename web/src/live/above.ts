import { boundsOf, compareStacking } from '@miradero/core/board';
import { inflate, overlaps, type Rectangle } from '@miradero/core/geometry';
import type { Placement } from '@miradero/core/items';
import type { ViewOfMoving } from '../stage/index.ts';

/** What lies over what moves, painted on nothing. */
interface Painted {
  readonly bitmap: ImageBitmap;
  readonly view: Rectangle;
  /** What it was painted for: where this is another, it is painted anew. */
  readonly key: string;
}

/** What lacked pixels when it was painted is painted again after so long. */
const AGAIN_MS = 400;

/** What lies over what moves on one view: notes, marks, other pictures. It is painted once, and laid over every frame. */
export class Above {
  readonly #view: ViewOfMoving;
  #painted: Painted | undefined;
  #isPainting = false;
  #isOld = false;

  constructor(view: ViewOfMoving) {
    this.#view = view;
  }

  /** Lays it over what was drawn. @param moving - placements, as they are drawn */
  draw(context: CanvasRenderingContext2D, moving: readonly Placement[]): void {
    const { feed, view, camera } = this.#view;
    const own = new Set(moving.map(({ id }) => id));
    const above = feed
      .itemsWithin(view)
      .filter(
        (item) =>
          !own.has(item.id) &&
          moving.some((one) => compareStacking(one, item) < 0 && overlaps(boundsOf(one), boundsOf(item))),
      )
      .map(({ id }) => id);
    // Held by a hand they are elsewhere than they were painted.
    const isHeld = feed.board.previewed.some((id) => own.has(id));
    const drawnOn = moving.filter(({ id }) => !isHeld && feed.hasMarksOn(id)).map(({ id }) => id);
    if (above.length + drawnOn.length === 0) return;
    const { x, y, width, height } = view;
    const key = [feed.version, x, y, width, height, ...above, '', ...drawnOn].join(' ');
    if (key !== this.#painted?.key || this.#isOld) void this.#paint(key, above, drawnOn);
    const painted = this.#painted;
    if (!painted) return;
    const { scale } = camera;
    context.drawImage(
      painted.bitmap,
      ...([(painted.view.x - x) * scale, (painted.view.y - y) * scale] as const),
      ...([painted.view.width * scale, painted.view.height * scale] as const),
    );
  }

  async #paint(key: string, only: readonly string[], marksOf: readonly string[]): Promise<void> {
    if (this.#isPainting) return;
    this.#isPainting = true;
    this.#isOld = false;
    const { feed, view, camera } = this.#view;
    const scale = camera.scale * window.devicePixelRatio;
    try {
      const task = { view: inflate(view, 1 / scale), scale, ground: null, only, marksOf, isLoading: true };
      const { bitmap, isSharp } = await feed.paint(task);
      this.#painted?.bitmap.close();
      this.#painted = { bitmap, view: task.view, key };
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
