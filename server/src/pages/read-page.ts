import { readFile } from 'node:fs/promises';
import { type PageFacts, readPageFacts } from './page-facts.ts';
import { type PagePicture, readPagePictures } from './page-pictures.ts';
import { baseOf, parsePage } from './page-tree.ts';

/** What stands on a page. */
export interface ReadPage {
  readonly facts: PageFacts;
  readonly pictures: readonly PagePicture[];
}

/** Text in the encoding that the page names, else UTF-8. Source: HTML, 13.2.3.2 (a prescan of 1,024 bytes). */
function decodePage(bytes: Buffer): string {
  const label = /charset\s*=\s*["']?([\w-]+)/i.exec(bytes.subarray(0, 1024).toString('latin1'))?.[1];
  try {
    return new TextDecoder(label ?? 'utf-8').decode(bytes);
  } catch {
    return new TextDecoder().decode(bytes);
  }
}

/** Pictures that a page names in its head stand in it, too, as a rule; the others are added. */
function withNamed(pictures: PagePicture[], { named }: PageFacts): PagePicture[] {
  const known = new Set(pictures.flatMap(({ versions }) => versions.map(({ address }) => address)));
  const added = named
    .filter(
      ({ address }, index) =>
        !known.has(address) && named.findIndex((one) => one.address === address) === index,
    )
    .map(({ address, width }): PagePicture => {
      const version = { address, ...(width ? { width } : {}) };
      return { versions: [version], shown: version, alt: '', link: null, marks: [] };
    });
  return [...pictures, ...added];
}

/** Reads a page from a file. A page may be made such that reading it takes for ever: this belongs where it can be ended. */
export async function readPage({ path, address }: { path: string; address: string }): Promise<ReadPage> {
  const tree = parsePage(decodePage(await readFile(path)));
  const base = baseOf(tree, address);
  const facts = readPageFacts(tree, base);
  return { facts, pictures: withNamed(readPagePictures(tree, base), facts) };
}
