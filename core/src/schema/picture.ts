import type { FromSchema } from 'json-schema-to-ts';
import type { Level } from '../picture/index.ts';

/** Where a picture's 32- and 64-px copies lie: one cell of two atlases. */
export interface AtlasPlace {
  readonly slot: number;
  readonly hash32: string;
  readonly hash64: string;
}

/**
 * One stored picture. `width` and `height` are pixels of the upright picture; `state` is `arriving` until its levels are
 * made, `failed` when they cannot be; `thumbhash` is base64, null until made.
 */
export interface Picture {
  readonly id: string;
  readonly name: string;
  readonly fileName: string;
  readonly type: string;
  readonly bytes: number;
  readonly sha256: string;
  readonly width: number;
  readonly height: number;
  readonly state: 'arriving' | 'ready' | 'failed';
  readonly failure: string | null;
  readonly addedAt: string;
  readonly thumbhash: string | null;
  readonly levels: readonly Level[];
  readonly atlas: AtlasPlace | null;
  /** The file's own colour space ("sRGB", "Display P3", "CMYK", "grey"); null until it was looked at. */
  readonly colour: string | null;
  /** Bits of a channel; null until it was looked at. */
  readonly depth: number | null;
  /** A lossless copy in sRGB, at `/api/levels/:hash`, where browsers cannot read the original. */
  readonly reading: string | null;
  /** Tiles at full size are there: `GET /api/pictures/:id/tiles`. */
  readonly hasTiles: boolean;
}

/** One level of a tile pyramid; hashes row by row, each tile `TILE_PX` square except at the right and lower edges. */
export interface TileLevel {
  readonly width: number;
  readonly height: number;
  readonly columns: number;
  readonly rows: number;
  readonly hashes: readonly string[];
}

/** Why one file of a request was not taken. */
export interface RefusedFile {
  readonly fileName: string;
  readonly code: string;
  readonly title: string;
}

/** Answer of `POST /api/pictures`. */
export interface IntakeAnswer {
  readonly pictures: readonly Picture[];
  readonly refused: readonly RefusedFile[];
}

export const patchPictureSchema = {
  $id: 'patch-picture',
  type: 'object',
  properties: { name: { type: 'string', minLength: 1, maxLength: 200, pattern: '\\S' } },
  required: ['name'],
  additionalProperties: false,
} as const;
export type PatchPicture = FromSchema<typeof patchPictureSchema>;

export const picturesQuerySchema = {
  $id: 'pictures-query',
  type: 'object',
  properties: {
    board: { type: 'string', format: 'uuid' },
    ids: { type: 'string', maxLength: 4_000 },
    after: { type: 'string', maxLength: 100 },
    limit: { type: 'integer', minimum: 1, maximum: 1000 },
  },
  additionalProperties: false,
} as const;
export type PicturesQuery = FromSchema<typeof picturesQuerySchema>;
