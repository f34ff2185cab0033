import { PICTURE_ROUTES } from '@miradero/core/contracts';
import { TAKES_XMP, withXmp, xmpOf } from '@miradero/core/formats';
import { cleanName } from '@miradero/core/picture';
import { type AboutPicture, aboutPictureSchema } from '@miradero/core/schema';
import type { Request, Response } from 'express';
import { findBoard } from '../database/boards.ts';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { findStory, recordLook } from '../database/picture-story.ts';
import { findTiles } from '../database/picture-tiles.ts';
import {
  countLanding,
  findPicture,
  findPicturesById,
  findPicturesOfBoard,
  listLanding,
  listOnlyFor,
  listPictures,
  patchPicture,
} from '../database/pictures.ts';
import { mayRead } from '../database/reading-rights.ts';
import { moveOn } from '../drawings/move-on.ts';
import { withReceivedFiles } from '../intake/receive-upload.ts';
import { type Intake, takeIn } from '../intake/take-in.ts';
import { EXACT } from '../jobs/kinds.ts';
import { ProblemError } from '../requests/problem.ts';
import { type Route, routesFor } from '../requests/route.ts';
import { bodyParser, pictureIdFrom } from '../requests/validation.ts';
import { findBlob, readBytes } from '../storage/blob-store.ts';
import { sendBlob } from '../storage/send-blob.ts';
import { exactPixels } from './exact-pixels.ts';
import { settleCopy } from './settle-copy.ts';

const PAGE = 200;

const parseAbout = bodyParser<AboutPicture>(aboutPictureSchema);

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

/** Bytes that never change under their name, for those whose picture or board they are of. */
async function sendNamed(
  knex: Knex,
  { owner, parameters: { hash }, request, response }: NamedBytes,
): Promise<void> {
  if (!(await mayRead(knex, owner, hash))) {
    response.set('Cache-Control', 'no-store');
    throw new ProblemError('level-missing');
  }
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
}

interface NamedBytes {
  readonly owner: string;
  readonly parameters: { readonly hash: string };
  readonly request: Request;
  readonly response: Response;
}

/** @throws ProblemError `picture-missing` */
async function pictureOf(knex: Knex, owner: string, id: string) {
  const picture = await findPicture(knex, owner, id);
  if (!picture) throw new ProblemError('picture-missing');
  return picture;
}

