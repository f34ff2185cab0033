import { open } from 'node:fs/promises';
import { isZip } from '@miradero/core/model';
import {
  cleanName,
  decodePercent,
  INTAKE_LIMITS,
  KIND_BYTES,
  kindOfBytes,
  nameOfPlace,
  readableName,
  shapeOfBytes,
} from '@miradero/core/picture';
import type { AboutPicture, Finds, FoundPage, FoundPicture, Picture } from '@miradero/core/schema';
import { cutText, storableText } from '@miradero/core/text';
import pMap from 'p-map';
import { type Intake, takeIn } from '../intake/take-in.ts';
import type { PagePicture, Version } from '../pages/page-pictures.ts';
import { DecodeError } from '../pixels/decoding/decoders.ts';
import { ProblemError } from '../requests/problem.ts';
import { type FetchedFile, withFetchedFile } from './fetch-safely.ts';
import type { AddressRules } from './web-address.ts';

const PAGE_BYTES = 6 * 1024 * 1024;
const HEAD_BYTES = 64 * 1024;
/** Pictures of a page whose heads are read; the rest stands on the sheet without its size. */
const MOST_HEADS = 60;
const HEADS_AT_ONCE = 6;
const HEAD_MS = 8_000;
/** For the heads of all pictures of a page; what was not read by then is left out. */
const ALL_HEADS_MS = 25_000;
/** A longest side below this is decoration: crests, buttons, marks. */
const DECORATION_PX = 120;

export interface Gathering extends Intake {
  readonly rules: AddressRules;
}

async function headOf(file: FetchedFile, length: number): Promise<Uint8Array> {
  const handle = await open(file.path);
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(length), 0, length, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await handle.close();
  }
}

/** Takes in a fetched file as it is. @throws ProblemError `all-refused` with the reason */
export async function keepFetched(
  gathering: Gathering,
  file: FetchedFile,
  { name, source }: AboutPicture,
): Promise<{ picture: Picture; isKnown: boolean }> {
  const fileName = cutText(storableText(decodePercent(file.fileName)), 200);
  const given = [name, source?.title, readableName(file.fileName)].map((one) => cleanName(one ?? ''));
  const about = {
    name: given.find((one) => one !== '') ?? nameOfPlace(file.address),
    source: { ...source, address: storableText(file.address) },
  };
  const { pictures, refused, known } = await takeIn(gathering, [{ ...file, fileName }], about, {
    poster: undefined,
    tooMany: false,
  });
  if (!pictures[0]) throw new ProblemError('all-refused', refused[0]?.title);
  return { picture: pictures[0], isKnown: known.length > 0 };
}

const looksLikePage = (head: Uint8Array): boolean => {
  const text = Buffer.from(head)
    .toString('latin1')
    .replace(/^\u00ef\u00bb\u00bf/, '');
  return /^\s*(?:<!--[\s\S]*?-->\s*)*<(?:!doctype\s+html|html|head|body|meta|title|\?xml)/i.test(text);
};

/** Reads sides from the head of a picture; undefined where it is none, or cannot be had. */
async function sidesOf(
  { rules }: Gathering,
  address: string,
  page: string,
  signal: AbortSignal,
): Promise<{ width: number; height: number } | undefined> {
  if (signal.aborted) return undefined;
  try {
    return await withFetchedFile(
      rules,
      address,
      { bytes: HEAD_BYTES, headBytes: HEAD_BYTES, wholeMs: HEAD_MS, page, signal },
      async (file) => {
        const head = await headOf(file, HEAD_BYTES);
        const type = kindOfBytes(head);
        return type && shapeOfBytes(head, type);
      },
    );
  } catch (error) {
    if (error instanceof ProblemError) return undefined;
    throw error;
  }
}

/** The versions worth asking, the most promising first: what is linked or named without a width may be the original. */
const ordered = (versions: readonly Version[]): Version[] =>
  [...versions].sort((one, other) => (other.width ?? 1e9) - (one.width ?? 1e9));

/** The largest version that can be had, with its sides; the shown one, without, where none answers. */
async function measure(
  gathering: Gathering,
  picture: PagePicture,
  page: string,
  signal: AbortSignal,
): Promise<FoundPicture | undefined> {
  const { alt, link, shown, marks } = picture;
  let best: { address: string; width: number; height: number } | undefined;
  for (const version of ordered(picture.versions).slice(0, 4)) {
    if (best && version.width !== undefined && version.width <= best.width) break;
    const sides = await sidesOf(gathering, version.address, page, signal);
    if (sides && (!best || sides.width > best.width)) best = { address: version.address, ...sides };
  }
  return best && { ...best, preview: shown.address, alt, link, marks };
}

/** Everything on a page that may be wanted, largest versions. */
async function findOnPage(
  gathering: Gathering,
  path: string,
  address: string,
  allHeadsMs: number,
): Promise<FoundPage> {
  const { facts, pictures } = await gathering.decoders.run('page', { path, address }).catch((error) => {
    if (error instanceof DecodeError) throw new ProblemError('address-unusable', error.message);
    throw error;
  });
  const { title, creator, licence } = facts;
  const signal = AbortSignal.timeout(allHeadsMs);
  const measured = await pMap(
    pictures.slice(0, MOST_HEADS),
    (one) => measure(gathering, one, address, signal),
    { concurrency: HEADS_AT_ONCE },
  );
  const found = new Map<string, FoundPicture>();
  let leftOut = 0;
  for (const one of measured) {
    if (!one) continue;
    if (Math.max(one.width ?? 0, one.height ?? 0) < DECORATION_PX) leftOut += 1;
    else if (!found.has(one.address)) found.set(one.address, one);
  }
  return { address, title, creator, licence, pictures: [...found.values()], leftOut };
}

/**
 * Looks what is at an address, by its content: a picture is taken in, a page is read.
 * @throws ProblemError `address-…`, `all-refused`
 */
export function lookAtAddress(
  gathering: Gathering,
  address: string,
  about: AboutPicture = {},
  allHeadsMs = ALL_HEADS_MS,
): Promise<Finds> {
  return withFetchedFile(
    gathering.rules,
    address,
    { bytes: INTAKE_LIMITS.bytes },
    async (file): Promise<Finds> => {
      const head = await headOf(file, KIND_BYTES);
      // An archive may be a model; where it is none that is said.
      if (kindOfBytes(head, file.bytes) !== undefined || isZip(head))
        return { kind: 'picture', ...(await keepFetched(gathering, file, about)) };
      if (!looksLikePage(head)) throw new ProblemError('address-unusable');
      if (file.bytes > PAGE_BYTES) throw new ProblemError('address-large');
      return {
        kind: 'page',
        page: await findOnPage(gathering, file.path, file.address, allHeadsMs),
      };
    },
  );
}
