import { type Affine, applyAffine, compose, type Point, type Rectangle } from '@miradero/core/geometry';
import type { Placement } from '@miradero/core/items';
import type { Desk } from '../../../desk/index.ts';
import type { Drag, Press, StageView } from '../../../stage/index.ts';
import type { Painting } from '../sheet/painting.ts';
import { Carrying, drawCarried } from './carrying.ts';

const NOTHING_TAKEN = [
  'Nothing of the drawing is taken up.',
  ['“Move a part”, and draw around it; Ctrl A takes the whole layer.'],
] as const;

/** From pixels of the sheet to CSS pixels of a view. */
function onView({ camera, view }: StageView, toBoard: Affine): (point: Point) => Point {
  const { scale } = camera;
  const all = compose([scale, 0, 0, scale, -view.x * scale, -view.y * scale], toBoard);
  return (point) => applyAffine(all, point);
}

/** What was taken up of a sheet: carried by a drag or by keys, left where it is, put back, or taken away. */
export class TakenPart {
  readonly #desk: Desk;
  readonly #painting: Painting;
  #carrying: Carrying | undefined;
  /** Keys carry it so far before it is known what was taken, pixels of the sheet. */
  #early: Point = { x: 0, y: 0 };

  constructor(desk: Desk, painting: Painting) {
    this.#desk = desk;
    this.#painting = painting;
  }

  get isThere(): boolean {
    return this.#carrying !== undefined;
  }

  /** @param bounds - where something was taken, pixels of the sheet; null: nothing */
  follow(bounds: Rectangle | null): void {
    if (bounds && this.#carrying) return;
    this.#carrying = bounds ? new Carrying(bounds) : undefined;
    const { x, y } = this.#early;
    if (bounds || !this.#painting.isTaking) this.#early = { x: 0, y: 0 };
    if (bounds && (x !== 0 || y !== 0)) this.nudge(x, y);
  }

  /** Takes hold of it; undefined beside it. */
  press(view: StageView, { point, pointerType }: Press, item: Placement): Drag | undefined {
    const carrying = this.#carrying;
    if (!carrying) return undefined;
    const painting = this.#painting;
    const onSheet = (one: Point) => painting.onSheet(item, view.toBoard(one));
    const hold = carrying.holdAt(point, pointerType, onView(view, painting.toBoard(item)), onSheet);
    if (!hold) return undefined;
    const start = carrying.to;
    const from = onSheet(point);
    const carry = () => {
      painting.carry(carrying.to);
      view.requestDraw();
    };
    return {
      isFine: true,
      move: (to) => {
        carrying.drag(hold, start, from, onSheet(to));
        carry();
      },
      end: () => {},
      cancel: () => {
        carrying.drag('inside', start, from, from);
        carry();
      },
    };
  }

  /** By pixels of the sheet. */
  nudge(x: number, y: number): void {
    const carrying = this.#carrying;
    if (carrying) {
      carrying.drag('inside', carrying.to, { x: 0, y: 0 }, { x, y });
      this.#painting.carry(carrying.to);
      this.#desk.view?.requestDraw();
    } else if (this.#painting.isTaking) this.#early = { x: this.#early.x + x, y: this.#early.y + y };
    else this.#desk.say(...NOTHING_TAKEN);
  }

  /** It is where it was. @returns whether there is any */
  putBack(): boolean {
    const isAny = this.isThere || this.#painting.isTaking;
    if (isAny) this.#painting.cancel();
    return isAny;
  }

  remove(): void {
    if (this.isThere || this.#painting.isTaking) this.#painting.discard();
    else this.#desk.say(...NOTHING_TAKEN);
  }

  overlay(view: StageView, context: CanvasRenderingContext2D): void {
    const item = this.#painting.placement;
    if (this.#carrying && item)
      drawCarried(context, this.#carrying, onView(view, this.#painting.toBoard(item)));
  }
}
