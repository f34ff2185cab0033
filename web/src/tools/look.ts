import { boundsOf } from '@miradero/core/board';
import type { Point } from '@miradero/core/geometry';
import type { Offer, Seat, Tool } from '../desk/index.ts';
import type { Drag, Press } from '../stage/index.ts';
import type { Edge } from './edges.ts';

/** Zoom of one pixel of a zooming drag: 140 px double. */
const DRAG_ZOOM = Math.LN2 / 140;

const middleOf = ({ view }: Seat): Point => ({ x: view.viewport.width / 2, y: view.viewport.height / 2 });

/** Drags the view with the pointer; nothing on the board alters. */
export function panning({ desk, view }: Seat, { point }: Press): Drag {
  let last = point;
  return {
    move: (to) => {
      desk.useHeld();
      view.pan({ x: to.x - last.x, y: to.y - last.y });
      last = to;
    },
    end: () => {},
    cancel: () => {},
  };
}

/** Zooms at where the drag began; along the right edge, up and down, at the middle. */
export function zooming(seat: Seat, { point }: Press, edge?: Edge): Drag {
  const { desk, view } = seat;
  let last = view.inHolder(point);
  return {
    move: (toPx) => {
      desk.useHeld();
      const to = view.inHolder(toPx);
      const along = edge ? last.y - to.y : to.x - last.x + (last.y - to.y);
      view.zoom(edge ? middleOf(seat) : point, Math.exp(along * DRAG_ZOOM));
      last = to;
    },
    end: () => {},
    cancel: () => {},
  };
}

/** Comes close to what lies under a point, or goes back. */
export function comeCloseAt({ view }: Seat, point: Point): void {
  const item = view.itemAt(point);
  if (item) view.comeClose(item.id, boundsOf(item));
  else if (view.isClose) view.goBack();
}

const NOTHING: Offer = { title: '', ids: [] };

/** Every drag pans: what there is to do before a tool that only offers something does more. */
export const LOOK: Tool = {
  id: 'look',
  press: panning,
  double: comeCloseAt,
  offer: () => NOTHING,
};
