import {
  type Board,
  type BoardSnapshot,
  type Bulk,
  type BulkAnswer,
  bulkSchema,
  CHANGE_LIMITS,
  type ChangeOutcome,
  type CreateBoard,
  type CreateExport,
  changesBodySchema,
  copyBoardSchema,
  createBoardSchema,
  createExportSchema,
  type Export,
  type FetchLarger,
  type FetchPicture,
  type FindItemsQuery,
  type Finds,
  type FoundItem,
  fetchLargerSchema,
  fetchPictureSchema,
  findItemsQuerySchema,
  type Health,
  type LargerAnswer,
  type LibraryAnswer,
  type LibraryQuery,
  type LoggedChange,
  type LookAtAddress,
  libraryQuerySchema,
  lookSchema,
  type PatchBoard,
  type PatchExport,
  type Picture,
  type PreviewQuery,
  type PutSubject,
  type PutTag,
  patchBoardSchema,
  patchExportSchema,
  previewQuerySchema,
  putSubjectSchema,
  putTagSchema,
  type Restore,
  type RestoreAnswer,
  restoreSchema,
  type Session,
  type Settings,
  type SinceQuery,
  type StandsOn,
  type Subject,
  settingsSchema,
  sinceQuerySchema,
  type Tag,
  type Which,
  whichSchema,
} from '../schema/index.ts';
import type { Coverage } from '../subject/index.ts';
import * as answer from './answers.ts';
import type { BOARD_FILE_ROUTES } from './board-file-routes.ts';
import type { COLOUR_ROUTES } from './colour-routes.ts';
import { type Contracts, typed } from './contract.ts';
import type { DRAWING_ROUTES } from './drawing-routes.ts';
import type { HISTORY_ROUTES } from './history-routes.ts';
import type { LINK_ROUTES } from './link-routes.ts';
import type { PICTURE_ROUTES } from './picture-routes.ts';

const { objectOf, listOf } = answer;
/** Five thousand pictures, each with what it was before. */
const MOST_BULK = 16 * 1024 * 1024;

const bulkAnswer = { before: listOf(answer.before), after: listOf(answer.before) };
const ofBoard = { parameters: { id: 'board-missing' } } as const;
const ofSubject = { parameters: { id: 'subject-missing' } } as const;
const oneBoard = typed<{ board: Board }>(objectOf({ board: answer.board }));

export const OWN_ROUTES = {
  'GET /api/openapi.json': {
    ...{ summary: 'This document', whoMay: 'anyone' },
    answer: typed<object>({ type: 'object' }),
  },
  'GET /api/health': {
    ...{
      summary: 'Whether requests and background work are served right now; 503 when not',
      whoMay: 'anyone',
    },
    answer: typed<Health>(answer.health),
  },
  'GET /api/session': {
    ...{ summary: 'Who is working, and in which database', whoMay: 'owner' },
    answer: typed<Session>(answer.session),
  },
} as const satisfies Contracts;

export const BOARD_ROUTES = {
  'GET /api/boards': {
    ...{ summary: 'Every board', whoMay: 'owner' },
    answer: typed<{ boards: readonly Board[] }>(objectOf({ boards: listOf(answer.board) })),
  },
  'POST /api/boards': {
    ...{ summary: 'Make a board; 200 where one with this id was made before', whoMay: 'owner' },
    body: typed<CreateBoard>(createBoardSchema),
    ...{ answer: oneBoard, status: 201, problems: ['board-exists'] },
  },
  'GET /api/boards/items': {
    ...{ summary: 'What is written on boards, by its words', whoMay: 'owner' },
    query: typed<FindItemsQuery>(findItemsQuerySchema),
    answer: typed<{ items: readonly FoundItem[] }>(
      objectOf({
        items: listOf(
          objectOf({ board: answer.uuid, boardName: answer.text, item: answer.text, said: answer.text }),
        ),
      }),
    ),
  },
  'GET /api/boards/:id': {
    ...{ summary: 'A board, its items and revision', whoMay: 'owner', ...ofBoard },
    answer: typed<BoardSnapshot>(
      objectOf({
        ...{ board: answer.board, items: listOf(answer.item), revision: answer.count },
        lastChange: { anyOf: [answer.uuid, { type: 'null' }] },
      }),
    ),
  },
  'PATCH /api/boards/:id': {
    ...{ summary: 'Rename, put away, set the surround', whoMay: 'owner', ...ofBoard },
    ...{ body: typed<PatchBoard>(patchBoardSchema), answer: oneBoard },
  },
  'POST /api/boards/:id/copies': {
    ...{ summary: 'A new board with what stands on this one', whoMay: 'owner', ...ofBoard },
    body: typed<CreateBoard>(copyBoardSchema),
    ...{ answer: oneBoard, status: 201, problems: ['board-exists'] },
  },
  'GET /api/boards/:id/changes': {
    ...{ summary: 'The log after ?since=', whoMay: 'owner', ...ofBoard, problems: ['ahead'] },
    query: typed<SinceQuery>(sinceQuerySchema),
    answer: typed<{ changes: readonly LoggedChange[]; revision: number }>(
      objectOf({
        changes: listOf(objectOf({ revision: answer.count, change: answer.change })),
        revision: answer.count,
      }),
    ),
  },
  'POST /api/boards/:id/changes': {
    ...{ summary: 'Changes, each accepted or refused alone', whoMay: 'owner', ...ofBoard },
    body: {
      ...typed<{ changes: readonly object[] }>(changesBodySchema),
      mostBytes: CHANGE_LIMITS.bytes,
    },
    answer: typed<{ outcomes: readonly ChangeOutcome[] }>(objectOf({ outcomes: listOf(answer.outcome) })),
  },
} as const satisfies Contracts;

