import type { FromSchema } from 'json-schema-to-ts';
import {
  type Affine,
  compose,
  type Point,
  type Rectangle,
  rotation,
  scaling,
  translation,
} from '../../geometry/index.ts';
import { frameOf } from '../frame.ts';
import { commonNames, commonProperties, fractionSchema as fraction, itemIdSchema, UPRIGHT } from '../item.ts';
import type { KindOfItem } from '../kind.ts';
import type { PictureSize, Primitive } from '../primitives.ts';
import { isWithinOutline, mirroredOutline, outlinePolygon, outlineSchema } from './outline.ts';

/** A picture standing on a board: its own place, size, turn, flip and trim. */
export const placementSchema = {
  $id: 'placement',
  type: 'object',
  properties: {
    id: itemIdSchema,
    kind: { const: 'placement' },
    ...commonProperties,
    picture: { type: 'string', format: 'uuid' },
    pictureWidth: { type: 'integer', minimum: 1, maximum: 1_000_000 },
    pictureHeight: { type: 'integer', minimum: 1, maximum: 1_000_000 },
    /** The drawing whose newest version it shows. */
    drawing: { type: ['string', 'null'], format: 'uuid' },
    /** How it is mixed with what lies below it. Source: W3C Compositing and Blending Level 1, section 10.1. */
    blend: { enum: ['normal', 'multiply'] },
    flipX: { type: 'boolean' },
    flipY: { type: 'boolean' },
    trim: {
      type: 'object',
      properties: {
        x: fraction,
        y: fraction,
        width: { ...fraction, exclusiveMinimum: 0 },
        height: { ...fraction, exclusiveMinimum: 0 },
        /** Degrees by which its frame is turned clockwise about its middle, against the picture. */
        lean: { type: 'number', minimum: -45, maximum: 45 },
        /** What of its frame is kept, where that is not all of it. */
        outline: outlineSchema,
      },
      required: ['x', 'y', 'width', 'height'],
      additionalProperties: false,
    },
  },
  required: [...commonNames, 'picture', 'pictureWidth', 'pictureHeight', 'flipX', 'flipY', 'trim'],
  additionalProperties: false,
} as const;

export type Placement = FromSchema<typeof placementSchema>;

/**
 * What of a picture is shown: a frame, `width` and `height` fractions of the picture's sides, about the point that is the middle
 * of the rectangle.
 */
export type Trim = Placement['trim'];

export const isPlacement = (item: { readonly kind: string }): item is Placement => item.kind === 'placement';

/** Whether the colours of an item are multiplied with those of what lies below it. */
export const isMultiplied = (item: { readonly kind: string }): boolean =>
  isPlacement(item) && item.blend === 'multiply';

/** Whether a placement shows its picture as it came: then its file is the best that can be given. */
export const isAsItCame = ({ trim, turn, flipX, flipY, opacity, blend }: Placement): boolean =>
  trim.width === 1 &&
  trim.height === 1 &&
  !trim.lean &&
  trim.outline === undefined &&
  turn === 0 &&
  !flipX &&
  !flipY &&
  opacity === 1 &&
  blend !== 'multiply';

/** The whole picture, untrimmed. */
export const WHOLE: Rectangle = { x: 0, y: 0, width: 1, height: 1 };

/** What of a placement says how large its picture stands. */
type Standing = Pick<Placement, 'width' | 'trim' | 'pictureWidth' | 'pictureHeight'>;

/**
 * What shows another picture in the place of one: as wide as it, and where its proportions are others no wider and no higher.
 *
 * @param other - pixels, upright
 */
export function shownInstead(
  standing: Standing,
  other: PictureSize,
): Pick<Placement, 'picture' | 'pictureWidth' | 'pictureHeight' | 'width'> {
  const { trim, width } = standing;
  const shown = { picture: other.id, pictureWidth: other.width, pictureHeight: other.height };
  const height = heightOf(standing);
  const next = heightOf({ ...shown, trim, width });
  // A pixel that rounding gave or took is none.
  const isAlike = Math.abs(next / height - 1) * Math.min(other.width, other.height) < 1.5;
  return { ...shown, width: isAlike ? width : Math.min(width, (width * height) / next) };
}

