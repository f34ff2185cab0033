import { pipeline } from 'node:stream/promises';
import type { Request, Response } from 'express';
import type { Knex } from '../database/connection.ts';
import { ProblemError } from '../requests/problem.ts';
import { type BlobFacts, readBlob, type Span } from './blob-store.ts';

/** The one span that a request asks for; undefined for all of it. @throws ProblemError `no-such-part` */
function spanOf(request: Request, bytes: number): Span | undefined {
  const ranges = request.range(bytes);
  if (ranges === -1) throw new ProblemError('no-such-part');
  // Several parts in one answer nobody needs here: all of it is an answer, too (RFC 9110, 14.2).
  return Array.isArray(ranges) && ranges.type === 'bytes' && ranges.length === 1 ? ranges[0] : undefined;
}

const NEVER_CHANGES = 'private, max-age=31536000, immutable';

/**
 * Sends bytes, or the span of them that is asked for.
 *
 * @param caching - `Cache-Control`; of bytes that never change under their name unless said otherwise
 */
export async function sendBlob(
  knex: Knex,
  request: Request,
  response: Response,
  hash: string,
  facts: BlobFacts,
  caching = NEVER_CHANGES,
): Promise<void> {
  const span = spanOf(request, facts.bytes);
  response.set({
    'X-Content-Type-Options': 'nosniff',
    'Content-Type': facts.type,
    'Content-Length': String(span ? span.end - span.start + 1 : facts.bytes),
    'Accept-Ranges': 'bytes',
    'Cache-Control': caching,
    ETag: `"${hash}"`,
    // Opened as a page of its own, a picture may do nothing.
    'Content-Security-Policy': "default-src 'none'; sandbox",
  });
  if (span) response.status(206).set('Content-Range', `bytes ${span.start}-${span.end}/${facts.bytes}`);
  await pipeline(readBlob(knex, hash, facts, span), response).catch((error) => {
    if (!response.destroyed) throw error;
  });
}
