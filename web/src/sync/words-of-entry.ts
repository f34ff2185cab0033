import { kindOf } from '@miradero/core/items';
import type { Change, Operation } from '@miradero/core/schema';
import { isText, plainOf } from '@miradero/core/text';
import type { OutboxEntry } from './browser-database.ts';

const quoted = (text: string): string => `“${text}”`;
const count = (n: number, one: string, many: string): string => (n === 1 ? one : `${n} ${many}`);

/** What one property is called by a person. */
const WORDS: Readonly<Record<string, string>> = {
  centre: 'place',
  width: 'size',
  turn: 'turn',
  opacity: 'opacity',
  blend: 'multiplied or not',
  trim: 'trim',
  flipX: 'flip',
  flipY: 'flip',
  stack: 'height in the stack',
  surround: 'surround',
  putAway: 'put away',
  isPutAway: 'put away',
  useMark: 'use',
  scale: 'size',
};
const wordOf = (property: string): string =>
  WORDS[property] ?? property.replace(/([A-Z])/g, ' $1').toLowerCase();

const textIn = (operation: Operation): string | undefined => {
  const values = 'create' in operation ? operation.create : operation.set;
  return 'text' in values && isText(values.text) ? plainOf(values.text) : undefined;
};

/** "A link card", "3 pictures", "5 things": by what they are, where they are alike. */
function createdWords(titles: readonly string[]): string {
  const [first = ''] = titles;
  const isAlike = titles.every((title) => title === first);
  const one = isAlike ? first.toLowerCase() : 'thing';
  return count(titles.length, `A ${one}`, `${one}s`);
}

function wordsOfChange({ operations }: Change): string {
  const texts = operations.flatMap((operation) => textIn(operation) ?? []);
  if (texts.length > 0) return `A note: ${texts.map(quoted).join(', ')}`;
  const titles = operations.flatMap((one) => ('create' in one ? [kindOf(one.create).title] : []));
  if (titles.length > 0) return `${createdWords(titles)} placed`;
  const properties = new Set(operations.flatMap((one) => ('set' in one ? Object.keys(one.set) : [])));
  if (properties.has('removed')) return `${count(operations.length, 'One thing', 'things')} removed`;
  const what = [...properties].map(wordOf).join(', ');
  return `${count(operations.length, 'One thing', 'things')} altered: ${what}`;
}

const OF_PATH: readonly (readonly [RegExp, string])[] = [
  [/^\/api\/boards\//, 'A board'],
  [/^\/api\/pictures\//, 'A picture'],
  [/^\/api\/subjects\//, 'A subject'],
  [/^\/api\/library\/tags/, 'A tag'],
  [/^\/api\/settings/, 'A setting'],
];

/** What an entry of the outbox holds, in words, texts whole: it is all that is left of it when the server refuses it. */
export function wordsOfEntry(entry: OutboxEntry): string {
  if (entry.kind === 'change') return wordsOfChange(entry.change);
  const { path, body } = entry;
  const what = OF_PATH.find(([pattern]) => pattern.test(path))?.[1] ?? 'Something';
  const parts = Object.entries(body).map(([key, value]) =>
    typeof value === 'string' ? `${wordOf(key)} ${quoted(value)}` : wordOf(key),
  );
  return `${what}: ${parts.join(', ')}`;
}
