import { isBanded } from '@miradero/core/board';
import { rectangleBetween } from '@miradero/core/geometry';
import type { Offer, Seat, Tool } from '../desk/index.ts';
import type { Drag, Press } from '../stage/index.ts';
import { moving, sizing, turning, wrapping } from './drags.ts';
import { drawSelecting } from './draw-selection.ts';
import { cursorFor, gripAt, isOnPlumb, sideGrips, sizeGrips, TURN_CURSOR } from './handles.ts';
import { comeCloseAt } from './look.ts';

/** Selects what a band from the ground touches. */
function banding(seat: Seat, { point: start, isAdding }: Press): Drag {
  const { desk, view } = seat;
  const before = isAdding ? [...desk.selection] : [];
  const from = view.toBoard(start);
  return {
    move: (point) => {
      seat.mark({ band: rectangleBetween(start, point) });
      const area = rectangleBetween(from, view.toBoard(point));
      const inside = view.feed.itemsWithin(area).filter((item) => isBanded(item, area));
      desk.select([...before, ...inside.map((item) => item.id)]);
    },
    end: (isClick) => {
      if (isClick && !isAdding) desk.select([]);
      seat.mark({});
    },
    cancel: () => {
      desk.select(before);
      seat.mark({});
    },
  };
}

const NOTHING: Offer = { title: '', ids: [] };

/** Selects, moves, sizes and turns: what the hand does on a board while no tool is taken. */
export const SELECT: Tool = {
  id: 'select',
  press(seat, press) {
    const { desk, view } = seat;
    const { point, pointerType } = press;
    const grip = gripAt(sizeGrips(desk.selected), view, point, pointerType);
    if (grip) return sizing(seat, grip);
    const side = gripAt(sideGrips(desk.selected), view, point, pointerType);
    if (side) return wrapping(seat, side);
    if (isOnPlumb(desk.selected, view, point, pointerType)) return turning(seat, desk.selected, point);
    const item = view.itemAt(point);
    return item === undefined ? banding(seat, press) : moving(seat, item, press);
  },
  hover({ desk, view }, point, pointerType) {
    const grip =
      gripAt(sizeGrips(desk.selected), view, point, pointerType) ??
      gripAt(sideGrips(desk.selected), view, point, pointerType);
    if (grip) return cursorFor(grip);
    if (isOnPlumb(desk.selected, view, point, pointerType)) return TURN_CURSOR;
    return desk.hovered && desk.selection.has(desk.hovered) ? 'move' : undefined;
  },
  double: comeCloseAt,
  overlay: (seat, context) => drawSelecting(context, seat),
  // What is offered then depends on what is selected, which the kinds of items know.
  offer: () => NOTHING,
};
