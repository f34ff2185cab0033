import { COLOUR_ROUTES } from '@miradero/core/contracts';
import type { Knex } from 'knex';
import { addGuess, findGuesses } from '../database/guesses.ts';
import { findHistograms } from '../database/histograms.ts';
import { findPalettes, putPalette } from '../database/palettes.ts';
import { findSubject } from '../database/subjects.ts';
import { inksOf } from '../pixels/inks-of.ts';
import { ProblemError } from '../requests/problem.ts';
import { type Route, routesFor } from '../requests/route.ts';

/** Colours: what only the server knows of them, and what was guessed. */
export const colourRoutes = (knex: Knex): Route[] =>
  routesFor(COLOUR_ROUTES, {
    'GET /api/colours/cmyk': ({ query: { hex } }) => inksOf(hex),

    async 'POST /api/colours/histograms'({ owner, body: { pictures } }) {
      const found = await findHistograms(knex, owner, pictures);
      return {
        histograms: found.map(({ picture, cells }) => ({ picture, cells: cells.toString('base64') })),
      };
    },

    async 'GET /api/palettes'({ owner }) {
      return { palettes: await findPalettes(knex, owner) };
    },

    async 'POST /api/palettes/:id'({ owner, parameters: { id }, body }) {
      if (body.subject !== null && !(await findSubject(knex, owner, body.subject)))
        throw new ProblemError('subject-missing');
      if (!(await putPalette(knex, owner, id, body))) throw new ProblemError('palette-missing');
    },

    async 'GET /api/guesses'({ owner }) {
      return { guesses: await findGuesses(knex, owner) };
    },

    async 'POST /api/guesses'({ owner, body }) {
      await addGuess(knex, owner, body);
    },
  });
