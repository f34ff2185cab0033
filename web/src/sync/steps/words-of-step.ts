import { cutText } from '@miradero/core/text';
import { wordsOfEntry } from '../words-of-entry.ts';
import type { Act, Step } from './act.ts';

const count = (n: number, one: string, many: string): string => (n === 1 ? one : `${n} ${many}`);

function wordsOfAct(act: Act): string {
  switch (act.kind) {
    case 'change':
      return wordsOfEntry({ kind: 'change', board: act.board, change: act.done.change });
    case 'facts':
      return wordsOfEntry({ kind: 'patch', path: act.path, body: act.after });
    case 'bulk':
      return `${count(act.after.length, 'A picture', 'pictures')} told something`;
    case 'copies':
      return 'Near copies settled';
  }
}

/** As much of a text as a line of words holds. */
const MOST = 120;

/** What a step did, in words: those that were given with it, else what its first act says. */
export function wordsOfStep({ words, acts }: Step): string {
  const said = words ?? (acts[0] ? wordsOfAct(acts[0]) : '');
  return said.length > MOST ? `${cutText(said, MOST).trimEnd()} …` : said;
}
