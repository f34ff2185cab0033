import type { Affine, Point, Rectangle } from '../geometry/index.ts';
import type { SetText } from '../typesetting/index.ts';

/**
 * What painters know: browsers, previews and exports draw these and nothing else. All lie in the item's own frame: origin at
 * its top left corner before flip and turn, board units, y down. Colours are CSS hex.
 */
export type Primitive = PictureQuad | TextRun | Path | PathsOnPicture;

/** The part `trim` (fractions of the upright picture) fills `place`. */
export interface PictureQuad {
  readonly kind: 'picture';
  readonly picture: string;
  readonly trim: Rectangle;
  readonly place: Rectangle;
  /** Board units covered by the longest side of the *whole* picture: what decides the level. */
  readonly longestSide: number;
  /** Where `trim` leans: fractions of the picture → `place` as the unit square; what goes beyond that is cut off. */
  readonly toPlace?: Affine;
  /** Corners of what is shown of it, by even-odd, where that is not all; `place` is the unit square. */
  readonly clip?: readonly Point[];
}

/** Set text; what does not fit into `clip` is cut off. */
export interface TextRun {
  readonly kind: 'text';
  readonly text: SetText;
  /** Its top left corner. */
  readonly at: { readonly x: number; readonly y: number };
  /** Board units per unit of the set text. */
  readonly scale: number;
  readonly colour: string;
  readonly clip: Rectangle;
}

export interface Path {
  readonly kind: 'path';
  /** Path data. Source: SVG 2, section 9.3. */
  readonly d: string;
  readonly fill?: string;
  readonly stroke?: { readonly colour: string; readonly width: number };
}

/** Paths that lie on a picture, above it: where it is cut off, they are. */
export interface PathsOnPicture {
  readonly kind: 'paths-on-picture';
  readonly place: Rectangle;
  /** Corners of what is shown, `place` being the unit square. */
  readonly clip: readonly Point[];
  /** Lowest first; each maps its own frame to `place` as the unit square. */
  readonly layers: readonly {
    readonly toPlace: Affine;
    /** 0..1 */
    readonly opacity: number;
    readonly paths: readonly Path[];
  }[];
}

/** One item to draw. */
export interface Drawn {
  readonly id: string;
  /** Maps the item's own frame to the board. */
  readonly frame: Affine;
  readonly width: number;
  readonly height: number;
  /** 0..1 */
  readonly opacity: number;
  /** What lies below shows through it, darkened: the colours of both are multiplied. */
  readonly isMultiplied?: true;
  readonly primitives: readonly Primitive[];
}

export const rectanglePath = ({ x, y, width, height }: Rectangle): string =>
  `M${x} ${y}h${width}v${height}h${-width}Z`;

export interface PictureSize {
  readonly id: string;
  /** Pixels, upright. */
  readonly width: number;
  readonly height: number;
}

/** The middle of a picture as a square, and how large the whole would be with it. */
export function squareQuad(
  picture: PictureSize,
  { x, y, side }: { readonly x: number; readonly y: number; readonly side: number },
): PictureQuad {
  const shorter = Math.min(picture.width, picture.height);
  const part = { width: shorter / picture.width, height: shorter / picture.height };
  return {
    ...{ kind: 'picture', picture: picture.id },
    trim: { x: (1 - part.width) / 2, y: (1 - part.height) / 2, ...part },
    place: { x, y, width: side, height: side },
    longestSide: (side * Math.max(picture.width, picture.height)) / shorter,
  };
}
