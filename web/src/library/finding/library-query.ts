import {
  type LibraryQuery,
  type LibrarySort,
  PILES,
  PURPOSES,
  SORTS,
  type Subject,
} from '@miradero/core/schema';
import { cutText, storableText } from '@miradero/core/text';

/** A search as it stands in the address of the library. */
export type Asked = Omit<LibraryQuery, 'offset' | 'limit'>;

const oneOf =
  (values: readonly string[]) =>
  (text: string): string | undefined =>
    values.includes(text) ? text : undefined;
const matching =
  (pattern: RegExp) =>
  (text: string): string | undefined =>
    pattern.test(text) ? text : undefined;
const numberWithin =
  (least: number, most: number, isWhole: boolean) =>
  (text: string): number | undefined => {
    const value = Number(text);
    const isOne = text.trim() !== '' && value >= least && value <= most;
    return isOne && (!isWhole || Number.isInteger(value)) ? value : undefined;
  };
const yes = (text: string): boolean => text === 'true';
const word = (text: string): string => cutText(storableText(text), 200);
const uuid = matching(/^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/);
const day = (text: string): string | undefined =>
  /^\d{4}-\d\d-\d\d$/.test(text) && !text.startsWith('0000') && !Number.isNaN(Date.parse(text))
    ? text
    : undefined;
const pixels = numberWithin(1, 1_000_000, true);
const share = numberWithin(0, 1, false);

/** How each part of a search is read; undefined for what makes no sense. */
const READ: { readonly [K in keyof Asked]-?: (text: string) => unknown } = {
  ...{ words: word, tag: word, licence: word, creator: word },
  ...{ subject: uuid, part: uuid, like: uuid, coloursOf: uuid, board: uuid },
  purpose: oneOf(PURPOSES),
  kind: oneOf(['still', 'animated', 'clip', 'model']),
  useMark: oneOf(['look', 'work', 'unsaid']),
  pile: oneOf([...PILES, 'none']),
  sort: oneOf(SORTS),
  colour: matching(/^[0-9a-f]{6}$/),
  ...{ leastPx: pixels, mostPx: pixels, darkest: share, lightest: share, from: day, to: day },
  ...{ onNoBoard: yes, noSource: yes, hasCopies: yes, toScale: yes, isPutAway: yes, isReversed: yes },
};

/** What an address asks for; what it says that nobody understands is left out. */
export function askedOf(parameters: URLSearchParams): Asked {
  const asked: Record<string, unknown> = {};
  for (const [key, text] of parameters) {
    const value = Object.hasOwn(READ, key) ? READ[key as keyof Asked](text) : undefined;
    if (value !== undefined) asked[key] = value;
  }
  return asked as Asked;
}

export function parametersOf(asked: Asked): URLSearchParams {
  const parameters = new URLSearchParams();
  for (const [key, value] of Object.entries(asked))
    if (value !== undefined && value !== '' && value !== false)
      parameters.set(key, storableText(String(value)));
  return parameters;
}

/** Orders by the words for both of their directions. */
export const SORT_WORDS: Readonly<Record<LibrarySort, readonly [string, string]>> = {
  added: ['newest first', 'oldest first'],
  taken: ['last taken first', 'first taken first'],
  name: ['by name', 'by name, from the end'],
  pixels: ['largest first', 'smallest first'],
  lightness: ['from dark to light', 'from light to dark'],
  hue: ['round the hues', 'round the hues, backwards'],
  sharpness: ['sharpest first', 'softest first'],
  complexity: ['from simple to complicated', 'from complicated to simple'],
  'looked-at': ['longest not looked at first', 'last looked at first'],
};

export const sortWords = ({ sort, isReversed, like, colour, coloursOf }: Asked): string => {
  if (!sort && like) return 'most alike first';
  if (!sort && (colour || coloursOf)) return 'most of the colour first';
  return SORT_WORDS[sort ?? 'added'][isReversed ? 1 : 0];
};

