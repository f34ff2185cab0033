import type { FromSchema } from 'json-schema-to-ts';
import { itemIdSchema } from '../items/index.ts';

/** Kinds in which pictures are taken out, and how their files end. */
export const EXPORT_TYPES = { 'image/png': 'png', 'image/jpeg': 'jpg', 'image/webp': 'webp' } as const;
export type ExportType = keyof typeof EXPORT_TYPES;

/**
 * Body of `POST /api/boards/:id/exports`. `items`: those and what lies in them; one bay: its region; null: the whole board.
 * `as`: `flat`, all of it as one picture; `each`, every picture among them as it stands, at its own pixels: several as a ZIP.
 */
export const createExportSchema = {
  $id: 'create-export',
  type: 'object',
  properties: {
    id: { type: 'string', format: 'uuid' },
    items: {
      anyOf: [{ type: 'array', items: itemIdSchema, minItems: 1, maxItems: 20_000 }, { type: 'null' }],
    },
    as: { enum: ['flat', 'each'] },
    type: { enum: ['image/png', 'image/jpeg', 'image/webp'] },
    /** Longest side, pixels; null: as many as the finest picture has, within what can be made. */
    side: { type: ['integer', 'null'], minimum: 1, maximum: 16_000 },
    /** Behind the pictures: nothing, the grey of the board, white. JPEG has white for nothing. */
    ground: { enum: ['clear', 'surround', 'white'] },
  },
  required: ['items', 'as', 'type', 'side', 'ground'],
  additionalProperties: false,
} as const;
export type CreateExport = FromSchema<typeof createExportSchema>;

/** Body of `PATCH /api/exports/:id`. */
export const patchExportSchema = {
  $id: 'patch-export',
  type: 'object',
  properties: { stopped: { const: true } },
  required: ['stopped'],
  additionalProperties: false,
} as const;
export type PatchExport = FromSchema<typeof patchExportSchema>;

export const EXPORT_STATES = ['waiting', 'working', 'done', 'failed', 'stopped'] as const;
export type ExportState = (typeof EXPORT_STATES)[number];

/** Something that is taken out, made by the server; kept for a day. */
export interface Export {
  readonly id: string;
  readonly board: string;
  /** Of its file. */
  readonly name: string;
  readonly state: ExportState;
  /** Why it failed, in words. */
  readonly why: string | null;
  /** Pixels; null until it is made, and for several files. */
  readonly width: number | null;
  readonly height: number | null;
  readonly bytes: number | null;
  /** Pictures that could not be in it: their pixels are not here, or cannot be read. */
  readonly missing: number;
}
