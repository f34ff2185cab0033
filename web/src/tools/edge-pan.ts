import type { Point } from '@miradero/core/geometry';
import type { StageView } from '../stage/index.ts';

/** Nearer to the edge than this a drag moves the view on, CSS pixels. */
const NEAR_PX = 20;
/** Pixels a frame at the very edge. */
const SPEED_PX = 14;

const speedAt = (at: number, size: number): number => {
  if (at < NEAR_PX) return Math.min(1, (NEAR_PX - at) / NEAR_PX) * SPEED_PX;
  if (at > size - NEAR_PX) return -Math.min(1, (at - size + NEAR_PX) / NEAR_PX) * SPEED_PX;
  return 0;
};

/** Moves the view on while something is dragged at its edge. */
export class EdgePan {
  readonly #view: StageView;
  #frame = 0;
  #point: Point = { x: 0, y: 0 };
  #onMoved = () => {};

  constructor(view: StageView) {
    this.#view = view;
  }

  /** @param onMoved - called after each step: the same point of the view is another of the board */
  follow(point: Point, onMoved: () => void): void {
    this.#point = point;
    this.#onMoved = onMoved;
    if (this.#frame === 0 && this.#isNear()) this.#next();
  }

  stop(): void {
    this.#window().cancelAnimationFrame(this.#frame);
    this.#frame = 0;
  }

  #window(): Window {
    return this.#view.canvas.ownerDocument.defaultView ?? window;
  }

  #speed(): Point {
    const { width, height } = this.#view.holderSize;
    const { x, y } = this.#view.inHolder(this.#point);
    return this.#view.along({ x: speedAt(x, width), y: speedAt(y, height) });
  }

  #isNear(): boolean {
    const { x, y } = this.#speed();
    return x !== 0 || y !== 0;
  }

  #next(): void {
    this.#frame = this.#window().requestAnimationFrame(() => {
      this.#frame = 0;
      if (!this.#isNear()) return;
      this.#view.pan(this.#speed());
      this.#onMoved();
      this.#next();
    });
  }
}
