import { boundsOf, HANDLES, type HandlePosition, handlePoint } from '@miradero/core/board';
import { boardToScreen, type Point, type Rectangle, unionOf } from '@miradero/core/geometry';
import type { Item } from '@miradero/core/schema';
import type { StageView } from '../stage/index.ts';

/** Half the side of what can be grasped around a handle, CSS pixels. */
const REACH_PX = { mouse: 8, pen: 12, touch: 20 } as const;

export interface Grip {
  readonly handle: HandlePosition;
  /** Board units. */
  readonly point: Point;
  /** The point that stays where it is, board units. */
  readonly anchor: Point;
}

const opposite = ({ x, y }: HandlePosition): HandlePosition => ({ x: -x, y: -y }) as HandlePosition;

const pointOn = (bounds: Rectangle, { x, y }: HandlePosition): Point => ({
  x: bounds.x + ((x + 1) / 2) * bounds.width,
  y: bounds.y + ((y + 1) / 2) * bounds.height,
});

/** The corners that size the selection: of one item its own, of several those of their common bounds. */
export function sizeGrips(items: readonly Item[]): Grip[] {
  const corners = HANDLES.filter(({ x, y }) => x !== 0 && y !== 0);
  const [only] = items;
  if (only && items.length === 1) {
    return corners.map((handle) => ({
      handle,
      point: handlePoint(only, handle),
      anchor: handlePoint(only, opposite(handle)),
    }));
  }
  const bounds = unionOf(items.map(boundsOf));
  if (!bounds) return [];
  return corners.map((handle) => ({
    handle,
    point: pointOn(bounds, handle),
    anchor: pointOn(bounds, opposite(handle)),
  }));
}

/** The eight handles of a trim. */
export const trimGrips = (item: Item): Grip[] =>
  HANDLES.map((handle) => ({
    handle,
    point: handlePoint(item, handle),
    anchor: handlePoint(item, opposite(handle)),
  }));

/** The grip within reach of a point, the nearest of them. */
export function gripAt(
  grips: readonly Grip[],
  view: StageView,
  pointPx: Point,
  pointerType: string,
): Grip | undefined {
  const reach = REACH_PX[pointerType as keyof typeof REACH_PX] ?? REACH_PX.mouse;
  let best: Grip | undefined;
  let bestPx = Number.POSITIVE_INFINITY;
  for (const grip of grips) {
    const at = boardToScreen(view.camera, view.viewport, grip.point);
    const away = Math.max(Math.abs(at.x - pointPx.x), Math.abs(at.y - pointPx.y));
    if (away <= reach && away < bestPx) {
      best = grip;
      bestPx = away;
    }
  }
  return best;
}

/** Cursor for dragging a handle, by the direction in which it lies from the middle as seen on screen. */
export function cursorFor(grip: Grip): string {
  const angle = Math.atan2(grip.point.y - grip.anchor.y, grip.point.x - grip.anchor.x);
  const eighth = Math.round(angle / (Math.PI / 4) + 8) % 4;
  return ['ew-resize', 'nwse-resize', 'ns-resize', 'nesw-resize'][eighth]!;
}
