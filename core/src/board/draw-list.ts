import { type Affine, overlaps, type Rectangle } from '../geometry/index.ts';
import type { Item } from '../schema/index.ts';
import { boundsOf, frameMatrix, heightOf } from './item-geometry.ts';
import { compareStacking } from './stacking.ts';

/** One picture to draw: the part `trim` of it fills the unit square mapped by `frame` to board units. */
export interface DrawnPicture {
  readonly kind: 'placement';
  readonly id: string;
  readonly picture: string;
  readonly frame: Affine;
  readonly trim: Rectangle;
  /** 0..1 */
  readonly opacity: number;
  /** Board units covered by the longest side of the *whole* picture: what decides the level. */
  readonly longestSide: number;
}

export interface DrawnNote {
  readonly kind: 'note';
  readonly id: string;
  readonly frame: Affine;
  readonly width: number;
  readonly height: number;
  readonly text: string;
  /** 0..1 */
  readonly opacity: number;
}

export type Drawn = DrawnPicture | DrawnNote;

export function drawnOf(item: Item): Drawn {
  if (item.kind === 'note') {
    const { id, width, height, text, opacity } = item;
    return { kind: 'note', id, frame: frameMatrix(item), width, height, text, opacity };
  }
  const whole = { width: item.width / item.trim.width, height: heightOf(item) / item.trim.height };
  return {
    kind: 'placement',
    id: item.id,
    picture: item.picture,
    frame: frameMatrix(item),
    trim: item.trim,
    opacity: item.opacity,
    longestSide: Math.max(whole.width, whole.height),
  };
}

/** What stands where, lowest first, of the part of the board in `view`. One list serves screens, previews and exports. */
export const drawList = (items: Iterable<Item>, view: Rectangle): Drawn[] =>
  [...items]
    .filter((item) => !item.removed && overlaps(boundsOf(item), view))
    .sort(compareStacking)
    .map(drawnOf);
