import type { Affine, Rectangle } from '../geometry/index.ts';
import type { Path, PathsOnPicture, PictureQuad } from '../items/index.ts';

/**
 * A board as the viewer of a board file shows it: it knows no fonts and no kinds of items, so that it stays small and is the
 * same in every browser. Lengths are board units, y down.
 */
export interface ViewerBoard {
  readonly name: string;
  /** CSS colour behind the pictures. */
  readonly ground: string;
  readonly extent: Rectangle;
  readonly pictures: Readonly<Record<string, ViewerPicture>>;
  /** Outlines of letters, in units of their em, y up. */
  readonly letters: readonly { readonly d: string; readonly unitsPerEm: number }[];
  /** Lowest first. */
  readonly items: readonly ViewerItem[];
  /** Those of them that show a picture, as a page is read: indices. */
  readonly walk: readonly number[];
}

export interface ViewerPicture {
  readonly name: string;
  /** By whom, under which licence, where from; '' where nobody said. */
  readonly credit: string;
  /** Paths of copies of 256 and 1,024 px, from the page; null where there is none. */
  readonly small: string | null;
  readonly large: string | null;
  /** What is shown until a copy is there: a thumbhash, base64. */
  readonly hash: string | null;
}

export interface ViewerItem {
  readonly id: string;
  /** Its own frame → board. */
  readonly frame: Affine;
  readonly width: number;
  readonly height: number;
  readonly opacity: number;
  readonly isMultiplied?: true;
  /** What it says, for those who do not see it. */
  readonly words: string;
  readonly drawn: readonly ViewerPrimitive[];
  /** It lies beneath everything: no press takes it. */
  readonly isGround?: true;
}

export type ViewerPrimitive = PictureQuad | Path | PathsOnPicture | SetLetters;

/** Text whose letters stand where they were set. */
export interface SetLetters {
  readonly kind: 'letters';
  readonly at: { readonly x: number; readonly y: number };
  readonly scale: number;
  readonly colour: string;
  readonly clip: Rectangle;
  /** For each letter its number, x, baseline and size; length 4·n. */
  readonly letters: readonly number[];
  /** Lines under and through words, and boxes for letters that the serif lacks: x, y, width, height; length 4·n. */
  readonly rules: readonly number[];
  readonly boxes: readonly number[];
}
