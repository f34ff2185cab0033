import { candidatesOfSrcset } from '@miradero/core/picture';
import type { FoundMark } from '@miradero/core/schema';
import { marksOfPictures } from './page-marks.ts';
import { attribute, type Element, elementsOf, type parsePage } from './page-tree.ts';

type Page = ReturnType<typeof parsePage>;

/** One version of a picture; `width` as far as the page says, pixels. */
export interface Version {
  readonly address: string;
  readonly width?: number;
}

/** A picture of a page in all the versions that it offers there; `link` leads to another page. */
export interface PagePicture {
  readonly versions: Version[];
  readonly shown: Version;
  readonly alt: string;
  readonly link: string | null;
  readonly marks: readonly FoundMark[];
}

const PICTURE_FILE = /\.(?:jpe?g|png|webp|avif|gif|tiff?|svg|heic)$/i;
/** Attributes from which scripts load pictures when one comes to them. */
const LATER = ['data-src', 'data-original', 'data-lazy-src', 'data-full', 'data-large'];
const LATER_SETS = ['data-srcset', 'data-lazy-srcset'];

function web(given: string | undefined, base: string): string | undefined {
  if (!given || !URL.canParse(given, base)) return undefined;
  const address = new URL(given, base);
  return address.protocol === 'http:' || address.protocol === 'https:' ? address.href : undefined;
}

function versionsOf(image: Element, holders: readonly Element[], base: string): Version[] {
  const versions: Version[] = [];
  const addPlain = (given: string | undefined, width?: number) => {
    const address = web(given, base);
    if (address) versions.push({ address, ...(width ? { width } : {}) });
  };
  const told = Number(attribute(image, 'width'));
  addPlain(attribute(image, 'src'), Number.isFinite(told) && told > 0 ? told : undefined);
  for (const name of LATER) addPlain(attribute(image, name));
  const holder = holders.at(-1);
  const sources =
    holder?.tagName === 'picture'
      ? [...elementsOf(holder)].map(({ element }) => element).filter(({ tagName }) => tagName === 'source')
      : [];
  for (const element of [image, ...sources])
    for (const name of ['srcset', ...LATER_SETS])
      for (const { address, width } of candidatesOfSrcset(attribute(element, name) ?? '', base))
        if (web(address, base)) versions.push({ address, ...(width ? { width } : {}) });
  return versions;
}

/** The same address may come with and without a width. */
function merged(versions: readonly Version[]): Version[] {
  const byAddress = new Map<string, Version>();
  for (const one of versions) {
    const known = byAddress.get(one.address);
    if (!known || (one.width ?? 0) > (known.width ?? 0)) byAddress.set(one.address, one);
  }
  return [...byAddress.values()];
}

/**
 * The pictures of a page in their order, each once: those of `img` and `picture` with every version, those that scripts
 * put in later, and what a link around or under them leads to. @param base - address of the page
 */
export function readPagePictures(page: Page, base: string): PagePicture[] {
  const pictures: PagePicture[] = [];
  const byAddress = new Map<string, PagePicture>();
  const linkTexts: { address: string; holders: readonly Element[] }[] = [];
  const figures = new Map<Element, PagePicture>();
  const marks = marksOfPictures(page);
  for (const { element, holders } of elementsOf(page)) {
    const target = element.tagName === 'a' ? web(attribute(element, 'href'), base) : undefined;
    if (target && PICTURE_FILE.test(new URL(target).pathname)) linkTexts.push({ address: target, holders });
    if (element.tagName !== 'img') continue;
    const versions = merged(versionsOf(element, holders, base));
    const around = web(
      attribute(holders.findLast(({ tagName }) => tagName === 'a') ?? element, 'href'),
      base,
    );
    const isFile = around !== undefined && PICTURE_FILE.test(new URL(around).pathname);
    if (isFile) versions.push({ address: around });
    if (versions.length === 0) continue;
    const known = versions.map(({ address }) => byAddress.get(address)).find((one) => one !== undefined);
    const picture = known ?? {
      versions: [],
      shown: versions[0]!,
      alt: attribute(element, 'alt') ?? attribute(element, 'title') ?? '',
      link: around && !isFile && around !== base ? around : null,
      marks: marks.get(element) ?? [],
    };
    picture.versions.push(
      ...versions.filter(({ address }) => !picture.versions.some((one) => one.address === address)),
    );
    for (const { address } of versions) byAddress.set(address, picture);
    if (!known) pictures.push(picture);
    const figure = holders.findLast(({ tagName }) => tagName === 'figure');
    if (figure && !figures.has(figure)) figures.set(figure, picture);
  }
  // "Full size" under a picture belongs to it.
  for (const { address, holders } of linkTexts) {
    if (byAddress.has(address)) continue;
    const figure = holders.findLast(({ tagName }) => tagName === 'figure');
    const picture = figure && figures.get(figure);
    if (picture) picture.versions.push({ address });
    else pictures.push({ versions: [{ address }], shown: { address }, alt: '', link: null, marks: [] });
    byAddress.set(address, picture ?? pictures.at(-1)!);
  }
  return pictures;
}
