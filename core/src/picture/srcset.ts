/** One picture that a page offers in several sizes; `width` in pixels, or a multiple of the plain size as `density`. */
export interface SourceCandidate {
  readonly address: string;
  readonly width?: number;
  readonly density?: number;
}

/**
 * Candidates of a `srcset` attribute, addresses made whole against `base`; what cannot be read is left out.
 * Source: HTML, 4.8.4.2.1 (an address may hold commas, and ends at white space).
 */
export function candidatesOfSrcset(srcset: string, base: string): SourceCandidate[] {
  const found: SourceCandidate[] = [];
  for (const match of srcset.matchAll(
    /([^\s,]\S*[^\s,]|[^\s,])(?:\s+(\d+(?:\.\d+)?)([wx])[^,]*|\s*)(?:,|$)/g,
  )) {
    const [, given, amount, unit] = match;
    if (!URL.canParse(given!, base)) continue;
    const address = new URL(given!, base).href;
    const measure =
      amount === undefined ? {} : unit === 'w' ? { width: Number(amount) } : { density: Number(amount) };
    found.push({ address, ...measure });
  }
  return found;
}

/** The largest of a `srcset`, as far as it says; undefined for an empty one. */
export function largestOfSrcset(srcset: string, base: string): SourceCandidate | undefined {
  const weight = ({ width, density }: SourceCandidate) => width ?? (density ?? 1) * 0.001;
  return candidatesOfSrcset(srcset, base).reduce<SourceCandidate | undefined>(
    (best, one) => (best === undefined || weight(one) > weight(best) ? one : best),
    undefined,
  );
}
