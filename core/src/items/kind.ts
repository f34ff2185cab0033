import type { Point, Rectangle } from '../geometry/index.ts';
import type { CommonItem } from './item.ts';
import type { PictureSize } from './primitives.ts';

/** The form of an item's schema: its own properties beside those that all items have. */
export interface ItemSchema {
  readonly $id: string;
  readonly type: 'object';
  readonly properties: Readonly<Record<string, object>>;
  readonly required: readonly string[];
  readonly additionalProperties: false;
}

/**
 * Everything that tells one kind of item from another. A new kind is a folder with one of these, and a line in the table (and
 * one in that of what painters draw); nothing else asks which kind an item is.
 */
export interface KindOfItem<I extends CommonItem> {
  readonly schema: ItemSchema;
  /** What one is called where it has no name of its own. */
  readonly title: string;
  /** It is kept with the board, and neither drawn on it nor taken hold of. */
  readonly isUnseen?: true;
  /** It lies beneath everything and is drawn; no hand takes hold of it, and it is not counted to what stands on the board. */
  readonly isGround?: true;
  /** Board units. */
  heightOf(item: I): number;
  /**
   * Where it is taken hold of, in its own frame, board units; all of it where this is missing. What lies on the rest of it is
   * not in its way, and it is banded only as a whole.
   */
  gripOf?(item: I): Rectangle;
  /** Whether something of it is at a point, fractions of its own frame; everywhere where this is missing. */
  covers?(item: I, at: Point): boolean;
  /** -1 where it is mirrored; never for a kind that is not. */
  flipOf?(item: I): { readonly x: 1 | -1; readonly y: 1 | -1 };
  /** What follows, beside its width, when it is sized by `factor`. */
  sized?(item: I, factor: number): Partial<I>;
  /** How wide it becomes and what follows when it is drawn `width` wide and its words wrap anew; missing where none do. */
  wrapped?(item: I, width: number): Partial<I> & { readonly width: number; readonly height: number };
  /** What follows, beside its place and turn, when it is mirrored. */
  mirrored?(item: I, axis: 'flipX' | 'flipY'): Partial<I>;
  /** What gives it its original state back, beside being upright and opaque. */
  restored?(item: I): Partial<I>;
  /** Pictures that it refers to. */
  picturesOf(item: I): readonly string[];
  /** What shows `other` in place of the picture it refers to, which is of the same shape, maybe its mirror image. */
  exchanged?(item: I, other: PictureSize, isMirrored: boolean): Partial<I>;
  /** What stands on it in words, for search and for those who do not see it. */
  wordsOf(item: I, nameOf: (picture: string) => string | undefined): string;
}
