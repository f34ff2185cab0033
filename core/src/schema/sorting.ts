import type { FromSchema } from 'json-schema-to-ts';
import { LENS_MM } from '../model/index.ts';

/** Why a picture, or a region of it, is here. */
export const PURPOSES = [
  ...['form', 'viewpoint', 'proportion', 'light', 'colour', 'surface'],
  ...['detail', 'pose', 'costume', 'mood', 'effect', 'method'],
] as const;
export type PurposeName = (typeof PURPOSES)[number];

/** Three piles instead of stars: what is worked with now, what may come, what is out. */
export const PILES = ['now', 'maybe', 'no'] as const;
export type Pile = (typeof PILES)[number] | null;

export const DISTANCES = ['near', 'middle', 'far'] as const;
export type DistanceStep = (typeof DISTANCES)[number];

const fraction = { type: 'number', minimum: 0, maximum: 1 } as const;
export const regionSchema = {
  type: 'object',
  properties: { x: fraction, y: fraction, width: fraction, height: fraction },
  required: ['x', 'y', 'width', 'height'],
  additionalProperties: false,
} as const;
/** Part of the upright picture, 0..1 of its sides. */
export type Region = FromSchema<typeof regionSchema>;

const purposeSchema = {
  type: 'object',
  properties: {
    purpose: { enum: PURPOSES },
    /** "This, not that": how it must not be. */
    isNot: { type: 'boolean' },
    /** A part of the picture, or a point of it: then it has no sides. */
    region: { anyOf: [regionSchema, { type: 'null' }] },
    /** What it is, in words of one's own. */
    word: { type: 'string', format: 'text', maxLength: 200 },
    /** The colour that was read there, `#rrggbb`. */
    colour: { type: 'string', pattern: '^#[0-9a-f]{6}$' },
  },
  required: ['purpose', 'isNot', 'region'],
  additionalProperties: false,
} as const;
export type Purpose = FromSchema<typeof purposeSchema>;

const direction = (most: number) => ({ type: ['number', 'null'], minimum: -most, maximum: most }) as const;
const viewSchema = {
  type: 'object',
  properties: {
    azimuthDeg: direction(180),
    elevationDeg: direction(90),
    lightAzimuthDeg: direction(180),
    lightElevationDeg: direction(90),
    distance: { enum: [...DISTANCES, null] },
    /** Of a 35-mm camera, where it is known for certain: of a picture that was taken of a model. */
    lensMm: { type: 'number', minimum: LENS_MM.least, maximum: LENS_MM.most },
  },
  required: ['azimuthDeg', 'elevationDeg', 'lightAzimuthDeg', 'lightElevationDeg', 'distance'],
  additionalProperties: false,
} as const;
/**
 * From where a picture shows its subject; null where nobody said. Azimuth 0 is the subject's front, positive towards
 * its left hand; elevation 0 is level with it, 90 straight above. The light's azimuth is as seen by the viewer: 0 comes
 * from behind them, 90 from their right, 180 from behind the subject.
 */
export type View = FromSchema<typeof viewSchema>;
/** The view of a subject that nobody said anything of. */
export const UNSAID_VIEW: View = {
  ...{ azimuthDeg: null, elevationDeg: null, lightAzimuthDeg: null, lightElevationDeg: null },
  distance: null,
};

const tag = {
  type: 'string',
  format: 'name',
  minLength: 1,
  maxLength: 60,
  pattern: '^\\S(.*\\S)?$',
} as const;
const uuid = { type: 'string', format: 'uuid' } as const;
const tags = { type: 'array', items: tag, maxItems: 40, uniqueItems: true } as const;
/** So many things can be said of one picture and its parts. */
export const MOST_PURPOSES = 40;
const purposes = { type: 'array', items: purposeSchema, maxItems: MOST_PURPOSES } as const;
const parts = { type: 'array', items: uuid, maxItems: 60, uniqueItems: true } as const;

/** What a person says of a picture to sort it; each may be set alone. */
export const sortingProperties = {
  note: { type: 'string', format: 'text', maxLength: 10_000 },
  tags,
  purposes,
  pile: { enum: [...PILES, null] },
  parts,
  /** By subject. */
  views: { type: 'object', propertyNames: uuid, additionalProperties: viewSchema, maxProperties: 40 },
  isToScale: { type: 'boolean' },
} as const;

const partSchema = {
  type: 'object',
  properties: {
    id: uuid,
    name: { type: 'string', format: 'name', minLength: 1, maxLength: 120 },
    parts: {
      type: 'array',
      maxItems: 60,
      items: {
        type: 'object',
        properties: { id: uuid, name: { type: 'string', format: 'name', minLength: 1, maxLength: 120 } },
        required: ['id', 'name'],
        additionalProperties: false,
      },
    },
  },
  required: ['id', 'name', 'parts'],
  additionalProperties: false,
} as const;
/** Part of a subject; it may have parts of its own, and those have none. */
export type SubjectPart = FromSchema<typeof partSchema>;

/** A subject as it is kept: what is not named stays; one that is not there is made. */
export const putSubjectSchema = {
  $id: 'put-subject',
  type: 'object',
  properties: {
    name: { type: 'string', format: 'name', minLength: 1, maxLength: 200 },
    parts: { type: 'array', items: partSchema, maxItems: 60 },
    isPutAway: { type: 'boolean' },
  },
  minProperties: 1,
  additionalProperties: false,
} as const;
export type PutSubject = FromSchema<typeof putSubjectSchema>;

/** What is being drawn, with its parts and how many pictures serve each. */
export interface Subject {
  readonly id: string;
  readonly name: string;
  readonly parts: readonly SubjectPart[];
  readonly isPutAway: boolean;
  /** Pictures given to it or to any part of it. */
  readonly pictures: number;
}

export const putTagSchema = {
  $id: 'put-tag',
  type: 'object',
  properties: { name: tag, colour: { type: ['string', 'null'], pattern: '^#[0-9a-f]{6}$' } },
  required: ['name', 'colour'],
  additionalProperties: false,
} as const;
export type PutTag = FromSchema<typeof putTagSchema>;

/** A tag in use, with the colour somebody gave it. */
export interface Tag {
  readonly name: string;
  readonly colour: string | null;
  readonly count: number;
}
