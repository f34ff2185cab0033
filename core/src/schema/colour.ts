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

/** A colour that was guessed by eye, and what it was. */
export interface Guess extends AddGuess {
  readonly guessedAt: string;
}
/** The newest are told, the oldest of them first. */
export const MOST_GUESSES = 2_000;
