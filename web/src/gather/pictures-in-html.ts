/** Kinds whose bytes a page can carry in itself, with the ending that their name gets. */
const ENDINGS: Readonly<Record<string, string>> = {
  'image/jpeg': 'jpg',
  'image/png': 'png',
  'image/webp': 'webp',
  'image/avif': 'avif',
  'image/gif': 'gif',
  'image/svg+xml': 'svg',
};

/**
 * Pictures whose bytes stand in pasted HTML itself (`<img src="data:…">`), in their order, named by their text. The HTML
 * is parsed as inert text: nothing in it runs or is fetched.
 */
export function picturesInHtml(html: string): File[] {
  const page = new DOMParser().parseFromString(html, 'text/html');
  const files: File[] = [];
  for (const image of page.querySelectorAll('img[src^="data:image/"]')) {
    const source = image.getAttribute('src')!;
    const type = /^data:([\w/+.-]+)/.exec(source)?.[1]?.toLowerCase() ?? '';
    const bytes = bytesOf(source);
    if (!bytes || !(type in ENDINGS)) continue;
    const name = image.getAttribute('alt')?.trim() || image.getAttribute('title')?.trim() || 'Pasted picture';
    files.push(new File([bytes], `${name}.${ENDINGS[type]}`, { type }));
  }
  return files;
}

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
