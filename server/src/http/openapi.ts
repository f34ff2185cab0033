import {
  bulkSchema,
  changeSchema,
  changesBodySchema,
  copyBoardSchema,
  createBoardSchema,
  fetchLargerSchema,
  fetchPictureSchema,
  findItemsQuerySchema,
  ITEM_SCHEMAS,
  libraryQuerySchema,
  lookSchema,
  patchBoardSchema,
  patchPictureSchema,
  picturesQuerySchema,
  previewQuerySchema,
  putSubjectSchema,
  putTagSchema,
  restoreSchema,
  settingsSchema,
  settleCopySchema,
  sinceQuerySchema,
  whichSchema,
} from '@miradero/core/schema';

const withoutId = ({ $id, ...schema }: { $id: string } & Record<string, unknown>) => schema;
const body = (schema: { $id: string } & Record<string, unknown>) => ({
  requestBody: { required: true, content: { 'application/json': { schema: withoutId(schema) } } },
});
const UUID = { type: 'string', format: 'uuid' };
const HASH = { type: 'string', pattern: '^[0-9a-f]{64}$' };
const operation = (summary: string, more: object = {}) => ({
  summary,
  ...more,
  responses: {
    '2XX': { description: 'Done' },
    default: { description: 'What went wrong (RFC 9457)', content: { 'application/problem+json': {} } },
  },
});
const query = (schema: { properties: object; required?: readonly string[] }) => ({
  parameters: Object.entries(schema.properties).map(([name, one]) => ({
    ...{ name, in: 'query', required: schema.required?.includes(name) ?? false, schema: one },
  })),
});
/** The ids in a path: of what the routes make, or digests of bytes. */
const path = (...names: string[]) => ({
  parameters: names.map((name) => ({
    name,
    in: 'path',
    required: true,
    schema: name === 'hash' ? HASH : UUID,
  })),
});

/** OpenAPI 3.1 of this server, from the same schemas that check its requests. */
export const openApi = {
  openapi: '3.1.0',
  info: { title: 'Miradero', version: '0.1.0' },
  paths: {
    '/api/openapi.json': { get: operation('This document') },
    '/api/health': {
      get: operation('Whether requests and background work are served right now; 503 when not'),
    },
    '/api/session': { get: operation('Who is working, and in which database') },
    '/api/boards': {
      get: operation('Every board'),
      post: operation('Create a board', body(createBoardSchema)),
    },
    '/api/boards/items': {
      get: operation('What is written on boards, by its words', query(findItemsQuerySchema)),
    },
    '/api/boards/{id}': {
      ...path('id'),
      get: operation('A board, its items and revision'),
      patch: operation('Rename, put away, set the surround', body(patchBoardSchema)),
    },
    '/api/boards/{id}/copies': {
      ...path('id'),
      post: operation('A new board with what stands on this one', body(copyBoardSchema)),
    },
    '/api/boards/{id}/changes': {
      ...path('id'),
      get: operation('The log after ?since=', query(sinceQuerySchema)),
      post: operation('Changes, each accepted or refused alone', body(changesBodySchema)),
    },
    '/api/pictures': {
      get: operation('Pictures, newest first, or by ?board= or ?ids=', query(picturesQuerySchema)),
      post: operation('Take in files', {
        requestBody: {
          content: {
            'multipart/form-data': {
              schema: {
                type: 'object',
                properties: { file: { type: 'array', items: { type: 'string', format: 'binary' } } },
              },
            },
          },
        },
      }),
    },
    '/api/pictures/{id}': {
      ...path('id'),
      get: operation('One picture'),
      patch: operation('Rename a picture', body(patchPictureSchema)),
    },
    '/api/pictures/{id}/looked': { ...path('id'), post: operation('It was looked at alone') },
    '/api/pictures/{id}/story': { ...path('id'), get: operation('Where it stands and stood') },
    '/api/pictures/{id}/with-source': {
      ...path('id'),
      get: operation('The original with its source written into it, or the source beside it'),
    },
    '/api/library': { get: operation('A page of what a search finds', query(libraryQuerySchema)) },
    '/api/library/words': { get: operation('Tags, licences and makers in use') },
    '/api/library/bulk': { post: operation('Say the same of many pictures', body(bulkSchema)) },
    '/api/library/restore': { post: operation('Take that back', body(restoreSchema)) },
    '/api/library/standing': { post: operation('Boards on which they stand', body(whichSchema)) },
    '/api/library/tags': { patch: operation('Give a tag a colour', body(putTagSchema)) },
    '/api/subjects': { get: operation('Every subject') },
    '/api/subjects/{id}': {
      ...path('id'),
      get: operation('One subject'),
      patch: operation('Make or alter it', body(putSubjectSchema)),
    },
    '/api/subjects/{id}/coverage': { ...path('id'), get: operation('Which views and lights are shown') },
    '/api/pictures/{id}/tiles': { ...path('id'), get: operation('Tiles of a very large picture') },
    '/api/pictures/{id}/original': { ...path('id'), get: operation('The bytes as they came') },
    '/api/levels/{hash}': { ...path('hash'), get: operation('A copy of a picture') },
    '/api/atlases/{hash}': { ...path('hash'), get: operation('Small copies of many pictures') },
    '/api/pictures/{id}/copies': {
      ...path('id'),
      post: operation('Decide about a near copy', body(settleCopySchema)),
    },
    '/api/gathering/finds': {
      post: operation(
        'What is at an address: a picture, taken in, or a page with pictures',
        body(lookSchema),
      ),
    },
    '/api/gathering/pictures': {
      post: operation('Take in the picture at an address', body(fetchPictureSchema)),
    },
    '/api/gathering/larger': {
      post: operation('Follow the link of a small picture to its large one', body(fetchLargerSchema)),
    },
    '/api/gathering/previews': {
      get: operation('A small copy of a picture elsewhere', query(previewQuerySchema)),
    },
    '/api/settings': {
      get: operation('What the owner set'),
      patch: operation('Set some of it', body(settingsSchema)),
    },
    '/api/events': {
      get: operation('News as server-sent events', query({ properties: { topics: { type: 'string' } } })),
    },
  },
  components: {
    schemas: {
      Change: withoutId(changeSchema),
      ...Object.fromEntries(
        Object.entries(ITEM_SCHEMAS).map(([kind, schema]) => [
          `${kind[0]!.toUpperCase()}${kind.slice(1)}`,
          withoutId({ ...schema }),
        ]),
      ),
    },
  },
} as const;
