import { overlaps, type Rectangle } from '../geometry/index.ts';
import { type Drawn, drawnOf, type Item } from '../items/index.ts';
import { isDrawn } from './clusters.ts';
import { boundsOf } from './item-geometry.ts';
import { marksByPicture } from './marks-on-pictures.ts';
import { compareStacking } from './stacking.ts';

/** What stands where and is seen, lowest first, of the part of the board in `view`. One list serves screens, previews and exports. */
export function drawList(items: Iterable<Item>, view: Rectangle): Drawn[] {
  const all = new Map([...items].map((item) => [item.id, item]));
  const marks = marksByPicture(all);
  return [...all.values()]
    .filter((item) => isDrawn(all, item) && overlaps(boundsOf(item), view))
    .sort(compareStacking)
    .map((item) => drawnOf(item, marks.get(item.id)));
}
