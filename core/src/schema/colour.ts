import type { FromSchema } from 'json-schema-to-ts';

const hex = { type: 'string', pattern: '^#[0-9a-f]{6}$' } as const;
const uuid = { type: 'string', format: 'uuid' } as const;

export const colourQuerySchema = {
  type: 'object',
  properties: { hex: { type: 'string', pattern: '^[0-9a-f]{6}$' } },
  required: ['hex'],
  additionalProperties: false,
} as const;
export type ColourQuery = FromSchema<typeof colourQuerySchema>;

/** Answer of `GET /api/colours/cmyk`: cyan, magenta, yellow, black, each 0..1, and by which profile. */
export interface CmykAnswer {
  readonly inks: readonly number[];
  readonly profile: string;
}

const guessSchema = {
  type: 'object',
  properties: { id: uuid, truth: hex, guess: hex },
  required: ['id', 'truth', 'guess'],
  additionalProperties: false,
} as const;
export const addGuessSchema = { $id: 'add-guess', ...guessSchema } as const;
export type AddGuess = FromSchema<typeof guessSchema>;

/** Of so many pictures at once. */
export const MOST_HISTOGRAMS = 500;
export const histogramsSchema = {
  $id: 'histograms',
  type: 'object',
  properties: { pictures: { type: 'array', items: uuid, minItems: 1, maxItems: MOST_HISTOGRAMS } },
  required: ['pictures'],
  additionalProperties: false,
} as const;
export type HistogramsAsked = FromSchema<typeof histogramsSchema>;
/** How often each colour is in a picture, as `bytesOfHistogram` writes it, in base64. */
export interface KeptHistogram {
  readonly picture: string;
  readonly cells: string;
}

/** Palettes that are told of at most. */
export const MOST_KEPT_PALETTES = 1_000;
/** A palette on the shelf, for every board: set or altered as a whole. */
export const putPaletteSchema = {
  $id: 'put-palette',
  type: 'object',
  properties: {
    title: { type: 'string', format: 'text', maxLength: 200 },
    swatches: {
      type: 'array',
      items: {
        type: 'object',
        properties: {
          hex,
          share: { type: 'number', minimum: 0, maximum: 1 },
          name: { type: 'string', format: 'text', maxLength: 120 },
        },
        required: ['hex', 'share', 'name'],
        additionalProperties: false,
      },
      minItems: 1,
      maxItems: 24,
    },
    /** The subject that it belongs to. */
    subject: { type: ['string', 'null'], format: 'uuid' },
    /** From where that is seen: sector and band of `view-cells`; null: from everywhere. */
    viewpoint: {
      type: ['object', 'null'],
      properties: {
        sector: { type: 'integer', minimum: 0, maximum: 11 },
        band: { type: 'integer', minimum: 0, maximum: 3 },
      },
      required: ['sector', 'band'],
      additionalProperties: false,
    },
    isPutAway: { type: 'boolean' },
  },
  required: ['title', 'swatches', 'subject', 'viewpoint', 'isPutAway'],
  additionalProperties: false,
} as const;
export type PutPalette = FromSchema<typeof putPaletteSchema>;
export interface KeptPalette extends PutPalette {
  readonly id: string;
  readonly keptAt: string;
}

/** A colour that was guessed by eye, and what it was. */
export interface Guess extends AddGuess {
  readonly guessedAt: string;
}
/** The newest are told, the oldest of them first. */
export const MOST_GUESSES = 2_000;
