import type { SettleForm } from '@miradero/core/board';
import { rectangleBetween } from '@miradero/core/geometry';
import type { Desk, Tool } from '../desk/index.ts';
import { drawMarks, drawSelection } from '../tools/index.ts';
import { settleOn } from './laying-out.ts';

/** A box smaller than this on screen was a slip of the hand, CSS pixels. */
const SLIP_PX = 12;

/** Lets a box be drawn whose shape and place what is selected, or all, settles into. */
export function settleIntoBox(desk: Desk, form: SettleForm = 'tight'): void {
  const chosen = desk.selection;
  const tool: Tool = {
    id: 'settle-box',
    press(seat, { point: start }) {
      let box = rectangleBetween(start, start);
      return {
        move(point) {
          box = rectangleBetween(start, point);
          const shape = box.height > 0 ? box.width / box.height : 1;
          seat.mark({ band: box, figure: { text: `${shape.toFixed(2)} : 1`, at: point } });
        },
        end() {
          seat.mark({});
          const { view } = seat;
          desk.leaveTool();
          if (Math.min(box.width, box.height) < SLIP_PX) return;
          const from = view.toBoard({ x: box.x, y: box.y });
          const to = view.toBoard({ x: box.x + box.width, y: box.y + box.height });
          void settleOn(desk, form, rectangleBetween(from, to));
        },
        cancel: () => seat.mark({}),
      };
    },
    hover: () => 'crosshair',
    overlay: (seat, context) => {
      drawSelection(context, seat.view, seat.desk.selected);
      drawMarks(context, seat);
    },
    offer: () => ({
      title: 'Settle',
      ids: ['escape'],
      hint: 'Draw a box: everything settles in its shape, about its middle.',
    }),
  };
  desk.take(tool, chosen);
}
