import { applyOperation, boundsOf } from '@miradero/core/board';
import { type Affine, compose, intersectionOf, type Rectangle } from '@miradero/core/geometry';
import { uncover } from '@miradero/core/items';
import type { Placement } from '@miradero/core/schema';
import { type StageView, sceneItemOf } from '../stage/index.ts';

const REST_MS = 60;

/** The whole of a picture while it is being trimmed, so that what was cut away can be seen and brought back. */
export class TrimGhost {
  readonly #view: StageView;
  #bitmap: ImageBitmap | undefined;
  #part: Rectangle | undefined;
  #scale = 1;
  #key = '';
  #timer: ReturnType<typeof setTimeout> | undefined;
  #isPainting = false;

  constructor(view: StageView) {
    this.#view = view;
  }

  close(): void {
    clearTimeout(this.#timer);
    this.#bitmap?.close();
    this.#bitmap = undefined;
    this.#key = '';
  }

  /** Draws the whole picture in view coordinates; asks for a sharper one when the camera rests. */
  draw(context: CanvasRenderingContext2D, placement: Placement, boardToView: Affine): void {
    const whole = applyOperation(placement, uncover(placement)) as Placement;
    const { camera } = this.#view;
    const key = JSON.stringify([whole, camera]);
    if (key !== this.#key) {
      this.#key = key;
      clearTimeout(this.#timer);
      this.#timer = setTimeout(() => void this.#paint(whole), this.#bitmap ? REST_MS : 0);
    }
    if (!this.#bitmap || !this.#part) return;
    context.save();
    context.transform(
      ...compose(boardToView, [1 / this.#scale, 0, 0, 1 / this.#scale, this.#part.x, this.#part.y]),
    );
    context.drawImage(this.#bitmap, 0, 0);
    context.restore();
  }

  async #paint(whole: Placement): Promise<void> {
    if (this.#isPainting) return;
    this.#isPainting = true;
    const key = this.#key;
    const part = intersectionOf(boundsOf(whole), this.#view.view);
    const scale = this.#view.camera.scale * (this.#view.canvas.width / this.#view.viewport.width);
    try {
      if (part.width > 0 && part.height > 0) {
        const frame = await this.#view.feed.paint({
          view: part,
          scale,
          ground: null,
          instead: [sceneItemOf(whole)],
          isLoading: false,
        });
        this.#bitmap?.close();
        this.#bitmap = frame.bitmap;
        this.#part = part;
        this.#scale = scale;
      }
      if (this.#key !== key) this.#key = '';
    } catch {
      // The painter is started anew: asked again with the next drawing.
      this.#key = '';
    } finally {
      this.#isPainting = false;
      this.#view.requestDraw();
    }
  }
}
