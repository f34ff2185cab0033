import { INTAKE_LIMITS } from '@miradero/core/picture';
import {
  type FetchLarger,
  type FetchPicture,
  fetchLargerSchema,
  fetchPictureSchema,
  type LookAtAddress,
  lookSchema,
  type PreviewQuery,
  previewQuerySchema,
} from '@miradero/core/schema';
import { json, Router } from 'express';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { findSettings } from '../database/owner-settings.ts';
import { ProblemError } from '../http/problem.ts';
import { bodyParser, queryParser } from '../http/validation.ts';
import { withFetchedFile } from './fetch-safely.ts';
import { findLarger } from './find-larger.ts';
import { type Gathering, keepFetched, lookAtAddress } from './look-at-address.ts';

const PREVIEW_SIDE = 320;
const PREVIEW_BYTES = 20 * 1024 * 1024;
/** Addresses of one owner a minute; previews come by the page, and are small. */
const ADDRESSES_A_MINUTE = 240;
const PREVIEWS_A_MINUTE = 900;

const parseLook = bodyParser<LookAtAddress>(lookSchema);
const parseFetch = bodyParser<FetchPicture>(fetchPictureSchema);
const parsePreview = queryParser<PreviewQuery>(previewQuerySchema);
const parseLarger = bodyParser<FetchLarger>(fetchLargerSchema);

/** Everything under `/api/gathering`: what the web is asked for on somebody's behalf. */
export function gatheringRoutes(gathering: Gathering): Router {
  const { knex, owner, rules, decoders } = gathering;
  const router = Router();
  const addresses = new RateLimiterMemory({ points: ADDRESSES_A_MINUTE, duration: 60 });
  const previews = new RateLimiterMemory({ points: PREVIEWS_A_MINUTE, duration: 60 });
  const count = async (limiter: RateLimiterMemory) => {
    const isWithin = await limiter.consume(owner).then(
      () => true,
      () => false,
    );
    if (!isWithin) throw new ProblemError('too-many-addresses');
  };

  router.post('/finds', json(), async (request, response) => {
    const { address, clipKey } = parseLook(request.body);
    if (clipKey !== undefined && (await findSettings(knex, owner)).clipKey !== clipKey)
      throw new ProblemError('wrong-key');
    await count(addresses);
    response.json(await lookAtAddress(gathering, address));
  });

  router.post('/pictures', json(), async (request, response) => {
    const { address, page, name, title, creator, licence } = parseFetch(request.body);
    await count(addresses);
    const source = {
      page: page ?? null,
      title: title ?? null,
      creator: creator ?? null,
      licence: licence ?? null,
    };
    const about = { ...(name ? { name } : {}), source };
    const taken = await withFetchedFile(
      rules,
      address,
      { bytes: INTAKE_LIMITS.bytes, ...(page ? { page } : {}) },
      (file) => keepFetched(gathering, file, about),
    );
    response.status(201).json(taken);
  });

  router.post('/larger', json(), async (request, response) => {
    const { picture, link } = parseLarger(request.body);
    await count(addresses);
    response.json(await findLarger(gathering, picture, link));
  });

  /** Pictures of other sites for the sheet: our own policy lets no page of ours load them itself. */
  router.get('/previews', async (request, response) => {
    const { address, page } = parsePreview({ ...request.query });
    if (request.headers['sec-fetch-mode'] === 'navigate') throw new ProblemError('malformed');
    await count(previews);
    const limits = { bytes: PREVIEW_BYTES, ...(page ? { page } : {}) };
    const small = await withFetchedFile(rules, address, limits, ({ path }) =>
      decoders.run('small', { path, side: PREVIEW_SIDE }).catch(() => {
        throw new ProblemError('address-unusable');
      }),
    );
    response
      .set({ 'Cache-Control': 'private, max-age=600', 'X-Content-Type-Options': 'nosniff' })
      .type('webp')
      .send(small);
  });

  return router;
}
