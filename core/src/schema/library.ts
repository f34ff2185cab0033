import type { FromSchema } from 'json-schema-to-ts';
import { wholeNumber } from './number.ts';
import { type Picture, sourceSchema } from './picture.ts';
import { PILES, PURPOSES, sortingProperties } from './sorting.ts';

/** Ways to order the library; each may be turned round. */
export const SORTS = [
  ...['added', 'taken', 'name', 'pixels', 'lightness', 'hue', 'sharpness', 'complexity', 'looked-at'],
] as const;
export type LibrarySort =
  | 'added'
  | 'taken'
  | 'name'
  | 'pixels'
  | 'lightness'
  | 'hue'
  | 'sharpness'
  | 'complexity'
  | 'looked-at';

/** A day that PostgreSQL knows, too: it has no year 0. */
const day = { type: 'string', format: 'date', pattern: '^(?!0000)' } as const;
const uuid = { type: 'string', format: 'uuid' } as const;
const word = { type: 'string', format: 'text', maxLength: 200 } as const;

/** What is asked of the library, all of it at once; a list in one text is separated by commas. */
export const libraryQuerySchema = {
  $id: 'library-query',
  type: 'object',
  properties: {
    words: word,
    purpose: { enum: PURPOSES },
    tag: word,
    subject: uuid,
    part: uuid,
    kind: { enum: ['still', 'animated', 'clip', 'model'] },
    licence: word,
    creator: word,
    useMark: { enum: ['look', 'work', 'unsaid'] },
    pile: { enum: [...PILES, 'none'] },
    /** Pixels of the longest side. */
    leastPx: { ...wholeNumber, minimum: 1 },
    mostPx: { ...wholeNumber, minimum: 1 },
    from: day,
    to: day,
    colour: { type: 'string', pattern: '^[0-9a-f]{6}$' },
    darkest: { type: 'number', minimum: 0, maximum: 1 },
    lightest: { type: 'number', minimum: 0, maximum: 1 },
    /** Pictures that look like this one, it itself first. */
    like: uuid,
    /** Pictures in the colours of this one. */
    coloursOf: uuid,
    board: uuid,
    onNoBoard: { type: 'boolean' },
    noSource: { type: 'boolean' },
    hasCopies: { type: 'boolean' },
    toScale: { type: 'boolean' },
    isPutAway: { type: 'boolean' },
    sort: { enum: SORTS },
    isReversed: { type: 'boolean' },
    offset: wholeNumber,
    limit: { ...wholeNumber, minimum: 1, maximum: 500 },
  },
  additionalProperties: false,
} as const;
export type LibraryQuery = Omit<FromSchema<typeof libraryQuerySchema>, 'sort'> & { sort?: LibrarySort };

const { tags, purposes, parts } = sortingProperties;
const someName = { type: 'string', format: 'name', minLength: 1, maxLength: 200 } as const;
const useMark = { enum: ['look', 'work', null] } as const;

/** What many pictures are told at once. */
export const bulkSchema = {
  $id: 'bulk',
  type: 'object',
  properties: {
    pictures: { type: 'array', items: uuid, minItems: 1, maxItems: 5_000, uniqueItems: true },
    /** Each gets this name and its number in the list; one alone just the name. */
    series: someName,
    source: sourceSchema,
    useMark,
    pile: sortingProperties.pile,
    isToScale: { type: 'boolean' },
    isPutAway: { type: 'boolean' },
    addTags: tags,
    dropTags: tags,
    addPurposes: purposes,
    dropPurposes: purposes,
    addParts: parts,
    dropParts: parts,
  },
  required: ['pictures'],
  minProperties: 2,
  additionalProperties: false,
} as const;
export type Bulk = FromSchema<typeof bulkSchema>;

/** What a picture was before it was told something with others. */
const beforeSchema = {
  type: 'object',
  properties: {
    picture: uuid,
    name: someName,
    source: sourceSchema,
    useMark,
    pile: sortingProperties.pile,
    isToScale: { type: 'boolean' },
    isPutAway: { type: 'boolean' },
    tags,
    purposes,
    parts,
  },
  required: ['picture'],
  additionalProperties: false,
} as const;

export const restoreSchema = {
  $id: 'restore',
  type: 'object',
  properties: {
    before: { type: 'array', items: beforeSchema, minItems: 1, maxItems: 5_000 },
    /** What the same pictures were told: what is no longer so was told anew by somebody since, and stays. */
    after: { type: 'array', items: beforeSchema, minItems: 1, maxItems: 5_000 },
  },
  required: ['before'],
  additionalProperties: false,
} as const;
export type Restore = FromSchema<typeof restoreSchema>;
export type Before = Restore['before'][number];

/** Of which pictures something is asked. */
export const whichSchema = {
  $id: 'which',
  type: 'object',
  properties: { pictures: { type: 'array', items: uuid, minItems: 1, maxItems: 5_000, uniqueItems: true } },
  required: ['pictures'],
  additionalProperties: false,
} as const;
export type Which = FromSchema<typeof whichSchema>;

/** What a search of the library came to: `total` of them, of which some are here. */
export interface LibraryAnswer {
  readonly total: number;
  readonly pictures: readonly Picture[];
  /** Nothing bears the words as they were written: this is what they may have meant. */
  readonly isForgiven: boolean;
}

export interface BulkAnswer {
  /** To be handed to `restore` to take it back. */
  readonly before: readonly Before[];
  readonly after: readonly Before[];
}

/** What taking back came to: what each picture was, what it is again, and how many properties stayed. */
export interface RestoreAnswer extends BulkAnswer {
  readonly skipped: number;
}

/** Searches that a person keeps, as one of their settings. */
export interface SavedSearch {
  readonly name: string;
  /** As it stands in the address of the library. */
  readonly query: string;
}

/** A board on which a picture stands or stood. */
export interface StandsOn {
  readonly id: string;
  readonly name: string;
  /** How often it stands there now. */
  readonly count: number;
  /** When it first came to stand there; null where the change is not known any more. */
  readonly since: string | null;
}

/** Answer of `GET /api/pictures/:id/story`. */
export interface PictureStory {
  readonly boards: readonly StandsOn[];
  readonly formerBoards: readonly StandsOn[];
}
