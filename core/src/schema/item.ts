import type { FromSchema } from 'json-schema-to-ts';

/** Board units beyond which nothing can be placed; keeps sums and products exact in double precision. */
const FAR = 1e7;

/** Of an item, made by the client. */
export const itemIdSchema = { type: 'string', pattern: '^[0-9A-Za-z_-]{1,40}$' } as const;
const coordinate = { type: 'number', minimum: -FAR, maximum: FAR } as const;
const length = { type: 'number', minimum: 0.01, maximum: FAR } as const;
const fraction = { type: 'number', minimum: 0, maximum: 1 } as const;
const point = {
  type: 'object',
  properties: { x: coordinate, y: coordinate },
  required: ['x', 'y'],
  additionalProperties: false,
} as const;

/** Characters of a note. */
export const NOTE_MOST = 20_000;

/** Properties that every item has. */
const shared = {
  stack: { type: 'string', pattern: '^[0-9A-Za-z]{1,200}$' },
  removed: { type: 'boolean' },
  centre: point,
  width: length,
  /** degrees clockwise */
  turn: { type: 'number', minimum: -360, maximum: 360 },
  opacity: fraction,
} as const;
const sharedNames = ['id', 'kind', 'stack', 'removed', 'centre', 'width', 'turn', 'opacity'] as const;

const placementProperties = {
  ...shared,
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
} as const;

const noteProperties = {
  ...shared,
  height: length,
  text: { type: 'string', format: 'text', maxLength: NOTE_MOST },
} as const;

/** A picture standing on a board: its own place, size, turn, flip and trim. Frames and units: `docs/architecture.md`. */
export const placementSchema = {
  $id: 'placement',
  type: 'object',
  properties: { id: itemIdSchema, kind: { const: 'placement' }, ...placementProperties },
  required: [...sharedNames, 'picture', 'pictureWidth', 'pictureHeight', 'flipX', 'flipY', 'trim'],
  additionalProperties: false,
} as const;

/** Plain text on a board. Its text is one property: of two windows that edit it at once, the later one wins. */
export const noteSchema = {
  $id: 'note',
  type: 'object',
  properties: { id: itemIdSchema, kind: { const: 'note' }, ...noteProperties },
  required: [...sharedNames, 'height', 'text'],
  additionalProperties: false,
} as const;

export type Placement = FromSchema<typeof placementSchema>;
export type Note = FromSchema<typeof noteSchema>;
export type Item = Placement | Note;
export type ItemKind = Item['kind'];

export const ITEM_SCHEMAS = { placement: placementSchema, note: noteSchema } as const satisfies Record<
  ItemKind,
  unknown
>;

/**
 * What a `set` may hold, by kind; `id` and `kind` never change. A picture is exchanged for its larger copy in its place;
 * its pixel size may be set right, too: the browser that brought it read only its head.
 */
export const SET_SCHEMAS = {
  placement: {
    $id: 'placement-set',
    type: 'object',
    properties: placementProperties,
    minProperties: 1,
    additionalProperties: false,
  },
  note: {
    $id: 'note-set',
    type: 'object',
    properties: noteProperties,
    minProperties: 1,
    additionalProperties: false,
  },
} as const satisfies Record<ItemKind, unknown>;
