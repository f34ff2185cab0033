import {
  type AddGuess,
  addGuessSchema,
  type CmykAnswer,
  type ColourQuery,
  colourQuerySchema,
  type Guess,
  type HistogramsAsked,
  histogramsSchema,
  type KeptHistogram,
  type KeptPalette,
  type PutPalette,
  putPaletteSchema,
} from '../schema/index.ts';
import * as answer from './answers.ts';
import { type Contracts, typed } from './contract.ts';

const { listOf, objectOf } = answer;

export const COLOUR_ROUTES = {
  'GET /api/colours/cmyk': {
    ...{ summary: 'Inks of an sRGB colour, by a profile of no press in particular', whoMay: 'owner' },
    query: typed<ColourQuery>(colourQuerySchema),
    answer: typed<CmykAnswer>(objectOf({ inks: listOf(answer.number), profile: answer.text })),
  },
  'POST /api/colours/histograms': {
    ...{ summary: 'How often each colour is in pictures, as far as it was counted', whoMay: 'owner' },
    body: typed<HistogramsAsked>(histogramsSchema),
    answer: typed<{ histograms: readonly KeptHistogram[] }>(
      objectOf({ histograms: listOf(objectOf({ picture: answer.uuid, cells: answer.text })) }),
    ),
  },
  'GET /api/palettes': {
    ...{ summary: 'Palettes on the shelf, the latest first', whoMay: 'owner' },
    answer: typed<{ palettes: readonly KeptPalette[] }>(
      objectOf({
        palettes: listOf(
          objectOf({
            ...{ id: answer.uuid, title: answer.text, keptAt: answer.text, isPutAway: answer.flag },
            swatches: listOf(objectOf({ hex: answer.text, share: answer.number, name: answer.text })),
            ...{ subject: answer.orNull(answer.uuid), viewpoint: {} },
          }),
        ),
      }),
    ),
  },
  'POST /api/palettes/:id': {
    ...{ summary: 'Keep a palette on the shelf, or alter one', whoMay: 'owner' },
    parameters: { id: 'palette-missing' },
    body: typed<PutPalette>(putPaletteSchema),
    ...{ answer: 'nothing', status: 204, problems: ['subject-missing'] },
  },
  'GET /api/guesses': {
    ...{ summary: 'Colours that were guessed by eye, with what they were', whoMay: 'owner' },
    answer: typed<{ guesses: readonly Guess[] }>(
      objectOf({
        guesses: listOf(
          objectOf({ id: answer.uuid, truth: answer.text, guess: answer.text, guessedAt: answer.text }),
        ),
      }),
    ),
  },
  'POST /api/guesses': {
    ...{ summary: 'Keep a guess', whoMay: 'owner' },
    body: typed<AddGuess>(addGuessSchema),
    ...{ answer: 'nothing', status: 204 },
  },
} as const satisfies Contracts;
