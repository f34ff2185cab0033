import { cornersOf } from '@miradero/core/board';
import { type Meant, meantAs, type StrokePoint } from '@miradero/core/freehand';
import {
  boardToScreen,
  boundsOfPoints,
  inflate,
  overlaps,
  type Point,
  type Rectangle,
  unionOf,
} from '@miradero/core/geometry';
import type { Placement } from '@miradero/core/items';
import type { LayerFacts, PenPoint } from '@miradero/core/paint';
import { recentColours } from '../../../colour/index.ts';
import type { Desk, Seat, Tool } from '../../../desk/index.ts';
import type { Drag, Press, Sample, StageView } from '../../../stage/index.ts';
import { PaintingCard } from '../card/painting-card.tsx';
import type { AreaWish, StrokeWish } from '../messages.ts';
import { type BrushImplement, brushOf, isBrush, paintSettings, rgbOf } from '../settings.ts';
import type { Painting } from '../sheet/painting.ts';
import type { Opened } from '../versions/open-painting.ts';
import { drawOutline, drawRing, drawTail, type Tail } from './drawn-over.ts';
import { TakenPart } from './taken-part.ts';

/** What brushes do that do not paint. */
const DOES: Readonly<Partial<Record<BrushImplement, StrokeWish['does']>>> = {
  ...{ smudge: 'smudge', push: 'push', 'hard eraser': 'erase', 'soft eraser': 'erase' },
};

/** A ring is no smaller than this, and its line lies around it, CSS pixels. */
const RING_PX = 4;

