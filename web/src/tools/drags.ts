import {
  afterDrag,
  alignTo,
  alongOneAxis,
  angleBetween,
  boundsOf,
  boundsOfItems,
  type Guide,
  guideRectangles,
  movableOf,
  moveBy,
  normalTurn,
  sizeAbout,
  sizeFactor,
  turnAbout,
  wrapTo,
} from '@miradero/core/board';
import {
  addPoints,
  centreOf,
  type Point,
  type Rectangle,
  subtractPoints,
  turnPoint,
} from '@miradero/core/geometry';
import { isSheet, SHEET_ID } from '@miradero/core/items';
import type { Item, Operation } from '@miradero/core/schema';
import { copyToBoard, type Seat } from '../desk/index.ts';
import { type Drag, type DragKeys, type Press, stageOf } from '../stage/index.ts';
import type { Grip, SideGrip } from './handles.ts';

/** Within this distance on screen things line up by themselves, CSS pixels. */
const ALIGN_PX = 6;
const TURN_STEP_DEG = 15;
/** Room for the words at the pointer while it is beyond the stage, CSS pixels. */
const OVER_PX = 160;

interface Computed {
  readonly operations: Operation[];
  readonly guides?: readonly Guide[];
  /** What the drag comes to, in figures. */
  readonly figure?: string;
}

/** A drag that previews operations and makes them one change at its end. */
function operating(
  seat: Seat,
  compute: (point: Point, keys: DragKeys) => Computed,
  onClick: () => void = () => {},
  andThen: (operations: readonly Operation[]) => Operation[] = () => [],
): Drag {
  const { session } = seat.desk;
  let computed: Computed = { operations: [] };
  const show = (point: Point, keys: DragKeys) => {
    computed = compute(point, keys);
    session.preview(computed.operations);
    const { guides = [], figure } = computed;
    seat.mark({ guides, figure: figure === undefined ? undefined : { text: figure, at: point } });
  };
  return {
    move(point, keys) {
      seat.followEdge(point, () => show(point, keys));
      show(point, keys);
    },
    end(isClick) {
      seat.leaveEdge();
      seat.mark({});
      if (isClick) onClick();
      else session.commit([...computed.operations, ...andThen(computed.operations)]);
    },
    cancel() {
      seat.leaveEdge();
      seat.mark({});
      session.preview([]);
    },
  };
}

/** What the dragged things may line up with: all others in view, and the guides of a sheet. */
function neighboursOf(seat: Seat, items: readonly Item[]): Rectangle[] {
  const dragged = new Set(items.map((item) => item.id));
  const { desk, view } = seat;
  const others = view.feed.itemsWithin(view.view).filter((item) => !dragged.has(item.id));
  const sheet = desk.now.areGuidesShown ? desk.session.items.get(SHEET_ID) : undefined;
  const lines = sheet && isSheet(sheet) ? guideRectangles(sheet.guides, view.view) : [];
  return [...others.map(boundsOf), ...lines];
}

const isSameView = (a: Rectangle, b: Rectangle): boolean =>
  a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height;

/** Moves the selection; selects what is pressed first. `Shift` keeps to one axis, `Alt` lines nothing up. */
export function moving(seat: Seat, item: Item, press: Press): Drag {
  const { point: start, isAdding, pointerType, isFollowing } = press;
  const { desk, view } = seat;
  const before = desk.selection;
  const wasSelected = desk.selection.has(item.id);
  if (!wasSelected) desk.select(isAdding ? [...desk.selection, item.id] : [item.id]);
  const from = view.toBoard(start);
  const { items: all } = desk.session;
  const items = movableOf(all, desk.selected);
  if (items.length === 0) return held(seat);
  const bounds = boundsOfItems(items);
  // Looked for once a view: the others stand still, and a full board has thousands.
  let neighbours: { view: Rectangle; bounds: Rectangle[] } | undefined;
  const boundsOfNeighbours = () => {
    if (neighbours === undefined || !isSameView(neighbours.view, view.view)) {
      neighbours = { view: view.view, bounds: neighboursOf(seat, items) };
    }
    return neighbours.bounds;
  };
  const drag = operating(
    seat,
    (point, { isShift, isAlt }) => {
      const free = subtractPoints(view.toBoard(point), from);
      const delta = isShift ? alongOneAxis(free) : free;
      if (isAlt) return { operations: moveBy(items, delta) };
      const moved = { ...bounds, x: bounds.x + delta.x, y: bounds.y + delta.y };
      const reach = ALIGN_PX / view.camera.scale;
      const { delta: snap, guides } = alignTo(moved, boundsOfNeighbours(), reach);
      const held = isShift ? { x: delta.x === 0 ? 0 : snap.x, y: delta.y === 0 ? 0 : snap.y } : snap;
      const isHeld = (guide: Guide) =>
        isShift && (guide.from.x === guide.to.x ? delta.x === 0 : delta.y === 0);
      return {
        operations: moveBy(items, addPoints(delta, held)),
        guides: guides.filter((guide) => !isHeld(guide)),
      };
    },
    () => {
      // With Shift it is selected, too, whatever is pressed on it.
      if ((!isAdding || isFollowing) && seat.tap?.(item.id, start, pointerType, isFollowing)) {
        desk.select(before);
        return;
      }
      if (!wasSelected) return;
      const others = [...desk.selection].filter((id) => id !== item.id);
      desk.select(isAdding ? others : [item.id]);
    },
    (operations) => afterDrag(all, operations, desk.gap),
  );
  return overOthers(seat, drag);
}

