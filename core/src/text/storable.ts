/** A UTF-16 surrogate without its other half: half an emoji, as cutting by code units leaves it. */
const LONE_SURROGATE = /\p{Surrogate}/gu;

/**
 * Whether text can be kept as it is: well-formed, without NUL (PostgreSQL keeps neither in `text` nor in `jsonb`) and in
 * Normalization Form C, so that what looks the same is found as the same. Schemas ask for it by `format: 'text'`.
 */
export const isStorableText = (text: string): boolean =>
  !text.includes('\0') && !/\p{Surrogate}/u.test(text) && text === text.normalize('NFC');

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
  if (Array.isArray(value)) {
    const all = value.map(withStorableText);
    return (all.some((one, index) => one !== value[index]) ? all : value) as T;
  }
  const entries = Object.entries(value).map(
    ([key, one]) => [storableText(key), withStorableText(one)] as const,
  );
  const isSame = entries.every(
    ([key, one]) => key in value && one === (value as Record<string, unknown>)[key],
  );
  return isSame ? value : (Object.fromEntries(entries) as T);
}