/** Pixels of the sheet, x and y. */
const STEPS = { left: [-1, 0], right: [1, 0], up: [0, -1], down: [0, 1] } as const;

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
  #last: { readonly wish: StrokeWish; readonly points: StrokePoint[]; readonly acts: number } | undefined;
  /** Where the pointer is, CSS pixels of its view. */
  #at: { readonly view: StageView; readonly point: Point } | undefined;
  readonly #taken: TakenPart;
  readonly #ends: (() => void)[];

  constructor(desk: Desk, opened: Opened) {
    this.#opened = opened;
    this.#taken = new TakenPart(desk, opened.painting);
    this.#ends = [
      opened.painting.store.subscribe(({ taken }) => {
        this.#taken.follow(taken);
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
    return this.#last?.acts === this.#painting.acts;
  }

  hover({ view }: Seat, point: Point): string {
    this.#at = { view, point };
    this.#aimAt(view, point);
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

  /** Where it is shown twice, one draws on what is under the hand; what was taken is carried where it was. */
  #aimAt(view: StageView, point: Point): void {
    if (!this.#taken.isThere) this.#painting.aimAt(view.toBoard(point));
  }

  /** On what is drawn, or why nothing can be. */
  #under(desk: Desk): { readonly item: Placement; readonly layer: LayerFacts } | undefined {
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
    return { item, layer };
  }

  press(seat: Seat, press: Press): Drag | undefined {
    const { desk, view } = seat;
    this.#aimAt(view, press.point);
    const under = this.#under(desk);
    if (!under) return undefined;
    const { item, layer } = under;
    const { does } = paintSettings.now;
    if (isBrush(does)) return this.#stroke(seat, press, item, layer.id, does);
    if (does === 'fill') {
      const at = this.#painting.onSheet(item, view.toBoard(press.point));
      if (this.#isOnSheet(desk, [at])) this.#painting.fill(this.#area(layer.id), at, paintSettings.now.gapPx);
      return undefined;
    }
    if (does === 'move' && this.#taken.isThere) {
      const drag = this.#taken.press(view, press, item);
      if (drag) return drag;
      this.#painting.settle();
    }
    return this.#around(seat, press, (corners) => {
      const points = corners.map((corner) => this.#painting.onSheet(item, view.toBoard(corner)));
      if (!this.#isOnSheet(desk, points)) return;
      if (does === 'lasso') this.#painting.lasso(this.#area(layer.id), points);
      else this.#painting.take(layer.id, points);
    });
  }

  /** Whether any of it can be on the sheet, else says why nothing comes of it. @param points - pixels of the sheet */
  #isOnSheet(desk: Desk, points: readonly Point[], marginPx = 0): boolean {
    const { facts } = this.#painting;
    if (!facts) return true;
    const { width, height } = facts;
    const isOn = overlaps(inflate(boundsOfPoints(points), marginPx), { x: 0, y: 0, width, height });
    if (!isOn) desk.say('Nothing is painted beside the sheet.', ['What one draws stays within its frame.']);
    return isOn;
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
    { point, pressure, tilt, pointerType }: Press,
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
    // What tells no pressure paints as large, and as much, as the brush says.
    const pressed = (told: number) => (pointerType === 'pen' ? told : 1);
    const go = (samples: readonly Sample[]) => {
      const way = samples.map((one) => ({ ...one, pressure: pressed(one.pressure) }));
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
      const isSeen = this.#isOnSheet(desk, made, brush.sizePx / 2);
      this.#last = isLine && isSeen ? { wish, points: made, acts: painting.acts } : undefined;
      desk.retell();
    };
    return {
      isFine: true,
      move: (to, { way, ahead = [] }) => {
        const before = way?.at(-1);
        tail.ahead = ahead.map((one) => ({ ...one, pressure: pressed(one.pressure) }));
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

  /** What was taken stays where it is. */
  confirm(): void {
    this.#painting.settle();
  }

  /** What was taken is where it was; then Escape leaves. */
  back = (): boolean => this.#taken.putBack();

  /** What was taken is taken away. */
  remove(): void {
    this.#taken.remove();
  }

  /** What was taken goes by a pixel of the sheet, or ten. */
  arrow(_desk: Desk, to: keyof typeof STEPS, isFar: boolean): void {
    const [x, y] = STEPS[to];
    const by = isFar ? 10 : 1;
    this.#taken.nudge(x * by, y * by);
  }

  /** All of the layer is taken. */
  selectAll(desk: Desk): void {
    const under = this.#under(desk);
    const { facts } = this.#painting;
    if (!under || !facts) return;
    paintSettings.set({ does: 'move' });
    const { width, height } = facts;
    const corners = [
      { x: 0, y: 0 },
      { x: width, y: 0 },
      { x: width, y: height },
      { x: 0, y: height },
    ];
    this.#painting.take(under.layer.id, corners);
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
        if (isShift || paintSettings.now.isRectangle)
          lasso.points = [point, { x: to.x, y: point.y }, to, { x: point.x, y: to.y }];
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
    painting.begin({ ...last.wish, smoothing: 0 }, true);
    const points = meantAs(last.points, as, last.wish.brush.sizePx);
    painting.goOn(points.map(({ tilt, ...point }) => ({ ...point, leanDeg: tilt ?? 0 })));
    painting.end();
    // Of how the hand made it, so that one may try all three.
    this.#last = { ...last, acts: painting.acts };
  }

  leave(): void {
    for (const end of this.#ends) end();
    this.#painting.putDown();
    void this.#opened.versions.makeNow().catch(() => {});
  }

  overlay({ view }: Seat, context: CanvasRenderingContext2D): void {
    const tail = this.#tail;
    if (tail?.view === view) {
      tail.points = tail.points.filter(({ number }) => number >= this.#painting.seenNumber);
      drawTail(context, tail);
    }
    this.#drawFrame(view, context);
    if (this.#lasso?.view === view) drawOutline(context, this.#lasso.points);
    this.#taken.overlay(view, context);
    this.#drawRing(view, context);
    if (tail?.view === view || this.#at?.view === view) this.#painting.drawnOver = this.#reach(view);
  }

  /** Draws anew what of a view this drew over it before, and draws now. */
  #redraw(view: StageView): void {
    const reach = this.#reach(view);
    const before = this.#painting.drawnOver;
    if (!reach || !before || this.#lasso || this.#taken.isThere) view.requestDraw();
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

  /** Where one draws, where no ground shows it. */
  #drawFrame(view: StageView, context: CanvasRenderingContext2D): void {
    const item = this.#painting.placement;
    if (item && this.#painting.isClear)
      drawOutline(
        context,
        cornersOf(item).map((corner) => boardToScreen(view.camera, view.viewport, corner)),
      );
  }

  /** How large the brush is, where the pointer is. */
  #drawRing(view: StageView, context: CanvasRenderingContext2D): void {
    const at = this.#at?.view === view ? this.#at.point : undefined;
    if (!at || !this.#painting.placement || !isBrush(paintSettings.now.does)) return;
    drawRing(context, at, this.#radiusOn(view));
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

/** Takes up the tool on what was opened. */
export const takeDrawing = (desk: Desk, opened: Opened): void => desk.take(new DrawOnSheet(desk, opened), []);
