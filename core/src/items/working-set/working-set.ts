import type { FromSchema } from 'json-schema-to-ts';
import { commonNames, commonProperties, itemIdSchema, UPRIGHT } from '../item.ts';
import type { KindOfItem } from '../kind.ts';

/** More scatter the mind; whoever wants more is asked, and may. */
export const GENTLE_LIMIT = 3;
export const MOST_MEMBERS = 24;

/**
 * The few pictures wanted for one stage of the work on a board; kept with it, never seen on it. Stages follow each other in
 * the order of their stacking keys.
 */
export const workingSetSchema = {
  $id: 'working-set',
  type: 'object',
  properties: {
    id: itemIdSchema,
    kind: { const: 'working-set' },
    ...commonProperties,
    title: { type: 'string', format: 'text', maxLength: 200 },
    /** Ids of items of the same board, in the order they are shown; one that is gone is passed over. */
    members: { type: 'array', items: itemIdSchema, maxItems: MOST_MEMBERS, uniqueItems: true },
  },
  required: [...commonNames, 'title', 'members'],
  additionalProperties: false,
} as const;

export type WorkingSet = FromSchema<typeof workingSetSchema>;
export const isWorkingSet = (item: { readonly kind: string }): item is WorkingSet =>
  item.kind === 'working-set';

export const workingSetKind: KindOfItem<WorkingSet> = {
  schema: workingSetSchema,
  title: 'Working set',
  isUnseen: true,
  heightOf: ({ width }) => width,
  picturesOf: () => [],
  wordsOf: ({ title }) => title,
};

export const createWorkingSet = (
  start: Pick<WorkingSet, 'id' | 'stack' | 'title' | 'members'>,
): WorkingSet => ({
  kind: 'working-set',
  ...UPRIGHT,
  centre: { x: 0, y: 0 },
  width: 1,
  ...start,
});
