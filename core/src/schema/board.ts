import type { FromSchema } from 'json-schema-to-ts';
import { type SheetItem, sheetSchema } from '../items/index.ts';
import type { Item } from './item.ts';

const name = { type: 'string', format: 'name', minLength: 1, maxLength: 200 } as const;

export const createBoardSchema = {
  $id: 'create-board',
  type: 'object',
  properties: {
    id: { type: 'string', format: 'uuid' },
    name,
    /** What makes it one of the easel: the paper that lies beneath everything. */
    sheet: {
      type: 'object',
      properties: {
        setup: sheetSchema.properties.setup,
        need: sheetSchema.properties.need,
        paper: sheetSchema.properties.paper,
      },
      required: ['setup', 'need'],
      additionalProperties: false,
    },
  },
  required: ['name'],
  additionalProperties: false,
} as const;
/** Body of `POST /api/boards/:id/copies`: the new board. */
export const copyBoardSchema = {
  $id: 'copy-board',
  type: 'object',
  properties: { id: createBoardSchema.properties.id, name },
  required: ['name'],
  additionalProperties: false,
} as const;

export type CreateBoard = FromSchema<typeof createBoardSchema>;

export const patchBoardSchema = {
  $id: 'patch-board',
  type: 'object',
  properties: {
    name,
    putAway: { type: 'boolean' },
    surround: { type: 'integer', minimum: 0, maximum: 10 },
    /** What it is for: for whom, which question it answers, and by which day. */
    forWhom: { type: 'string', format: 'text', maxLength: 200 },
    question: { type: 'string', format: 'text', maxLength: 500 },
    due: { type: ['string', 'null'], format: 'date' },
  },
  minProperties: 1,
  additionalProperties: false,
} as const;
export type PatchBoard = FromSchema<typeof patchBoardSchema>;

/** A board without its items. `surround` is the Munsell value of the ground; dates are ISO 8601. */
export interface Board {
  readonly id: string;
  readonly name: string;
  readonly surround: number;
  readonly putAway: boolean;
  readonly revision: number;
  readonly createdAt: string;
  readonly changedAt: string;
  readonly pictures: number;
  /** Hash of a picture of the board, at `/api/levels/:hash`; null until one was painted. */
  readonly preview: string | null;
  /** Its brief: '' and null where nobody said. `due`: a day, ISO 8601. */
  readonly forWhom: string;
  readonly question: string;
  readonly due: string | null;
  /** The paper of a board of the easel; null for any other. */
  readonly sheet: Pick<SheetItem, 'setup' | 'need'> | null;
}

/** Answer of `GET /api/boards/:id`: everything at one revision. */
export interface BoardSnapshot {
  readonly board: Board;
  readonly items: readonly Item[];
  readonly revision: number;
  /** Id of the change that led to this revision; null for a board to which nothing was done. */
  readonly lastChange: string | null;
}

/** `GET /api/health`: whether requests and background work are served right now, and what is away. */
export interface Health {
  readonly isReady: boolean;
  readonly database: 'ready' | 'away';
  readonly jobs: 'ready' | 'away' | 'unknown';
  /** Jobs that nobody has begun yet; null where nobody can say. */
  readonly waitingJobs: number | null;
}
