import { overlaps, type Rectangle } from '../geometry/index.ts';
import { type Drawn, drawnOf, type Item } from '../items/index.ts';
import { boundsOf } from './item-geometry.ts';
import { compareStacking } from './stacking.ts';

/** What stands where, lowest first, of the part of the board in `view`. One list serves screens, previews and exports. */
export const drawList = (items: Iterable<Item>, view: Rectangle): Drawn[] =>
  [...items]
    .filter((item) => !item.removed && overlaps(boundsOf(item), view))
    .sort(compareStacking)
    .map(drawnOf);
