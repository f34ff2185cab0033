import type { FromSchema } from 'json-schema-to-ts';

/**
 * What a person set for all of their windows. `keys` holds, by action, the keys chosen instead of ours; an empty list
 * takes an action's keys away.
 */
export const settingsSchema = {
  $id: 'settings',
  type: 'object',
  properties: {
    keys: {
      type: 'object',
      propertyNames: { pattern: '^[a-z0-9-]{1,60}$' },
      maxProperties: 300,
      additionalProperties: {
        type: 'array',
        items: { type: 'string', minLength: 1, maxLength: 40 },
        maxItems: 4,
      },
    },
  },
  additionalProperties: false,
} as const;
export type Settings = FromSchema<typeof settingsSchema>;
