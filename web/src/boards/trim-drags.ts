import { applyOperation, cornersOf, trimBetween, trimByHandle, trimTo } from '@miradero/core/board';
import type { Point, Rectangle } from '@miradero/core/geometry';
import type { Placement } from '@miradero/core/schema';
import type { Drag, Press } from '../stage/index.ts';
import type { HandSeat } from './hand-seat.ts';
import type { Grip } from './handles.ts';

/** A trim smaller than this many pixels on screen was a slip of the hand. */
const SLIP_PX = 6;

/** A press while trimming: a handle moves its edges; elsewhere a drag across the picture marks what is kept. */
export function trimming(hand: HandSeat, placement: Placement, press: Press, grip: Grip | undefined): Drag {
  if (grip)
    return marking(
      hand,
      placement,
      press,
      (to) => trimByHandle(placement, grip.handle, to),
      () => {},
    );
  const from = hand.view.toBoard(press.point);
  const isOn = hand.view.itemAt(press.point)?.id === placement.id;
  return marking(
    hand,
    placement,
    press,
    (to) => trimBetween(placement, from, to),
    () => {
      if (!isOn) hand.desk.leaveMode();
    },
  );
}

/** A drag that marks a trim and makes it at its end. */
function marking(
  hand: HandSeat,
  placement: Placement,
  { point: start }: Press,
  trimFor: (toBoard: Point) => Rectangle,
  onClick: () => void,
): Drag {
  let trim: Rectangle | undefined;
  let isSlip = true;
  return {
    move: (point) => {
      trim = trimFor(hand.view.toBoard(point));
      isSlip = Math.abs(point.x - start.x) < SLIP_PX && Math.abs(point.y - start.y) < SLIP_PX;
      const trimmed = applyOperation(placement, trimTo(placement, trim)) as Placement;
      hand.mark({ trim: cornersOf(trimmed) });
    },
    end: (isClick) => {
      if (isClick) onClick();
      else if (trim && !isSlip && trim.width > 0 && trim.height > 0) hand.desk.trim(placement, trim);
      hand.mark({});
    },
    cancel: () => hand.mark({}),
  };
}
