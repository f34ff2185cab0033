import type { Point } from '@miradero/core/geometry';
import type { Placement } from '@miradero/core/items';
import type { Seat, Tool } from '../desk/index.ts';
import type { Press } from '../stage/index.ts';
import { LOOK } from '../tools/index.ts';
import { Lasso } from './lasso.ts';
import { onPicture, pictureAt } from './readings.ts';

const clamped = ({ x, y }: Point): Point => ({
  x: Math.min(1, Math.max(0, x)),
  y: Math.min(1, Math.max(0, y)),
});

/** A hand that draws around something on a picture, and looks around beside it. */
export class DrawingAround {
  readonly #lasso = new Lasso();
  readonly #onDrawn: (placement: Placement, outline: readonly Point[] | undefined, at: Point) => void;
  readonly #isMeant: (placement: Placement) => boolean;

  /** @param onDrawn - with corners in fractions of the picture, undefined for a press; and where it was begun */
  constructor(
    onDrawn: (placement: Placement, outline: readonly Point[] | undefined, at: Point) => void,
    isMeant: (placement: Placement) => boolean = () => true,
  ) {
    this.#onDrawn = onDrawn;
    this.#isMeant = isMeant;
  }

  press(tool: Tool, seat: Seat, press: Press): ReturnType<Tool['press']> {
    const { view } = seat;
    const { point } = press;
    const at = pictureAt(view, point);
    if (!at || !this.#isMeant(at.placement)) return LOOK.press.call(tool, seat, press);
    this.#lasso.begin(point);
    const forget = () => {
      this.#lasso.forget();
      view.requestDraw();
    };
    return {
      move: (to) => {
        this.#lasso.add(to);
        view.requestDraw();
      },
      end: (isClick) => {
        const drawn = this.#lasso.points.map((one) => clamped(onPicture(at.placement, view.toBoard(one))));
        forget();
        this.#onDrawn(at.placement, isClick || drawn.length < 3 ? undefined : drawn, at.at);
      },
      cancel: forget,
    };
  }

  draw(context: CanvasRenderingContext2D): void {
    this.#lasso.draw(context);
  }
}
