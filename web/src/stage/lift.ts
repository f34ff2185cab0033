import { compareStacking, frameMatrix } from '@miradero/core/board';
import { type Affine, compose, invertAffine, type Rectangle } from '@miradero/core/geometry';
import { type Item, isMultiplied, isPlacement } from '@miradero/core/items';
import { type Buffer, discard, type ViewNow } from './buffer.ts';
import type { PaintTask } from './messages.ts';
import { sceneItemOf } from './scene.ts';
import type { BoardOnStage } from './scene-feed.ts';

/** How much larger than the view a buffer is, each way, as a share of it. */
export const MARGIN = 0.22;

/** Items under a hand, painted once on nothing and moved as a whole. */
export interface Lifted {
  readonly ids: readonly string[];
  readonly bitmap: ImageBitmap;
  readonly view: Rectangle;
  readonly scale: number;
  /** What of the items shows in the bitmap and may alter under the hand. */
  readonly look: string;
  /** Frame of the first item when it was lifted. */
  readonly lead: string;
  readonly frame: Affine;
  /** How stale it was where it shows another picture than its own and lacks pixels of that: with the next that come it is lifted anew. */
  readonly lacksAt: number | undefined;
}

/** Items on nothing, and the rest of the board without them where that was painted, too. */
export interface Lift {
  readonly lifted: Lifted;
  readonly below: Buffer | undefined;
}

/** Paints a part of the board as it is now. */
export type Paint = (request: PaintTask) => Promise<Buffer>;

/** The picture that an item shows in place of its own: a version of a drawing that is looked at. */
function insteadIn(board: BoardOnStage, item: Item): string | undefined {
  if (!isPlacement(item)) return undefined;
  const own = board.items.get(item.id);
  return own && isPlacement(own) && own.picture !== item.picture ? item.picture : undefined;
}

/** What of the held items a moved bitmap of them cannot show. */
export const lookOf = (board: BoardOnStage, ids: readonly string[]): string =>
  ids
    .flatMap((id) => board.shown(id) ?? [])
    .map((item) => `${item.opacity} ${isMultiplied(item)} ${insteadIn(board, item) ?? ''}`)
    .join();

/**
 * Paints items on nothing, and what is below them.
 *
 * @param isLoading - whether copies that would look better are asked for
 * @returns undefined where none of the items is there
 */
export async function paintLift(
  paint: Paint,
  board: BoardOnStage,
  now: ViewNow,
  ids: readonly string[],
  { withBelow, isLoading }: { readonly withBelow: boolean; readonly isLoading: boolean },
): Promise<Lift | undefined> {
  const items = ids.flatMap((id) => board.shown(id) ?? []);
  const [lead] = items;
  if (lead === undefined) return undefined;
  const { scale, ground } = now;
  const view = inflate2(now.view, MARGIN);
  const look = lookOf(board, ids);
  const isInstead = items.some((item) => insteadIn(board, item) !== undefined);
  const instead = [...items].sort(compareStacking).map(sceneItemOf);
  const [alone, below] = await Promise.all([
    // What a hand moves was seen before: what there is of it is enough.
    paint({ view, scale, ground: null, instead, isLoading: isLoading && isInstead }),
    withBelow ? paint({ view, scale, ground, except: ids, isLoading }) : undefined,
  ]);
  const isEnough = !isInstead || (alone.isComplete && alone.isSharp);
  const lifted = {
    ...{ ids, bitmap: alone.bitmap, view, scale: alone.scale },
    ...{ look, lead: lead.id, frame: frameMatrix(lead) },
    lacksAt: isEnough ? undefined : alone.staleness,
  };
  return { lifted, below };
}

/** Draws lifted items where the hand has them now. */
export function drawLifted(
  context: CanvasRenderingContext2D,
  board: BoardOnStage,
  lifted: Lifted,
  now: ViewNow,
): void {
  const item = board.shown(lifted.lead);
  if (item === undefined || item.removed) return;
  const toView: Affine = [now.scale, 0, 0, now.scale, -now.view.x * now.scale, -now.view.y * now.scale];
  const moved = compose(frameMatrix(item), invertAffine(lifted.frame));
  const fromBitmap: Affine = [1 / lifted.scale, 0, 0, 1 / lifted.scale, lifted.view.x, lifted.view.y];
  context.setTransform(...compose(toView, moved, fromBitmap));
  // Together they are multiplied where each of them is.
  if (lifted.ids.every((id) => isMultiplied(board.shown(id) ?? item)))
    context.globalCompositeOperation = 'multiply';
  context.drawImage(lifted.bitmap, 0, 0);
  context.globalCompositeOperation = 'source-over';
  context.setTransform(1, 0, 0, 1, 0, 0);
}

export function discardLift(lift: Lift | undefined): void {
  lift?.lifted.bitmap.close();
  discard(lift?.below);
}

/** Grows a view by a share of its size on each side. */
export const inflate2 = (view: Rectangle, share: number): Rectangle => ({
  x: view.x - view.width * share,
  y: view.y - view.height * share,
  width: view.width * (1 + 2 * share),
  height: view.height * (1 + 2 * share),
});

export const sameIds = (a: readonly string[] | undefined, b: readonly string[]): boolean =>
  a !== undefined && a.length === b.length && a.every((id, index) => id === b[index]);

/** Whether both hold the same, in whatever order. */
export function sameSet(a: readonly string[], b: readonly string[]): boolean {
  if (a.length !== b.length) return false;
  const all = new Set(a);
  return b.every((id) => all.has(id));
}