/** A drag that may end over another open board, its tab or beside this one: what is dragged stays where it was, and a copy stands there. */
function overOthers(seat: Seat, drag: Drag): Drag {
  const { desk, view } = seat;
  let over: { readonly board: string; readonly name: string; readonly at?: Point } | undefined;
  return {
    move(point, keys) {
      const { x: clientX, y: clientY } = view.onPage(point);
      const onPage = { clientX, clientY };
      const at = view.canvas.ownerDocument.elementFromPoint(onPage.clientX, onPage.clientY);
      const other = at?.closest<HTMLElement>('[data-tab-of]');
      const there = at && stageOf(at);
      over =
        other && other.dataset.tabOf !== desk.session.id
          ? {
              ...{ board: other.dataset.tabOf!, name: other.dataset.name ?? '' },
              ...(there && { at: there.toBoard(there.pointOf(onPage)) }),
            }
          : undefined;
      if (!over) {
        drag.move(point, keys);
        return;
      }
      drag.cancel();
      const { width, height } = view.viewport;
      const x = Math.max(0, Math.min(point.x, width - OVER_PX));
      const y = Math.max(0, Math.min(point.y, height - OVER_PX / 4));
      seat.mark({ figure: { text: `a copy to ${over.name}`, at: { x, y } } });
    },
    end(isClick) {
      if (!over) {
        drag.end(isClick);
        return;
      }
      drag.cancel();
      void copyToBoard(desk, over.board, over.name, over.at);
    },
    cancel: () => drag.cancel(),
  };
}

/** A drag of what is fixed in place: nothing moves, and it is said why. */
function held({ desk }: Seat): Drag {
  return {
    move: () => {},
    end: (isClick) => {
      if (!isClick) desk.say('Fixed in place.', ['J lets it go.']);
    },
    cancel: () => {},
  };
}

/** Sizes the selection by a corner; `Alt` sizes from the centre. */
export function sizing(seat: Seat, grip: Grip): Drag {
  const { desk, view } = seat;
  const items = movableOf(desk.session.items, desk.selected);
  if (items.length === 0) return held(seat);
  const centre = centreOf(boundsOfItems(items));
  return operating(seat, (point, { isAlt }) => {
    const anchor = isAlt ? centre : grip.anchor;
    const factor = sizeFactor(anchor, grip.point, view.toBoard(point));
    return {
      operations: sizeAbout(items, anchor, factor),
      figure: `${Math.round(factor * 1000) / 10}\u2009%`,
    };
  });
}

/** Draws the width at which the words of an item wrap by one of its sides. */
export function wrapping(seat: Seat, { item, handle, anchor }: SideGrip): Drag {
  const { desk, view } = seat;
  if (movableOf(desk.session.items, [item]).length === 0) return held(seat);
  const across = turnPoint({ x: handle.x, y: 0 }, item.turn);
  return operating(seat, (point) => {
    const { x, y } = subtractPoints(view.toBoard(point), anchor);
    const operation = wrapTo(item, Math.max(1, x * across.x + y * across.y), handle.x as 1 | -1);
    return {
      operations: operation ? [operation] : [],
      figure: `${Math.round(Number((operation as { set?: { width?: number } })?.set?.width ?? item.width))}`,
    };
  });
}

/** Turns items about their common centre; `Shift` in steps of 15°, from upright where it is one. */
export function turning(seat: Seat, given: readonly Item[], start: Point): Drag {
  const { desk, view } = seat;
  const items = movableOf(desk.session.items, given);
  if (items.length === 0) return held(seat);
  const centre = centreOf(boundsOfItems(items));
  const from = view.toBoard(start);
  const turnBefore = items.length === 1 ? items[0]!.turn : 0;
  return operating(seat, (point, { isShift }) => {
    desk.useHeld();
    const free = angleBetween(centre, from, view.toBoard(point));
    const turned = turnBefore + free;
    const turn = isShift ? Math.round(turned / TURN_STEP_DEG) * TURN_STEP_DEG : Math.round(turned * 10) / 10;
    return {
      operations: turnAbout(items, centre, turn - turnBefore),
      figure: `${normalTurn(turn).toFixed(isShift ? 0 : 1)}°`,
    };
  });
}
