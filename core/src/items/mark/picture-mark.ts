import type { FromSchema } from 'json-schema-to-ts';
import { type Affine, compose, scaling } from '../../geometry/index.ts';
import { frameOf } from '../frame.ts';
import { commonNames, commonProperties, itemIdSchema } from '../item.ts';
import type { KindOfItem } from '../kind.ts';
import { type Placement, pictureToBoard, pictureToFrame } from '../placement/index.ts';
import { type Stroke, strokeFlip, strokeHeight, strokeNames, strokeProperties } from './stroke.ts';

/** Lengths on a picture are told in so many parts of its longer side, whatever its size in pixels. */
export const PICTURE_PARTS = 10_000;

/**
 * A stroke that belongs to a picture on the board: it lies on the whole, upright, unflipped picture, and goes wherever that
 * picture goes. Its frame is told in parts of the picture's longer side.
 */
export const pictureMarkSchema = {
  $id: 'picture-mark',
  type: 'object',
  properties: {
    id: itemIdSchema,
    kind: { const: 'picture-mark' },
    ...commonProperties,
    ...strokeProperties,
    /** The placement to which it belongs. */
    on: itemIdSchema,
  },
  required: [...commonNames, ...strokeNames, 'on'],
  additionalProperties: false,
} as const;

export type PictureMark = FromSchema<typeof pictureMarkSchema>;
export const isPictureMark = (item: { readonly kind: string }): item is PictureMark =>
  item.kind === 'picture-mark';

export const pictureMarkKind: KindOfItem<PictureMark> = {
  schema: pictureMarkSchema,
  title: 'Mark',
  // It is drawn with its picture.
  isUnseen: true,
  heightOf: strokeHeight,
  flipOf: strokeFlip,
  picturesOf: () => [],
  wordsOf: () => '',
};

type Shape = Pick<Placement, 'pictureWidth' | 'pictureHeight'>;

/** Parts of a picture's longer side → fractions of its sides. */
function partsToPicture({ pictureWidth, pictureHeight }: Shape): Affine {
  const longer = Math.max(pictureWidth, pictureHeight) / PICTURE_PARTS;
  return scaling(longer / pictureWidth, longer / pictureHeight);
}

/** Parts of a picture's longer side → the board, where it stands. */
export const partsToBoard = (placement: Placement): Affine =>
  compose(pictureToBoard(placement), partsToPicture(placement));

/** A mark's own frame → its picture's trimmed frame as the unit square. */
export const markToFrame = (mark: Stroke, placement: Placement): Affine =>
  compose(
    pictureToFrame(placement),
    partsToPicture(placement),
    frameOf(mark, strokeHeight(mark), strokeFlip(mark)),
  );

/** What a mark becomes where its picture is exchanged for its mirror image. */
export const markInMirror = (
  mark: PictureMark,
  { pictureWidth, pictureHeight }: Shape,
): Pick<PictureMark, 'centre' | 'flipX' | 'turn'> => {
  const across = (PICTURE_PARTS * pictureWidth) / Math.max(pictureWidth, pictureHeight);
  return { centre: { x: across - mark.centre.x, y: mark.centre.y }, flipX: !mark.flipX, turn: 0 - mark.turn };
};