/** Everything under `/api/pictures`, and the bytes of copies: `/api/levels`, `/api/atlases`. */
export function pictureRoutes(means: Omit<Intake, 'owner'>): Route[] {
  const { knex, queue } = means;
  return routesFor(PICTURE_ROUTES, {
    async 'POST /api/pictures'({ owner, request }) {
      const { answer, drawing } = await withReceivedFiles(request, async (files, others) => {
        const about = aboutFrom(others.about);
        return { answer: await takeIn({ ...means, owner }, files, about, others), drawing: about.drawing };
      });
      if (drawing && answer.pictures.length > 0) await moveOn({ knex, queue, owner }, drawing.id);
      if (answer.pictures.length > 0) return answer;
      if (answer.refused.length === 0)
        throw new ProblemError('malformed', 'No file came under the name "file".');
      throw new ProblemError('all-refused', undefined, answer);
    },

    async 'GET /api/pictures'({ owner, query: { board, ids, landing, onlyFor, after, limit = PAGE } }) {
      if (onlyFor !== undefined) return { pictures: await listOnlyFor(knex, owner, onlyFor) };
      if (landing) return { pictures: await listLanding(knex, owner, limit) };
      if (board !== undefined) return { pictures: await findPicturesOfBoard(knex, owner, board) };
      if (ids !== undefined) {
        const wanted = ids.split(',').map(pictureIdFrom);
        return { pictures: await findPicturesById(knex, owner, wanted) };
      }
      const last = after === undefined ? undefined : pictureIdFrom(after);
      return { pictures: await listPictures(knex, owner, limit, last) };
    },

    'GET /api/landing': async ({ owner }) => ({ count: await countLanding(knex, owner) }),

    'GET /api/pictures/:id': async ({ owner, parameters: { id } }) => ({
      picture: await pictureOf(knex, owner, id),
    }),

    async 'PATCH /api/pictures/:id'({ owner, parameters: { id }, body }) {
      const name = body.name === undefined ? undefined : cleanName(body.name);
      if (name === '') throw new ProblemError('malformed', 'A picture needs a name.');
      if (body.onlyFor && !(await findBoard(knex, owner, body.onlyFor)))
        throw new ProblemError('board-missing');
      if (!(await patchPicture(knex, owner, id, name === undefined ? body : { ...body, name })))
        throw new ProblemError('picture-missing');
      await notifyNews(knex, owner, { kind: 'picture', picture: id });
      return { picture: await pictureOf(knex, owner, id) };
    },

    async 'POST /api/pictures/:id/copies'({ owner, parameters: { id }, body: { other, keep } }) {
      const settled = await settleCopy({ ...means, owner }, id, other, keep);
      return { picture: await pictureOf(knex, owner, keep === 'other' ? other : id), ...settled };
    },

    async 'POST /api/pictures/:id/looked'({ owner, parameters: { id } }) {
      if (!(await recordLook(knex, owner, id))) throw new ProblemError('picture-missing');
    },

    async 'GET /api/pictures/:id/story'({ owner, parameters: { id } }) {
      return findStory(knex, owner, (await pictureOf(knex, owner, id)).id);
    },

    async 'GET /api/pictures/:id/tiles'({ owner, parameters: { id }, response }) {
      const picture = await pictureOf(knex, owner, id);
      if (!picture.hasTiles) {
        response.set('Cache-Control', 'no-store');
        throw new ProblemError('level-missing');
      }
      response.set('Cache-Control', 'private, max-age=31536000, immutable');
      return { levels: await findTiles(knex, picture) };
    },

    async 'POST /api/pictures/:id/exact'({ owner, parameters: { id } }) {
      const { exact } = await pictureOf(knex, owner, id);
      if (exact === null) await knex.transaction((trx) => queue.send(trx, EXACT, { picture: id }));
    },

    async 'GET /api/pictures/:id/pixels'({ owner, parameters: { id }, query, response }) {
      response.set('Cache-Control', 'no-store');
      const pixels = await exactPixels(knex, owner, id, query);
      response.type('application/octet-stream').send(pixels);
    },

    // Where its kind takes no source, the source beside it.
    async 'GET /api/pictures/:id/with-source'({ owner, parameters: { id }, response }) {
      const picture = await pictureOf(knex, owner, id);
      const xmp = xmpOf(picture.name, picture.source, picture.useMark);
      const type = TAKES_XMP.find((one) => one === picture.type);
      const { width, height } = picture;
      const written = type && withXmp(await readBytes(knex, picture.sha256), type, xmp, width, height);
      response.set('X-Content-Type-Options', 'nosniff');
      if (written) response.type(picture.type).attachment(picture.fileName);
      else response.type('application/rdf+xml').attachment(`${picture.fileName}.xmp`);
      response.send(written ? Buffer.from(written) : xmp);
    },

    async 'GET /api/pictures/:id/original'({ owner, parameters: { id }, request, response }) {
      const picture = await pictureOf(knex, owner, id);
      const facts = await findBlob(knex, picture.sha256);
      if (!facts) throw new ProblemError('picture-missing');
      if (facts.type === 'image/svg+xml') response.attachment(`${picture.name}.svg`);
      await sendBlob(knex, request, response, picture.sha256, facts);
    },

    'GET /api/levels/:hash': (asked) => sendNamed(knex, asked),
    'GET /api/atlases/:hash': (asked) => sendNamed(knex, asked),
  });
}
