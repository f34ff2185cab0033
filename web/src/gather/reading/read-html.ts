import { largestOfSrcset } from '@miradero/core/picture';
import type { BroughtAddress, BroughtFile } from './brought.ts';

/** Kinds whose bytes a page can carry in itself, with the ending that their name gets. */
const ENDINGS: Readonly<Record<string, string>> = {
  'image/jpeg': 'jpg',
  'image/png': 'png',
  'image/webp': 'webp',
  'image/avif': 'avif',
  'image/gif': 'gif',
  'image/svg+xml': 'svg',
};

const web = (given: string | null | undefined, base?: string): string | undefined => {
  if (!given || !URL.canParse(given, base)) return undefined;
  const address = new URL(given, base);
  return address.protocol === 'http:' || address.protocol === 'https:' ? address.href : undefined;
};

/** The bytes of a data address; undefined when it is broken. */
function bytesOf(address: string): Uint8Array<ArrayBuffer> | undefined {
  const [head = '', ...rest] = address.split(',');
  const body = rest.join(',');
  try {
    if (!/;base64$/i.test(head)) return new TextEncoder().encode(decodeURIComponent(body));
    return Uint8Array.from(atob(body.replace(/\s/g, '')), (letter) => letter.charCodeAt(0));
  } catch {
    return undefined;
  }
}

const wordsOf = (image: Element): string | undefined =>
  image.getAttribute('alt')?.trim() || image.getAttribute('title')?.trim() || undefined;

function fileIn(image: Element): BroughtFile | undefined {
  const source = image.getAttribute('src')!;
  const type = /^data:([\w/+.-]+)/.exec(source)?.[1]?.toLowerCase() ?? '';
  const bytes = bytesOf(source);
  if (!bytes || !(type in ENDINGS)) return undefined;
  const name = wordsOf(image);
  const file = new File([bytes], `${name ?? 'Pasted picture'}.${ENDINGS[type]}`, { type });
  return { kind: 'file', file, ...(name ? { name } : {}) };
}

function addressIn(image: Element, page: string | undefined): BroughtAddress | undefined {
  const plain = web(image.getAttribute('src'), page);
  const largest = largestOfSrcset(image.getAttribute('srcset') ?? '', page ?? 'about:blank')?.address;
  const address = web(largest) ?? plain;
  if (!address) return undefined;
  const link = web(image.closest('a[href]')?.getAttribute('href'), page);
  const name = wordsOf(image);
  const side = (attribute: string) => Number(image.getAttribute(attribute)) || undefined;
  const [width, height] = [side('width'), side('height')];
  return {
    ...{ kind: 'address', address, isPicture: true },
    ...(name ? { name } : {}),
    ...(page ? { page } : {}),
    ...(link && link !== address && link !== page ? { link } : {}),
    ...(width && height ? { width, height } : {}),
  };
}

/**
 * The pictures of a piece of a page, in their order: those that carry their bytes as files, the others by the largest
 * address they offer. The HTML is parsed as inert text: nothing in it runs or is fetched.
 *
 * @param page - address of the page, where it is known
 */
export function readHtml(html: string, page?: string): (BroughtFile | BroughtAddress)[] {
  const tree = new DOMParser().parseFromString(html, 'text/html');
  const source = web(tree.querySelector('base')?.getAttribute('href')) ?? page;
  return [...tree.querySelectorAll('img')].flatMap((image) => {
    const isData = /^data:image\//i.test(image.getAttribute('src') ?? '');
    return (isData ? fileIn(image) : addressIn(image, source)) ?? [];
  });
}
