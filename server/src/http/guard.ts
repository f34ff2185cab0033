import { randomBytes } from 'node:crypto';
import { DATABASE_HEADER } from '@miradero/core/schema';
import type { RequestHandler } from 'express';
import helmet from 'helmet';
import { ProblemError } from '../requests/problem.ts';

const SAFE_METHODS = new Set(['GET', 'HEAD', 'OPTIONS']);

/**
 * Refuses hosts that are not ours (rebinding) and writes from other sites. `localhost` is sent on to the one canonical
 * address, because what a browser keeps belongs to its origin.
 */
export function guardOrigin(canonicalHost: string): RequestHandler {
  const port = canonicalHost.split(':')[1];
  return (request, response, next) => {
    const host = request.headers.host ?? '';
    // Of two hosts, or an address with one of its own (RFC 9112, 3.2), nobody could say which was checked.
    if ((request.headersDistinct.host?.length ?? 0) > 1 || !request.url.startsWith('/'))
      throw new ProblemError('foreign-host');
    if (host !== canonicalHost) {
      if (host === `localhost:${port}` && SAFE_METHODS.has(request.method)) {
        response.redirect(308, `http://${canonicalHost}${request.originalUrl}`);
        return;
      }
      throw new ProblemError('foreign-host');
    }
    const { origin } = request.headers;
    const site = request.headers['sec-fetch-site'];
    const isForeign =
      (origin !== undefined && origin !== `http://${canonicalHost}`) ||
      (site !== undefined && site !== 'same-origin' && site !== 'none');
    if (
      isForeign &&
      !(SAFE_METHODS.has(request.method) && request.headers['sec-fetch-mode'] === 'navigate')
    ) {
      throw new ProblemError('foreign-origin');
    }
    next();
  };
}

/**
 * Refuses writes that were meant for another database: a browser that was open while this server's was exchanged does not
 * know it yet, and what it sends would be taken for nonsense. A program that names none is believed.
 */
export function guardDatabase(databaseId: string): RequestHandler {
  return (request, _response, next) => {
    const meant = request.headers[DATABASE_HEADER];
    if (meant !== undefined && meant !== databaseId && !SAFE_METHODS.has(request.method))
      throw new ProblemError('foreign-database');
    next();
  };
}

/** A fresh nonce per response for libraries that inject `<style>`; everything else is refused by the policy. */
export function securityHeaders(): RequestHandler[] {
  return [
    (_request, response, next) => {
      response.locals.nonce = randomBytes(16).toString('base64');
      next();
    },
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          'default-src': ["'self'"],
          'script-src': ["'self'"],
          'style-src': [
            "'self'",
            (_request, response) => `'nonce-${(response as { locals?: { nonce?: string } }).locals?.nonce}'`,
          ],
          'img-src': ["'self'", 'data:', 'blob:'],
          'media-src': ["'self'", 'blob:'],
          'font-src': ["'self'"],
          'connect-src': ["'self'", 'blob:'],
          'worker-src': ["'self'", 'blob:'],
          'object-src': ["'none'"],
          'base-uri': ["'none'"],
          'form-action': ["'self'"],
          'frame-ancestors': ["'none'"],
        },
      },
      strictTransportSecurity: false,
      referrerPolicy: { policy: 'no-referrer' },
    }),
  ];
}
