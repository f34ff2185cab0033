import { createHash } from 'node:crypto';
import { open, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Agent, errors, request } from 'undici';
import type { ReceivedFile } from '../intake/receive-upload.ts';
import { ProblemError } from '../requests/problem.ts';
import { makeWorkFolder } from '../storage/work-folders.ts';
import { type AddressRules, lookUpPublic, parseWebAddress } from './web-address.ts';

const MOST_REDIRECTS = 5;
/** A host that does not even take the call is not waited for. */
const CONNECT_MS = 5_000;
const HEADERS_MS = 10_000;
/** Between two pieces of a body. */
const PAUSE_MS = 10_000;
const WHOLE_MS = 45_000;
/** Sites answer strangers with nothing; this says honestly who asks. */
const CALLER = 'Mozilla/5.0 (compatible; Miradero; gathers what its user points at)';

export interface FetchLimits {
  readonly bytes: number;
  /** Everything together, ms. */
  readonly wholeMs?: number;
  /** The page on which the address stands; some sites hand pictures to their own pages only. */
  readonly page?: string;
  /** Ends it from outside, as being slow. */
  readonly signal?: AbortSignal;
  /** Stop quietly after so many bytes: enough for the head of a file. */
  readonly headBytes?: number;
}

const unguarded = new Agent({ connect: { timeout: CONNECT_MS }, connections: 4 });
const guarded = new Agent({
  connect: { timeout: CONNECT_MS, lookup: lookUpPublic as never },
  connections: 4,
});

function problemOf(error: unknown, signal: AbortSignal): unknown {
  if (error instanceof ProblemError) return error;
  const { cause, code } = error as { cause?: unknown; code?: string };
  if (cause instanceof ProblemError) return cause;
  const isSlow =
    signal.aborted ||
    error instanceof errors.HeadersTimeoutError ||
    error instanceof errors.BodyTimeoutError ||
    error instanceof errors.ConnectTimeoutError;
  if (isSlow) return new ProblemError('address-slow');
  const isBroken = error instanceof errors.UndiciError || error instanceof errors.HTTPParserError;
  if (isBroken || /^(E[A-Z]+|CERT_|ERR_TLS|ERR_SSL|DEPTH_|UNABLE_|HPE_)/.test(code ?? ''))
    return new ProblemError('address-unreachable');
  return error;
}

/**
 * Waits for `work` no longer than until `signal` ends it. A request that undici still keeps in a queue, because every
 * connection to its host is taken, does not hear its own signal (7.30: it is looked at when it gets a connection).
 *
 * @param onLate - does away with what comes all the same
 */
async function orAborted<T>(
  work: Promise<T>,
  signal: AbortSignal,
  onLate: (value: T) => void = () => {},
): Promise<T> {
  signal.throwIfAborted();
  let end: () => void = () => {};
  const aborted = new Promise<never>((_, reject) => {
    end = () => reject(signal.reason);
    signal.addEventListener('abort', end, { once: true });
  });
  try {
    return await Promise.race([work, aborted]);
  } catch (error) {
    if (signal.aborted) void work.then(onLate, () => {});
    throw error;
  } finally {
    signal.removeEventListener('abort', end);
  }
}

/** Asks one address, following redirects one by one, each checked like the first. */
async function ask(rules: AddressRules, first: URL, limits: FetchLimits, signal: AbortSignal) {
  let address = first;
  for (let redirects = 0; redirects <= MOST_REDIRECTS; redirects += 1) {
    rules.check(address);
    const asked = request(address.href, {
      dispatcher: rules.isException(address) ? unguarded : guarded,
      headers: {
        'user-agent': CALLER,
        accept: 'image/*,text/html;q=0.9,*/*;q=0.5',
        ...(limits.page ? { referer: limits.page } : {}),
      },
      headersTimeout: HEADERS_MS,
      bodyTimeout: PAUSE_MS,
      signal,
    });
    const answer = await orAborted(asked, signal, ({ body }) => body.destroy());
    const { statusCode, headers, body } = answer;
    if (statusCode < 300 || statusCode >= 400) return { address, answer };
    const location = Array.isArray(headers.location) ? headers.location[0] : headers.location;
    await orAborted(
      body.dump({ limit: 10_000, signal }).catch(() => {}),
      signal,
    );
    if (!location || !URL.canParse(location, address.href)) throw new ProblemError('address-unusable');
    address = parseWebAddress(new URL(location, address).href);
  }
  throw new ProblemError('address-circles');
}

/** Writes a body to a file, counting. @throws ProblemError `address-large`; with `headBytes` it just stops there */
async function writeBody(
  body: AsyncIterable<Buffer>,
  path: string,
  { bytes: mostBytes, headBytes }: FetchLimits,
): Promise<{ bytes: number; sha256: string }> {
  const most = headBytes ?? mostBytes;
  const hash = createHash('sha256');
  let bytes = 0;
  const file = await open(path, 'w');
  try {
    // Leaving the loop ends the connection.
    for await (const piece of body) {
      const taken = piece.subarray(0, most - bytes);
      hash.update(taken);
      bytes += taken.length;
      await file.write(taken);
      if (headBytes !== undefined && bytes >= most) break;
      if (taken.length < piece.length) throw new ProblemError('address-large');
    }
  } finally {
    await file.close();
  }
  return { bytes, sha256: hash.digest('hex') };
}

/** One file as it lies in a temporary folder, and the address it came from in the end. */
export interface FetchedFile extends ReceivedFile {
  readonly address: string;
}

/**
 * Fetches what lies at an address into a temporary file and hands it to `use`; the file is gone afterwards. The length
 * that the site tells is not believed: bytes are counted as they come.
 *
 * @throws ProblemError `address-…`
 */
export async function withFetchedFile<T>(
  rules: AddressRules,
  given: string,
  limits: FetchLimits,
  use: (file: FetchedFile) => Promise<T>,
): Promise<T> {
  const first = parseWebAddress(given);
  const folder = await makeWorkFolder();
  const signal = AbortSignal.any([
    AbortSignal.timeout(limits.wholeMs ?? WHOLE_MS),
    ...(limits.signal ? [limits.signal] : []),
  ]);
  try {
    let fetched: FetchedFile;
    try {
      const { address, answer } = await ask(rules, first, limits, signal);
      const { statusCode, body } = answer;
      if (statusCode !== 200) {
        await orAborted(
          body.dump({ limit: 10_000, signal }).catch(() => {}),
          signal,
        );
        throw new ProblemError('address-refused', `It answered ${statusCode}.`);
      }
      const path = join(folder, 'file');
      const { bytes, sha256 } = await writeBody(body, path, limits);
      const { pathname } = address;
      fetched = {
        address: address.href,
        fileName: pathname.split('/').pop() ?? '',
        ...{ path, bytes, sha256, isCutOff: false },
      };
    } catch (error) {
      throw problemOf(error, signal);
    }
    return await use(fetched);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
