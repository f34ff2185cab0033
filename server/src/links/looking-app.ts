import { LOOKER_CSS, LOOKER_PAGE } from '@miradero/core/board-file';
import { ImageRequestError, imageInformation } from '@miradero/core/formats';
import express, { type Express, type NextFunction, type Request, type Response, Router } from 'express';
import helmet from 'helmet';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import type { Knex } from '../database/connection.ts';
import type { OpenLink } from '../database/links.ts';
import type { Queue } from '../jobs/queue.ts';
import type { Decoders } from '../pixels/decoding/decoders.ts';
import { lookerProgram } from '../programs.ts';
import { findBlob } from '../storage/blob-store.ts';
import { sendBlob } from '../storage/send-blob.ts';
import { askForFile, bytesOfFile, fileNow } from './file-to-take.ts';
import { MAX_AREA, PartsOfPictures } from './image-parts.ts';
import { boardFor, choose, copyOf, enter, guestOf, linkOf, remark, saidBy, send } from './looking.ts';
import { LookingError } from './looking-error.ts';
import { ShownBoards } from './shown-boards.ts';

/** What one computer may ask in a minute. */
const ASKED_A_MINUTE = 3_000;
const SAID_A_MINUTE = 60;
/** Of copies of pictures alone: a page asks for all of a large board. */
const COPIES_A_MINUTE = 20_000;

const NOT_KEPT = 'no-store';
/** A browser that looks again within minutes need not ask again. */
const A_WHILE = 'private, max-age=300';

export interface LookingParts {
  readonly knex: Knex;
  readonly queue: Queue;
  readonly decoders: Decoders;
}

type Handler = (link: OpenLink, request: Request, response: Response) => Promise<void>;

/**
 * What those see who have a link, on a listener of its own: a page, a board, its pictures, what they say. Nothing else of the
 * owner can be reached from it: every address begins with the secret of a link that was not ended.
 */
