import { applyOperation, boundsOf, boundsOfItems, freeCentre, sizeAbout } from '../board/index.ts';
import { centreOf, type Rectangle, unionOf, type Viewport } from '../geometry/index.ts';
import { kindOf } from '../items/index.ts';
import type { Item, Operation } from '../schema/index.ts';
import { fillWindow } from './fill.ts';

/** An item of its own size and turn, moved and scaled as a whole so that its bounds are `place`. Lies in no cluster. */
function placedAt(item: Item, place: Rectangle): Item {
  const bounds = boundsOf(item);
  const [scaled] = sizeAbout([item], centreOf(bounds), place.width / bounds.width);
  const here = applyOperation(item, scaled!)!;
  const from = centreOf(boundsOf(here));
  const to = centreOf(place);
  const centre = { x: here.centre.x + to.x - from.x, y: here.centre.y + to.y - from.y };
  return { ...here, centre, cluster: null };
}

/**
 * A few items of a board as they stand when they are shown alone: as large as they can be in a window, in their order.
 *
 * @param window - its shape; any unit, which becomes the board unit here
 * @returns them in their order, wherever they are on the board
 */
export function arrangeAlone(items: readonly Item[], window: Viewport, gap: number): Item[] {
  const bounds = items.map(boundsOf);
  const places = fillWindow(
    bounds.map(({ width, height }) => width / height),
    window,
    gap,
  );
  return items.map((item, index) => placedAt(item, places[index]!));
}

/** The same item where it was, with whatever else altered of it. */
export const keptPlace = (item: Item, here: Item): Item => placedAt(item, boundsOf(here));

/** What of an item says how large it is. */
const sizesOf = (item: Item): string[] => ['width', ...Object.keys(kindOf(item).sized?.(item, 1) ?? {})];

/**
 * What was done to an item that is shown alone, as it is done on its board: a trim keeps what it leaves where it is there,
 * and of moves and sizes nothing comes over, since places there are not those here.
 *
 * @param here - the item as it is shown alone
 * @returns undefined where nothing of it concerns the board
 */
export function toBoard(operation: Operation, onBoard: Item, here: Item): Operation | undefined {
  if ('create' in operation) return operation;
  const sizes = new Set(sizesOf(onBoard));
  const set: Record<string, unknown> = Object.fromEntries(
    Object.entries(operation.set).filter(([name]) => name !== 'centre' && !sizes.has(name)),
  );
  if ('trim' in operation.set) {
    const factor = onBoard.width / here.width;
    const after = applyOperation(here, operation)!;
    set.width = after.width * factor;
    set.centre = {
      x: onBoard.centre.x + (after.centre.x - here.centre.x) * factor,
      y: onBoard.centre.y + (after.centre.y - here.centre.y) * factor,
    };
  }
  return Object.keys(set).length > 0 ? ({ item: operation.item, set } as Operation) : undefined;
}

/**
 * Where items that were made among some that are shown alone come to stand on the board: at the size of those, in free space
 * near them, as they lie to each other.
 *
 * @param shown - those, as they stand on the board and as they are shown, in the same order
 * @param standing - everything that stands on the board
 */
export function createdOnBoard(
  created: readonly Item[],
  shown: readonly { readonly onBoard: Item; readonly here: Item }[],
  standing: readonly Item[],
  gap: number,
): Item[] {
  if (created.length === 0) return [];
  const factors = shown.map(({ onBoard, here }) => onBoard.width / here.width).sort((a, b) => a - b);
  const factor = factors[Math.floor(factors.length / 2)] ?? 1;
  const middle = centreOf(boundsOfItems(created));
  const scaled = sizeAbout(created, middle, factor).map(
    (operation, index) => applyOperation(created[index], operation)!,
  );
  const rectangles = standing.map(boundsOf);
  const around = unionOf(shown.map(({ onBoard }) => boundsOf(onBoard))) ?? unionOf(rectangles);
  const near = around ? { x: around.x + around.width, y: around.y + around.height / 2 } : { x: 0, y: 0 };
  const block = boundsOfItems(scaled);
  const centre = freeCentre(near, block, rectangles, gap);
  const from = centreOf(block);
  return scaled.map((item) => ({
    ...item,
    centre: { x: item.centre.x + centre.x - from.x, y: item.centre.y + centre.y - from.y },
  }));
}
