import { pipeline } from 'node:stream/promises';
import { cleanName } from '@miradero/core/picture';
import {
  type PatchPicture,
  type PicturesQuery,
  patchPictureSchema,
  picturesQuerySchema,
} from '@miradero/core/schema';
import { json, type Response, Router } from 'express';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { findTiles } from '../database/picture-tiles.ts';
import {
  findPicture,
  findPicturesById,
  findPicturesOfBoard,
  listPictures,
  renamePicture,
} from '../database/pictures.ts';
import { ProblemError, problemOf } from '../http/problem.ts';
import { bodyParser, parseHash, parseUuid, queryParser } from '../http/validation.ts';
import { withReceivedFiles } from '../intake/receive-upload.ts';
import { takeIn } from '../intake/take-in.ts';
import type { Queue } from '../jobs/queue.ts';
import { type BlobFacts, findBlob, readBlob } from '../storage/blob-store.ts';

const PAGE = 200;

const parseQuery = queryParser<PicturesQuery>(picturesQuerySchema);
const parsePatch = bodyParser<PatchPicture>(patchPictureSchema);

async function sendBlob(knex: Knex, response: Response, hash: string, facts: BlobFacts): Promise<void> {
  response.set({
    'X-Content-Type-Options': 'nosniff',
    'Content-Type': facts.type,
    'Content-Length': String(facts.bytes),
    'Cache-Control': 'private, max-age=31536000, immutable',
    ETag: `"${hash}"`,
    // Opened as a page of its own, a picture may do nothing.
    'Content-Security-Policy': "default-src 'none'; sandbox",
  });
  await pipeline(readBlob(knex, hash, facts), response).catch((error) => {
    if (!response.destroyed) throw error;
  });
}

/** `/api/levels/:hash` and `/api/atlases/:hash`: bytes that never change under their name. */
export function blobRoutes(knex: Knex): Router {
  const router = Router();
  router.get('/:hash', async (request, response) => {
    const hash = parseHash(request.params.hash);
    if (request.headers['if-none-match'] === `"${hash}"`) {
      response.status(304).end();
      return;
    }
    const facts = await findBlob(knex, hash);
    // Originals leave by their picture alone; a drawing with scripts never as something to open.
    if (!facts || facts.type === 'image/svg+xml') {
      response.set('Cache-Control', 'no-store');
      throw new ProblemError('level-missing');
    }
    await sendBlob(knex, response, hash, facts);
  });
  return router;
}

/** Everything under `/api/pictures`. */
export function pictureRoutes(knex: Knex, queue: Queue, owner: string): Router {
  const router = Router();
  const idOf = (request: { params: Record<string, string | string[]> }) =>
    parseUuid(request.params.id, 'picture-missing');

  router.post('/', async (request, response) => {
    const answer = await withReceivedFiles(request, (files, tooMany) =>
      takeIn(knex, queue, owner, files, tooMany),
    );
    if (answer.pictures.length > 0) {
      response.status(201).json(answer);
      return;
    }
    if (answer.refused.length === 0)
      throw new ProblemError('malformed', 'No file came under the name "file".');
    response
      .status(422)
      .type('application/problem+json')
      .send(JSON.stringify({ ...problemOf('all-refused'), ...answer }));
  });

  router.get('/', async (request, response) => {
    const { board, ids, after, limit = PAGE } = parseQuery({ ...request.query });
    if (board !== undefined) {
      response.json({ pictures: await findPicturesOfBoard(knex, owner, board) });
      return;
    }
    if (ids !== undefined) {
      const wanted = ids.split(',').map((id) => parseUuid(id, 'picture-missing'));
      response.json({ pictures: await findPicturesById(knex, owner, wanted) });
      return;
    }
    const last = after === undefined ? undefined : parseUuid(after, 'picture-missing');
    response.json({ pictures: await listPictures(knex, owner, limit, last) });
  });

  router.get('/:id', async (request, response) => {
    const picture = await findPicture(knex, owner, idOf(request));
    if (!picture) throw new ProblemError('picture-missing');
    response.json({ picture });
  });

  router.patch('/:id', json(), async (request, response) => {
    const id = idOf(request);
    const name = cleanName(parsePatch(request.body).name);
    if (name === '') throw new ProblemError('malformed', 'A picture needs a name.');
    if (!(await renamePicture(knex, owner, id, name))) throw new ProblemError('picture-missing');
    await notifyNews(knex, owner, { kind: 'picture', picture: id });
    response.json({ picture: await findPicture(knex, owner, id) });
  });

  router.get('/:id/tiles', async (request, response) => {
    const picture = await findPicture(knex, owner, idOf(request));
    if (!picture) throw new ProblemError('picture-missing');
    if (!picture.hasTiles) {
      response.set('Cache-Control', 'no-store');
      throw new ProblemError('level-missing');
    }
    response.set('Cache-Control', 'private, max-age=31536000, immutable');
    response.json({ levels: await findTiles(knex, picture) });
  });

  router.get('/:id/original', async (request, response) => {
    const picture = await findPicture(knex, owner, idOf(request));
    const facts = picture && (await findBlob(knex, picture.sha256));
    if (!picture || !facts) throw new ProblemError('picture-missing');
    if (facts.type === 'image/svg+xml') response.attachment(`${picture.name}.svg`);
    await sendBlob(knex, response, picture.sha256, facts);
  });

  return router;
}
