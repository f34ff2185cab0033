import { applyOperation, cornersOf } from '@miradero/core/board';
import type { Point, Rectangle } from '@miradero/core/geometry';
import { trimBetween, trimByHandle, trimTo } from '@miradero/core/items';
import type { Placement } from '@miradero/core/schema';
import type { Seat } from '../desk/index.ts';
import type { Drag, Press } from '../stage/index.ts';
import type { Grip } from './handles.ts';

/** A trim smaller than this many pixels on screen was a slip of the seat. */
const SLIP_PX = 6;

/** A press while trimming: a handle moves its edges; elsewhere a drag across the picture marks what is kept. */
export function trimming(seat: Seat, placement: Placement, press: Press, grip: Grip | undefined): Drag {
  if (grip)
    return marking(
      seat,
      placement,
      press,
      (to) => trimByHandle(placement, grip.handle, to),
      () => {},
    );
  const from = seat.view.toBoard(press.point);
  const isOn = seat.view.itemAt(press.point)?.id === placement.id;
  return marking(
    seat,
    placement,
    press,
    (to) => trimBetween(placement, from, to),
    () => {
      if (!isOn) seat.desk.leaveTool();
    },
  );
}

/** A drag that marks a trim and makes it at its end. */
function marking(
  seat: Seat,
  placement: Placement,
  { point: start }: Press,
  trimFor: (toBoard: Point) => Rectangle,
  onClick: () => void,
): Drag {
  let trim: Rectangle | undefined;
  let isSlip = true;
  return {
    move: (point) => {
      trim = trimFor(seat.view.toBoard(point));
      isSlip = Math.abs(point.x - start.x) < SLIP_PX && Math.abs(point.y - start.y) < SLIP_PX;
      const trimmed = applyOperation(placement, trimTo(placement, trim)) as Placement;
      seat.mark({ trim: cornersOf(trimmed) });
    },
    end: (isClick) => {
      if (isClick) onClick();
      else if (trim && !isSlip && trim.width > 0 && trim.height > 0)
        seat.desk.session.commit([trimTo(placement, trim)]);
      seat.mark({});
    },
    cancel: () => seat.mark({}),
  };
}
