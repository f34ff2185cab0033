import { COLOUR_ROUTES } from '@miradero/core/contracts';
import type { Knex } from 'knex';
import { addGuess, findGuesses } from '../database/guesses.ts';
import { inksOf } from '../pixels/inks-of.ts';
import { type Route, routesFor } from '../requests/route.ts';

/** Colours: what only the server knows of them, and what was guessed. */
export const colourRoutes = (knex: Knex): Route[] =>
  routesFor(COLOUR_ROUTES, {
    'GET /api/colours/cmyk': ({ query: { hex } }) => inksOf(hex),

    async 'GET /api/guesses'({ owner }) {
      return { guesses: await findGuesses(knex, owner) };
    },

    async 'POST /api/guesses'({ owner, body }) {
      await addGuess(knex, owner, body);
    },
  });
