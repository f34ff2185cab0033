import type { FromSchema } from 'json-schema-to-ts';
import { linkListenerSchema } from './link.ts';

/**
 * What a person set for all of their windows. `keys` holds, by action, the keys chosen instead of ours; an empty list
 * takes an action's keys away. `positions`: where photographs were taken is kept. `clipKey` lets a page's bookmark hand
 * pictures in; another one takes its right away.
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
        items: { type: 'string', format: 'text', minLength: 1, maxLength: 40 },
        maxItems: 4,
      },
    },
    positions: { type: 'boolean' },
    /** Searches of the library that are kept, each as it stands in the library's address. */
    searches: {
      type: 'array',
      maxItems: 60,
      items: {
        type: 'object',
        properties: {
          name: { type: 'string', format: 'name', minLength: 1, maxLength: 100 },
          query: { type: 'string', format: 'text', maxLength: 2_000 },
        },
        required: ['name', 'query'],
        additionalProperties: false,
      },
    },
    /** Trusted places that are asked with a word: `%s` in the address stands for it. What is taken from there gets the tag. */
    places: {
      type: 'array',
      maxItems: 40,
      items: {
        type: 'object',
        properties: {
          name: { type: 'string', format: 'name', minLength: 1, maxLength: 100 },
          address: { type: 'string', format: 'text', pattern: '^https?://[^\\s]*%s', maxLength: 2_000 },
          tag: { type: 'string', format: 'name', minLength: 1, maxLength: 60 },
          isTab: { type: 'boolean' },
        },
        required: ['name', 'address'],
        additionalProperties: false,
      },
    },
    /** Pictures of the web that were refused, each by the UUID v5 of its address; the last ones. */
    refused: { type: 'array', maxItems: 2_000, items: { type: 'string', format: 'uuid' } },
    /** Space that layouts leave between items, board units. */
    gap: { type: 'number', minimum: 0, maximum: 1_000 },
    /** Where links to look at boards are served. */
    links: linkListenerSchema,
    clipKey: { type: 'string', pattern: '^[0-9A-Za-z_-]{16,64}$' },
  },
  additionalProperties: false,
} as const;
export type Settings = FromSchema<typeof settingsSchema>;
/** A trusted place that is asked with a word; `isTab`: it opens in a tab of its own instead of as pictures to pick from. */
export type PlaceToLook = NonNullable<Settings['places']>[number];
/** So many refused pictures are remembered. */
export const MOST_REFUSED = settingsSchema.properties.refused.maxItems;
