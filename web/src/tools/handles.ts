import { boundsOfItems, HANDLES, type HandlePosition, handlePoint } from '@miradero/core/board';
import { boardToScreen, type Point, type Rectangle } from '@miradero/core/geometry';
import { flipOf, kindOf } from '@miradero/core/items';
import type { Item } from '@miradero/core/schema';
import type { StageView } from '../stage/index.ts';

/** Half the side of what can be grasped around a handle, CSS pixels. */
const REACH_PX = { mouse: 8, pen: 12, touch: 20 } as const;
/** How far below the picture its plumb bob hangs, by which it is turned; CSS pixels. */
export const PLUMB_PX = 26;

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
  if (items.length === 0) return [];
  const bounds = boundsOfItems(items);
  return corners.map((handle) => ({
    handle,
    point: pointOn(bounds, handle),
    anchor: pointOn(bounds, opposite(handle)),
  }));
}

/** A side by which the width of an item whose words wrap is drawn. */
export interface SideGrip extends Grip {
  readonly item: Item;
}

/** The two sides of what is selected alone, where its words wrap. */
export function sideGrips(items: readonly Item[]): SideGrip[] {
  const [only] = items;
  if (!only || items.length !== 1 || !kindOf(only).wrapped) return [];
  return HANDLES.filter(({ y }) => y === 0).map((handle) => ({
    ...{ item: only, handle },
    point: handlePoint(only, handle),
    anchor: handlePoint(only, opposite(handle)),
  }));
}

/** Where the plumb line of the selection begins and where its bob hangs, CSS pixels of the view; undefined for none. */
export function plumbOf(items: readonly Item[], view: StageView): { from: Point; bob: Point } | undefined {
  if (items.length === 0) return undefined;
  const toScreen = (p: Point) => boardToScreen(view.camera, view.viewport, p);
  const [only] = items;
  const low = { x: 0, y: 1 } as const;
  if (only && items.length === 1) {
    // Below as the picture itself has it: the line turns with it.
    const isFlipped = flipOf(only).y < 0;
    const from = toScreen(handlePoint(only, isFlipped ? { x: 0, y: -1 } : low));
    const centre = toScreen(only.centre);
    const length = Math.hypot(from.x - centre.x, from.y - centre.y) || 1;
    return {
      from,
      bob: {
        x: from.x + ((from.x - centre.x) / length) * PLUMB_PX,
        y: from.y + ((from.y - centre.y) / length) * PLUMB_PX,
      },
    };
  }
  const from = toScreen(pointOn(boundsOfItems(items), low));
  return { from, bob: { x: from.x, y: from.y + PLUMB_PX } };
}

/** Whether a point is on the plumb bob. */
export function isOnPlumb(
  items: readonly Item[],
  view: StageView,
  pointPx: Point,
  pointerType: string,
): boolean {
  const plumb = plumbOf(items, view);
  const reach = REACH_PX[pointerType as keyof typeof REACH_PX] ?? REACH_PX.mouse;
  return plumb !== undefined && Math.hypot(plumb.bob.x - pointPx.x, plumb.bob.y - pointPx.y) <= reach + 3;
}

/** The eight handles of a trim. */
export const trimGrips = (item: Item): Grip[] =>
  HANDLES.map((handle) => ({
    handle,
    point: handlePoint(item, handle),
    anchor: handlePoint(item, opposite(handle)),
  }));

/** The grip within reach of a point, the nearest of them. */
export function gripAt<G extends Grip>(
  grips: readonly G[],
  view: StageView,
  pointPx: Point,
  pointerType: string,
): G | undefined {
  const reach = REACH_PX[pointerType as keyof typeof REACH_PX] ?? REACH_PX.mouse;
  let best: G | undefined;
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

const svgCursor = (strokes: string, hot: number, fallback: string): string => {
  const line = (width: number, colour: string) =>
    `<g fill="none" stroke="${colour}" stroke-width="${width}" stroke-linecap="square">${strokes}</g>`;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="24" height="24">${line(4, 'white')}${line(1.6, 'black')}</svg>`;
  return `url("data:image/svg+xml,${encodeURIComponent(svg)}") ${hot} ${hot}, ${fallback}`;
};

/** An arc with a mark at its middle: turning. */
export const TURN_CURSOR = svgCursor(
  '<path d="M4 15a9 9 0 0 1 16 0"/><path d="M4 10v5h5M20 10v5h-5"/>',
  12,
  'grab',
);
/** Two marks along the upright: nearer and further. */
export const ZOOM_CURSOR = svgCursor('<path d="M12 4v16M8 8l4-4 4 4M8 16l4 4 4-4"/>', 12, 'zoom-in');
