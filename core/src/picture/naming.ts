const MAX_NAME_LENGTH = 200;

/** Control characters and the invisible ones that reorder text (bidi marks, isolates, overrides), which can disguise a name. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: control characters are what is removed here
const UNSEEN = /[\u0000-\u001f\u007f-\u009f\u200e\u200f\u202a-\u202e\u2066-\u2069\ufeff]/g;

/** A given name made safe to show: one line, no unseen characters, at most 200 characters; '' when nothing is left. */
export const cleanName = (given: string): string =>
  [...given.replace(UNSEEN, ' ').replace(/\s+/g, ' ').trim()].slice(0, MAX_NAME_LENGTH).join('').trim();

/** The name a picture starts with: that of its file without folders and without a short ending such as ".jpeg". */
export function nameOfFile(fileName: string): string {
  const last = fileName.split(/[/\\]/).pop() ?? '';
  const bare = cleanName(last.replace(/\.[A-Za-z0-9]{1,5}$/, ''));
  return bare === '' ? 'Picture' : bare;
}