/** Height follows from the aspect of the trimmed part. */
const heightOf = ({ width, trim, pictureWidth, pictureHeight }: Standing): number =>
  (width * trim.height * pictureHeight) / (trim.width * pictureWidth);

const flipOf = ({ flipX, flipY }: Placement) =>
  ({ x: flipX ? -1 : 1, y: flipY ? -1 : 1 }) as { x: 1 | -1; y: 1 | -1 };

/** The matrix picture fraction → trimmed frame, `trim⁻¹`: the frame is the unit square. */
export function pictureToFrame({ trim, pictureWidth, pictureHeight }: Placement): Affine {
  const { x, y, width, height, lean = 0 } = trim;
  if (lean === 0) return compose(scaling(1 / width, 1 / height), translation(-x, -y));
  return compose(
    translation(0.5, 0.5),
    scaling(1 / (width * pictureWidth), 1 / (height * pictureHeight)),
    rotation(-lean),
    scaling(pictureWidth, pictureHeight),
    translation(-x - width / 2, -y - height / 2),
  );
}

/**
 * The matrix picture fraction → board, `T(centre) · R(turn) · F(flip) · S(size) · trim⁻¹`, where fractions 0..1 are of
 * the whole upright, unflipped picture.
 */
export const pictureToBoard = (placement: Placement): Affine =>
  compose(
    frameOf(placement, heightOf(placement), flipOf(placement)),
    scaling(placement.width, heightOf(placement)),
    pictureToFrame(placement),
  );

/** The trim of a picture's mirror image. */
const mirroredTrim = ({ x, y, width, height, lean, outline }: Trim): Trim => ({
  ...{ x: Math.max(0, 1 - x - width), y, width, height },
  ...(lean && { lean: -lean }),
  ...(outline && { outline: mirroredOutline(outline) }),
});

export const placementKind: KindOfItem<Placement> = {
  schema: placementSchema,
  title: 'Picture',
  heightOf,
  flipOf,
  mirrored: (item, axis) => ({ [axis]: !item[axis] }),
  /** Stays at its scale; where its visible part is centred is kept by whoever restores it. */
  restored: ({ width, trim, blend }) => ({
    ...{ flipX: false, flipY: false, trim: WHOLE, width: width / trim.width },
    ...(blend && { blend: 'normal' }),
  }),
  covers: ({ trim: { outline } }, at) => outline === undefined || isWithinOutline(outline, at),
  picturesOf: ({ picture }) => [picture],
  exchanged: ({ trim, flipX }, other, isMirrored) => ({
    ...{ picture: other.id, pictureWidth: other.width, pictureHeight: other.height },
    ...(isMirrored ? { flipX: !flipX, trim: mirroredTrim(trim) } : {}),
  }),
  wordsOf: ({ picture }, nameOf) => nameOf(picture) ?? '',
};

/** What painters draw of one. */
export function placementPrimitives(item: Placement): Primitive[] {
  const { picture, trim, width } = item;
  const height = heightOf(item);
  return [
    {
      kind: 'picture',
      picture,
      trim: { x: trim.x, y: trim.y, width: trim.width, height: trim.height },
      place: { x: 0, y: 0, width, height },
      longestSide: Math.max(width / trim.width, height / trim.height),
      ...(trim.lean && { toPlace: pictureToFrame(item) }),
      ...(trim.outline && { clip: outlinePolygon(trim.outline) }),
    },
  ];
}

type PlacementStart = Pick<Placement, 'id' | 'stack' | 'picture' | 'pictureWidth' | 'pictureHeight'> & {
  readonly centre: Point;
  readonly width: number;
} & Partial<Placement>;

/** A picture as it comes onto a board: upright, whole, opaque; `width` in board units. */
export const createPlacement = (start: PlacementStart): Placement => ({
  kind: 'placement',
  ...UPRIGHT,
  flipX: false,
  flipY: false,
  trim: WHOLE,
  ...start,
});
