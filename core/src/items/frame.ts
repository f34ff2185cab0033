import { type Affine, compose, rotation, scaling, translation } from '../geometry/index.ts';
import type { CommonItem } from './item.ts';

/**
 * Maps an item's own frame (origin at its top left corner before flip and turn, board units) to the board.
 *
 * @param height - board units
 */
export const frameOf = (
  item: Pick<CommonItem, 'centre' | 'width' | 'turn'>,
  height: number,
  flip: { readonly x: 1 | -1; readonly y: 1 | -1 },
): Affine =>
  compose(
    translation(item.centre.x, item.centre.y),
    rotation(item.turn),
    scaling(flip.x, flip.y),
    translation(-item.width / 2, -height / 2),
  );
