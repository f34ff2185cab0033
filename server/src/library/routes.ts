import {
  type Bulk,
  bulkSchema,
  type LibraryQuery,
  libraryQuerySchema,
  type PutTag,
  putTagSchema,
  type Restore,
  restoreSchema,
  type Which,
  whichSchema,
} from '@miradero/core/schema';
import { json, Router } from 'express';
import { findStanding, restorePictures, tellPictures } from '../database/bulk.ts';
import type { Knex } from '../database/connection.ts';
import { colourTag, listOfSource, listTags, searchLibrary } from '../database/library.ts';
import { notifyNews } from '../database/notify.ts';
import { bodyParser, queryParser } from '../http/validation.ts';

/** Up to so many pictures are told of one by one; beyond, windows ask anew. */
const TOLD_SINGLY = 60;

const parseQuery = queryParser<LibraryQuery>(libraryQuerySchema);
const parseBulk = bodyParser<Bulk>(bulkSchema);
const parseRestore = bodyParser<Restore>(restoreSchema);
const parseStanding = bodyParser<Which>(whichSchema);
const parseTag = bodyParser<PutTag>(putTagSchema);
/** Five thousand pictures, each with what it was before. */
const MOST_BYTES = '16mb';

async function tellOf(knex: Knex, owner: string, pictures: readonly string[]): Promise<void> {
  await notifyNews(knex, owner, { kind: 'library' });
  if (pictures.length > TOLD_SINGLY) return;
  for (const picture of pictures) await notifyNews(knex, owner, { kind: 'picture', picture });
}

/** Everything under `/api/library`: searching, and saying something of many pictures at once. */
export function libraryRoutes(knex: Knex, owner: string): Router {
  const router = Router();

  router.get('/', async (request, response) => {
    response.json(await searchLibrary(knex, owner, parseQuery({ ...request.query })));
  });

  router.get('/words', async (_request, response) => {
    const [tags, licences, creators] = await Promise.all([
      listTags(knex, owner),
      listOfSource(knex, owner, 'licence'),
      listOfSource(knex, owner, 'creator'),
    ]);
    response.json({ tags, licences, creators });
  });

  router.post('/bulk', json({ limit: MOST_BYTES }), async (request, response) => {
    const bulk = parseBulk(request.body);
    const told = await knex.transaction((trx) => tellPictures(trx, owner, bulk));
    await tellOf(knex, owner, bulk.pictures);
    response.json(told);
  });

  router.post('/restore', json({ limit: MOST_BYTES }), async (request, response) => {
    const { before, after } = parseRestore(request.body);
    const answer = await knex.transaction((trx) => restorePictures(trx, owner, before, after));
    await tellOf(
      knex,
      owner,
      before.map(({ picture }) => picture),
    );
    response.json(answer);
  });

  router.post('/standing', json({ limit: MOST_BYTES }), async (request, response) => {
    const { pictures } = parseStanding(request.body);
    response.json({ boards: await findStanding(knex, owner, pictures) });
  });

  router.patch('/tags', json(), async (request, response) => {
    const { name, colour } = parseTag(request.body);
    await colourTag(knex, owner, name, colour);
    await notifyNews(knex, owner, { kind: 'library' });
    response.status(204).end();
  });

  return router;
}
