import type { FromSchema } from 'json-schema-to-ts';
import { defineJob } from './define-job.ts';

const uuid = { type: 'string', format: 'uuid' } as const;
const ofPicture = {
  type: 'object',
  properties: { picture: uuid },
  required: ['picture'],
  additionalProperties: false,
} as const;
const ofOwner = {
  type: 'object',
  properties: { owner: uuid },
  required: ['owner'],
  additionalProperties: false,
} as const;
const ofBoard = {
  type: 'object',
  properties: { board: uuid },
  required: ['board'],
  additionalProperties: false,
} as const;
const ofExport = {
  type: 'object',
  properties: { export: uuid },
  required: ['export'],
  additionalProperties: false,
} as const;
const ofBoardFile = {
  type: 'object',
  properties: { boardFile: uuid },
  required: ['boardFile'],
  additionalProperties: false,
} as const;
const nothing = { type: 'object', properties: {}, additionalProperties: true } as const;

/** A job that takes longer than this counts as lost and is tried again, seconds. */
const EXPIRES_S = 120;
/** A blueprint of a hundred million pixels is cut in about a minute here. */
const LONG_S = 900;
const ATTEMPTS = 4;

/** Facts, thumbhash and the ladder of copies of a picture. Two at a time: one decodes while the other waits for the database. */
export const LEVELS = defineJob<FromSchema<typeof ofPicture>>({
  ...{ name: 'levels', payload: ofPicture, policy: 'each' },
  ...{ attempts: ATTEMPTS, expiresS: EXPIRES_S, atOnce: 2 },
});

/** Measures of a picture, and near copies of it. */
export const COPIES = defineJob<FromSchema<typeof ofPicture>>({
  ...{ name: 'copies', payload: ofPicture, policy: 'each' },
  ...{ attempts: ATTEMPTS, expiresS: EXPIRES_S, atOnce: 1 },
});

/** The tiles of a very large picture. */
export const TILES = defineJob<FromSchema<typeof ofPicture>>({
  ...{ name: 'tiles', payload: ofPicture, policy: 'each' },
  ...{ attempts: ATTEMPTS, expiresS: LONG_S, atOnce: 1 },
  progress: { everyMs: 1_000, of: ({ picture }) => picture },
});

/** Lossless tiles of a picture that no browser reads exactly. */
export const EXACT = defineJob<FromSchema<typeof ofPicture>>({
  ...{ name: 'exact', payload: ofPicture, policy: 'once' },
  ...{ attempts: 2, expiresS: LONG_S, atOnce: 1 },
  progress: { everyMs: 1_000, of: ({ picture }) => picture },
});

/**
 * An owner's smallest copies, packed. Pictures that become ready within some seconds share one packing: it writes the whole
 * atlas anew, which takes a second; they are shown by their levels until then.
 */
export const ATLAS = defineJob<FromSchema<typeof ofOwner>>({
  name: 'atlas',
  payload: ofOwner,
  ...{ policy: 'once', gathersS: 4, attempts: ATTEMPTS, expiresS: EXPIRES_S, atOnce: 1 },
});

/** The picture on a board's card. Changes within some seconds share one: painting it takes a moment of somebody's processor. */
export const PREVIEW = defineJob<FromSchema<typeof ofBoard>>({
  name: 'preview',
  payload: ofBoard,
  ...{ policy: 'once', gathersS: 8, attempts: ATTEMPTS, expiresS: EXPIRES_S, atOnce: 1 },
});

/** States of a board's past from which others are put together. What comes within some seconds shares one look. */
export const STATES = defineJob<FromSchema<typeof ofBoard>>({
  ...{ name: 'states', payload: ofBoard, policy: 'once', gathersS: 4 },
  ...{ attempts: ATTEMPTS, expiresS: EXPIRES_S, atOnce: 1 },
});

/** Removes for good what was put away long ago, and bytes that nobody names. */
export const SWEEP = defineJob<FromSchema<typeof nothing>>({
  ...{ name: 'sweep', payload: nothing, policy: 'each', cron: '17 * * * *' },
  ...{ attempts: ATTEMPTS, expiresS: LONG_S, atOnce: 1 },
});

/** Pictures taken out of a board as files. One at a time: it has the memory of a job process to itself. */
export const EXPORT = defineJob<FromSchema<typeof ofExport>>({
  ...{ name: 'export', payload: ofExport, policy: 'each' },
  ...{ attempts: 2, expiresS: LONG_S, atOnce: 1 },
  progress: { everyMs: 400, of: (payload) => payload.export },
});

/** A board file that is read: its pictures come in one after the other. */
export const READ_BOARD_FILE = defineJob<FromSchema<typeof ofBoardFile>>({
  ...{ name: 'read-board-file', payload: ofBoardFile, policy: 'each' },
  ...{ attempts: 2, expiresS: LONG_S, atOnce: 1 },
  progress: { everyMs: 400, of: ({ boardFile }) => boardFile },
});

export const JOB_KINDS = [
  LEVELS,
  COPIES,
  TILES,
  EXACT,
  ATLAS,
  PREVIEW,
  STATES,
  SWEEP,
  EXPORT,
  READ_BOARD_FILE,
] as const;
