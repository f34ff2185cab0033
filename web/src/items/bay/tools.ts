import { keyBelow } from '@miradero/core/board';
import { surroundColour } from '@miradero/core/colour';
import { boardToScreen, rectangleBetween } from '@miradero/core/geometry';
import { type Bay, bayAround, createBay, isBay, regionOnBoard } from '@miradero/core/items';
import type { Desk, Tool } from '../../desk/index.ts';
import { newGesture } from '../../sync/index.ts';
import { drawMarks, LOOK } from '../../tools/index.ts';
import { startTitling } from '../titling.tsx';

/** A region smaller than this on screen was a slip of the hand, CSS pixels. */
const SLIP_PX = 16;

/** Lets the region of a new bay be drawn, and asks for its title. */
export function drawBay(desk: Desk): void {
  const tool: Tool = {
    id: 'bay',
    press(seat, { point: start }) {
      let box = rectangleBetween(start, start);
      return {
        move(point) {
          box = rectangleBetween(start, point);
          const { scale } = seat.view.camera;
          const figure = `${Math.round(box.width / scale)} × ${Math.round(box.height / scale)}`;
          seat.mark({ band: box, figure: { text: figure, at: point } });
        },
        end() {
          seat.mark({});
          desk.leaveTool();
          if (Math.min(box.width, box.height) < SLIP_PX) return;
          const from = seat.view.toBoard({ x: box.x, y: box.y });
          const to = seat.view.toBoard({ x: box.x + box.width, y: box.y + box.height });
          make(desk, bayAround(rectangleBetween(from, to)));
        },
        cancel: () => seat.mark({}),
      };
    },
    hover: () => 'crosshair',
    overlay: (seat, context) => drawMarks(context, seat),
    offer: () => ({
      title: 'Bay',
      ids: ['escape'],
      hint: 'Draw the region; its shape can be set on its label.',
    }),
  };
  desk.take(tool, []);
}

/** A bay lies below everything, so that it covers nothing. */
function make(desk: Desk, frame: ReturnType<typeof bayAround>): void {
  const { items } = desk.session;
  const { key, rekeyed } = keyBelow(items.values(), new Set(items.keys()));
  const create = createBay({ id: crypto.randomUUID(), stack: key, ...frame });
  const gesture = newGesture();
  desk.session.commit([{ create }, ...rekeyed], gesture);
  desk.select([create.id]);
  startTitling(desk, create.id, gesture);
}

/** Shows a bay's region and nothing around it, until it is left. */
export function showAlone(desk: Desk, { id }: Bay): void {
  const bayNow = () => {
    const item = desk.session.items.get(id);
    return item && isBay(item) && !item.removed ? item : undefined;
  };
  const tool: Tool = {
    ...LOOK,
    id: 'alone',
    overlay({ view }, context) {
      const bay = bayNow();
      if (!bay) return;
      const region = regionOnBoard(bay);
      const from = boardToScreen(view.camera, view.viewport, region);
      const { width, height } = view.viewport;
      context.beginPath();
      context.rect(0, 0, width, height);
      context.rect(from.x, from.y, region.width * view.camera.scale, region.height * view.camera.scale);
      context.fillStyle = surroundColour(desk.session.board.surround);
      context.fill('evenodd');
    },
    isOver: () => bayNow() === undefined,
    offer: () => ({
      title: bayNow()?.title || 'Bay',
      ids: ['escape'],
      hint: 'Shown alone; Esc shows the board again.',
    }),
  };
  const bay = bayNow();
  if (!bay) return;
  desk.take(tool, []);
  desk.view?.showPart(regionOnBoard(bay));
}
