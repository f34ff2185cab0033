import type { Point } from '@miradero/core/geometry';
import { piecesLeft, type Rubber } from '@miradero/core/items';
import type { Desk, Seat, Tool } from '../desk/index.ts';
import type { Drag, Press, StageView } from '../stage/index.ts';
import { RubbingCard } from './rubbing-card.tsx';
import { drawingSettings } from './settings.ts';
import { type AnyMark, marksUnder } from './under.ts';

/** Dark and light side by side: seen on any ground. */
const RINGS = [
  [3, 'rgba(20, 20, 20, 0.6)'],
  [1, '#fafaf9'],
] as const;

interface Way {
  readonly view: StageView;
  /** CSS pixels of the view. */
  points: readonly Point[];
}

/** Rubs out parts of marks, or whole ones; one drag is one change. */
class Rubbing implements Tool {
  readonly id = 'rub-out';
  readonly hidesValues = true;
  Surface: NonNullable<Tool['Surface']> = RubbingCard;
  #way: Way | undefined;
  #hovered: Way | undefined;

  offer = () => ({
    title: 'Rub out',
    ids: ['draw-marks', 'choose-marks', 'escape'],
    hint: 'Drag over marks; pictures and notes stay as they are.',
  });

  hover({ view }: Seat, point: Point): string {
    this.#hovered = { view, points: [point] };
    view.requestDraw();
    return 'none';
  }

  out({ view }: Seat): void {
    this.#hovered = undefined;
    view.requestDraw();
  }

  press({ desk, view }: Seat, { point }: Press): Drag {
    const way: Way = { view, points: [point] };
    this.#way = way;
    view.requestDraw();
    const forget = () => {
      this.#way = undefined;
      view.requestDraw();
    };
    return {
      isFine: true,
      move: (to, { way: passed }) => {
        way.points = [...way.points, ...(passed ?? [to])];
        view.requestDraw();
      },
      end: () => {
        forget();
        rubOut(desk, view, {
          path: way.points.map((at) => view.toBoard(at)),
          radius: drawingSettings.now.rubberPx / 2 / view.camera.scale,
        });
      },
      cancel: forget,
    };
  }

  overlay({ view }: Seat, context: CanvasRenderingContext2D): void {
    const way = this.#way ?? this.#hovered;
    if (way?.view !== view) return;
    const { rubberPx } = drawingSettings.now;
    context.save();
    context.lineCap = 'round';
    context.lineJoin = 'round';
    if (this.#way) {
      context.beginPath();
      for (const [index, { x, y }] of way.points.entries())
        index === 0 ? context.moveTo(x, y) : context.lineTo(x, y);
      context.lineWidth = rubberPx;
      context.strokeStyle = 'rgba(121, 121, 121, 0.75)';
      context.stroke();
    }
    const { x, y } = way.points.at(-1)!;
    context.beginPath();
    context.arc(x, y, rubberPx / 2, 0, 2 * Math.PI);
    for (const [width, colour] of RINGS) {
      context.lineWidth = width;
      context.strokeStyle = colour;
      context.stroke();
    }
    context.restore();
  }
}

/** What is left of a mark where something of it is rubbed. */
function leftOf(mark: AnyMark, rubber: Rubber): AnyMark[] {
  if (drawingSettings.now.isWholeRubbed) return [];
  return piecesLeft(mark, rubber, () => crypto.randomUUID()) ?? [mark];
}

/** Rubs out what lies under a way over the board, on it and on its pictures. */
function rubOut(desk: Desk, view: StageView, way: Rubber): void {
  const operations = marksUnder(desk, view, way)
    .filter(({ mark }) => !mark.isFixed)
    .flatMap(({ mark, rubber }) => [
      { item: mark.id, set: { removed: true } },
      ...leftOf(mark, rubber).map((create) => ({ create })),
    ]);
  if (operations.length > 0) desk.session.commit(operations);
}

export const rubMarks = (desk: Desk): void => desk.take(new Rubbing(), []);
