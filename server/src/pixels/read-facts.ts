import type { PictureFacts, PictureSource } from '@miradero/core/schema';
import { cutText, storableText } from '@miradero/core/text';
import ExifReader from 'exifreader';

/** What a file says of itself and of where it comes from. */
export interface FileFacts {
  readonly facts: PictureFacts;
  readonly source: Partial<PictureSource>;
}

interface Tag {
  readonly value?: unknown;
  readonly description?: unknown;
  readonly computed?: unknown;
}
type Tags = Readonly<Record<string, Tag | undefined>>;

const MOST_TEXT = 2_000;

function textIn(tags: Tags | undefined, ...names: string[]): string | null {
  for (const name of names) {
    const given = tags?.[name]?.description;
    // Fields of fixed length are filled up with zeros and blanks.
    const text =
      typeof given === 'string' ? storableText(given.replaceAll('\0', ' ')).replace(/\s+/g, ' ').trim() : '';
    if (text !== '') return cutText(text, MOST_TEXT);
  }
  return null;
}

/** A positive number; EXIF gives fractions as pairs, and nothing as 0 or 0/0. */
function numberIn(tags: Tags | undefined, name: string): number | undefined {
  const value = tags?.[name]?.value;
  const number = Array.isArray(value) ? Number(value[0]) / Number(value[1] ?? 1) : Number(value);
  return Number.isFinite(number) && number > 0 ? Number(number.toPrecision(6)) : undefined;
}

/** EXIF's "2026:05:12 07:14:55" as ISO writes it. Source: Exif 2.32, 4.6.5.2 (DateTimeOriginal). */
function takenAt(exif: Tags | undefined): string | undefined {
  const text = textIn(exif, 'DateTimeOriginal', 'DateTimeDigitized') ?? '';
  const found = /^(\d{4}):(\d\d):(\d\d) (\d\d):(\d\d):(\d\d)$/.exec(text);
  return found ? `${found[1]}-${found[2]}-${found[3]}T${found[4]}:${found[5]}:${found[6]}` : undefined;
}

const address = (text: string | null): string | null => (text && /^https?:\/\//.test(text) ? text : null);
const withoutNothing = <T extends object>(value: T): T =>
  Object.fromEntries(Object.entries(value).filter(([, one]) => one !== undefined)) as T;

/**
 * Reads EXIF, XMP and IPTC. A file without any, or with nonsense in them, has no facts; never a reason to refuse it.
 *
 * @param keepsPosition - whether the owner asked for the place where it was taken
 */
export function readFacts(bytes: Uint8Array, keepsPosition: boolean): FileFacts {
  let tags: { exif?: Tags; xmp?: Tags; iptc?: Tags; gps?: { Latitude?: number; Longitude?: number } };
  try {
    tags = ExifReader.load(Buffer.from(bytes), { expanded: true }) as unknown as typeof tags;
  } catch {
    return { facts: {}, source: {} };
  }
  const { exif, xmp, iptc, gps } = tags;
  const camera = [textIn(exif, 'Make'), textIn(exif, 'Model')].filter((part) => part !== null).join(' ');
  const { Latitude: latitude, Longitude: longitude } = gps ?? {};
  const isPlaced = keepsPosition && Number.isFinite(latitude) && Number.isFinite(longitude);
  return {
    facts: withoutNothing({
      focalLengthMm: numberIn(exif, 'FocalLength'),
      focalLength35Mm: numberIn(exif, 'FocalLengthIn35mmFilm'),
      takenAt: takenAt(exif),
      camera: camera || undefined,
      lens: textIn(exif, 'LensModel') ?? undefined,
      position: isPlaced ? { latitude: latitude!, longitude: longitude! } : undefined,
    }) as PictureFacts,
    source: {
      title: textIn(xmp, 'title') ?? textIn(iptc, 'Object Name', 'Headline'),
      creator: textIn(xmp, 'creator') ?? textIn(iptc, 'By-line') ?? textIn(exif, 'Artist'),
      licence:
        textIn(xmp, 'License', 'license', 'WebStatement', 'UsageTerms', 'rights') ??
        textIn(iptc, 'Copyright Notice') ??
        textIn(exif, 'Copyright'),
      page: address(textIn(xmp, 'Source', 'source', 'WebStatement')) ?? address(textIn(iptc, 'Source')),
    },
  };
}
