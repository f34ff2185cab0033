import type { FromSchema } from 'json-schema-to-ts';
import { LENS_MM, type Stance, type TakenView } from '../model/index.ts';
import type { Level, Measures, PictureKind } from '../picture/index.ts';
import { aboutDrawingSchema } from './drawing.ts';
import { wholeNumber } from './number.ts';
import { type Pile, type Purpose, sortingProperties, type View } from './sorting.ts';

/** Where a picture's 32- and 64-px copies lie: one cell of two atlases. */
export interface AtlasPlace {
  readonly slot: number;
  readonly hash32: string;
  readonly hash64: string;
}

/** Where a picture comes from, as far as it is known; addresses are absolute. */
export interface PictureSource {
  /** Of the picture itself. */
  readonly address: string | null;
  /** Of the page on which it was found. */
  readonly page: string | null;
  readonly title: string | null;
  readonly creator: string | null;
  readonly licence: string | null;
}

/** How a model was looked at when a picture was taken of it; angles as those of a `View`. */
export interface TakenOfModel extends TakenView {
  /** The model's own picture. */
  readonly model: string;
}

/** What the file itself tells; a position only where the owner asked for it. */
export interface PictureFacts {
  /** mm, of the lens. */
  readonly focalLengthMm?: number;
  /** mm, of the lens that shows as much on 36 × 24 mm. */
  readonly focalLength35Mm?: number;
  /** As the camera wrote it: its own clock, no time zone ("2026-05-12T07:14:55"). */
  readonly takenAt?: string;
  /** mm, of a sheet that was squared: its own sides. */
  readonly paperMm?: { readonly width: number; readonly height: number };
  /** Of a model: which way it stands, where somebody said so. */
  readonly stance?: Stance;
  /** Of a model. */
  readonly triangles?: number;
  /** Of a picture that was taken of a model: how it was looked at. */
  readonly taken?: TakenOfModel;
  readonly camera?: string;
  readonly lens?: string;
  /** degrees north and east */
  readonly position?: { readonly latitude: number; readonly longitude: number };
}

/** `look`: only to look at; `work`: may go into the work; null: nobody said. */
export type UseMark = 'look' | 'work' | null;

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
  /** Lossless pixels for reading, at `GET /api/pictures/:id/pixels`; null: nobody asked for them, or they are in work. */
  readonly exact: 'ready' | 'failed' | null;
  readonly kind: PictureKind;
  /** 1 for a still and for a model. */
  readonly frames: number;
  /** Of all frames together, ms; null where it does not say, or nothing moves. */
  readonly durationMs: number | null;
  readonly source: PictureSource;
  readonly facts: PictureFacts;
  readonly useMark: UseMark;
  /** The board for which alone it is here; offered for removal when that is put away. */
  readonly onlyFor: string | null;
  readonly isPutAway: boolean;
  /** Copies of it that came in, each undecided yet. */
  readonly copies: readonly PictureCopy[];
  /** A person's words about it. */
  readonly note: string;
  readonly tags: readonly string[];
  readonly purposes: readonly Purpose[];
  readonly pile: Pile;
  /** Parts of subjects that it serves; a subject as a whole stands among them by its own id. */
  readonly parts: readonly string[];
  readonly views: Readonly<Record<string, View>>;
  /** It has true dimensions: a plan, a side or front view with a known length. */
  readonly isToScale: boolean;
  /** Null until they are taken. Not told where all pictures of a board are: they are most of it, and few are looked at. */
  readonly measures?: Measures | null;
}

/** A near copy: the same picture, larger or smaller, saved again, a little cropped, or turned over. */
export interface PictureCopy {
  readonly picture: string;
  readonly isMirrored: boolean;
  /** Its longest side by that of the picture that it is listed with. */
  readonly scale: number;
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
  /** Ids of those among them that were here before: the same bytes are the same picture. */
  readonly known: readonly string[];
  readonly refused: readonly RefusedFile[];
}

const text = { type: ['string', 'null'], format: 'text', maxLength: 2_000 } as const;
const webAddress = {
  type: ['string', 'null'],
  format: 'text',
  maxLength: 4_000,
  pattern: '^https?://',
} as const;
const name = { type: 'string', format: 'name', minLength: 1, maxLength: 200 } as const;

export const sourceSchema = {
  type: 'object',
  properties: { address: webAddress, page: webAddress, title: text, creator: text, licence: text },
  additionalProperties: false,
} as const;

