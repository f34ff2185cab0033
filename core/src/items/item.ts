import type { FromSchema } from 'json-schema-to-ts';

/** Board units beyond which nothing can be placed; keeps sums and products exact in double precision. */
const FAR = 1e7;

/** Of an item, made by the client. */
export const itemIdSchema = { type: 'string', pattern: '^[0-9A-Za-z_-]{1,40}$' } as const;
const coordinate = { type: 'number', minimum: -FAR, maximum: FAR } as const;
export const lengthSchema = { type: 'number', minimum: 0.01, maximum: FAR } as const;
export const fractionSchema = { type: 'number', minimum: 0, maximum: 1 } as const;

/** Properties that items of every kind have, beside `id` and `kind`. Frames and units: `docs/architecture.md`. */
export const commonProperties = {
  stack: { type: 'string', pattern: '^[0-9A-Za-z]{1,200}$' },
  removed: { type: 'boolean' },
  centre: {
    type: 'object',
    properties: { x: coordinate, y: coordinate },
    required: ['x', 'y'],
    additionalProperties: false,
  },
  width: lengthSchema,
  /** degrees clockwise */
  turn: { type: 'number', minimum: -360, maximum: 360 },
  opacity: fractionSchema,
  /** The cluster in which it lies. */
  cluster: { ...itemIdSchema, type: ['string', 'null'] },
  /** Hands and layouts leave it where it is. */
  isFixed: { type: 'boolean' },
} as const;

/** What properties are that an item lacks: what undo sets them back to. */
const ABSENT: Readonly<Record<string, unknown>> = {
  ...{ cluster: null, isFixed: false, isStrip: false, drawing: null, blend: 'normal' },
  // Of notes
  ...{ role: 'remark', scale: null, ink: null, paper: null },
};

/** A property's value, also of an item from before there was such a property. */
export const propertyOf = (item: object, property: string): unknown =>
  property in item ? (item as Record<string, unknown>)[property] : ABSENT[property];

export const commonNames = [
  ...(['id', 'kind', 'stack', 'removed', 'centre', 'width', 'turn', 'opacity'] as const),
] as const;

const commonSchema = {
  type: 'object',
  properties: { id: itemIdSchema, kind: { type: 'string' }, ...commonProperties },
  required: commonNames,
  additionalProperties: false,
} as const;

/** What every item is, whatever its kind. */
export type CommonItem = FromSchema<typeof commonSchema>;

/** An item as it comes onto a board: upright and opaque. */
export const UPRIGHT = { removed: false, turn: 0, opacity: 1 } as const;
