import { GATHERING_ROUTES } from '@miradero/core/contracts';
import { INTAKE_LIMITS } from '@miradero/core/picture';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { findSettings } from '../database/owner-settings.ts';
import { ProblemError } from '../requests/problem.ts';
import { type Route, routesFor } from '../requests/route.ts';
import { withFetchedFile } from './fetch-safely.ts';
import { findLarger } from './find-larger.ts';
import { type Gathering, keepFetched, lookAtAddress } from './look-at-address.ts';

const PREVIEW_SIDE = 320;
const PREVIEW_BYTES = 20 * 1024 * 1024;
/** Addresses of one owner a minute; previews come by the page, and are small. */
const ADDRESSES_A_MINUTE = 240;
const PREVIEWS_A_MINUTE = 900;

/** Everything under `/api/gathering`: what the web is asked for on somebody's behalf. */
export function gatheringRoutes(means: Omit<Gathering, 'owner'>): Route[] {
  const { knex, rules, decoders } = means;
  const addresses = new RateLimiterMemory({ points: ADDRESSES_A_MINUTE, duration: 60 });
  const previews = new RateLimiterMemory({ points: PREVIEWS_A_MINUTE, duration: 60 });
  const count = async (limiter: RateLimiterMemory, owner: string) => {
    const isWithin = await limiter.consume(owner).then(
      () => true,
      () => false,
    );
    if (!isWithin) throw new ProblemError('too-many-addresses');
  };
  return routesFor(GATHERING_ROUTES, {
    async 'POST /api/gathering/finds'({ owner, body: { address, clipKey } }) {
      if (clipKey !== undefined && (await findSettings(knex, owner)).clipKey !== clipKey)
        throw new ProblemError('wrong-key');
      await count(addresses, owner);
      return lookAtAddress({ ...means, owner }, address);
    },

    async 'POST /api/gathering/pictures'({ owner, body }) {
      const { address, page, name, title, creator, licence } = body;
      await count(addresses, owner);
      const source = {
        page: page ?? null,
        title: title ?? null,
        creator: creator ?? null,
        licence: licence ?? null,
      };
      const about = { ...(name ? { name } : {}), source };
      const limits = { bytes: INTAKE_LIMITS.bytes, ...(page ? { page } : {}) };
      return withFetchedFile(rules, address, limits, (file) => keepFetched({ ...means, owner }, file, about));
    },

    async 'POST /api/gathering/larger'({ owner, body: { picture, link } }) {
      await count(addresses, owner);
      return findLarger({ ...means, owner }, picture, link);
    },

    // Pictures of other sites for the sheet: our own policy lets no page of ours load them itself.
    async 'GET /api/gathering/previews'({ owner, query: { address, page }, request, response }) {
      if (request.headers['sec-fetch-mode'] === 'navigate') throw new ProblemError('malformed');
      await count(previews, owner);
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
    },
  });
}
