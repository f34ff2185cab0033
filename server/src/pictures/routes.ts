import { pipeline } from 'node:stream/promises';
import { TAKES_XMP, withXmp, xmpOf } from '@miradero/core/formats';
import { cleanName } from '@miradero/core/picture';
import {
  type AboutPicture,
  aboutPictureSchema,
  type PatchPicture,
  type PicturesQuery,
  patchPictureSchema,
  picturesQuerySchema,
  type SettleCopy,
  settleCopySchema,
} from '@miradero/core/schema';
import { json, type Request, type Response, Router } from 'express';
import { findBoard } from '../database/boards.ts';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { findStory, recordLook } from '../database/picture-story.ts';
import { findTiles } from '../database/picture-tiles.ts';
import {
  findPicture,
  findPicturesById,
  findPicturesOfBoard,
  listLanding,
  listOnlyFor,
  listPictures,
  patchPicture,
} from '../database/pictures.ts';
import { ProblemError, problemOf } from '../http/problem.ts';
import { bodyParser, parseHash, parseUuid, queryParser } from '../http/validation.ts';
import { withReceivedFiles } from '../intake/receive-upload.ts';
import { type Intake, takeIn } from '../intake/take-in.ts';
import { type BlobFacts, findBlob, readBlob, readBytes, type Span } from '../storage/blob-store.ts';
import { settleCopy } from './settle-copy.ts';

const PAGE = 200;

const parseQuery = queryParser<PicturesQuery>(picturesQuerySchema);
const parsePatch = bodyParser<PatchPicture>(patchPictureSchema);
const parseAbout = bodyParser<AboutPicture>(aboutPictureSchema);
const parseSettle = bodyParser<SettleCopy>(settleCopySchema);

/** @throws ProblemError `malformed` for what is no JSON, or says what nobody asked */
function aboutFrom(text: string | undefined): AboutPicture {
  if (text === undefined) return {};
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new ProblemError('malformed', 'The field "about" is no JSON.');
  }
  const { name, ...rest } = parseAbout(value);
  const clean = name === undefined ? '' : cleanName(name);
  return { ...rest, ...(clean === '' ? {} : { name: clean }) };
}

/** The one span that a request asks for; undefined for all of it. @throws ProblemError `no-such-part` */
function spanOf(request: Request, bytes: number): Span | undefined {
  const ranges = request.range(bytes);
  if (ranges === -1) throw new ProblemError('no-such-part');
  // Several parts in one answer nobody needs here: all of it is an answer, too (RFC 9110, 14.2).
  return Array.isArray(ranges) && ranges.type === 'bytes' && ranges.length === 1 ? ranges[0] : undefined;
}

async function sendBlob(
  knex: Knex,
  request: Request,
  response: Response,
  hash: string,
  facts: BlobFacts,
): Promise<void> {
  const span = spanOf(request, facts.bytes);
  response.set({
    'X-Content-Type-Options': 'nosniff',
    'Content-Type': facts.type,
    'Content-Length': String(span ? span.end - span.start + 1 : facts.bytes),
    'Accept-Ranges': 'bytes',
    'Cache-Control': 'private, max-age=31536000, immutable',
    ETag: `"${hash}"`,
    // Opened as a page of its own, a picture may do nothing.
    'Content-Security-Policy': "default-src 'none'; sandbox",
  });
  if (span) response.status(206).set('Content-Range', `bytes ${span.start}-${span.end}/${facts.bytes}`);
  await pipeline(readBlob(knex, hash, facts, span), response).catch((error) => {
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
    await sendBlob(knex, request, response, hash, facts);
  });
  return router;
}

/** Everything under `/api/pictures`. */
export function pictureRoutes(intake: Intake): Router {
  const { knex, owner } = intake;
  const router = Router();
  const idOf = (request: { params: Record<string, string | string[]> }) =>
    parseUuid(request.params.id, 'picture-missing');

  router.post('/', async (request, response) => {
    const answer = await withReceivedFiles(request, (files, others) =>
      takeIn(intake, files, aboutFrom(others.about), others),
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
    const { board, ids, landing, onlyFor, after, limit = PAGE } = parseQuery({ ...request.query });
    if (onlyFor !== undefined) {
      response.json({ pictures: await listOnlyFor(knex, owner, onlyFor) });
      return;
    }
    if (landing) {
      response.json({ pictures: await listLanding(knex, owner, limit) });
      return;
    }
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
    const patch = parsePatch(request.body);
    const name = patch.name === undefined ? undefined : cleanName(patch.name);
    if (name === '') throw new ProblemError('malformed', 'A picture needs a name.');
    if (patch.onlyFor && !(await findBoard(knex, owner, patch.onlyFor)))
      throw new ProblemError('board-missing');
    if (!(await patchPicture(knex, owner, id, name === undefined ? patch : { ...patch, name })))
      throw new ProblemError('picture-missing');
    await notifyNews(knex, owner, { kind: 'picture', picture: id });
    response.json({ picture: await findPicture(knex, owner, id) });
  });

  router.post('/:id/copies', json(), async (request, response) => {
    const id = idOf(request);
    const { other, keep } = parseSettle(request.body);
    const settled = await settleCopy(intake, id, other, keep);
    response.json({ picture: await findPicture(knex, owner, keep === 'other' ? other : id), ...settled });
  });

  router.post('/:id/looked', async (request, response) => {
    if (!(await recordLook(knex, owner, idOf(request)))) throw new ProblemError('picture-missing');
    response.status(204).end();
  });

  router.get('/:id/story', async (request, response) => {
    const picture = await findPicture(knex, owner, idOf(request));
    if (!picture) throw new ProblemError('picture-missing');
    response.json(await findStory(knex, owner, picture.id));
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

  /** The original with its source written into it; where its kind takes none, the source beside it. */
  router.get('/:id/with-source', async (request, response) => {
    const picture = await findPicture(knex, owner, idOf(request));
    if (!picture) throw new ProblemError('picture-missing');
    const xmp = xmpOf(picture.name, picture.source, picture.useMark);
    const type = TAKES_XMP.find((one) => one === picture.type);
    const { width, height } = picture;
    const written = type && withXmp(await readBytes(knex, picture.sha256), type, xmp, width, height);
    response.set('X-Content-Type-Options', 'nosniff');
    if (written) response.type(picture.type).attachment(picture.fileName);
    else response.type('application/rdf+xml').attachment(`${picture.fileName}.xmp`);
    response.send(written ? Buffer.from(written) : xmp);
  });

  router.get('/:id/original', async (request, response) => {
    const picture = await findPicture(knex, owner, idOf(request));
    const facts = picture && (await findBlob(knex, picture.sha256));
    if (!picture || !facts) throw new ProblemError('picture-missing');
    if (facts.type === 'image/svg+xml') response.attachment(`${picture.name}.svg`);
    await sendBlob(knex, request, response, picture.sha256, facts);
  });

  return router;
}
