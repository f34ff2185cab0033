import type { Point } from '@miradero/core/geometry';
import type { Desk, Marks, Seat, Tool } from '../desk/index.ts';
import type { Drag, Hand, Press, StageView } from '../stage/index.ts';
import { EdgePan } from './edge-pan.ts';
import { edgeAt } from './edges.ts';
import { ZOOM_CURSOR } from './handles.ts';
import { HELD_TOOLS } from './held.ts';
import { panning, zooming } from './look.ts';

const NO_MARKS: Marks = { band: undefined, trim: undefined, line: undefined, guides: [], figure: undefined };

/** Gives what the pointer does on one stage to the tool that has it: a held key's, else the taken one, else `rest`. */
export class StageHand implements Hand, Seat {
  readonly desk: Desk;
  readonly view: StageView;
  readonly #rest: Tool;
  readonly #edgePan: EdgePan;
  #marks: Marks = NO_MARKS;
  /** Called when the person asks what can be done with what lies under a point, CSS pixels of the view. */
  onSecondary: ((point: Point) => void) | undefined;
  /** Opens what was pressed twice, where it can be opened. @returns whether it was */
  onOpen: ((id: string) => boolean) | undefined;

  /** The wheel was tilted by a notch. */
  onTilt: ((to: 'left' | 'right') => void) | undefined;

  /** Presses something on an item; see `SeatOf`. */
  onTap: NonNullable<Seat['tap']> | undefined;

  constructor(desk: Desk, view: StageView, rest: Tool) {
    this.desk = desk;
    this.view = view;
    this.#rest = rest;
    this.#edgePan = new EdgePan(view);
  }

  get tool(): Tool {
    const { held, tool } = this.desk.now;
    return held ? HELD_TOOLS[held] : (tool ?? this.#rest);
  }

  get marks(): Marks {
    return this.#marks;
  }

  mark(marks: Partial<Marks>): void {
    this.#marks = { ...NO_MARKS, ...marks };
    this.view.requestDraw();
  }

  tap(item: string, point: Point, pointerType: string, isFollowing: boolean): boolean {
    return this.onTap?.(item, point, pointerType, isFollowing) ?? false;
  }

  followEdge(point: Point, onMoved: () => void): void {
    this.#edgePan.follow(point, onMoved);
  }

  leaveEdge(): void {
    this.#edgePan.stop();
  }

  tilt(to: 'left' | 'right'): void {
    this.onTilt?.(to);
  }

  pan(deltaPx: Point): void {
    this.view.pan(deltaPx);
  }

  zoom(pointPx: Point, factor: number): void {
    const { tool } = this;
    if (tool.wheel) tool.wheel(this, factor);
    else this.view.zoom(pointPx, factor);
  }

  hover(point: Point | undefined, pointerType: string): void {
    const { desk, view } = this;
    desk.point(point && view.toBoard(point), point && view.itemAt(point)?.id);
    if (!point) this.tool.out?.(this);
    view.canvas.style.cursor = (point && this.#cursorAt(point, pointerType)) ?? '';
  }

  #cursorAt(point: Point, pointerType: string): string | undefined {
    const edge = edgeAt(this.view, point, pointerType);
    if (edge) return edge === 'zoom' ? ZOOM_CURSOR : 'grab';
    return this.tool.hover?.(this, point, pointerType);
  }

  press(press: Press): Drag | undefined {
    // Whoever points walks no more.
    if (this.desk.now.walkedTo !== undefined) this.desk.walkTo(undefined);
    const edge = edgeAt(this.view, press.point, press.pointerType);
    if (edge === 'zoom') return zooming(this, press, edge);
    return edge === 'pan' ? panning(this, press) : this.tool.press(this, press);
  }

  double(point: Point): void {
    const item = this.view.itemAt(point);
    if (item && this.tool === this.#rest && this.onOpen?.(item.id)) return;
    this.tool.double?.(this, point);
  }

  secondary(point: Point): void {
    const item = this.view.itemAt(point);
    if (item && !this.desk.selection.has(item.id)) this.desk.select([item.id]);
    else if (!item) this.desk.select([]);
    this.onSecondary?.(point);
  }
}
