/** What came of one address. */
export interface Visit {
  readonly address: string;
  readonly status: number;
  readonly type: string;
  /** Addresses it sent on to, in order. */
  readonly via: readonly string[];
  readonly body: Buffer;
  /** Cut off: too long, or too late. */
  readonly isCut: boolean;
  readonly ms: number;
}

const MOST_BYTES = 6_000_000;
const MOST_HOPS = 6;

async function read(response: Response, until: AbortSignal): Promise<{ body: Buffer; isCut: boolean }> {
  const pieces: Uint8Array[] = [];
  let length = 0;
  try {
    for await (const piece of response.body ?? []) {
      pieces.push(piece);
      length += piece.length;
      if (length > MOST_BYTES || until.aborted) return { body: Buffer.concat(pieces), isCut: true };
    }
  } catch {
    return { body: Buffer.concat(pieces), isCut: true };
  }
  return { body: Buffer.concat(pieces), isCut: false };
}

/** Fetches an address by hand: redirects counted, bytes and time bounded. */
export async function visit(address: string, patienceMs: number): Promise<Visit> {
  const started = performance.now();
  const until = AbortSignal.timeout(patienceMs);
  const via: string[] = [];
  let at = address;
  for (;;) {
    const response = await fetch(at, { redirect: 'manual', signal: until });
    const onwards = response.headers.get('location');
    if (response.status >= 300 && response.status < 400 && onwards && via.length < MOST_HOPS) {
      via.push(at);
      at = new URL(onwards, at).href;
      await response.body?.cancel();
      continue;
    }
    const { body, isCut } = await read(response, until);
    const type = (response.headers.get('content-type') ?? '').split(';')[0]!;
    return { address: at, status: response.status, type, via, body, isCut, ms: performance.now() - started };
  }
}

const ATTRIBUTES = /(?:href|src|data-src|action)="([^"]+)"|srcset="([^"]+)"/g;

/** Every address of the same host that a page names. */
export function addressesIn(body: string, base: string): string[] {
  const found = new Set<string>();
  for (const [, single, several] of body.matchAll(ATTRIBUTES)) {
    const named = single ? [single] : (several ?? '').split(',').map((part) => part.trim().split(/\s+/)[0]!);
    for (const name of named) {
      if (name.startsWith('data:')) continue;
      const address = new URL(name.replaceAll('&amp;', '&'), base);
      if (address.host === new URL(base).host) found.add(address.href.split('#')[0]!);
    }
  }
  return [...found];
}

/** Follows every link and picture of a site from its first page on. */
export async function crawl(start: string, patienceMs: number): Promise<ReadonlyMap<string, Visit>> {
  const visits = new Map<string, Visit>();
  const waiting = [start];
  for (let next = waiting.shift(); next; next = waiting.shift()) {
    if (visits.has(next)) continue;
    const came = await visit(next, patienceMs);
    visits.set(next, came);
    if (came.type === 'text/html') waiting.push(...addressesIn(came.body.toString(), came.address));
  }
  return visits;
}
