/** A key that no page can guess. */
export const newClipKey = (): string =>
  [...crypto.getRandomValues(new Uint8Array(24))].map((byte) => byte.toString(16).padStart(2, '0')).join('');

/**
 * A bookmark that hands the page or picture at hand to this application by opening a route of it: a page's own policy
 * blocks everything else.
 */
export const bookmarkFor = (origin: string, clipKey: string): string =>
  `javascript:void(open('${origin}/clip?key=${clipKey}&address='+encodeURIComponent(location.href)))`;
