import type { FromSchema } from 'json-schema-to-ts';
import {
  type Affine,
  compose,
  type Point,
  type Rectangle,
  scaling,
  translation,
} from '../../geometry/index.ts';
import { frameOf } from '../frame.ts';
import { commonNames, commonProperties, fractionSchema as fraction, itemIdSchema, UPRIGHT } from '../item.ts';
import type { KindOfItem } from '../kind.ts';

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
    flipX: { type: 'boolean' },
    flipY: { type: 'boolean' },
    trim: {
      type: 'object',
      properties: {
        x: fraction,
        y: fraction,
        width: { ...fraction, exclusiveMinimum: 0 },
        height: { ...fraction, exclusiveMinimum: 0 },
      },
      required: ['x', 'y', 'width', 'height'],
      additionalProperties: false,
    },
  },
  required: [...commonNames, 'picture', 'pictureWidth', 'pictureHeight', 'flipX', 'flipY', 'trim'],
  additionalProperties: false,
} as const;

export type Placement = FromSchema<typeof placementSchema>;

export const isPlacement = (item: { readonly kind: string }): item is Placement => item.kind === 'placement';

/** The whole picture, untrimmed. */
export const WHOLE: Rectangle = { x: 0, y: 0, width: 1, height: 1 };

/** Height follows from the aspect of the trimmed part. */
const heightOf = ({ width, trim, pictureWidth, pictureHeight }: Placement): number =>
  (width * trim.height * pictureHeight) / (trim.width * pictureWidth);

const flipOf = ({ flipX, flipY }: Placement) =>
  ({ x: flipX ? -1 : 1, y: flipY ? -1 : 1 }) as { x: 1 | -1; y: 1 | -1 };

/**
 * The matrix picture fraction → board, `T(centre) · R(turn) · F(flip) · S(size) · trim⁻¹`, where fractions 0..1 are of
 * the whole upright, unflipped picture.
 */
export function pictureToBoard(placement: Placement): Affine {
  const { x, y, width, height } = placement.trim;
  return compose(
    frameOf(placement, heightOf(placement), flipOf(placement)),
    scaling(placement.width, heightOf(placement)),
    scaling(1 / width, 1 / height),
    translation(-x, -y),
  );
}

export const placementKind: KindOfItem<Placement> = {
  schema: placementSchema,
  title: 'Picture',
  heightOf,
  flipOf,
  mirrored: (item, axis) => ({ [axis]: !item[axis] }),
  /** Stays at its scale; where its visible part is centred is kept by whoever restores it. */
  restored: ({ width, trim }) => ({ flipX: false, flipY: false, trim: WHOLE, width: width / trim.width }),
  picturesOf: ({ picture }) => [picture],
  exchanged: ({ trim, flipX }, other, isMirrored) => ({
    ...{ picture: other.id, pictureWidth: other.width, pictureHeight: other.height },
    ...(isMirrored ? { flipX: !flipX, trim: { ...trim, x: Math.max(0, 1 - trim.x - trim.width) } } : {}),
  }),
  wordsOf: ({ picture }, nameOf) => nameOf(picture) ?? '',
  primitivesOf(item) {
    const { picture, trim, width } = item;
    const height = heightOf(item);
    return [
      {
        kind: 'picture',
        picture,
        trim,
        place: { x: 0, y: 0, width, height },
        longestSide: Math.max(width / trim.width, height / trim.height),
      },
    ];
  },
};

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
