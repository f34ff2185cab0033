import { lookup as resolveHost } from 'node:dns';
import { isIP } from 'node:net';
import ipaddr from 'ipaddr.js';
import { ProblemError } from '../requests/problem.ts';

/** Below 1024 only what the web uses: a mail server answers to anything that is sent to it. */
const WEB_PORTS = new Set(['', '80', '443']);

/**
 * Reads an address that somebody typed, pasted or that a page names.
 * @throws ProblemError `address-unreadable`
 */
export function parseWebAddress(given: string): URL {
  const text = given.trim();
  const whole = /^[\w-]+(?:\.[\w-]+)+(?:[/?#:]|$)/.test(text) ? `https://${text}` : text;
  if (!URL.canParse(whole)) throw new ProblemError('address-unreadable');
  const address = new URL(whole);
  const isWeb = address.protocol === 'http:' || address.protocol === 'https:';
  if (!isWeb || address.username || address.password || address.hostname === '')
    throw new ProblemError('address-unreadable');
  if (!WEB_PORTS.has(address.port) && Number(address.port) < 1024)
    throw new ProblemError('address-unreadable');
  address.hash = '';
  return address;
}

const GIVEN_OUT = ipaddr.parseCIDR('2000::/3') as [ipaddr.IPv6, number];

/**
 * Whether a numeric address belongs to the public web. Everything else is refused: private, loopback, link-local,
 * shared, reserved, multicast, and IPv6 forms that carry an IPv4 address inside (compatible, mapped, 6to4, Teredo, NAT64).
 * Source: ranges of ipaddr.js 2 after IANA's special-purpose registries (RFC 6890); RFC 4291, 2.4 (global unicast).
 */
export function isPublic(numeric: string): boolean {
  if (!ipaddr.isValid(numeric)) return false;
  const address = ipaddr.process(numeric);
  if (address.range() !== 'unicast') return false;
  // Everything that is given out of IPv6 begins with 001; what carries an IPv4 address inside does not (`::127.0.0.1`).
  return address.kind() === 'ipv4' || address.match(GIVEN_OUT);
}

/** Which addresses may be asked. */
export class AddressRules {
  readonly #exceptions: ReadonlySet<string>;

  /** @param exceptions - hosts with port that are asked wherever they lie */
  constructor(exceptions: readonly string[]) {
    this.#exceptions = new Set(exceptions);
  }

  isException(address: URL): boolean {
    return this.#exceptions.has(address.host);
  }

  /** Checks what needs no look-up: numeric hosts, in whatever form they were written (URL makes them plain). */
  check(address: URL): void {
    if (this.isException(address)) return;
    const host = address.hostname.replace(/^\[|\]$/g, '');
    if (isIP(host) !== 0 ? !isPublic(host) : /(?:^|\.)localhost\.?$/i.test(host))
      throw new ProblemError('address-private');
  }
}

type LookupAnswer = (
  error: Error | null,
  address: string | { address: string; family: number }[],
  family?: number,
) => void;

type Resolve = (
  host: string,
  options: { all: true },
  answer: (error: Error | null, found: { address: string; family: number }[]) => void,
) => void;

/**
 * Looks a host up and hands on only public addresses: the connection is made to what was checked, not looked up again.
 * Every new connection looks up and checks anew, so that a name that leads elsewhere the second time gains nothing.
 */
export function lookUpPublic(
  host: string,
  options: { all?: boolean },
  answer: LookupAnswer,
  resolve: Resolve = resolveHost as Resolve,
): void {
  resolve(host, { all: true }, (error, found) => {
    if (error) {
      answer(error, '');
      return;
    }
    if (found.length === 0 || !found.every(({ address }) => isPublic(address))) {
      answer(new ProblemError('address-private'), '');
      return;
    }
    if (options.all) answer(null, found);
    else answer(null, found[0]!.address, found[0]!.family);
  });
}
