import { boundsOf, fadeBy } from '@miradero/core/board';
import { overlaps, type Point, rectangleBetween } from '@miradero/core/geometry';
import type { Item, Operation } from '@miradero/core/schema';
import type { Desk } from '../desk/index.ts';
import type { Drag, Hand, Press, StageView } from '../stage/index.ts';
import { moving, sizing, turning } from './drags.ts';
import { EdgePan } from './edge-pan.ts';
import { type Edge, edgeAt } from './edges.ts';
import type { HandSeat } from './hand-seat.ts';
import {
  cursorFor,
  type Grip,
  gripAt,
  isOnPlumb,
  sizeGrips,
  TURN_CURSOR,
  trimGrips,
  ZOOM_CURSOR,
} from './handles.ts';
import type { Marks } from './overlay.ts';
import { trimming } from './trim-drags.ts';

export const NO_MARKS: Marks = { band: undefined, trim: undefined, guides: [], figure: undefined };
/** Zoom of one pixel of a zooming drag: 140 px double. */
const DRAG_ZOOM = Math.LN2 / 140;

/** What the pointer does on a board: select, move, size, turn, trim, band, and look around. */
export class BoardHand implements Hand, HandSeat {
  readonly desk: Desk;
  readonly view: StageView;
  readonly edgePan: EdgePan;
  #marks: Marks = NO_MARKS;
  /** Opacity under a wheel with the fading key held, relative to where it began. */
  #fading: { items: readonly Item[]; delta: number } | undefined;
  /** Called when the person asks what can be done with what lies under a point, CSS pixels of the view. */
  onSecondary: ((point: Point) => void) | undefined;

  constructor(desk: Desk, view: StageView) {
    this.desk = desk;
    this.view = view;
    this.edgePan = new EdgePan(view);
  }

  get marks(): Marks {
    return this.#marks;
  }

  mark(marks: Partial<Marks>): void {
    this.#marks = { ...NO_MARKS, ...marks };
    this.view.requestDraw();
  }

  pan(deltaPx: Point): void {
    this.view.pan(deltaPx);
  }

  zoom(pointPx: Point, factor: number): void {
    if (this.desk.held === 'fade') this.#fade(factor);
    else this.view.zoom(pointPx, factor);
  }

  /** One notch of the wheel is about a tenth. */
  #fade(factor: number): void {
    this.desk.useHeld();
    this.#fading ??= { items: this.desk.targets, delta: 0 };
    this.#fading.delta += Math.log(factor) / 2;
    this.desk.session.preview(this.#fadeOperations());
  }

  #fadeOperations(): Operation[] {
    const { items, delta } = this.#fading!;
    return fadeBy(items, delta);
  }

  /** The fading key was let go: what was previewed is made. */
  endFade(): void {
    if (!this.#fading) return;
    const operations = this.#fadeOperations();
    this.#fading = undefined;
    this.desk.session.commit(operations);
  }

  hover(point: Point | undefined, pointerType: string): void {
    const { desk, view } = this;
    const at = point && view.toBoard(point);
    desk.point(at, point && view.itemAt(point)?.id);
    view.canvas.style.cursor = (point && this.#cursorAt(point, pointerType)) ?? '';
  }

  #cursorAt(point: Point, pointerType: string): string | undefined {
    const { held, mode } = this.desk;
    const edge = edgeAt(this.view, point, pointerType);
    if (held === 'zoom' || edge === 'zoom') return ZOOM_CURSOR;
    if (held === 'pan' || edge === 'pan') return 'grab';
    if (held === 'turn') return TURN_CURSOR;
    const grip = this.#gripAt(point, pointerType);
    if (grip) return cursorFor(grip);
    if (mode.kind === 'trim') return undefined;
    if (isOnPlumb(this.desk.selected, this.view, point, pointerType)) return TURN_CURSOR;
    return this.desk.hovered && this.desk.selection.has(this.desk.hovered) ? 'move' : undefined;
  }

  double(point: Point): void {
    const item = this.view.itemAt(point);
    if (item?.kind === 'note') this.desk.editNote(item);
    else if (item) this.view.comeClose(item.id, boundsOf(item));
    else if (this.view.isClose) this.view.goBack();
  }

  secondary(point: Point): void {
    const item = this.view.itemAt(point);
    if (item && !this.desk.selection.has(item.id)) this.desk.select([item.id]);
    else if (!item) this.desk.select([]);
    this.onSecondary?.(point);
  }

  press(press: Press): Drag | undefined {
    const { point, pointerType } = press;
    const { desk } = this;
    const edge = edgeAt(this.view, point, pointerType);
    if (desk.held === 'pan' || desk.held === 'zoom' || edge) return this.#looking(press, edge);
    if (desk.mode.kind === 'trim') {
      const item = desk.session.items.get(desk.mode.id);
      return item?.kind === 'placement'
        ? trimming(this, item, press, this.#gripAt(point, pointerType))
        : undefined;
    }
    if (desk.held === 'turn') return this.#turnTargets(point);
    const grip = this.#gripAt(point, pointerType);
    if (grip) return sizing(this, grip);
    if (isOnPlumb(desk.selected, this.view, point, pointerType)) return turning(this, desk.selected, point);
    const item = this.view.itemAt(point);
    if (item === undefined) return this.#band(press);
    return moving(this, item, press);
  }

  #gripAt(point: Point, pointerType: string): Grip | undefined {
    const { mode } = this.desk;
    if (mode.kind === 'trim') {
      const item = this.desk.session.items.get(mode.id);
      return item && gripAt(trimGrips(item), this.view, point, pointerType);
    }
    return gripAt(sizeGrips(this.desk.selected), this.view, point, pointerType);
  }

  /** Looking around: nothing on the board alters. */
  #looking({ point }: Press, edge: Edge | undefined): Drag {
    const isZoom = this.desk.held === 'zoom' || (this.desk.held !== 'pan' && edge === 'zoom');
    let last = point;
    return {
      move: (to) => {
        this.desk.useHeld();
        const along = edge === 'zoom' ? last.y - to.y : to.x - last.x + (last.y - to.y);
        if (isZoom) this.view.zoom(edge === 'zoom' ? this.#middle() : point, Math.exp(along * DRAG_ZOOM));
        else this.view.pan({ x: to.x - last.x, y: to.y - last.y });
        last = to;
      },
      end: () => {},
      cancel: () => {},
    };
  }

  #middle(): Point {
    const { width, height } = this.view.viewport;
    return { x: width / 2, y: height / 2 };
  }

  #turnTargets(point: Point): Drag | undefined {
    const items = this.desk.targets;
    if (items.length === 0) return undefined;
    return turning(this, items, point);
  }

  #band({ point: start, isAdding }: Press): Drag {
    const { desk, view } = this;
    const before = isAdding ? [...desk.selection] : [];
    const from = view.toBoard(start);
    return {
      move: (point: Point) => {
        this.mark({ band: rectangleBetween(start, point) });
        const area = rectangleBetween(from, view.toBoard(point));
        const inside = view.feed.itemsWithin(area).filter((item) => overlaps(boundsOf(item), area));
        desk.select([...before, ...inside.map((item) => item.id)]);
      },
      end: (isClick: boolean) => {
        if (isClick && !isAdding) desk.select([]);
        this.mark({});
      },
      cancel: () => {
        desk.select(before);
        this.mark({});
      },
    };
  }
}
