import {
  addPoints,
  applyAffine,
  containsPoint,
  invertAffine,
  type Point,
  subtractPoints,
} from '@miradero/core/geometry';
import type { Operation } from '@miradero/core/schema';
import type { Desk, Seat, Tool } from '../desk/index.ts';
import type { Drag, Press, StageView } from '../stage/index.ts';
import { ChoosingCard } from './choosing-card.tsx';
import { chosenMarks, chosenStore, commitAny, removeChosen } from './chosen.ts';
import { type AnyMark, isAnyMark, marksUnder, planeOf, wayOnBoard } from './under.ts';

/** Half of the least that can be met with a pointer, CSS pixels. */
const REACH_PX = 6;
/** Dark and light side by side: seen on any ground. */
const LINES = [
  [3.5, '#1d1d1b'],
  [1.5, '#fafaf9'],
] as const;

/** Marks are chosen one by one, those that belong to pictures, too: to be moved, recoloured, removed. */
export class Choosing implements Tool {
  readonly id = 'choose-marks';
  readonly hidesValues = true;
  Surface: NonNullable<Tool['Surface']> = ChoosingCard;
  /** Under the hand: by so much what is chosen is moved, board units. */
  #moved: { readonly view: StageView; readonly by: Point } | undefined;

  offer = () => ({
    title: 'Marks, one by one',
    ids: ['remove', 'draw-marks', 'rub-out', 'escape'],
    hint: 'Press marks, or drag around them; drag them to move them. Those on pictures, too.',
  });

  hover({ desk, view }: Seat, point: Point): string {
    return this.#at(desk, view, point) ? 'move' : 'default';
  }

  remove = removeChosen;

  press(seat: Seat, { point, isAdding }: Press): Drag {
    const { desk, view } = seat;
    const { ids } = chosenStore(desk).getState();
    const hit = this.#at(desk, view, point);
    if (hit && isAdding && ids.has(hit))
      choose(
        desk,
        view,
        [...ids].filter((id) => id !== hit),
      );
    else if (hit && !ids.has(hit)) choose(desk, view, isAdding ? [...ids, hit] : [hit]);
    return hit ? this.#moving(desk, view, point) : this.#around(seat, point, isAdding);
  }

  #moving(desk: Desk, view: StageView, from: Point): Drag {
    const end = () => {
      this.#moved = undefined;
      view.requestDraw();
    };
    return {
      move: (to) => {
        this.#moved = { view, by: subtractPoints(view.toBoard(to), view.toBoard(from)) };
        view.requestDraw();
      },
      end: () => {
        if (this.#moved) commitAny(desk, movedBy(view, chosenMarks(desk), this.#moved.by));
        end();
      },
      cancel: end,
    };
  }

  #around(seat: Seat, from: Point, isAdding: boolean): Drag {
    const { desk, view } = seat;
    let band = { ...from, width: 0, height: 0 };
    return {
      move: (to) => {
        band = {
          ...{ x: Math.min(from.x, to.x), y: Math.min(from.y, to.y) },
          ...{ width: Math.abs(to.x - from.x), height: Math.abs(to.y - from.y) },
        };
        seat.mark({ band });
      },
      end: () => {
        seat.mark({ band: undefined });
        const corner = view.toBoard(band);
        const region = {
          ...corner,
          width: band.width / view.camera.scale,
          height: band.height / view.camera.scale,
        };
        const within = [...desk.session.items.values()].filter(
          (item): item is AnyMark =>
            isAnyMark(item) &&
            !item.removed &&
            wayOnBoard(view, item).some((at) => containsPoint(region, at)),
        );
        const before = isAdding ? chosenStore(desk).getState().ids : [];
        choose(desk, view, [...before, ...within.map(({ id }) => id)]);
      },
      cancel: () => seat.mark({ band: undefined }),
    };
  }

  /** The topmost mark at a point of the view. */
  #at(desk: Desk, view: StageView, point: Point): string | undefined {
    const rubber = { path: [view.toBoard(point)], radius: REACH_PX / view.camera.scale };
    return marksUnder(desk, view, rubber).at(-1)?.mark.id;
  }

  overlay({ desk, view }: Seat, context: CanvasRenderingContext2D): void {
    context.save();
    context.lineJoin = 'round';
    context.lineCap = 'round';
    const by = this.#moved?.view === view ? this.#moved.by : { x: 0, y: 0 };
    const { scale } = view.camera;
    const origin = view.toBoard({ x: 0, y: 0 });
    for (const chosen of chosenMarks(desk)) {
      context.beginPath();
      for (const [index, at] of wayOnBoard(view, chosen).entries()) {
        const { x, y } = subtractPoints(addPoints(at, by), origin);
        if (index === 0) context.moveTo(x * scale, y * scale);
        // A dot is a line to itself.
        context.lineTo(x * scale, y * scale);
      }
      for (const [width, colour] of LINES) {
        context.lineWidth = width;
        context.strokeStyle = colour;
        context.stroke();
      }
    }
    context.restore();
  }
}

function choose(desk: Desk, view: StageView, ids: Iterable<string>): void {
  chosenStore(desk).setState({ ids: new Set(ids) });
  view.requestDraw();
}

/** Marks as they lie after a way over the board, each on its own plane. */
const movedBy = (view: StageView, marks: readonly AnyMark[], by: Point): Operation[] =>
  marks.flatMap((mark) => {
    const plane = planeOf(view, mark);
    if (!plane || mark.isFixed) return [];
    const fromBoard = invertAffine(plane);
    const centre = applyAffine(fromBoard, addPoints(applyAffine(plane, mark.centre), by));
    return [{ item: mark.id, set: { centre } }];
  });

/** Takes marks up one by one; those that are selected already are chosen. */
export const chooseMarks = (desk: Desk): void => {
  const ids = desk.selected.filter(isAnyMark).map(({ id }) => id);
  chosenStore(desk).setState({ ids: new Set(ids) });
  desk.take(new Choosing(), []);
};
