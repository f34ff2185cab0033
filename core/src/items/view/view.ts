import type { FromSchema } from 'json-schema-to-ts';
import type { Point } from '../../geometry/index.ts';
import { commonNames, commonProperties, itemIdSchema, lengthSchema, UPRIGHT } from '../item.ts';
import type { KindOfItem } from '../kind.ts';

/** A part of the board that is gone back to by its name or its number; it is kept with the board and is never seen on it. */
export const viewSchema = {
  $id: 'view',
  type: 'object',
  properties: {
    id: itemIdSchema,
    kind: { const: 'view' },
    ...commonProperties,
    height: lengthSchema,
    title: { type: 'string', format: 'text', maxLength: 200 },
    /** The key by which it is gone to; null where none was free. */
    number: { type: ['integer', 'null'], minimum: 1, maximum: 9 },
  },
  required: [...commonNames, 'height', 'title', 'number'],
  additionalProperties: false,
} as const;

export type SavedView = FromSchema<typeof viewSchema>;
export const isSavedView = (item: { readonly kind: string }): item is SavedView => item.kind === 'view';

export const viewKind: KindOfItem<SavedView> = {
  schema: viewSchema,
  title: 'View',
  isUnseen: true,
  heightOf: ({ height }) => height,
  sized: ({ height }, factor) => ({ height: height * factor }),
  picturesOf: () => [],
  wordsOf: ({ title }) => title,
};

type ViewStart = Pick<SavedView, 'id' | 'stack' | 'width' | 'height' | 'title' | 'number'> & {
  readonly centre: Point;
};
export const createView = (start: ViewStart): SavedView => ({ kind: 'view', ...UPRIGHT, ...start });