const ofExport = { parameters: { id: 'export-missing' } } as const;
const oneExport = typed<{ export: Export }>(objectOf({ export: answer.taken }));
export const EXPORT_ROUTES = {
  'POST /api/boards/:id/exports': {
    ...{ summary: 'Take pictures out of a board; once for each id', whoMay: 'owner', ...ofBoard },
    body: { ...typed<CreateExport>(createExportSchema), mostBytes: 1024 * 1024 },
    ...{ answer: oneExport, status: 201, problems: ['nothing-to-take', 'export-missing'] },
  },
  'GET /api/exports/:id': {
    ...{ summary: 'How far it is', whoMay: 'owner', ...ofExport, answer: oneExport },
  },
  'PATCH /api/exports/:id': {
    ...{ summary: 'Stop it', whoMay: 'owner', ...ofExport },
    ...{ body: typed<PatchExport>(patchExportSchema), answer: oneExport },
  },
  'GET /api/exports/:id/file': {
    ...{ summary: 'Its file, as soon as it is made', whoMay: 'owner', ...ofExport },
    answer: { mediaTypes: ['image/*', 'application/zip', 'application/pdf', 'application/ld+json'] },
    problems: ['export-unmade', 'no-such-part'],
  },
} as const satisfies Contracts;

const counted = objectOf({ name: answer.text, count: answer.count });

export const LIBRARY_ROUTES = {
  'GET /api/library': {
    ...{ summary: 'A page of what a search finds', whoMay: 'owner' },
    query: typed<LibraryQuery>(libraryQuerySchema),
    answer: typed<LibraryAnswer>(
      objectOf({ total: answer.count, pictures: listOf(answer.picture), isForgiven: answer.flag }),
    ),
  },
  'GET /api/library/words': {
    ...{ summary: 'Tags, licences, makers, parts and purposes in use', whoMay: 'owner' },
    answer: typed<LibraryWords>(
      objectOf({
        tags: listOf(
          objectOf({
            name: answer.text,
            colour: { anyOf: [answer.text, { type: 'null' }] },
            count: answer.count,
          }),
        ),
        ...{ licences: listOf(counted), creators: listOf(counted) },
        parts: listOf(objectOf({ id: answer.uuid, count: answer.count })),
        purposes: listOf(objectOf({ name: answer.text, isNot: answer.flag, count: answer.count })),
      }),
    ),
  },
  'POST /api/library/bulk': {
    ...{ summary: 'Say the same of many pictures', whoMay: 'owner' },
    body: { ...typed<Bulk>(bulkSchema), mostBytes: MOST_BULK },
    answer: typed<BulkAnswer>(objectOf(bulkAnswer)),
  },
  'POST /api/library/restore': {
    ...{ summary: 'Take that back', whoMay: 'owner' },
    body: { ...typed<Restore>(restoreSchema), mostBytes: MOST_BULK },
    answer: typed<RestoreAnswer>(objectOf({ ...bulkAnswer, skipped: answer.count })),
  },
  'POST /api/library/standing': {
    ...{ summary: 'Boards on which they stand', whoMay: 'owner' },
    body: { ...typed<Which>(whichSchema), mostBytes: MOST_BULK },
    answer: typed<{ boards: readonly Omit<StandsOn, 'since'>[] }>(
      objectOf({ boards: listOf(objectOf({ id: answer.uuid, name: answer.text, count: answer.count })) }),
    ),
  },
  'PATCH /api/library/tags': {
    ...{ summary: 'Give a tag a colour', whoMay: 'owner', body: typed<PutTag>(putTagSchema) },
    answer: 'nothing',
  },
} as const satisfies Contracts;

/** A word in use, and for how many pictures. */
export interface Counted {
  readonly name: string;
  readonly count: number;
}

