import type { FromSchema } from 'json-schema-to-ts';
import { itemIdSchema } from '../items/index.ts';
import { BOARD_FILE_PICTURES } from './board-file.ts';

/** Kinds in which pictures are taken out, and how their files end. */
export const EXPORT_TYPES = { 'image/png': 'png', 'image/jpeg': 'jpg', 'image/webp': 'webp' } as const;
export type ExportType = keyof typeof EXPORT_TYPES;

/**
 * What something is taken out as. `flat`: one picture; `each`: every picture among it, as it stands; `board-file`: the whole
 * board; `drawing`: SVG; `layers`: OpenRaster; `pages`: PDF at true size; `annotations`: what was said of pictures, JSON-LD.
 */
export const EXPORT_FORMS = [
  ...(['flat', 'each', 'board-file', 'drawing', 'layers', 'pages', 'annotations'] as const),
] as const;

const printSchema = {
  type: 'object',
  properties: {
    widthMm: { type: 'number', minimum: 5, maximum: 5_080 },
    paper: { enum: ['A4', 'A3', 'A2', 'Letter', 'Tabloid', null] },
    overlapMm: { type: 'number', minimum: 0, maximum: 60 },
    /** Pixels an inch. */
    ppi: { type: 'integer', minimum: 36, maximum: 600 },
  },
  required: ['widthMm', 'paper', 'overlapMm', 'ppi'],
  additionalProperties: false,
} as const;
export type Print = FromSchema<typeof printSchema>;

/**
 * Body of `POST /api/boards/:id/exports`. `items`: those and what lies in them; one bay: its region; null: the whole board.
 * `as`: `board-file`, the whole board with its pictures, as a ZIP; `flat`, all of it as one picture; `each`, every picture among them as it stands, at its own pixels: several as a ZIP.
 */
export const createExportSchema = {
  $id: 'create-export',
  type: 'object',
  properties: {
    id: { type: 'string', format: 'uuid' },
    items: {
      anyOf: [{ type: 'array', items: itemIdSchema, minItems: 1, maxItems: 20_000 }, { type: 'null' }],
    },
    as: { enum: EXPORT_FORMS },
    /** Of a board file for a class: what is to be done with it. */
    tasks: { type: 'string', format: 'text', maxLength: 10_000 },
    /** Of a drawing: pictures lie beside it, in a ZIP, instead of in it. */
    isLinked: { type: 'boolean' },
    /** Of pages: how wide the region is on paper, and on which; null: one page as large as the region. */
    print: printSchema,
    /** Of a board file: which pictures go along; copies are `side` wide. */
    pictures: { enum: BOARD_FILE_PICTURES },
    type: { enum: ['image/png', 'image/jpeg', 'image/webp'] },
    /** Longest side, pixels; null: as many as the finest picture has, within what can be made. */
    side: { type: ['integer', 'null'], minimum: 1, maximum: 16_000 },
    /** Behind the pictures: nothing, the grey of the board, white. JPEG has white for nothing. */
    ground: { enum: ['clear', 'surround', 'white'] },
    /** What hands drew is left out. */
    withoutMarks: { type: 'boolean' },
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
