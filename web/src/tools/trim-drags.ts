import { applyOperation } from '@miradero/core/board';
import type { Point } from '@miradero/core/geometry';
import {
  keptOnBoard,
  leanOfLine,
  slideTrim,
  straighten,
  type Trimmed,
  trimBetween,
  trimByHandle,
  trimByLasso,
  trimTo,
} from '@miradero/core/items';
import type { Placement } from '@miradero/core/schema';
import type { Seat } from '../desk/index.ts';
import type { Drag, Press } from '../stage/index.ts';
import type { Grip } from './handles.ts';

/** A trim smaller than this many pixels on screen was a slip of the hand. */
const SLIP_PX = 6;

/** What a drag across the picture does while it is trimmed. */
export type TrimWay = 'frame' | 'ellipse' | 'lasso' | 'slide' | 'straighten';

/** What the tool is set to. */
export interface TrimSettings {
  readonly way: TrimWay;
  /** Width by height that frames keep; undefined: any. */
  readonly aspect: number | undefined;
}

/** A press while trimming: a handle moves its edges; elsewhere a drag does what the tool is set to. */
export function trimming(
  seat: Seat,
  placement: Placement,
  press: Press,
  { way, aspect }: TrimSettings,
  grip: Grip | undefined,
): Drag {
  if (grip)
    return marking(seat, placement, press, (to) =>
      trimTo(placement, trimByHandle(placement, grip.handle, to, aspect)),
    );
  const from = seat.view.toBoard(press.point);
  // Beside the picture a press leaves the tool.
  const isOn = seat.view.itemAt(press.point)?.id === placement.id;
  const onClick = () => {
    if (!isOn) seat.desk.leaveTool();
  };
  switch (way) {
    case 'slide':
      return sliding(seat, placement, from, onClick);
    case 'straighten':
      return levelling(seat, placement, press, onClick);
    case 'lasso':
      return lassoing(seat, placement, press, onClick);
    default: {
      const outline = way === 'ellipse' ? 'ellipse' : null;
      return marking(
        seat,
        placement,
        press,
        (to) => {
          const frame = trimBetween(placement, from, to, aspect);
          return frame.width > 0 && frame.height > 0 ? trimTo(placement, frame, outline) : undefined;
        },
        onClick,
      );
    }
  }
}

const isSlip = (from: Point, to: Point) =>
  Math.abs(to.x - from.x) < SLIP_PX && Math.abs(to.y - from.y) < SLIP_PX;

/** A drag that marks a trim and makes it at its end. */
function marking(
  seat: Seat,
  placement: Placement,
  { point: start }: Press,
  trimFor: (toBoard: Point) => Trimmed | undefined,
  onClick: () => void = () => {},
): Drag {
  let trimmed: Trimmed | undefined;
  return {
    move: (point) => {
      const next = trimFor(seat.view.toBoard(point));
      trimmed = isSlip(start, point) ? undefined : next;
      if (next) seat.mark({ trim: keptOnBoard(applyOperation(placement, next) as Placement) });
    },
    end: (isClick) => {
      if (isClick) onClick();
      else if (trimmed) seat.desk.session.commit([trimmed]);
      seat.mark({});
    },
    cancel: () => seat.mark({}),
  };
}

/** The picture goes with the hand, under its frame. */
function sliding(seat: Seat, placement: Placement, from: Point, onClick: () => void): Drag {
  let slid: Trimmed | undefined;
  const { session } = seat.desk;
  return {
    move: (point) => {
      const to = seat.view.toBoard(point);
      slid = slideTrim(placement, { x: to.x - from.x, y: to.y - from.y });
      session.preview([slid]);
    },
    end: (isClick) => {
      if (slid && !isClick) session.commit([slid]);
      else session.preview([]);
      if (isClick) onClick();
    },
    cancel: () => session.preview([]),
  };
}

/** A line is drawn along what should be level or upright. */
function levelling(seat: Seat, placement: Placement, { point: start }: Press, onClick: () => void): Drag {
  const from = seat.view.toBoard(start);
  let line: { readonly to: Point; readonly isSlip: boolean } | undefined;
  return {
    move: (point) => {
      const to = seat.view.toBoard(point);
      line = { to, isSlip: isSlip(start, point) };
      const text = `${Math.abs(leanOfLine(from, to)).toFixed(1)}°`;
      seat.mark({ line: [from, to], figure: { text, at: point } });
    },
    end: (isClick) => {
      if (isClick) onClick();
      else if (line && !line.isSlip) seat.desk.session.commit([straighten(placement, from, line.to)]);
      seat.mark({});
    },
    cancel: () => seat.mark({}),
  };
}

/** A line is drawn around what is to stay. */
function lassoing(seat: Seat, placement: Placement, { point: start }: Press, onClick: () => void): Drag {
  const line: Point[] = [seat.view.toBoard(start)];
  return {
    move: (point) => {
      line.push(seat.view.toBoard(point));
      seat.mark({ trim: [...line] });
    },
    end: (isClick) => {
      seat.mark({});
      if (isClick) {
        onClick();
        return;
      }
      const lasso = trimByLasso(placement, line);
      if (lasso) seat.desk.session.commit([trimTo(placement, lasso.frame, lasso.outline)]);
      else
        seat.desk.say('The lasso goes around nothing of the picture.', [
          'Draw it around what is to stay; its ends are joined by themselves.',
        ]);
    },
    cancel: () => seat.mark({}),
  };
}
