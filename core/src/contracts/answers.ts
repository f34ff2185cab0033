import { ITEM_SCHEMAS, sheetSchema } from '../items/index.ts';
import { PICTURE_KINDS } from '../picture/index.ts';
import {
  changeSchema,
  DISTANCES,
  EXPORT_STATES,
  FOUND_MARKS,
  PILES,
  restoreSchema,
  settingsSchema,
  sortingProperties,
} from '../schema/index.ts';
import { LIGHTS } from '../subject/index.ts';

/**
 * JSON Schemas of what the server answers. Closed: what an answer holds beside them is a fault, and tests of the server
 * look at every answer. A `title` makes one a component of OpenAPI.
 */
type Schema = Readonly<Record<string, unknown>>;

/** All properties are there, but for those named. */
export const objectOf = (properties: Schema, optional: readonly string[] = []): Schema => ({
  type: 'object',
  properties,
  required: Object.keys(properties).filter((name) => !optional.includes(name)),
  additionalProperties: false,
});
export const listOf = (items: Schema): Schema => ({ type: 'array', items });
export const orNull = (schema: Schema): Schema => ({ anyOf: [schema, { type: 'null' }] });
const titled = (title: string, schema: Schema): Schema => ({ title, ...schema });
const withoutId = ({ $id, ...schema }: Schema): Schema => schema;

export const text: Schema = { type: 'string' };
export const flag: Schema = { type: 'boolean' };
export const number: Schema = { type: 'number' };
export const count: Schema = { type: 'integer', minimum: 0 };
export const uuid: Schema = { type: 'string', format: 'uuid' };
export const hash: Schema = { type: 'string', pattern: '^[0-9a-f]{64}$' };
export const moment: Schema = { type: 'string', format: 'date-time' };

export const session = titled('Session', objectOf({ databaseId: uuid, owner: uuid, build: text }));
export const health = titled(
  'Health',
  objectOf({
    isReady: flag,
    database: { enum: ['ready', 'away'] },
    jobs: { enum: ['ready', 'away', 'unknown'] },
    waitingJobs: orNull(count),
  }),
);

const { setup, need } = sheetSchema.properties;
export const board = titled(
  'Board',
  objectOf({
    ...{ id: uuid, name: text, surround: count, putAway: flag, revision: count },
    ...{ createdAt: moment, changedAt: moment, pictures: count, preview: orNull(hash) },
    ...{ forWhom: text, question: text, due: orNull(text) },
    sheet: orNull(objectOf({ setup, need })),
  }),
);

export const taken = titled(
  'Export',
  objectOf({
    ...{ id: uuid, board: uuid, name: text, state: { enum: EXPORT_STATES }, why: orNull(text) },
    ...{ width: orNull(count), height: orNull(count), bytes: orNull(count), missing: count },
  }),
);

export const item = titled('Item', {
  oneOf: Object.entries(ITEM_SCHEMAS).map(([kind, schema]) =>
    titled(`${kind[0]!.toUpperCase()}${kind.slice(1)}`, withoutId({ ...schema })),
  ),
});

export const change = titled('Change', withoutId(changeSchema));
const operation = withoutId(changeSchema.properties.operations.items);
const done = objectOf({ change, inverse: listOf(operation) });

export const outcome = titled('ChangeOutcome', {
  oneOf: [
    objectOf({ id: text, revision: count }),
    objectOf({ id: text, refused: objectOf({ code: text, title: text }) }),
  ],
});

const source = objectOf({
  ...{ address: orNull(text), page: orNull(text), title: orNull(text) },
  ...{ creator: orNull(text), licence: orNull(text) },
});

const facts = objectOf(
  {
    ...{ focalLengthMm: number, focalLength35Mm: number, takenAt: text, camera: text, lens: text },
    paperMm: objectOf({ width: number, height: number }),
    position: objectOf({ latitude: number, longitude: number }),
    stance: objectOf({ up: { enum: ['y', 'z'] }, frontDeg: number }),
    triangles: number,
    taken: objectOf({
      ...{ model: uuid, azimuthDeg: number, elevationDeg: number, lensMm: orNull(number) },
      ...{ lightAzimuthDeg: number, lightElevationDeg: number },
    }),
  },
  [
    'stance',
    'triangles',
    'taken',
    'focalLengthMm',
    'focalLength35Mm',
    'takenAt',
    'camera',
    'lens',
    'paperMm',
    'position',
  ],
);

