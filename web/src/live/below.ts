import { boundsOf, compareStacking } from '@miradero/core/board';
import { overlaps } from '@miradero/core/geometry';
import { isMultiplied, type Placement } from '@miradero/core/items';
import type { ViewOfMoving } from '../stage/index.ts';
import { Aside } from './aside.ts';

const belows = new WeakMap<ViewOfMoving, Map<string, Aside>>();

/**
 * Draws what lies below something that is live and seen through: what is painted has its poster there. The context is clipped to
 * where it stands, in CSS pixels of the view.
 *
 * @param isClear - its own pixels let something through
 */
export function drawBelow(
  context: CanvasRenderingContext2D,
  view: ViewOfMoving,
  item: Placement,
  isClear: boolean,
): void {
  const ofView = belows.get(view) ?? new Map<string, Aside>();
  belows.set(view, ofView);
  if (!isClear && item.opacity === 1 && !isMultiplied(item)) {
    ofView.get(item.id)?.close();
    ofView.delete(item.id);
    return;
  }
  const aside = ofView.get(item.id) ?? new Aside(view);
  ofView.set(item.id, aside);
  const bounds = boundsOf(item);
  const only = view.feed
    .itemsWithin(view.view)
    .filter((one) => compareStacking(one, item) < 0 && overlaps(boundsOf(one), bounds))
    .map(({ id }) => id);
  aside.draw(context, { only, ground: view.ground });
}
