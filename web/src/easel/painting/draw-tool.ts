import { type Meant, meantAs, type StrokePoint } from '@miradero/core/freehand';
import {
  applyAffine,
  boundsOfPoints,
  compose,
  inflate,
  type Point,
  type Rectangle,
  unionOf,
} from '@miradero/core/geometry';
import type { Placement } from '@miradero/core/items';
import type { Brush, PenPoint } from '@miradero/core/paint';
import { recentColours } from '../../colour/index.ts';
import type { Desk, Seat, Tool } from '../../desk/index.ts';
import type { Drag, Press, Sample, StageView } from '../../stage/index.ts';
import { Carrying, drawCarried } from './carrying.ts';
import type { AreaWish, StrokeWish } from './messages.ts';
import type { Opened } from './open-painting.ts';
import type { Painting } from './painting.ts';
import { PaintingCard } from './painting-card.tsx';
import { type BrushImplement, brushOf, isBrush, paintSettings, rgbOf } from './settings.ts';

/** What of a stroke the worker has not shown yet: it is seen as the hand made it, CSS pixels of the view. */
interface Tail {
  readonly view: StageView;
  readonly brush: Brush;
  readonly colour: string | undefined;
  /** CSS pixels of the view for one of the sheet. */
  readonly scale: number;
  points: readonly (Sample & { readonly number: number })[];
  /** Where the pen will most likely be next. */
  ahead: readonly Sample[];
}

/** What brushes do that do not paint. */
const DOES: Readonly<Partial<Record<BrushImplement, StrokeWish['does']>>> = {
  ...{ smudge: 'smudge', push: 'push', 'hard eraser': 'erase', 'soft eraser': 'erase' },
};

/** A ring is no smaller than this, and its line lies around it, CSS pixels. */
const RING_PX = 4;

const STROKES = { line: 'line', ellipse: 'ellipse', rectangle: 'rectangle' } as const;
const OFFERED = Object.keys(STROKES) as (keyof typeof STROKES)[];

/** Draws and paints on a sheet. */
class DrawOnSheet implements Tool {
  readonly id = 'draw-here';
  readonly hidesValues = true;
  readonly Surface = PaintingCard;
  readonly #opened: Opened;
  #tail: Tail | undefined;
  /** Corners of a lasso that is drawn, CSS pixels of its view. */
  #lasso: { readonly view: StageView; points: Point[] } | undefined;
  /** The stroke that was made last, pixels of the sheet: it may be meant as something. */
  #last: { readonly wish: StrokeWish; readonly points: StrokePoint[]; readonly change: number } | undefined;
  /** Where the pointer is, CSS pixels of its view. */
  #at: { readonly view: StageView; readonly point: Point } | undefined;
  #carrying: Carrying | undefined;
  readonly #ends: (() => void)[];

