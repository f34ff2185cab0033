import { MEANT, type Meant, meantAs, penOf, type StrokePoint, shapeOfStroke } from '@miradero/core/freehand';
import {
  type Mark,
  type PictureMark,
  partOf,
  SEEDS,
  type StrokeStart,
  strokeFrom,
  wayOfMark,
} from '@miradero/core/items';
import type { Desk, Seat, Tool } from '../desk/index.ts';
import type { Drag, Press, StageView } from '../stage/index.ts';
import { DrawingCard } from './drawing-card.tsx';
import { markFrom } from './mark-from.ts';
import { type DrawingSettings, drawingSettings, widthOf } from './settings.ts';
import { Unfinished } from './unfinished.ts';

/** What a hand draws, or has drawn and the stage does not show yet; CSS pixels of its view. */
interface Stroke {
  readonly id: string;
  readonly view: StageView;
  readonly settings: DrawingSettings;
  readonly seed: number;
  points: readonly StrokePoint[];
  isDone: boolean;
}

/** The end of a line along the axis that is nearer. */
const onAxis = (from: StrokePoint, to: StrokePoint): StrokePoint =>
  Math.abs(to.x - from.x) >= Math.abs(to.y - from.y) ? { ...to, y: from.y } : { ...to, x: from.x };

function drawStroke(context: CanvasRenderingContext2D, { points, settings, seed }: Stroke): void {
  const { ink, smoothing } = settings;
  const pen = penOf(settings.pen);
  const { d, edge } = shapeOfStroke(points, { pen, ink, smoothing, seed, nib: widthOf(settings) }, 1, 2);
  const path = new Path2D(d);
  context.save();
  context.globalAlpha = pen.opacity;
  if (edge) {
    context.lineWidth = edge.width;
    context.strokeStyle = edge.colour;
    context.stroke(path);
  }
  context.fillStyle = ink;
  context.fill(path);
  context.restore();
}

/** A stroke as it lies on the board. */
const drawnSo = ({ view, points, settings, seed }: Stroke): StrokeStart => ({
  ...{ pen: settings.pen, ink: settings.ink, smoothing: settings.smoothing, seed },
  nib: widthOf(settings) / view.camera.scale,
  points: points.map((point) => ({ ...point, ...view.toBoard(point) })),
});

/** Draws freehand on the board: one stroke, one mark. */
class Drawing implements Tool {
  readonly id = 'draw-marks';
  readonly hidesValues = true;
  Surface: NonNullable<Tool['Surface']> = DrawingCard;
  #strokes: Stroke[] = [];
  /** What was drawn last, as long as it stands: it may be meant as something. */
  #last: Mark | PictureMark | undefined;

  offer = (desk: Desk) => ({
    title: 'Marks',
    ids: this.#stands(desk)
      ? [...MEANT.map((as) => `mark-${as}`), 'rub-out', 'choose-marks', 'escape']
      : ['rub-out', 'choose-marks', 'escape'],
    hint: 'Draw on the board, or on a picture: then it belongs to it. Shift keeps to the axes; two fingers move the board.',
  });

  #stands(desk: Desk): boolean {
    const item = this.#last && desk.session.items.get(this.#last.id);
    return item !== undefined && !item.removed;
  }

  /** The last stroke becomes what it is meant as; taken back it is as it was drawn. */
  mean(desk: Desk, as: Meant): void {
    const last = this.#last;
    if (!last || !this.#stands(desk)) {
      desk.say('There is no stroke to be meant as something.', ['Draw one first.']);
      return;
    }
    const nib = last.nib * partOf(last);
    const points = meantAs(wayOfMark(last), as, nib);
    const { pen, ink, seed } = last;
    const shape = strokeFrom({ pen, ink, seed, smoothing: 0, nib, points });
    const { centre, width, proportion, smoothing } = shape;
    const set = { centre, width, proportion, smoothing, nib: shape.nib, points: shape.points };
    desk.session.commit([{ item: last.id, set }]);
  }

  hover = (): string => 'crosshair';

  press({ desk, view }: Seat, { point, pressure, tilt }: Press): Drag {
    const first = { ...point, pressure, tilt };
    const stroke: Stroke = {
      ...{ id: crypto.randomUUID(), view, settings: drawingSettings.now },
      ...{ seed: Math.floor(Math.random() * SEEDS), points: [first], isDone: false },
    };
    const unfinished = new Unfinished(desk, stroke.id, stroke.settings.isOnPictures, () => drawnSo(stroke));
    const free: StrokePoint[] = [first];
    this.#strokes.push(stroke);
    view.requestDraw();
    const forget = () => {
      this.#strokes = this.#strokes.filter((one) => one !== stroke);
      view.requestDraw();
    };
    return {
      isFine: true,
      move: (to, { isShift, way }) => {
        const last = free.at(-1)!;
        free.push(...(way ?? [{ ...last, ...to }]));
        stroke.points = isShift ? [first, onAxis(first, free.at(-1)!)] : free;
        view.requestDraw();
      },
      end: () => {
        stroke.isDone = true;
        this.#keep(desk, stroke);
        unfinished.end();
        view.requestDraw();
      },
      cancel: () => {
        unfinished.end();
        forget();
      },
    };
  }

  /** One stroke is one change. */
  #keep(desk: Desk, stroke: Stroke): void {
    const create = markFrom(desk, stroke.id, drawnSo(stroke), stroke.settings.isOnPictures);
    desk.session.commit([{ create }]);
    this.#last = create;
    desk.retell();
  }

  overlay({ view }: Seat, context: CanvasRenderingContext2D): void {
    // What the stage itself shows by now is drawn no more.
    if (view.status.isCurrent)
      this.#strokes = this.#strokes.filter((stroke) => stroke.view !== view || !stroke.isDone);
    for (const stroke of this.#strokes) if (stroke.view === view) drawStroke(context, stroke);
  }
}

export const drawMarks = (desk: Desk): void => {
  // What is drawn is seen.
  desk.feed.areMarksHidden = false;
  desk.take(new Drawing(), []);
};

/** What was drawn last becomes a line, an arrow, an ellipse, a rectangle. */
export function meanLast(desk: Desk, as: Meant): void {
  if (desk.tool?.mean) desk.tool.mean(desk, as);
  else desk.say('There is no stroke to be meant as something.', ['Take up the pen by G, and draw one.']);
}
