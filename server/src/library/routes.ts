import { LIBRARY_ROUTES } from '@miradero/core/contracts';
import { findStanding, restorePictures, tellPictures } from '../database/bulk.ts';
import type { Knex } from '../database/connection.ts';
import {
  colourTag,
  listOfSource,
  listPurposes,
  listShownParts,
  listTags,
  searchLibrary,
} from '../database/library.ts';
import { notifyNews } from '../database/notify.ts';
import { type Route, routesFor } from '../requests/route.ts';

/** Up to so many pictures are told of one by one; beyond, windows ask anew. */
const TOLD_SINGLY = 60;

async function tellOf(knex: Knex, owner: string, pictures: readonly string[]): Promise<void> {
  await notifyNews(knex, owner, { kind: 'library' });
  if (pictures.length > TOLD_SINGLY) return;
  for (const picture of pictures) await notifyNews(knex, owner, { kind: 'picture', picture });
}

/** Everything under `/api/library`: searching, and saying something of many pictures at once. */
export const libraryRoutes = (knex: Knex): Route[] =>
  routesFor(LIBRARY_ROUTES, {
    'GET /api/library': ({ owner, query }) => searchLibrary(knex, owner, query),

    async 'GET /api/library/words'({ owner }) {
      const [tags, licences, creators, parts, purposes] = await Promise.all([
        listTags(knex, owner),
        listOfSource(knex, owner, 'licence'),
        listOfSource(knex, owner, 'creator'),
        listShownParts(knex, owner),
        listPurposes(knex, owner),
      ]);
      return { tags, licences, creators, parts, purposes };
    },

    async 'POST /api/library/bulk'({ owner, body }) {
      const told = await knex.transaction((trx) => tellPictures(trx, owner, body));
      await tellOf(knex, owner, body.pictures);
      return told;
    },

    async 'POST /api/library/restore'({ owner, body: { before, after } }) {
      const answer = await knex.transaction((trx) => restorePictures(trx, owner, before, after));
      await tellOf(
        knex,
        owner,
        before.map(({ picture }) => picture),
      );
      return answer;
    },

    'POST /api/library/standing': async ({ owner, body: { pictures } }) => ({
      boards: await findStanding(knex, owner, pictures),
    }),

    async 'PATCH /api/library/tags'({ owner, body: { name, colour } }) {
      await colourTag(knex, owner, name, colour);
      await notifyNews(knex, owner, { kind: 'library' });
    },
  });
