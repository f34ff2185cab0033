import {
  alongOneAxis,
  applyOperation,
  boundsOf,
  cornersOf,
  moveBy,
  sizeAbout,
  sizeFactor,
  trimBetween,
  trimByHandle,
  trimTo,
} from '@miradero/core/board';
import { overlaps, type Point, rectangleBetween, subtractPoints } from '@miradero/core/geometry';
import type { Item, Operation, Placement } from '@miradero/core/schema';
import type { Desk } from '../desk/index.ts';
import type { Drag, Hand, Press, StageView } from '../stage/index.ts';
import { cursorFor, type Grip, gripAt, sizeGrips, trimGrips } from './handles.ts';
import type { Marks } from './overlay.ts';

const NO_MARKS: Marks = { band: undefined, trim: undefined };
/** A trim smaller than this many pixels on screen was a slip of the hand. */
const SLIP_PX = 6;

/** What the pointer does on a board: select, move, size, trim, band. */
export class BoardHand implements Hand {
  readonly #desk: Desk;
  readonly #view: StageView;
  marks: Marks = NO_MARKS;

  constructor(desk: Desk, view: StageView) {
    this.#desk = desk;
    this.#view = view;
  }

  pan(deltaPx: Point): void {
    this.#view.pan(deltaPx);
  }

  zoom(pointPx: Point, factor: number): void {
    this.#view.zoom(pointPx, factor);
  }

  hover(point: Point | undefined): void {
    this.#desk.pointer = point && this.#view.toBoard(point);
    this.#desk.hover(this.#desk.pointer && this.#view.feed.itemAt(this.#desk.pointer)?.id);
    const grip = point && this.#gripAt(point, 'mouse');
    this.#view.canvas.style.cursor = grip ? cursorFor(grip) : '';
  }

  double(point: Point): void {
    const item = this.#view.feed.itemAt(this.#view.toBoard(point));
    if (item?.kind === 'note') this.#desk.editNote(item);
    else if (item) this.#view.comeClose(item.id, boundsOf(item));
    else if (this.#view.isClose) this.#view.goBack();
  }

  press({ point, isAdding, pointerType }: Press): Drag | undefined {
    const { mode } = this.#desk;
    if (mode.kind === 'trim') return this.#pressInTrim(mode.id, point, pointerType);
    const grip = this.#gripAt(point, pointerType);
    if (grip) return this.#size(grip);
    const item = this.#view.feed.itemAt(this.#view.toBoard(point));
    if (item === undefined) return this.#band(point, isAdding);
    return this.#move(item, point, isAdding);
  }

  #gripAt(point: Point, pointerType: string): Grip | undefined {
    const { mode } = this.#desk;
    if (mode.kind === 'trim') {
      const item = this.#desk.session.items.get(mode.id);
      return item && gripAt(trimGrips(item), this.#view, point, pointerType);
    }
    return gripAt(sizeGrips(this.#desk.selected), this.#view, point, pointerType);
  }

  /** A drag that previews operations and makes them one change at its end. */
  #operate(compute: (point: Point, keys: { isShift: boolean }) => Operation[], onClick: () => void): Drag {
    const { session } = this.#desk;
    let operations: Operation[] = [];
    return {
      move: (point, keys) => {
        operations = compute(point, keys);
        session.preview(operations);
      },
      end: (isClick) => {
        if (isClick) onClick();
        else session.commit(operations);
      },
      cancel: () => session.preview([]),
    };
  }

  #move(item: Item, start: Point, isAdding: boolean): Drag {
    const wasSelected = this.#desk.selection.has(item.id);
    if (!wasSelected) this.#desk.select(isAdding ? [...this.#desk.selection, item.id] : [item.id]);
    const from = this.#view.toBoard(start);
    const items = this.#desk.selected;
    return this.#operate(
      (point, { isShift }) => {
        const delta = subtractPoints(this.#view.toBoard(point), from);
        return moveBy(items, isShift ? alongOneAxis(delta) : delta);
      },
      () => {
        if (!wasSelected) return;
        const others = [...this.#desk.selection].filter((id) => id !== item.id);
        this.#desk.select(isAdding ? others : [item.id]);
      },
    );
  }

  #size(grip: Grip): Drag {
    const items = this.#desk.selected;
    return this.#operate(
      (point) =>
        sizeAbout(items, grip.anchor, sizeFactor(grip.anchor, grip.point, this.#view.toBoard(point))),
      () => {},
    );
  }

  #band(start: Point, isAdding: boolean): Drag {
    const before = isAdding ? [...this.#desk.selection] : [];
    const from = this.#view.toBoard(start);
    const finish = () => {
      this.marks = NO_MARKS;
      this.#view.requestDraw();
    };
    return {
      move: (point) => {
        this.marks = { ...NO_MARKS, band: rectangleBetween(start, point) };
        const area = rectangleBetween(from, this.#view.toBoard(point));
        const inside = this.#view.feed.itemsWithin(area).filter((item) => overlaps(boundsOf(item), area));
        this.#desk.select([...before, ...inside.map((item) => item.id)]);
        this.#view.requestDraw();
      },
      end: (isClick) => {
        if (isClick && !isAdding) this.#desk.select([]);
        finish();
      },
      cancel: () => {
        this.#desk.select(before);
        finish();
      },
    };
  }

  #pressInTrim(id: string, start: Point, pointerType: string): Drag | undefined {
    const placement = this.#desk.session.items.get(id);
    if (placement?.kind !== 'placement') return undefined;
    const grip = this.#gripAt(start, pointerType);
    if (grip) {
      return this.#mark(
        placement,
        start,
        (to) => trimByHandle(placement, grip.handle, to),
        () => {},
      );
    }
    const from = this.#view.toBoard(start);
    const isOn = this.#view.feed.itemAt(from)?.id === id;
    return this.#mark(
      placement,
      start,
      (to) => trimBetween(placement, from, to),
      () => {
        if (!isOn) this.#desk.leaveMode();
      },
    );
  }

  /** A drag that marks a trim and makes it at its end. */
  #mark(
    placement: Placement,
    start: Point,
    trimFor: (toBoard: Point) => ReturnType<typeof trimBetween>,
    onClick: () => void,
  ): Drag {
    let trim: ReturnType<typeof trimBetween> | undefined;
    let isSlip = true;
    const finish = () => {
      this.marks = NO_MARKS;
      this.#view.requestDraw();
    };
    return {
      move: (point) => {
        trim = trimFor(this.#view.toBoard(point));
        isSlip = Math.abs(point.x - start.x) < SLIP_PX && Math.abs(point.y - start.y) < SLIP_PX;
        const trimmed = applyOperation(placement, trimTo(placement, trim)) as Placement;
        this.marks = { ...NO_MARKS, trim: cornersOf(trimmed) };
        this.#view.requestDraw();
      },
      end: (isClick) => {
        if (isClick) onClick();
        else if (trim && !isSlip && trim.width > 0 && trim.height > 0) this.#desk.trim(placement, trim);
        finish();
      },
      cancel: finish,
    };
  }
}