export const stanceSchema = {
  type: 'object',
  properties: { up: { enum: ['y', 'z'] }, frontDeg: { type: 'number', minimum: -180, maximum: 180 } },
  required: ['up', 'frontDeg'],
  additionalProperties: false,
} as const;

const takenSchema = {
  type: 'object',
  properties: {
    model: { type: 'string', format: 'uuid' },
    azimuthDeg: { type: 'number', minimum: -180, maximum: 180 },
    elevationDeg: { type: 'number', minimum: -90, maximum: 90 },
    lightAzimuthDeg: { type: 'number', minimum: -180, maximum: 180 },
    lightElevationDeg: { type: 'number', minimum: -90, maximum: 90 },
    lensMm: { type: ['number', 'null'], minimum: LENS_MM.least, maximum: LENS_MM.most },
  },
  required: ['model', 'azimuthDeg', 'elevationDeg', 'lightAzimuthDeg', 'lightElevationDeg', 'lensMm'],
  additionalProperties: false,
} as const;

/** What a person says of a picture; of its source, what is not named stays. */
export const patchPictureSchema = {
  $id: 'patch-picture',
  type: 'object',
  properties: {
    name,
    source: sourceSchema,
    useMark: { enum: ['look', 'work', null] },
    onlyFor: { type: ['string', 'null'], format: 'uuid' },
    isPutAway: { type: 'boolean' },
    ...sortingProperties,
    /** Given to these as well; what it serves already stays. */
    addParts: sortingProperties.parts,
    /** By subject, where nobody said it yet. */
    fillViews: sortingProperties.views,
    /** Of a model: which way it stands. */
    stance: stanceSchema,
  },
  minProperties: 1,
  additionalProperties: false,
} as const;
export type PatchPicture = FromSchema<typeof patchPictureSchema>;

const paperSide = { type: 'number', minimum: 1, maximum: 100_000 } as const;

/** What is known of a file beside its bytes, as JSON in the field `about` of the form that carries it. */
export const aboutPictureSchema = {
  $id: 'about-picture',
  type: 'object',
  properties: {
    name,
    source: sourceSchema,
    paperMm: {
      type: 'object',
      properties: { width: paperSide, height: paperSide },
      required: ['width', 'height'],
      additionalProperties: false,
    },
    taken: takenSchema,
    drawing: aboutDrawingSchema,
  },
  additionalProperties: false,
} as const;
export type AboutPicture = FromSchema<typeof aboutPictureSchema>;

/**
 * What shall become of two near copies: `keep` stands everywhere from then on, or both stay as they are; `undecided` takes
 * it back that nothing more is said of them.
 */
export const settleCopySchema = {
  $id: 'settle-copy',
  type: 'object',
  properties: {
    other: { type: 'string', format: 'uuid' },
    keep: { enum: ['this', 'other', 'both', 'undecided'] },
  },
  required: ['other', 'keep'],
  additionalProperties: false,
} as const;
export type SettleCopy = FromSchema<typeof settleCopySchema>;

const pixel = { ...wholeNumber, minimum: 0, maximum: 1_000_000 } as const;

/** A part of a picture, whole pixels of the original, upright. */
export const pixelsQuerySchema = {
  $id: 'pixels-query',
  type: 'object',
  properties: {
    x: pixel,
    y: pixel,
    width: { ...pixel, minimum: 1 },
    height: { ...pixel, minimum: 1 },
    /** RGBA, straight alpha, row by row: a byte each, sRGB; or four, linear sRGB unbounded (little-endian floats). */
    as: { enum: ['srgb8', 'light'] },
  },
  required: ['x', 'y', 'width', 'height', 'as'],
  additionalProperties: false,
} as const;
export type PixelsQuery = FromSchema<typeof pixelsQuerySchema>;
/** So many are handed out at once. */
export const MOST_PIXELS_AT_ONCE = 1_048_576;

export const picturesQuerySchema = {
  $id: 'pictures-query',
  type: 'object',
  properties: {
    board: { type: 'string', format: 'uuid' },
    ids: { type: 'string', format: 'text', maxLength: 4_000 },
    /** What came in and stands nowhere yet. */
    landing: { type: 'boolean' },
    /** What is here for one board alone. */
    onlyFor: { type: 'string', format: 'uuid' },
    after: { type: 'string', format: 'text', maxLength: 100 },
    limit: { ...wholeNumber, minimum: 1, maximum: 1000 },
  },
  additionalProperties: false,
} as const;
export type PicturesQuery = FromSchema<typeof picturesQuerySchema>;
