import type { FromSchema } from 'json-schema-to-ts';
import type { Change } from './change.ts';
import type { Item, ItemKind } from './item.ts';

/** How many items of one kind came to stand, went, and were altered otherwise. */
export interface Counts {
  readonly added: number;
  readonly removed: number;
  readonly altered: number;
}

/** What a change, or many, did, by kind of item. */
export type Gist = Readonly<Partial<Record<ItemKind, Counts>>>;

/** Changes by one person that followed each other closely. Revisions are those to which its changes led; dates ISO 8601. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly begunAt: string;
  readonly endedAt: string;
  /** Null: the owner. */
  readonly by: string | null;
  readonly gist: Gist;
}

/** A change as the past tells it. */
export interface PastChange {
  readonly revision: number;
  readonly at: string;
  readonly by: string | null;
  readonly change: Change;
}

/**
 * A piece of a board's past: its items at `base`, and the changes that followed up to `until`. Any state between is those
 * changes applied to these items.
 */
export interface PastSegment {
  readonly base: number;
  readonly until: number;
  readonly items: readonly Item[];
  readonly changes: readonly PastChange[];
}

/** A state that was given a name. */
export interface NamedState {
  readonly id: string;
  readonly revision: number;
  readonly name: string;
  readonly namedAt: string;
}

export const putNamedStateSchema = {
  $id: 'put-named-state',
  type: 'object',
  properties: {
    board: { type: 'string', format: 'uuid' },
    /** Missing: the state at the moment in which this arrives. */
    revision: { type: 'integer', minimum: 0, maximum: Number.MAX_SAFE_INTEGER },
    name: { type: 'string', format: 'name', minLength: 1, maxLength: 200 },
    isPutAway: { type: 'boolean' },
  },
  required: ['board'],
  additionalProperties: false,
} as const;
export type PutNamedState = FromSchema<typeof putNamedStateSchema>;

export const revisionQuerySchema = {
  $id: 'revision-query',
  type: 'object',
  /** Missing: the latest. */
  properties: { revision: { type: 'integer', minimum: 0, maximum: Number.MAX_SAFE_INTEGER } },
  additionalProperties: false,
} as const;
export type RevisionQuery = FromSchema<typeof revisionQuerySchema>;

export const newsQuerySchema = {
  $id: 'news-query',
  type: 'object',
  properties: {
    since: { type: 'integer', minimum: 0, maximum: Number.MAX_SAFE_INTEGER },
    /** The browser that asks: what was made in it is no news to it. */
    browser: { type: 'string', format: 'uuid' },
  },
  required: ['since'],
  additionalProperties: false,
} as const;
export type NewsQuery = FromSchema<typeof newsQuerySchema>;

/** Answer of `GET /api/boards/:id/history`. */
export interface History {
  readonly revision: number;
  /** Oldest first. */
  readonly stretches: readonly Stretch[];
  readonly named: readonly NamedState[];
}

/** What happened to a board since a revision, as it stands now. */
export interface BoardNews {
  readonly revision: number;
  /** What came, went or was altered, each item counted once, by who did it last. */
  readonly by: readonly { readonly name: string | null; readonly gist: Gist }[];
  /** Items that stand and came or were altered. */
  readonly items: readonly string[];
}
