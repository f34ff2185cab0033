import type { FromSchema, JSONSchema } from 'json-schema-to-ts';

/** What is known about a file of the demo, because the project made it; it lies beside the file as `<file>.truth.json`. */
const point2 = {
  type: 'object',
  properties: { x: { type: 'number' }, y: { type: 'number' } },
  required: ['x', 'y'],
  additionalProperties: false,
} as const satisfies JSONSchema;

const point3 = {
  type: 'array',
  items: { type: 'number' },
  minItems: 3,
  maxItems: 3,
} as const satisfies JSONSchema;

const amounts = {
  type: 'object',
  additionalProperties: { type: 'number', exclusiveMinimum: 0 },
} as const satisfies JSONSchema;

export const truthSchema = {
  $id: 'demo-truth',
  type: 'object',
  properties: {
    file: { type: 'string', pattern: '^[A-Za-z0-9][A-Za-z0-9._-]*$' },
    title: { type: 'string', minLength: 1 },
    subject: { type: 'string', minLength: 1 },
    kind: { enum: ['rendered', 'copy', 'drawing', 'drawing in progress', 'animation', 'clip', 'model'] },
    mediaType: { type: 'string', pattern: '^(image|video|model)/[a-z0-9.+-]+$' },
    /** Pixels as shown, after orientation; a model has none. */
    width: { type: 'integer', minimum: 1 },
    height: { type: 'integer', minimum: 1 },
    /** Where the camera stands, in the frame of `demo/render/camera.ts`; `focalMm` is the 35-mm equivalent. */
    camera: {
      type: 'object',
      properties: {
        azimuthDeg: { type: 'number' },
        elevationDeg: { type: 'number', minimum: -90, maximum: 90 },
        rollDeg: { type: 'number' },
        distanceM: { type: 'number', exclusiveMinimum: 0 },
        focalMm: { type: 'number', exclusiveMinimum: 0 },
        apertureM: { type: 'number', exclusiveMinimum: 0 },
        targetM: point3,
      },
      required: ['azimuthDeg', 'elevationDeg', 'rollDeg', 'distanceM', 'focalMm', 'targetM'],
      additionalProperties: false,
    },
    /** The key light from the subject, and from the camera: degrees to its right of the line camera → subject reversed. */
    light: {
      type: 'object',
      properties: {
        kind: {
          enum: ['soft', 'side', 'raking', 'back', 'dusk', 'dawn', 'noon', 'overcast', 'fog', 'night'],
        },
        azimuthDeg: { type: 'number' },
        elevationDeg: { type: 'number', minimum: -90, maximum: 90 },
        fromCameraDeg: { type: 'number', minimum: -180, maximum: 180 },
        radiusDeg: { type: 'number', minimum: 0 },
        lamps: { type: 'integer', minimum: 0 },
      },
      required: ['kind', 'azimuthDeg', 'elevationDeg', 'fromCameraDeg', 'radiusDeg', 'lamps'],
      additionalProperties: false,
    },
    dimensionsM: amounts,
    vanishingPoints: {
      type: 'array',
      items: {
        type: 'object',
        properties: { axis: { type: 'string' }, x: { type: 'number' }, y: { type: 'number' } },
        required: ['axis', 'x', 'y'],
        additionalProperties: false,
      },
    },
    marks: {
      type: 'array',
      items: {
        type: 'object',
        properties: {
          name: { type: 'string' },
          atM: point3,
          x: { type: 'number' },
          y: { type: 'number' },
          isSeen: { type: 'boolean' },
        },
        required: ['name', 'atM', 'x', 'y', 'isSeen'],
        additionalProperties: false,
      },
    },
    /** Straight edges that can be measured in the picture, between places of it in pixels. */
    edges: {
      type: 'array',
      items: {
        type: 'object',
        properties: { name: { type: 'string' }, from: point2, to: point2, seenShare: { type: 'number' } },
        required: ['name', 'from', 'to', 'seenShare'],
        additionalProperties: false,
      },
    },
    /** Of a drawing to scale. */
    drawing: {
      type: 'object',
      properties: {
        view: { enum: ['plan', 'side', 'front', 'sheet'] },
        pixelsPerMetre: { type: 'number', exclusiveMinimum: 0 },
        tiltDeg: { type: 'number' },
      },
      required: ['view', 'pixelsPerMetre', 'tiltDeg'],
      additionalProperties: false,
    },
    /** How a copy or a drawing came from another file: crop in shares of that file, before scaling. */
    from: {
      type: 'object',
      properties: {
        file: { type: 'string' },
        how: {
          enum: ['rescaled', 'recompressed', 'cropped', 'mirrored', 'exported', 'drawn over', 'same frames'],
        },
        scale: { type: 'number', exclusiveMinimum: 0 },
        crop: {
          type: 'object',
          properties: {
            x: { type: 'number' },
            y: { type: 'number' },
            width: { type: 'number' },
            height: { type: 'number' },
          },
          required: ['x', 'y', 'width', 'height'],
          additionalProperties: false,
        },
      },
      required: ['file', 'how', 'scale'],
      additionalProperties: false,
    },
    /** What is wrong with a drawing on purpose. */
    errors: {
      type: 'array',
      items: {
        type: 'object',
        properties: {
          kind: { enum: ['too wide', 'leaning', 'too dark'] },
          amount: { type: 'number' },
          unit: { enum: ['percent', 'degrees', 'Munsell value steps'] },
        },
        required: ['kind', 'amount', 'unit'],
        additionalProperties: false,
      },
    },
    frames: { type: 'integer', minimum: 2 },
    durationMs: { type: 'integer', minimum: 1 },
    /** What the file itself says. */
    embedded: {
      type: 'object',
      properties: {
        orientation: { type: 'integer', minimum: 1, maximum: 8 },
        focalMm: { type: 'number' },
        takenAt: { type: 'string' },
        profile: { enum: ['sRGB', 'Display P3', 'CMYK'] },
        bits: { enum: [8, 16] },
        title: { type: 'string' },
        creator: { type: 'string' },
        licence: { type: 'string' },
        hasPosition: { type: 'boolean' },
      },
      required: ['profile', 'bits'],
      additionalProperties: false,
    },
  },
  required: ['file', 'title', 'subject', 'kind', 'mediaType'],
  additionalProperties: false,
} as const satisfies JSONSchema;

export type Truth = FromSchema<typeof truthSchema>;