/** What pictures of the library are called, and whose they are. */
export interface LibraryWords {
  readonly tags: readonly Tag[];
  readonly licences: readonly Counted[];
  readonly creators: readonly Counted[];
  /** Parts of subjects, and subjects as a whole, that pictures show. */
  readonly parts: readonly { readonly id: string; readonly count: number }[];
  /** Why pictures, or parts of them, are here. */
  readonly purposes: readonly (Counted & { readonly isNot: boolean })[];
}

const oneSubject = typed<{ subject: Subject }>(objectOf({ subject: answer.subject }));
export const SUBJECT_ROUTES = {
  'GET /api/subjects': {
    ...{ summary: 'Every subject', whoMay: 'owner' },
    answer: typed<{ subjects: readonly Subject[] }>(objectOf({ subjects: listOf(answer.subject) })),
  },
  'GET /api/subjects/:id': {
    ...{ summary: 'One subject', whoMay: 'owner', ...ofSubject, answer: oneSubject },
  },
  'PATCH /api/subjects/:id': {
    ...{ summary: 'Make or alter it', whoMay: 'owner', ...ofSubject },
    ...{ body: typed<PutSubject>(putSubjectSchema), answer: oneSubject },
  },
  'GET /api/subjects/:id/coverage': {
    ...{ summary: 'Which views and lights are shown', whoMay: 'owner', ...ofSubject },
    answer: typed<{ coverage: Coverage }>(objectOf({ coverage: answer.coverage })),
  },
} as const satisfies Contracts;

const addressProblems = [
  ...(['address-unreadable', 'address-private', 'address-unreachable', 'address-refused'] as const),
  ...(['address-slow', 'address-large', 'address-circles', 'address-unusable'] as const),
  'too-many-addresses' as const,
];
const known = { picture: answer.picture, isKnown: answer.flag };
export const GATHERING_ROUTES = {
  'POST /api/gathering/finds': {
    ...{ summary: 'What is at an address: a picture, taken in, or a page with pictures', whoMay: 'owner' },
    body: typed<LookAtAddress>(lookSchema),
    answer: typed<Finds>({
      oneOf: [
        objectOf({ kind: { const: 'picture' }, ...known }),
        objectOf({ kind: { const: 'page' }, page: answer.foundPage }),
      ],
    }),
    problems: ['wrong-key', ...addressProblems],
  },
  'POST /api/gathering/pictures': {
    ...{ summary: 'Take in the picture at an address', whoMay: 'owner', status: 201 },
    body: typed<FetchPicture>(fetchPictureSchema),
    answer: typed<{ picture: Picture; isKnown: boolean }>(objectOf(known)),
    problems: addressProblems,
  },
  'POST /api/gathering/larger': {
    ...{ summary: 'Follow the link of a small picture to its large one', whoMay: 'owner' },
    body: typed<FetchLarger>(fetchLargerSchema),
    answer: typed<LargerAnswer>(objectOf({ isLarger: answer.flag, picture: answer.picture })),
    problems: ['picture-missing', ...addressProblems],
  },
  'GET /api/gathering/previews': {
    ...{ summary: 'A small copy of a picture elsewhere', whoMay: 'owner' },
    query: typed<PreviewQuery>(previewQuerySchema),
    ...{ answer: { mediaTypes: ['image/webp'] }, problems: addressProblems },
  },
} as const satisfies Contracts;

const settings = typed<{ settings: Settings }>(objectOf({ settings: answer.settings }));
export const SETTINGS_ROUTES = {
  'GET /api/settings': { ...{ summary: 'What the owner set', whoMay: 'owner', answer: settings } },
  'PATCH /api/settings': {
    ...{ summary: 'Set some of it', whoMay: 'owner' },
    ...{ body: typed<Settings>(settingsSchema), answer: settings },
  },
} as const satisfies Contracts;

export const EVENT_ROUTES = {
  'GET /api/events': {
    ...{ summary: 'News as server-sent events', whoMay: 'owner' },
    query: typed<{ topics?: string }>({
      type: 'object',
      properties: { topics: { type: 'string', format: 'text', maxLength: 200 } },
      additionalProperties: false,
    }),
    answer: { mediaTypes: ['text/event-stream'] },
  },
} as const satisfies Contracts;

/** Every route of the server, for types. */
export type Routes = typeof OWN_ROUTES &
  typeof BOARD_ROUTES &
  typeof EXPORT_ROUTES &
  typeof PICTURE_ROUTES &
  typeof LIBRARY_ROUTES &
  typeof SUBJECT_ROUTES &
  typeof GATHERING_ROUTES &
  typeof SETTINGS_ROUTES &
  typeof COLOUR_ROUTES &
  typeof HISTORY_ROUTES &
  typeof DRAWING_ROUTES &
  typeof LINK_ROUTES &
  typeof BOARD_FILE_ROUTES &
  typeof EVENT_ROUTES;