  constructor(desk: Desk, opened: Opened) {
    this.#opened = opened;
    this.#ends = [
      opened.painting.store.subscribe(({ facts }) => {
        const taken = facts?.taken;
        if (!taken) this.#carrying = undefined;
        else this.#carrying ??= new Carrying(taken);
        desk.view?.requestDraw();
        desk.retell();
      }),
      paintSettings.store.subscribe(() => desk.retell()),
      paintWithWhatIsPicked(),
    ];
  }

  get #painting(): Painting {
    return this.#opened.painting;
  }

  offer = () => ({
    title: 'Drawing',
    ids: [...(this.#isLastThere ? OFFERED.map((as) => `mark-${as}`) : []), ...MORE, 'escape'],
    hint: 'Draw on the sheet; K held picks a colour.',
  });

  get #isLastThere(): boolean {
    return this.#last !== undefined && this.#last.change === this.#painting.facts?.change;
  }

  hover({ view }: Seat, point: Point): string {
    this.#at = { view, point };
    this.#redraw(view);
    return isBrush(paintSettings.now.does) ? 'none' : 'crosshair';
  }

  out({ view }: Seat): void {
    if (this.#at?.view === view) this.#at = undefined;
    view.requestDraw();
  }

  /** What is done goes on with itself, not with the board's steps. */
  step(_desk: Desk, side: 'undo' | 'redo'): boolean {
    // What is not on the board any more may have been taken off by a step of the board.
    if (!this.#painting.placement) return false;
    this.#painting.turn(side);
    return true;
  }

  canStep(side: 'undo' | 'redo'): boolean | undefined {
    const { facts, placement } = this.#painting;
    if (!placement) return undefined;
    return side === 'undo' ? facts?.canUndo === true : facts?.canRedo === true;
  }

  press(seat: Seat, press: Press): Drag | undefined {
    const { desk, view } = seat;
    const item = this.#painting.placement;
    const { layer } = this.#painting;
    if (!item || !layer) {
      desk.say('The drawing is not on this board any more.', [
        'Escape leaves it; what was drawn is kept in its versions.',
      ]);
      return undefined;
    }
    if (layer.isLocked || layer.isHidden) {
      desk.say(
        layer.isLocked ? `The layer “${layer.name}” is locked.` : `The layer “${layer.name}” is hidden.`,
        ['Choose another, or unlock and show it.'],
      );
      return undefined;
    }
    const { does } = paintSettings.now;
    if (isBrush(does)) return this.#stroke(seat, press, item, layer.id, does);
    if (does === 'fill') {
      const at = this.#painting.onSheet(item, view.toBoard(press.point));
      this.#painting.fill(this.#area(layer.id), at, paintSettings.now.gapPx);
      return undefined;
    }
    if (does === 'move' && this.#carrying) {
      const drag = this.#carry(seat, press, item, this.#carrying);
      if (drag) return drag;
      this.#painting.settle();
    }
    return this.#around(seat, press, (corners) => {
      const points = corners.map((corner) => this.#painting.onSheet(item, view.toBoard(corner)));
      if (does === 'lasso') this.#painting.lasso(this.#area(layer.id), points);
      else this.#painting.take(layer.id, points);
    });
  }

  #area(layer: string): AreaWish {
    const { colour, areaOpacity, isLassoClear, does } = paintSettings.now;
    return {
      ...{ layer, opacity: areaOpacity },
      colour: does === 'lasso' && isLassoClear ? null : rgbOf(colour),
    };
  }

  #stroke(
    { desk, view }: Seat,
    { point, pressure, tilt }: Press,
    item: Placement,
    layer: string,
    does: BrushImplement,
  ): Drag {
    const painting = this.#painting;
    const { now } = paintSettings;
    const brush = brushOf(now, does);
    const wish: StrokeWish = {
      ...{ layer, brush, colour: rgbOf(now.colour), smoothing: now.smoothing },
      does: DOES[does] ?? 'paint',
    };
    const toBoard = painting.toBoard(item);
    const scale = Math.hypot(toBoard[0], toBoard[1]) * view.camera.scale;
    const tail: Tail = {
      ...{ view, brush, scale, points: [], ahead: [] },
      colour: wish.does === 'paint' ? now.colour : undefined,
    };
    this.#tail = tail;
    const made: StrokePoint[] = [];
    painting.begin(wish);
    const go = (way: readonly Sample[]) => {
      const points = way.map((one): PenPoint => {
        const at = painting.onSheet(item, view.toBoard(one));
        return { ...at, pressure: one.pressure, leanDeg: one.tilt };
      });
      for (const [index, one] of points.entries())
        made.push({ x: one.x, y: one.y, pressure: one.pressure, tilt: way[index]!.tilt });
      this.#at = { view, point: way.at(-1)! };
      const last = painting.goOn(points);
      const first = last - points.length + 1;
      tail.points = [
        ...tail.points.filter(({ number }) => number >= painting.seenNumber),
        ...way.map((one, index) => ({ ...one, number: first + index })),
      ];
      this.#redraw(view);
    };
    go([{ ...point, pressure, tilt }]);
    const over = () => {
      tail.ahead = [];
      this.#redraw(view);
    };
    const keep = () => {
      painting.end();
      over();
      const isLine = wish.does === 'paint' || wish.does === 'erase';
      this.#last = isLine ? { wish, points: made, change: (painting.facts?.change ?? 0) + 1 } : undefined;
      desk.retell();
    };
    return {
      isFine: true,
      move: (to, { way, ahead = [] }) => {
        const before = way?.at(-1);
        tail.ahead = ahead;
        if (way || !before) go(way ?? [{ ...to, pressure, tilt }]);
      },
      end: keep,
      // A pen that went away in the middle has drawn what it has drawn.
      lost: keep,
      cancel: () => {
        painting.cancel();
        tail.points = [];
        over();
      },
    };
  }

  /** Takes hold of what was taken; undefined beside it. */
  #carry(
    { view }: Seat,
    { point, pointerType }: Press,
    item: Placement,
    carrying: Carrying,
  ): Drag | undefined {
    const painting = this.#painting;
    const onSheet = (one: Point) => painting.onSheet(item, view.toBoard(one));
    const hold = carrying.holdAt(point, pointerType, this.#onView(view, item), onSheet);
    if (!hold) return undefined;
    const start = carrying.to;
    const from = onSheet(point);
    return {
      isFine: true,
      move: (to) => {
        carrying.drag(hold, start, from, onSheet(to));
        painting.carry(carrying.to);
        view.requestDraw();
      },
      end: () => {},
      cancel: () => {
        carrying.drag('inside', start, from, from);
        painting.carry(carrying.to);
        view.requestDraw();
      },
    };
  }

  /** From pixels of the sheet to CSS pixels of a view. */
  #onView({ camera, view }: StageView, item: Placement): (point: Point) => Point {
    const { scale } = camera;
    const toBoard = this.#painting.toBoard(item);
    const all = compose([scale, 0, 0, scale, -view.x * scale, -view.y * scale], toBoard);
    return (point) => applyAffine(all, point);
  }

  /** What was taken stays where it is. */
  confirm(): void {
    this.#painting.settle();
  }

  /** Draws around something; with Shift a rectangle. */
  #around({ view }: Seat, { point }: Press, done: (corners: readonly Point[]) => void): Drag {
    const lasso: { view: StageView; points: Point[] } = { view, points: [point] };
    this.#lasso = lasso;
    const over = () => {
      this.#lasso = undefined;
      view.requestDraw();
    };
    return {
      isFine: true,
      move: (to, { way, isShift }) => {
        if (isShift) lasso.points = [point, { x: to.x, y: point.y }, to, { x: point.x, y: to.y }];
        else lasso.points.push(...(way ?? [to]));
        view.requestDraw();
      },
      end: () => {
        over();
        if (lasso.points.length > 2) done(lasso.points);
      },
      cancel: over,
    };
  }

  /** The last stroke becomes what it is meant as. */
  mean(desk: Desk, as: Meant): void {
    const last = this.#last;
    if (!last || !this.#isLastThere) {
      desk.say('There is no stroke to be meant as something.', ['Draw one first.']);
      return;
    }
    const painting = this.#painting;
    painting.turn('undo');
    painting.begin({ ...last.wish, smoothing: 0 });
    const points = meantAs(last.points, as, last.wish.brush.sizePx);
    painting.goOn(points.map(({ tilt, ...point }) => ({ ...point, leanDeg: tilt ?? 0 })));
    painting.end();
    this.#last = { ...last, points, change: last.change + 2 };
  }

  leave(): void {
    for (const end of this.#ends) end();
    void this.#opened.versions.makeNow().catch(() => {});
  }

  overlay({ view }: Seat, context: CanvasRenderingContext2D): void {
    const tail = this.#tail;
    if (tail?.view === view) {
      tail.points = tail.points.filter(({ number }) => number >= this.#painting.seenNumber);
      drawTail(context, tail);
    }
    if (this.#lasso?.view === view) drawLasso(context, this.#lasso.points);
    const item = this.#painting.placement;
    if (this.#carrying && item) drawCarried(context, this.#carrying, this.#onView(view, item));
    this.#drawRing(view, context);
    if (tail?.view === view || this.#at?.view === view) this.#painting.drawnOver = this.#reach(view);
  }

  /** Draws anew what of a view this drew over it before, and draws now. */
  #redraw(view: StageView): void {
    const reach = this.#reach(view);
    const before = this.#painting.drawnOver;
    if (!reach || !before || this.#lasso || this.#carrying) view.requestDraw();
    else view.requestDraw(unionOf([reach, before]));
  }

  /** Where a view is drawn on by the ring and by what of the stroke is not seen yet, board units; undefined: nowhere. */
  #reach(view: StageView): Rectangle | undefined {
    const at = this.#at?.view === view ? [this.#at.point] : [];
    const tail = this.#tail?.view === view ? this.#tail : undefined;
    const points = [...at, ...(tail?.points ?? []), ...(tail?.ahead ?? [])];
    if (points.length === 0) return undefined;
    const radius = this.#radiusOn(view) + RING_PX;
    return inflate(boundsOfPoints(points.map((one) => view.toBoard(one))), radius / view.camera.scale);
  }

  /** Of the brush as it is on a view, CSS pixels. */
  #radiusOn(view: StageView): number {
    const { now } = paintSettings;
    const item = this.#painting.placement;
    if (!item || !isBrush(now.does)) return 0;
    const toBoard = this.#painting.toBoard(item);
    return (brushOf(now, now.does).sizePx / 2) * Math.hypot(toBoard[0], toBoard[1]) * view.camera.scale;
  }

  /** How large the brush is, where the pointer is. */
  #drawRing(view: StageView, context: CanvasRenderingContext2D): void {
    const at = this.#at?.view === view ? this.#at.point : undefined;
    if (!at || !this.#painting.placement || !isBrush(paintSettings.now.does)) return;
    const radius = this.#radiusOn(view);
    for (const [colour, width] of [
      ['#ffffff', 2.5],
      ['#000000', 1],
    ] as const) {
      context.beginPath();
      context.arc(at.x, at.y, Math.max(2, radius), 0, 2 * Math.PI);
      context.lineWidth = width;
      context.strokeStyle = colour;
      context.stroke();
    }
  }
}

/** What is picked from a picture is what one paints with. @returns what ends it */
function paintWithWhatIsPicked(): () => void {
  let [last] = recentColours.store.getState().all;
  return recentColours.store.subscribe(({ all: [first] }) => {
    if (first && first !== last) paintSettings.set({ colour: first });
    last = first;
  });
}

const MORE = ['lines-on-top', 'shrink-drawing'];

/** More of it is not drawn: a worker that is far behind is not to be held up. */
const MOST_OF_TAIL = 24;

/** Nearly as the worker paints it: for the one or two frames until it has. */
function drawTail(context: CanvasRenderingContext2D, { points, ahead, brush, colour, scale }: Tail): void {
  if (colour === undefined || points.length === 0) return;
  const way = [...points.slice(-MOST_OF_TAIL), ...ahead];
  context.save();
  context.lineCap = 'round';
  context.strokeStyle = colour;
  for (const [index, to] of way.entries()) {
    const from = way[Math.max(0, index - 1)]!;
    const pressed = brush.pressureTo.size ? to.pressure : 1;
    const strength = brush.pressureTo.opacity ? to.pressure : 1;
    context.globalAlpha =
      brush.opacity * strength * (0.4 + 0.6 * brush.hardness) * Math.min(1, brush.flow * 2);
    context.lineWidth = Math.max(1, brush.sizePx * scale * pressed * (0.6 + 0.4 * brush.hardness));
    context.beginPath();
    context.moveTo(from.x, from.y);
    context.lineTo(to.x, to.y);
    context.stroke();
  }
  context.restore();
}

function drawLasso(context: CanvasRenderingContext2D, points: readonly Point[]): void {
  context.beginPath();
  for (const { x, y } of points) context.lineTo(x, y);
  context.closePath();
  context.lineWidth = 2.5;
  context.strokeStyle = '#ffffff';
  context.stroke();
  context.lineWidth = 1;
  context.strokeStyle = '#2c7a6b';
  context.stroke();
}

/** Takes up the tool on what was opened. */
export const takeDrawing = (desk: Desk, opened: Opened): void => desk.take(new DrawOnSheet(desk, opened), []);
