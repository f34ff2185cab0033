import type { FoundPage } from '@miradero/core/schema';
import { cutText, storableText } from '@miradero/core/text';
import { attribute, elementsOf, type parsePage, textOf } from './page-tree.ts';

type Page = ReturnType<typeof parsePage>;
type Linked = Readonly<Record<string, unknown>>;

const MOST_TEXT = 2_000;
const isObject = (value: unknown): value is Linked =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Title, author and licence of a page, and the pictures that it names in its head. */
export interface PageFacts extends Pick<FoundPage, 'title' | 'creator' | 'licence'> {
  readonly named: readonly { address: string; width?: number; height?: number }[];
}

/** Of one JSON-LD so much is looked at, and of one that made something so many names. */
const MOST_LOOKED_AT = 200;
const MOST_NAMES = 20;
/** Lists of names within lists of names are followed so deep. */
const DEEPEST_NAME = 4;

/** Every object of the page's JSON-LD, `@graph` opened; what cannot be read is left out. Source: JSON-LD 1.1, 7.2. */
function* linkedObjects(texts: readonly string[]): Generator<Linked> {
  for (const text of texts) {
    let value: unknown;
    try {
      value = JSON.parse(text);
    } catch {
      continue;
    }
    const waiting = [value];
    for (let count = 0; waiting.length > 0 && count < MOST_LOOKED_AT; count += 1) {
      const one = waiting.shift();
      if (Array.isArray(one)) waiting.push(...one.slice(0, MOST_LOOKED_AT));
      else if (isObject(one)) {
        yield one;
        if ('@graph' in one) waiting.push(one['@graph']);
        for (const key of ['mainEntity', 'image', 'associatedMedia'])
          if (isObject(one[key])) waiting.push(one[key]);
      }
    }
  }
}

const plain = (value: unknown): string | null =>
  typeof value === 'string' && value.trim() !== ''
    ? cutText(storableText(value).replace(/\s+/g, ' ').trim(), MOST_TEXT) || null
    : null;

/** A person is given by name, as an object with a name, or as a list of such. */
function nameIn(value: unknown, depth = 0): string | null {
  if (!Array.isArray(value)) return isObject(value) ? plain(value.name) : plain(value);
  if (depth >= DEEPEST_NAME) return null;
  const names = value.slice(0, MOST_NAMES).map((one) => nameIn(one, depth + 1));
  return plain(names.filter((name) => name !== null).join(', '));
}

const sideOf = (value: unknown): number | undefined => {
  const side = Number(isObject(value) ? value.value : value);
  return Number.isFinite(side) && side > 0 ? side : undefined;
};

interface Gathered {
  readonly meta: Map<string, string>;
  readonly linked: string[];
  readonly byRelation: Map<string, { href: string | undefined; text: string }>;
  title: string | null;
}

function gather(page: Page): Gathered {
  const found: Gathered = { meta: new Map(), linked: [], byRelation: new Map(), title: null };
  for (const { element, holders } of elementsOf(page)) {
    const { tagName } = element;
    if (tagName === 'title' && !holders.some((one) => one.tagName === 'svg'))
      found.title ??= plain(textOf(element));
    if (tagName === 'meta') {
      const name = (attribute(element, 'property') ?? attribute(element, 'name'))?.toLowerCase();
      const content = attribute(element, 'content');
      if (name && content && !found.meta.has(name)) found.meta.set(name, content);
    }
    if (tagName === 'script' && attribute(element, 'type')?.toLowerCase() === 'application/ld+json')
      found.linked.push(textOf(element));
    for (const relation of attribute(element, 'rel')?.toLowerCase().split(/\s+/) ?? []) {
      const known = found.byRelation.get(relation);
      const text = textOf(element);
      // A link in the head has an address alone; one in the page says it in words.
      if (!known || (known.text === '' && text !== ''))
        found.byRelation.set(relation, { href: attribute(element, 'href'), text });
    }
  }
  return found;
}

/** Reads Open Graph, JSON-LD, `meta` and `rel`. @param base - address of the page */
export function readPageFacts(page: Page, base: string): PageFacts {
  const { meta, linked, byRelation, title } = gather(page);
  const objects = [...linkedObjects(linked)];
  const media = objects.find((one) =>
    /ImageObject|Photograph|VisualArtwork|CreativeWork/.test(String(one['@type'])),
  );
  const named: { address: string; width?: number; height?: number }[] = [];
  const add = (address: unknown, width?: number, height?: number) => {
    const text = typeof address === 'string' ? address : isObject(address) ? plain(address.url) : null;
    if (!text || !URL.canParse(text, base)) return;
    named.push({
      address: new URL(text, base).href,
      ...(width && height ? { width, height } : {}),
    });
  };
  for (const one of objects) if (one.contentUrl) add(one.contentUrl, sideOf(one.width), sideOf(one.height));
  add(meta.get('og:image'), sideOf(meta.get('og:image:width')), sideOf(meta.get('og:image:height')));
  const licence = byRelation.get('license');
  const licenceAddress =
    licence?.href && URL.canParse(licence.href, base) ? new URL(licence.href, base).href : null;
  const words = [media?.copyrightNotice, licence?.text].map(plain).find((one) => one !== null) ?? null;
  const told = plain(media?.license) ?? licenceAddress;
  return {
    title: plain(media?.name) ?? plain(meta.get('og:title')) ?? title,
    creator:
      nameIn(media?.creator ?? media?.author) ??
      plain(meta.get('author')) ??
      plain(byRelation.get('author')?.text),
    licence: words && told ? `${words} (${told})` : (words ?? told),
    named,
  };
}
