import { cutText, storableText } from '../text/index.ts';

const MAX_NAME_LENGTH = 200;

/** Control characters and the invisible ones that reorder text (bidi marks, isolates, overrides), which can disguise a name. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: control characters are what is removed here
const UNSEEN = /[\u0000-\u001f\u007f-\u009f\u200e\u200f\u202a-\u202e\u2066-\u2069\ufeff]/g;

/** A given name made safe to show: one line, no unseen characters, at most 200 characters; '' when nothing is left. */
export const cleanName = (given: string): string =>
  [...storableText(given.replace(UNSEEN, ' ')).replace(/\s+/g, ' ').trim()]
    .slice(0, MAX_NAME_LENGTH)
    .join('')
    .trim();

/** Bytes of a file's name: more than any file system keeps. Source: NAME_MAX of Linux, 255. */
const MAX_FILE_NAME_LENGTH = 255;

/** The name of a file without folders and unseen characters, as it may stand in the head of a form. */
export function cleanFileName(given: string): string {
  const last = storableText((given.split(/[/\\]/).pop() ?? '').replace(UNSEEN, ' ')).trim();
  if (last.length <= MAX_FILE_NAME_LENGTH) return last === '' ? 'file' : last;
  const ending = /\.[A-Za-z0-9]{1,5}$/.exec(last)?.[0] ?? '';
  return cutText(last, MAX_FILE_NAME_LENGTH - ending.length) + ending;
}

/**
 * Text with its percent-encoded bytes read as UTF-8; where they are none, as old pages meant them (windows-1252). A
 * percent sign without two digits stays one.
 */
export function decodePercent(text: string): string {
  return text.replace(/(?:%[0-9a-f]{2})+/gi, (run) => {
    const bytes = Uint8Array.from(run.slice(1).split('%'), (pair) => Number.parseInt(pair, 16));
    try {
      return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    } catch {
      return new TextDecoder('windows-1252').decode(bytes);
    }
  });
}

/** The name a picture starts with: that of its file without folders and without a short ending such as ".jpeg". */
export function nameOfFile(fileName: string): string {
  const last = fileName.split(/[/\\]/).pop() ?? '';
  const bare = cleanName(last.replace(/\.[A-Za-z0-9]{1,5}$/, ''));
  return bare === '' ? 'Picture' : bare;
}

/** Characters that some systems do not take in names of files. */
const NOT_IN_FILES = /[\\/:*?"<>|\p{Cc}\p{Cf}]/gu;

/** Names that Windows keeps for devices, whatever their ending. Source: Microsoft, "Naming Files, Paths, and Namespaces". */
const OF_DEVICES = /^(?:con|prn|aux|nul|com\d|lpt\d)(?=$|\.)/i;

/** A name as every system takes it for a file, without an ending. */
export const portableName = (name: string): string =>
  name
    .replace(NOT_IN_FILES, ' ')
    .replace(/\s+/g, ' ')
    .replace(/^[. ]+|[. ]+$/g, '')
    .replace(OF_DEVICES, '$& of mine') || 'picture';

/**
 * What the file of a picture is called.
 *
 * @param ending - how it ends
 * @param original - the name under which it came, where the file is that: then it ends like it
 */
export function fileNameOf(name: string, ending: string, original?: string): string {
  const own = original === undefined ? undefined : /\.[A-Za-z0-9]{1,5}$/.exec(original)?.[0];
  return `${portableName(name)}${own ?? `.${ending}`}`;
}

/** Beginnings that cameras, screens and programs give, and what they are followed by. */
const GIVEN_BY_MACHINES =
  /^(?:img|image|dsc[fn]?|dscn|pxl|p|pict?|photo|mvi|vid|gopr|screenshot|screen shot|scan|download|untitled|unnamed|default|full|large|thumb|original|pasted picture|picture)?[\s_().-]*(?:copy|large|small|thumb)?[\s_().\d~-]*(?:at [\d. ]+)?(?:am|pm)?$/i;
/** Runs of hexadecimal digits, as content addresses and UUIDs have them. */
const HASH = /^[0-9a-f]{12,}$|^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;
/** A long run of letters and digits without a word in it, as short addresses have it. */
const BARE = /^(?=.*\d)(?=.*[a-z])[a-z0-9_]{16,}$/i;

/**
 * A name made of a file name or the end of an address: words apart, without sizes and endings.
 * @returns undefined for names that say nothing: those of cameras, bare hashes, "untitled"
 */
export function readableName(given: string): string | undefined {
  const last = cleanName(given).split(/[/\\]/).pop() ?? '';
  let plain = last.replace(/\.[A-Za-z0-9]{1,5}$/, '');
  plain = decodePercent(plain.replaceAll('+', ' '));
  const bare = plain.replace(
    /(?:@\dx|[-_ ]\d{2,5}x\d{2,5}|[-_ ](?:full|large|small|thumb|scaled|original))+$/i,
    '',
  );
  if (HASH.test(bare) || BARE.test(bare) || GIVEN_BY_MACHINES.test(bare)) return undefined;
  const words = cleanName(bare.replace(/_+/g, ' ').replace(/(?<=[\p{L}\d])-(?=[\p{L}\d])/gu, ' '));
  return words === '' ? undefined : words;
}

/** The name of what has none, and whose address says nothing: where it comes from. */
export const nameOfPlace = (address: string): string =>
  `From ${URL.canParse(address) ? new URL(address).hostname.replace(/^www\./, '') : 'elsewhere'}`;

/** The next name of a series: "Ferry 4" where "Ferry", "Ferry 2" and "Ferry 3" are taken. */
export function nextOfSeries(title: string, taken: Iterable<string>): string {
  const stem = cleanName(title) || 'Picture';
  let highest = 0;
  for (const name of taken) {
    if (name === stem) highest = Math.max(highest, 1);
    if (!name.startsWith(`${stem} `)) continue;
    const number = name.slice(stem.length + 1);
    if (/^\d{1,6}$/.test(number)) highest = Math.max(highest, Number(number));
  }
  return `${stem} ${highest + 1}`;
}
