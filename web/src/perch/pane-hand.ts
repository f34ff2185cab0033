import type { Tool } from '../desk/index.ts';
import { comeCloseAt, panning, SELECT } from '../tools/index.ts';

/**
 * What the hand does in the perch while no tool is taken: every drag pans, but for one of what is selected or of its handles;
 * a click selects.
 */
export const PANE_HAND: Tool = {
  ...SELECT,
  id: 'look',
  /** While nothing is selected one looks: what keys would act on is not outlined. */
  overlay(seat, context) {
    if (seat.desk.selection.size > 0) SELECT.overlay?.(seat, context);
  },
  press(seat, press) {
    const { desk, view } = seat;
    const item = view.itemAt(press.point);
    const isHeld = SELECT.hover?.(seat, press.point, press.pointerType) !== undefined;
    if (isHeld || (item && desk.selection.has(item.id))) return SELECT.press(seat, press);
    const drag = panning(seat, press);
    return {
      ...drag,
      end(isClick) {
        if (isClick) desk.select(item ? [...(press.isAdding ? desk.selection : []), item.id] : []);
      },
    };
  },
  /** Who comes close looks: what the first press selected is not. */
  double(seat, point) {
    seat.desk.select([]);
    comeCloseAt(seat, point);
  },
};
