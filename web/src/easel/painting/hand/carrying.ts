import {
  type Affine,
  applyAffine,
  compose,
  containsPoint,
  IDENTITY,
  invertAffine,
  type Point,
  type Rectangle,
  rotation,
  scaling,
  translation,
} from '@miradero/core/geometry';
import { drawOutline } from './drawn-over.ts';

/** A press so near to a handle takes it, CSS pixels. */
const REACH_PX = { mouse: 9, pen: 12, touch: 22 } as const;
/** The handle that turns stands so far beyond the upper edge, CSS pixels. */
const KNOB_PX = 26;
const LEAST_SCALE = 0.02;

const DEGREES = 180 / Math.PI;

/** What one takes hold of. */
export type Hold = 'inside' | 'corner' | 'knob';

/** A part of a layer that was taken: where it is now, and what a hand does with it. Pixels of the sheet. */
export class Carrying {
  readonly #bounds: Rectangle;
  #to: Affine = IDENTITY;

  constructor(bounds: Rectangle) {
    this.#bounds = bounds;
  }

  /** Where it was → where it is. */
  get to(): Affine {
    return this.#to;
  }

  /** Where its corners are, from the upper left one with the hands of a clock. */
  get corners(): readonly Point[] {
    const { x, y, width, height } = this.#bounds;
    return [
      { x, y },
      { x: x + width, y },
      { x: x + width, y: y + height },
      { x, y: y + height },
    ].map((corner) => applyAffine(this.#to, corner));
  }

  get middle(): Point {
    const { x, y, width, height } = this.#bounds;
    return applyAffine(this.#to, { x: x + width / 2, y: y + height / 2 });
  }

  /** Where the handle that turns it is. @param onView - pixels of the sheet → CSS pixels of the view */
  knob(onView: (point: Point) => Point): Point {
    const [left, right] = this.corners.map(onView);
    const middle = onView(this.middle);
    const edge = { x: (left!.x + right!.x) / 2, y: (left!.y + right!.y) / 2 };
    const length = Math.hypot(edge.x - middle.x, edge.y - middle.y) || 1;
    const share = KNOB_PX / length;
    return { x: edge.x + (edge.x - middle.x) * share, y: edge.y + (edge.y - middle.y) * share };
  }

  /** What a press takes hold of. @param point - CSS pixels of the view */
  holdAt(
    point: Point,
    pointerType: string,
    onView: (point: Point) => Point,
    onSheet: (point: Point) => Point,
  ): Hold | undefined {
    const reach = REACH_PX[pointerType as keyof typeof REACH_PX] ?? REACH_PX.mouse;
    const isNear = (one: Point) => Math.hypot(one.x - point.x, one.y - point.y) <= reach;
    if (isNear(this.knob(onView))) return 'knob';
    if (this.corners.map(onView).some(isNear)) return 'corner';
    const before = applyAffine(invertAffine(this.#to), onSheet(point));
    return containsPoint(this.#bounds, before) ? 'inside' : undefined;
  }

  /** From one point to another, both pixels of the sheet. @param from - as it was when the hand took hold of it */
  drag(hold: Hold, start: Affine, from: Point, to: Point): void {
    if (hold === 'inside') {
      this.#to = compose(translation(to.x - from.x, to.y - from.y), start);
      return;
    }
    const { x, y, width, height } = this.#bounds;
    const about = applyAffine(start, { x: x + width / 2, y: y + height / 2 });
    const [before, now] = [from, to].map((one) => ({ x: one.x - about.x, y: one.y - about.y })) as [
      Point,
      Point,
    ];
    const change =
      hold === 'corner'
        ? ((scale) => scaling(scale, scale))(
            Math.max(LEAST_SCALE, Math.hypot(now.x, now.y) / (Math.hypot(before.x, before.y) || 1)),
          )
        : rotation((Math.atan2(now.y, now.x) - Math.atan2(before.y, before.x)) * DEGREES);
    this.#to = compose(translation(about.x, about.y), change, translation(-about.x, -about.y), start);
  }
}

/** Draws what is carried: its outline, its corners, and what turns it. */
export function drawCarried(
  context: CanvasRenderingContext2D,
  carrying: Carrying,
  onView: (point: Point) => Point,
): void {
  const corners = carrying.corners.map(onView);
  // Its last line is that of the handles, too.
  drawOutline(context, corners);
  context.fillStyle = '#ffffff';
  for (const { x, y } of [...corners, carrying.knob(onView)]) {
    context.beginPath();
    context.arc(x, y, 4.5, 0, 2 * Math.PI);
    context.fill();
    context.stroke();
  }
}