const measures = titled(
  'Measures',
  objectOf({
    ...{ lightness: number, hue: orNull(number), chroma: number, complexity: number, modelling: number },
    palette: listOf(objectOf({ l: number, a: number, b: number, share: number })),
    ...{ look: listOf(number), sharpness: number, sharpnessGrid: listOf(number) },
  }),
);

export const picture = titled(
  'Picture',
  objectOf(
    {
      ...{ id: uuid, name: text, fileName: text, type: text, bytes: count, sha256: hash },
      ...{ width: count, height: count, state: { enum: ['arriving', 'ready', 'failed'] } },
      ...{ failure: orNull(text), addedAt: moment, thumbhash: orNull(text) },
      levels: listOf(objectOf({ side: count, hash, bytes: count })),
      atlas: orNull(objectOf({ slot: count, hash32: hash, hash64: hash })),
      ...{ colour: orNull(text), depth: orNull(count), reading: orNull(hash), hasTiles: flag },
      ...{ exact: orNull(text) },
      ...{ kind: { enum: PICTURE_KINDS }, frames: count, durationMs: orNull(number) },
      ...{ source, facts, useMark: { enum: ['look', 'work', null] }, onlyFor: orNull(uuid), isPutAway: flag },
      copies: listOf(objectOf({ picture: uuid, isMirrored: flag, scale: number })),
      ...sortingProperties,
      pile: { enum: [...PILES, null] },
      measures: orNull(measures),
    },
    ['measures'],
  ),
);

export const subject = titled(
  'Subject',
  objectOf({
    ...{ id: uuid, name: text, isPutAway: flag, pictures: count },
    parts: listOf(objectOf({ id: uuid, name: text, parts: listOf(objectOf({ id: uuid, name: text })) })),
  }),
);

const countsOf = (names: readonly string[]): Schema =>
  objectOf(Object.fromEntries(names.map((name) => [name, count])));

export const coverage = titled(
  'Coverage',
  objectOf({
    cells: listOf(listOf(uuid)),
    lights: countsOf(LIGHTS),
    distances: countsOf(DISTANCES),
    parts: listOf(
      objectOf({
        ...{ id: uuid, name: text, depth: { enum: [0, 1] }, pictures: listOf(uuid) },
        ...{ toScale: count, isFlatOnly: flag },
      }),
    ),
    withoutView: count,
    gaps: listOf(
      objectOf(
        {
          kind: { enum: ['view', 'light', 'distance', 'part', 'scale', 'flat'] },
          ...{ words: text, weight: number, part: uuid, sector: count, band: count },
          ...{ light: { enum: LIGHTS }, distance: { enum: DISTANCES } },
        },
        ['part', 'sector', 'band', 'light', 'distance'],
      ),
    ),
  }),
);

export const settings = titled('Settings', withoutId(settingsSchema));

export const before = titled('Before', restoreSchema.properties.before.items);
export const standsOn = titled('StandsOn', objectOf({ id: uuid, name: text, count, since: orNull(moment) }));

export const foundPage = titled(
  'FoundPage',
  objectOf({
    ...{ address: text, title: orNull(text), creator: orNull(text), licence: orNull(text) },
    pictures: listOf(
      objectOf({
        ...{ address: text, preview: text, width: orNull(number), height: orNull(number) },
        ...{ alt: text, link: orNull(text), marks: listOf({ enum: FOUND_MARKS }) },
      }),
    ),
    leftOut: count,
  }),
);

export const settledCopy = {
  changes: listOf(objectOf({ board: uuid, done })),
  putAway: orNull(uuid),
};
export const tileLevel = objectOf({
  ...{ width: count, height: count, columns: count, rows: count, hashes: listOf(hash) },
});
