import {
  type IntakeAnswer,
  type PatchPicture,
  type Picture,
  type PictureStory,
  type PicturesQuery,
  type PixelsQuery,
  patchPictureSchema,
  picturesQuerySchema,
  pixelsQuerySchema,
  type SettleCopy,
  type SettledCopy,
  settleCopySchema,
  type TileLevel,
} from '../schema/index.ts';
import * as answer from './answers.ts';
import { type Contracts, typed } from './contract.ts';

const { listOf, objectOf } = answer;
const ofPicture = { parameters: { id: 'picture-missing' } } as const;
const onePicture = typed<{ picture: Picture }>(objectOf({ picture: answer.picture }));

export const PICTURE_ROUTES = {
  'GET /api/pictures': {
    ...{
      summary: 'Pictures, newest first, or by ?ids=; without measures: by ?board=, ?landing= or ?onlyFor=',
      whoMay: 'owner',
    },
    query: typed<PicturesQuery>(picturesQuerySchema),
    answer: typed<{ pictures: readonly Picture[] }>(objectOf({ pictures: listOf(answer.picture) })),
    problems: ['picture-missing'],
  },
  'GET /api/landing': {
    ...{ summary: 'How many pictures lie on the landing', whoMay: 'owner' },
    answer: typed<{ count: number }>(objectOf({ count: answer.count })),
  },
  'POST /api/pictures': {
    ...{ summary: 'Take in files', whoMay: 'owner', status: 201 },
    form: {
      type: 'object',
      properties: {
        file: { type: 'array', items: { type: 'string', format: 'binary' } },
        about: { type: 'string', description: 'JSON: what is known of them beside their bytes' },
        poster: { type: 'string', format: 'binary', description: 'A still of what moves' },
      },
    },
    answer: typed<IntakeAnswer>(
      objectOf({
        ...{ pictures: listOf(answer.picture), known: listOf(answer.uuid) },
        refused: listOf(objectOf({ fileName: answer.text, code: answer.text, title: answer.text })),
      }),
    ),
    problems: ['not-multipart', 'all-refused'],
  },
  'GET /api/pictures/:id': {
    ...{ summary: 'One picture', whoMay: 'owner', ...ofPicture, answer: onePicture },
  },
  'PATCH /api/pictures/:id': {
    ...{ summary: 'Say something of a picture', whoMay: 'owner', ...ofPicture },
    ...{ body: typed<PatchPicture>(patchPictureSchema), answer: onePicture, problems: ['board-missing'] },
  },
  'POST /api/pictures/:id/copies': {
    ...{ summary: 'Decide about a near copy', whoMay: 'owner', ...ofPicture },
    body: typed<SettleCopy>(settleCopySchema),
    answer: typed<SettledCopy & { picture: Picture }>(
      objectOf({ ...answer.settledCopy, picture: answer.picture }),
    ),
  },
  'POST /api/pictures/:id/looked': {
    ...{ summary: 'It was looked at alone', whoMay: 'owner', ...ofPicture, answer: 'nothing' },
  },
  'GET /api/pictures/:id/story': {
    ...{ summary: 'Where it stands and stood', whoMay: 'owner', ...ofPicture },
    answer: typed<PictureStory>(
      objectOf({ boards: listOf(answer.standsOn), formerBoards: listOf(answer.standsOn) }),
    ),
  },
  'GET /api/pictures/:id/tiles': {
    ...{ summary: 'Tiles of a very large picture', whoMay: 'owner', ...ofPicture },
    answer: typed<{ levels: readonly TileLevel[] }>(objectOf({ levels: listOf(answer.tileLevel) })),
    problems: ['level-missing'],
  },
  'POST /api/pictures/:id/exact': {
    ...{ summary: 'Have lossless pixels made, where no browser reads them exactly', whoMay: 'owner' },
    ...{ ...ofPicture, answer: 'nothing', status: 202 },
  },
  'GET /api/pictures/:id/pixels': {
    ...{ summary: 'Exact pixels of a part', whoMay: 'owner', ...ofPicture },
    query: typed<PixelsQuery>(pixelsQuerySchema),
    ...{
      answer: { mediaTypes: ['application/octet-stream'] },
      problems: ['level-missing', 'no-such-pixels'],
    },
  },
  'GET /api/pictures/:id/with-source': {
    ...{ summary: 'The original with its source written into it, or the source beside it', whoMay: 'owner' },
    ...{ ...ofPicture, answer: { mediaTypes: ['image/*', 'application/rdf+xml'] } },
  },
  'GET /api/pictures/:id/original': {
    ...{ summary: 'The bytes as they came', whoMay: 'owner', ...ofPicture, problems: ['no-such-part'] },
    answer: { mediaTypes: ['image/*', 'video/*', 'model/*'] },
  },
  'GET /api/levels/:hash': {
    ...{ summary: 'A copy of a picture', whoMay: 'owner', parameters: { hash: 'level-missing' } },
    ...{ answer: { mediaTypes: ['image/*'] }, problems: ['no-such-part'] },
  },
  'GET /api/atlases/:hash': {
    ...{ summary: 'Small copies of many pictures', whoMay: 'owner', parameters: { hash: 'level-missing' } },
    ...{ answer: { mediaTypes: ['image/*'] }, problems: ['no-such-part'] },
  },
} as const satisfies Contracts;
