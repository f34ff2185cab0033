/** A UTF-16 surrogate without its other half: half an emoji, as cutting by code units leaves it. */
const LONE_SURROGATE = /\p{Surrogate}/gu;

/** Such text can be kept, and need not be looked at any closer: names of properties, ids, most of what is sent. */
const PLAIN = /^[ -~]*$/;

/**
 * Whether text can be kept as it is: well-formed, without NUL (PostgreSQL keeps neither in `text` nor in `jsonb`) and in
 * Normalization Form C, so that what looks the same is found as the same. Schemas ask for it by `format: 'text'`.
 */
export const isStorableText = (text: string): boolean =>
  PLAIN.test(text) ||
  (!text.includes('\0') && !/\p{Surrogate}/u.test(text) && text === text.normalize('NFC'));

/** Text made such that it can be kept: halves of characters become U+FFFD, NUL goes, the rest is composed (NFC). */
export const storableText = (text: string): string =>
  text.replaceAll('\0', '').replace(LONE_SURROGATE, '\ufffd').normalize('NFC');

/** The beginning of a text, at most `units` UTF-16 code units, without a half character at its end. */
export function cutText(text: string, units: number): string {
  if (text.length <= units) return text;
  const last = text.charCodeAt(units - 1);
  return text.slice(0, last >= 0xd800 && last <= 0xdbff ? units - 1 : units);
}

/** Every text within a JSON value made storable, names of properties included; the same value where nothing alters. */
export function withStorableText<T>(value: T): T {
  if (typeof value === 'string') return (isStorableText(value) ? value : storableText(value)) as T;
  if (typeof value !== 'object' || value === null) return value;
  const entries = altered(value as Readonly<Record<string, unknown>>);
  if (entries === undefined) return value;
  return (Array.isArray(value) ? entries.map(([, one]) => one) : Object.fromEntries(entries)) as T;
}

/** The properties of an object made storable, in their order; undefined where nothing alters: thousands are looked at for each key. */
function altered(value: Readonly<Record<string, unknown>>): [string, unknown][] | undefined {
  const keys = Object.keys(value);
  let entries: [string, unknown][] | undefined;
  for (const [index, key] of keys.entries()) {
    const name = isStorableText(key) ? key : storableText(key);
    const one = withStorableText(value[key]);
    if (entries === undefined && (name !== key || one !== value[key]))
      entries = keys.slice(0, index).map((before) => [before, value[before]]);
    entries?.push([name, one]);
  }
  return entries;
}
