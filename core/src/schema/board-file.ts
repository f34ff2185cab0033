import type { FromSchema } from 'json-schema-to-ts';
import { sourceSchema, stanceSchema } from './picture.ts';
import { sortingProperties } from './sorting.ts';

/** Which pictures go along: their originals; copies of a width; originals of those alone that may go into the work. */
export const BOARD_FILE_PICTURES = ['originals', 'copies', 'work'] as const;
export type BoardFilePictures = (typeof BOARD_FILE_PICTURES)[number];
/** Longest sides of copies that go along, pixels. */
export const BOARD_FILE_SIDES = [512, 1024, 2048] as const;

const uuid = { type: 'string', format: 'uuid' } as const;
const count = { type: 'integer', minimum: 0, maximum: Number.MAX_SAFE_INTEGER } as const;
const pixels = { type: 'integer', minimum: 1, maximum: 1_000_000 } as const;
const sha256 = { type: 'string', pattern: '^[0-9a-f]{64}$' } as const;
const text = (most: number) => ({ type: 'string', format: 'text', maxLength: most }) as const;
const name = { type: 'string', format: 'name', minLength: 1, maxLength: 200 } as const;
/** A state of a board, anywhere in the world. */
const whereSchema = {
  type: 'object',
  properties: { database: uuid, board: uuid, revision: count },
  required: ['database', 'board', 'revision'],
} as const;

const { note, tags, purposes, pile, isToScale } = sortingProperties;
const pictureSchema = {
  type: 'object',
  properties: {
    id: uuid,
    name,
    /** What came in: its bytes, whether they are here or not. */
    original: {
      type: 'object',
      properties: {
        ...{ sha256, bytes: count, width: pixels, height: pixels },
        ...{ type: text(100), fileName: text(1_000) },
      },
      required: ['sha256', 'bytes', 'type', 'width', 'height', 'fileName'],
    },
    /** Path of what is here: the original, or a copy with its pixels; null: nothing. */
    file: { ...text(300), type: ['string', 'null'] },
    copy: {
      type: ['object', 'null'],
      properties: { width: pixels, height: pixels },
      required: ['width', 'height'],
    },
    /** Path of what stands for a clip or a model. */
    poster: { ...text(300), type: ['string', 'null'] },
    source: sourceSchema,
    useMark: { enum: ['look', 'work', null] },
    ...{ note, tags, purposes, pile, isToScale, stance: stanceSchema },
  },
  required: ['id', 'name', 'original', 'file', 'copy', 'source'],
} as const;

/**
 * What `board.json` holds; `docs/formats/board-file.md`. Open to more: what a later program adds is left aside. Items and
 * changes are checked by kind when they are taken in.
 */
export const boardFileSchema = {
  $id: 'board-file',
  type: 'object',
  properties: {
    kind: { const: 'board' },
    version: { const: 1 },
    savedAt: { type: 'string', format: 'date-time' },
    board: {
      type: 'object',
      properties: {
        name,
        surround: { type: 'integer', minimum: 0, maximum: 10 },
        ...{ forWhom: text(200), question: text(500) },
        due: { type: ['string', 'null'], format: 'date' },
      },
      required: ['name', 'surround'],
    },
    /** The board from which all copies of this one come, and its state when this one left it. */
    origin: whereSchema,
    /** This very copy, when it was saved. */
    from: whereSchema,
    pictures: { type: 'array', maxItems: 100_000, items: pictureSchema },
    items: { type: 'array', maxItems: 100_000, items: { type: 'object' } },
    /** What was done since this copy left its origin, or since the first one left this; null: too much to carry. */
    changes: {
      type: ['array', 'null'],
      maxItems: 200_000,
      items: {
        type: 'object',
        properties: {
          revision: count,
          at: { type: 'string', format: 'date-time' },
          by: { ...text(200), type: ['string', 'null'] },
          change: { type: 'object' },
        },
        required: ['revision', 'at', 'by', 'change'],
      },
    },
    /** What those are to do who get it; a copy begins with it as a list to check off. */
    tasks: text(10_000),
    named: {
      type: 'array',
      maxItems: 10_000,
      items: { type: 'object', properties: { revision: count, name }, required: ['revision', 'name'] },
    },
  },
  required: ['kind', 'version', 'savedAt', 'board', 'origin', 'from', 'pictures', 'items', 'changes'],
} as const;
export type BoardFile = FromSchema<typeof boardFileSchema>;
export type BoardFilePicture = BoardFile['pictures'][number];
/** A state of a board in some database. */
export type BoardOrigin = BoardFile['origin'];

/** A board file that came in, as far as it was looked at. */
export interface ReceivedBoardFile {
  readonly id: string;
  readonly name: string;
  readonly savedAt: string;
  readonly items: number;
  readonly pictures: number;
  /** Pictures of which no bytes are in it. */
  readonly without: number;
  /** Boards here into which what was done to it since can be merged, and how many changes that are. */
  readonly mergesInto: readonly { readonly board: string; readonly name: string; readonly changes: number }[];
}

/** Body of `POST /api/board-files/:id/readings`: as a board of its own, or into one that it shares a past with. */
export const readBoardFileSchema = {
  $id: 'read-board-file',
  type: 'object',
  properties: {
    /** A board to merge into; null: it becomes a board of its own. */
    into: { type: ['string', 'null'], format: 'uuid' },
    /** Whose changes those are that do not say it. */
    by: { ...text(120), type: ['string', 'null'] },
  },
  required: ['into'],
  additionalProperties: false,
} as const;
export type ReadBoardFile = FromSchema<typeof readBoardFileSchema>;

/** What was not taken over, and why, in words. */
export interface LeftOut {
  readonly what: string;
  readonly why: string;
}

/** What became of reading a board file. */
export interface BoardFileReading {
  readonly state: 'waiting' | 'working' | 'done' | 'failed';
  readonly why: string | null;
  readonly result: {
    readonly board: string;
    /** Pictures that came in; such as were here already do not count. */
    readonly pictures: number;
    /** Changes that were merged, and such as were here already. */
    readonly changes: number;
    readonly known: number;
    readonly leftOut: readonly LeftOut[];
  } | null;
}