export function lookingApp({ knex, queue, decoders }: LookingParts): Express {
  const app = express();
  app.disable('x-powered-by');
  app.set('etag', false);
  const asked = new RateLimiterMemory({ points: ASKED_A_MINUTE, duration: 60 });
  const said = new RateLimiterMemory({ points: SAID_A_MINUTE, duration: 60 });
  const copies = new RateLimiterMemory({ points: COPIES_A_MINUTE, duration: 60 });
  const limits = { asked, said, copies };
  const parts = new PartsOfPictures(knex, decoders);
  const shown = new ShownBoards(knex);
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          ...{ 'default-src': ["'none'"], 'script-src': ["'self'"], 'style-src': ["'self'"] },
          ...{ 'img-src': ["'self'"], 'connect-src': ["'self'"], 'base-uri': ["'none'"] },
          ...{ 'form-action': ["'none'"], 'frame-ancestors': ["'none'"] },
        },
      },
      strictTransportSecurity: false,
      referrerPolicy: { policy: 'no-referrer' },
      crossOriginResourcePolicy: false,
    }),
  );
  const router = Router({ mergeParams: true });
  const handle =
    (run: Handler, limit: keyof typeof limits = 'asked') =>
    async (request: Request, response: Response) => {
      const from = request.ip ?? '';
      await limits[limit].consume(from).catch(() => {
        throw new LookingError(429, 'That was much in a short time. It goes on in a minute.');
      });
      response.set('Cache-Control', NOT_KEPT);
      const link = await linkOf(knex, String((request.params as { secret?: string }).secret));
      await run(link, request, response);
    };
  const guest = (link: OpenLink, request: Request) => guestOf(knex, link, request.headers['x-guest']);
  const body = (request: Request) => (request.body ?? {}) as Record<string, unknown>;

  router.get(
    '/',
    handle(async (_link, request, response) => {
      // Its paths begin at the secret: without the stroke at its end they would begin beside it.
      if (!request.originalUrl.split('?')[0]!.endsWith('/'))
        response.redirect(308, `${request.originalUrl.split('?')[0]}/`);
      else response.type('html').send(LOOKER_PAGE);
    }),
  );
  router.get(
    '/looker.css',
    handle(async (_link, _request, response) => void response.type('css').send(LOOKER_CSS)),
  );
  router.get(
    '/looker.js',
    handle(async (_link, _request, response) => void response.type('js').send(await lookerProgram())),
  );
  router.get(
    '/board',
    handle(async (link, _request, response) => void response.json(boardFor(link, await shown.of(link)))),
  );
  router.get(
    '/said',
    handle(
      async (link, request, response) => void response.json(await saidBy(knex, await guest(link, request))),
    ),
  );
  router.get(
    '/viewer/:side/:file',
    handle(async (link, request, response) => {
      const { side, file } = request.params as { side: string; file: string };
      const picture = /^([0-9a-f-]{36})\.webp$/.exec(file)?.[1];
      if (!picture || (side !== '256' && side !== '1024'))
        throw new LookingError(404, 'This picture is not shown here.');
      const hash = copyOf(await shown.of(link), picture, Number(side));
      const facts = await findBlob(knex, hash);
      if (!facts) throw new LookingError(404, 'This picture is not shown here.');
      await sendBlob(knex, request, response, hash, facts, A_WHILE);
    }, 'copies'),
  );
  router.get(
    '/file/:id',
    handle(async (link, request, response) => {
      response.json(await fileNow(knex, link, fileId(request)));
    }),
  );
  router.get(
    '/file/:id/bytes',
    handle(async (link, request, response) => {
      const { hash, name } = await bytesOfFile(knex, link, fileId(request));
      const facts = await findBlob(knex, hash);
      if (!facts) throw new LookingError(404, 'This file is not kept any more.');
      response.attachment(name);
      await sendBlob(knex, request, response, hash, facts, NOT_KEPT);
    }),
  );
  router.get(
    '/originals/:picture',
    handle(async (link, request, response) => {
      const picture = link.withOriginals
        ? (await shown.of(link)).pictures.get(String(request.params.picture))
        : undefined;
      const facts = picture && (await findBlob(knex, picture.sha256));
      if (!picture || !facts) throw new LookingError(404, 'This original is not given.');
      response.attachment(picture.fileName);
      const asBytes = { ...facts, type: 'application/octet-stream' };
      await sendBlob(knex, request, response, picture.sha256, asBytes, NOT_KEPT);
    }),
  );
  // Parts of pictures for viewers of other sites: these alone may be asked from there. Source: IIIF Image API 3.0, 7.1.
  router.use('/iiif', (_request, response, next) => {
    response.set('Access-Control-Allow-Origin', '*');
    next();
  });
  router.get(
    '/iiif/:picture/info.json',
    handle(async (link, request, response) => {
      const { picture, address } = await imageOf(shown, link, request);
      response.set('Content-Type', 'application/ld+json;profile="http://iiif.io/api/image/3/context.json"');
      response.send(JSON.stringify(imageInformation(address, picture, MAX_AREA)));
    }),
  );
  router.get(
    '/iiif/:picture',
    handle(async (link, request, response) => {
      const { address } = await imageOf(shown, link, request);
      response.redirect(303, `${address}/info.json`);
    }),
  );
  router.get(
    '/iiif/:picture/:region/:size/:rotation/:file',
    handle(async (link, request, response) => {
      const { picture } = await imageOf(shown, link, request);
      const { region, size, rotation, file } = request.params as Record<string, string>;
      const [, quality = '', format = ''] = /^([^.]*)\.(.*)$/.exec(file!) ?? [];
      const bytes = await parts.jpegOf(picture, {
        region: region!,
        size: size!,
        rotation: rotation!,
        quality,
        format,
      });
      response.set('Cache-Control', A_WHILE).type('image/jpeg').send(bytes);
    }),
  );

  const json = express.json({ limit: 20_000, type: 'application/json' });
  router.post(
    '/guests',
    json,
    handle(async (link, request, response) => {
      response.status(201).json(await enter(knex, link, body(request).name));
    }, 'said'),
  );
  router.post(
    '/choices',
    json,
    handle(async (link, request, response) => {
      const { item, choice } = body(request);
      await choose(knex, await shown.of(link), await guest(link, request), item, choice);
      response.json({});
    }, 'said'),
  );
  router.post(
    '/remarks',
    json,
    handle(async (link, request, response) => {
      const { item, text } = body(request);
      await remark(knex, await shown.of(link), await guest(link, request), item, text);
      response.status(201).json({});
    }, 'said'),
  );
  router.post(
    '/file',
    json,
    handle(async (link, _request, response) => {
      response.json(await askForFile(knex, queue, link));
    }, 'said'),
  );
  router.post(
    '/sent',
    json,
    handle(async (link, request, response) => {
      await send(knex, queue, link, await guest(link, request));
      response.json({});
    }, 'said'),
  );
  app.use('/l/:secret', router);
  app.use(
    (_request, response) => void response.status(404).json({ title: 'There is nothing at this address.' }),
  );
  app.use((error: unknown, _request: Request, response: Response, _next: NextFunction) =>
    answerError(error, response),
  );
  return app;
}

/** @throws LookingError for what is no id */
function fileId(request: Request): string {
  const { id = '' } = request.params as { id?: string };
  if (!/^[0-9a-f-]{36}$/.test(id)) throw new LookingError(404, 'There is no such file.');
  return id;
}

async function imageOf(shown: ShownBoards, link: OpenLink, request: Request) {
  const { pictures } = await shown.of(link);
  const picture = pictures.get(String((request.params as { picture?: string }).picture));
  if (picture?.state !== 'ready') throw new LookingError(404, 'This picture is not shown here.');
  const address = `${request.protocol}://${request.headers.host}/l/${link.secret}/iiif/${picture.id}`;
  return { picture, address };
}

function answerError(error: unknown, response: Response): void {
  if (response.headersSent) {
    response.destroy();
    return;
  }
  if (error instanceof LookingError || error instanceof ImageRequestError) {
    response.status(error.status).json({ title: error.message });
    return;
  }
  const status = (error as { status?: number }).status;
  // What Express says of bodies and addresses that cannot be read; nothing of ours is told.
  if (status === 413) response.status(413).json({ title: 'That is more than can be taken at once.' });
  else if (status !== undefined && status >= 400 && status < 500)
    response.status(status).json({ title: 'This is not understood.' });
  else response.status(500).json({ title: 'Something went wrong. Try again.' });
}
