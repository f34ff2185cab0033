import type { FromSchema } from 'json-schema-to-ts';

const uuid = { type: 'string', format: 'uuid' } as const;

/** Where links are served, by a listener of its own; `isOn`: false, nothing is. */
export const linkListenerSchema = {
  type: 'object',
  properties: {
    isOn: { type: 'boolean' },
    /** An address of this computer: 127.0.0.1 for itself alone, 0.0.0.0 for everybody who reaches it. */
    host: { type: 'string', pattern: '^[0-9A-Za-z.:-]{1,200}$' },
    port: { type: 'integer', minimum: 1_024, maximum: 65_535 },
    /** How others reach it, where that is another address: what links begin with. */
    address: { type: 'string', format: 'text', pattern: '^(?:https?://[^\\s/]+)?$', maxLength: 300 },
    /** Paths of a certificate and its key, PEM; without them it is plain HTTP. */
    certificate: { type: 'string', format: 'text', maxLength: 1_000 },
    key: { type: 'string', format: 'text', maxLength: 1_000 },
  },
  required: ['isOn', 'host', 'port'],
  additionalProperties: false,
} as const;
export type LinkListenerSettings = FromSchema<typeof linkListenerSchema>;

export const createLinkSchema = {
  $id: 'create-link',
  type: 'object',
  properties: {
    id: uuid,
    board: uuid,
    title: { type: 'string', format: 'text', maxLength: 200 },
    withOriginals: { type: 'boolean' },
    tasks: { type: 'string', format: 'text', maxLength: 10_000 },
  },
  required: ['id', 'board', 'withOriginals'],
  additionalProperties: false,
} as const;
export type CreateLink = FromSchema<typeof createLinkSchema>;

export const patchLinkSchema = {
  $id: 'patch-link',
  type: 'object',
  properties: { isEnded: { const: true } },
  required: ['isEnded'],
  additionalProperties: false,
} as const;
export type PatchLink = FromSchema<typeof patchLinkSchema>;

/** A link to look at a board, as its owner sees it. */
export interface BoardLink {
  readonly id: string;
  readonly title: string;
  /** Path of its page on the listener. */
  readonly path: string;
  readonly withOriginals: boolean;
  readonly tasks: string;
  readonly createdAt: string;
  readonly endedAt: string | null;
  readonly guests: readonly {
    readonly name: string;
    readonly yes: number;
    readonly no: number;
    readonly remarks: number;
    readonly sentAt: string | null;
  }[];
}

/** Whether links are served right now. */
export interface LinkListening {
  readonly isOn: boolean;
  /** What links begin with; null while nothing is served. */
  readonly address: string | null;
  /** Why nothing is served though it should be. */
  readonly why: string | null;
}
