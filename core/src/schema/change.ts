import type { FromSchema } from 'json-schema-to-ts';
import { type Item, itemIdSchema } from './item.ts';

/** Limits of one request that brings changes. */
export const CHANGE_LIMITS = { operations: 20_000, bytes: 16 * 1024 * 1024, changes: 1_000 } as const;

/**
 * Sets properties of one item, or creates one. The values are checked by kind (`ITEM_SCHEMAS`, `SET_SCHEMAS`) once
 * the server knows what kind the item is.
 */
export type Operation =
  | { readonly item: string; readonly set: Readonly<Record<string, unknown>> }
  | { readonly create: Item };

/** The only way to alter a board: one gesture, known everywhere by its client-made id. */
export interface Change {
  readonly id: string;
  readonly operations: readonly Operation[];
  /** Id of the browser in which it was made; only on its way to the server. */
  readonly browser?: string;
}

/** A change that was made, and what takes it back. */
export interface Done {
  readonly change: Change;
  readonly inverse: readonly Operation[];
}

/** The same, with the board on which it was made. */
export interface BoardDone {
  readonly board: string;
  readonly done: Done;
}

/** What deciding about two near copies did: changes of boards, and which picture was put away. */
export interface SettledCopy {
  readonly changes: readonly BoardDone[];
  readonly putAway: string | null;
}

/** The form of a change; deliberately open about values, which are checked by kind. */
export const changeSchema = {
  $id: 'change',
  type: 'object',
  properties: {
    id: { type: 'string', format: 'uuid' },
    browser: { type: 'string', format: 'uuid' },
    operations: {
      type: 'array',
      minItems: 1,
      maxItems: CHANGE_LIMITS.operations,
      items: {
        oneOf: [
          {
            type: 'object',
            properties: {
              item: itemIdSchema,
              set: { type: 'object', minProperties: 1 },
            },
            required: ['item', 'set'],
            additionalProperties: false,
          },
          {
            type: 'object',
            properties: { create: { type: 'object' } },
            required: ['create'],
            additionalProperties: false,
          },
        ],
      },
    },
  },
  required: ['id', 'operations'],
  additionalProperties: false,
} as const;

/** Body of `POST /api/boards/:id/changes`. Each change is checked alone, so that a bad one refuses only itself. */
export const changesBodySchema = {
  $id: 'changes-body',
  type: 'object',
  properties: {
    changes: { type: 'array', minItems: 1, maxItems: CHANGE_LIMITS.changes, items: { type: 'object' } },
  },
  required: ['changes'],
  additionalProperties: false,
} as const;

export type ChangeRefusalCode =
  | 'malformed'
  | 'unknown-item'
  | 'item-exists'
  | 'foreign-picture'
  | 'board-missing'
  | 'too-many-operations'
  /** Said by the browser itself: the server failed at it again and again. */
  | 'set-aside';

/** What became of one change. */
export type ChangeOutcome =
  | { readonly id: string; readonly revision: number }
  | { readonly id: string; readonly refused: { readonly code: ChangeRefusalCode; readonly title: string } };

export interface LoggedChange {
  readonly revision: number;
  readonly change: Change;
}

export const sinceQuerySchema = {
  $id: 'since-query',
  type: 'object',
  properties: {
    since: { type: 'integer', minimum: 0, maximum: Number.MAX_SAFE_INTEGER },
    /** The change that led to that revision, as far as the asker knows: another one there means another past. */
    last: { type: 'string', format: 'uuid' },
  },
  required: ['since'],
  additionalProperties: false,
} as const;
export type SinceQuery = FromSchema<typeof sinceQuerySchema>;

export const findItemsQuerySchema = {
  $id: 'find-items-query',
  type: 'object',
  properties: {
    words: { type: 'string', format: 'text', minLength: 1, maxLength: 200 },
    limit: { type: 'integer', minimum: 1, maximum: 100, default: 20 },
  },
  required: ['words'],
  additionalProperties: false,
} as const;
export type FindItemsQuery = FromSchema<typeof findItemsQuerySchema>;

/** Something that is written on a board. */
export interface FoundItem {
  readonly board: string;
  readonly boardName: string;
  readonly item: string;
  /** How it begins. */
  readonly said: string;
}