/** One thing that a search asks for, as words, and the keys of the query that say it. */
export interface FilterWord {
  readonly keys: readonly (keyof Asked)[];
  readonly words: string;
  readonly colour?: string;
}

const KINDS = { still: 'stills', animated: 'animated', clip: 'clips', model: 'models' } as const;
const USES = { look: 'only to look at', work: 'may go into the work', unsaid: 'use not said' } as const;
const PILE_WORDS = { now: 'for now', maybe: 'maybe', no: 'not wanted', none: 'on no pile' } as const;

/** Lightness by three steps, OKLab 0..1. */
export const LIGHTNESS = {
  dark: { lightest: 0.45 },
  middle: { darkest: 0.45, lightest: 0.65 },
  light: { darkest: 0.65 },
} as const;

function lightnessWords({ darkest, lightest }: Asked): string | undefined {
  if (darkest === undefined && lightest === undefined) return undefined;
  if (darkest === undefined) return 'dark';
  return lightest === undefined ? 'light' : 'of middle lightness';
}

function partWords(id: string, subjects: readonly Subject[]): string {
  for (const { name, parts } of subjects)
    for (const part of parts) {
      const inner = part.parts.find((one) => one.id === id);
      if (part.id === id || inner) return `${name}: ${inner?.name ?? part.name}`;
    }
  return 'of a part that is gone';
}

/** What a search asks for, beside its words and its order, in the order in which one would say it. */
export function filterWords(
  asked: Asked,
  subjects: readonly Subject[],
  nameOf: (picture: string) => string,
  boardName: (board: string) => string,
): FilterWord[] {
  const found: FilterWord[] = [];
  const say = (keys: readonly (keyof Asked)[], words: string | undefined, colour?: string) => {
    if (words !== undefined) found.push({ keys, words, ...(colour ? { colour } : {}) });
  };
  const { kind, useMark, pile, leastPx, mostPx, from, to } = asked;
  if (kind) say(['kind'], KINDS[kind]);
  if (asked.purpose) say(['purpose'], `for ${asked.purpose}`);
  if (asked.subject)
    say(['subject'], subjects.find(({ id }) => id === asked.subject)?.name ?? 'of a subject that is gone');
  if (asked.part) say(['part'], partWords(asked.part, subjects));
  if (asked.tag) say(['tag'], `tagged ${asked.tag}`);
  if (asked.colour) say(['colour'], 'in this colour', `#${asked.colour}`);
  if (asked.coloursOf) say(['coloursOf'], `in the colours of “${nameOf(asked.coloursOf)}”`);
  if (asked.like) say(['like'], `like “${nameOf(asked.like)}”`);
  say(['darkest', 'lightest'], lightnessWords(asked));
  if (leastPx) say(['leastPx'], `at least ${leastPx.toLocaleString('en')} px`);
  if (mostPx) say(['mostPx'], `at most ${mostPx.toLocaleString('en')} px`);
  if (useMark) say(['useMark'], USES[useMark]);
  if (asked.licence) say(['licence'], `under ${asked.licence}`);
  if (asked.creator) say(['creator'], `by ${asked.creator}`);
  if (pile) say(['pile'], PILE_WORDS[pile]);
  if (asked.board) say(['board'], `on ${boardName(asked.board)}`);
  if (asked.onNoBoard) say(['onNoBoard'], 'on no board');
  if (asked.noSource) say(['noSource'], 'without a source');
  if (asked.hasCopies) say(['hasCopies'], 'with near copies');
  if (asked.toScale) say(['toScale'], 'to scale');
  if (from) say(['from'], `since ${from}`);
  if (to) say(['to'], `until ${to}`);
  if (asked.isPutAway) say(['isPutAway'], 'put away');
  return found;
}

/** The same search without what these keys say. */
export const without = (asked: Asked, keys: readonly (keyof Asked)[]): Asked =>
  Object.fromEntries(Object.entries(asked).filter(([key]) => !keys.includes(key as keyof Asked))) as Asked;
