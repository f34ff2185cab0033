import type { FromSchema } from 'json-schema-to-ts';
import { penOf } from '../../freehand/index.ts';
import { commonNames, commonProperties, itemIdSchema } from '../item.ts';
import type { KindOfItem } from '../kind.ts';
import { strokeCovers, strokeFlip, strokeHeight, strokeNames, strokeProperties } from './stroke.ts';

/** What a hand drew in one stroke. */
export const markSchema = {
  $id: 'mark',
  type: 'object',
  properties: { id: itemIdSchema, kind: { const: 'mark' }, ...commonProperties, ...strokeProperties },
  required: [...commonNames, ...strokeNames],
  additionalProperties: false,
} as const;

export type Mark = FromSchema<typeof markSchema>;
export const isMark = (item: { readonly kind: string }): item is Mark => item.kind === 'mark';

export const markKind: KindOfItem<Mark> = {
  schema: markSchema,
  title: 'Mark',
  heightOf: strokeHeight,
  covers: strokeCovers,
  flipOf: strokeFlip,
  mirrored: (mark, axis) => ({ [axis]: !mark[axis] }),
  restored: (mark) => ({ flipX: false, flipY: false, opacity: penOf(mark.pen).opacity }),
  picturesOf: () => [],
  wordsOf: () => '',
};
