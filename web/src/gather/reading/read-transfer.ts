import type { Brought, BroughtAddress, BroughtFile } from './brought.ts';
import { readHtml } from './read-html.ts';

/** Whether a line is an address of the web, and nothing else. */
const isAddress = (line: string): boolean => /^https?:\/\/\S+$/i.test(line) && URL.canParse(line);

/** Lines of a text that are addresses; undefined when any is something else. */
export function addressesIn(text: string): string[] | undefined {
  const lines = text.split(/\r?\n/).map((line) => line.trim());
  // In a list of addresses a line with # is a remark. Source: RFC 2483, 5.
  const wanted = lines.filter((line) => line !== '' && !line.startsWith('#'));
  return wanted.length > 0 && wanted.every(isAddress) ? wanted : undefined;
}

const looked = (address: string): BroughtAddress => ({ kind: 'address', address, isPicture: false });

/** Clipboards call every picture the same. */
const isUnnamed = (file: File) => /^image\.(?:png|jpe?g|webp)$/i.test(file.name);
const fromClipboard = (file: File): BroughtFile => ({
  kind: 'file',
  file: isUnnamed(file)
    ? new File([file], `Pasted picture.${file.name.split('.').pop()}`, { type: file.type })
    : file,
});

/** One copied picture comes as bytes and as a piece of a page: the bytes count, the page tells where it comes from. */
function withSource(files: BroughtFile[], html: string): BroughtFile[] {
  if (html === '') return files;
  const [only, more] = readHtml(html);
  const [file] = files;
  if (files.length !== 1 || !file || only?.kind !== 'address' || more) return files;
  const source = { address: only.address, ...(only.page ? { page: only.page } : {}) };
  return [{ ...file, source, ...(only.name ? { name: only.name } : {}) }];
}

/** What lies on a clipboard, most telling form first. */
export function readClipboard(files: readonly File[], html: string, text: string): Brought[] {
  if (files.length > 0) return withSource(files.map(fromClipboard), html);
  const pictures = html === '' ? [] : readHtml(html);
  if (pictures.length > 0) return pictures;
  const addresses = addressesIn(text);
  if (addresses) return addresses.map(looked);
  if (text.trim() === '') return [];
  return [{ kind: 'text', text: text.trim(), ...(html.trim() !== '' && { html }) }];
}

/** What was dragged here from another window, when it is no file of the disk. */
export function readDragged(html: string, addresses: string, text: string): Brought[] {
  const [dragged] = addressesIn(addresses) ?? [];
  const pictures = html === '' ? [] : readHtml(html);
  if (pictures.length > 0) {
    return pictures.map((picture) => {
      // A picture inside a link is dragged as that link.
      const isLinked = picture.kind === 'address' && !picture.link && dragged && dragged !== picture.address;
      return isLinked ? { ...picture, link: dragged } : picture;
    });
  }
  if (dragged) return [looked(dragged)];
  return readClipboard([], '', text);
}
