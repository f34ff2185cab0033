import {
  type BoardFileReading,
  type ReadBoardFile,
  type ReceivedBoardFile,
  readBoardFileSchema,
} from '../schema/index.ts';
import * as answer from './answers.ts';
import { type Contracts, typed } from './contract.ts';

const { listOf, objectOf, orNull } = answer;
const reading = typed<BoardFileReading>(
  objectOf({
    ...{ state: { enum: ['waiting', 'working', 'done', 'failed'] }, why: orNull(answer.text) },
    result: orNull(
      objectOf({
        ...{ board: answer.uuid, pictures: answer.count, changes: answer.count, known: answer.count },
        leftOut: listOf(objectOf({ what: answer.text, why: answer.text })),
      }),
    ),
  }),
);
const ofFile = { parameters: { id: 'board-file-missing' } } as const;

export const BOARD_FILE_ROUTES = {
  'POST /api/board-files': {
    ...{ summary: 'Look at a board file', whoMay: 'owner', status: 201 },
    form: {
      type: 'object',
      properties: { file: { type: 'string', format: 'binary' } },
      required: ['file'],
    },
    answer: typed<{ boardFile: ReceivedBoardFile }>(
      objectOf({
        boardFile: objectOf({
          ...{ id: answer.uuid, name: answer.text, savedAt: answer.moment },
          ...{ items: answer.count, pictures: answer.count, without: answer.count },
          mergesInto: listOf(objectOf({ board: answer.uuid, name: answer.text, changes: answer.count })),
        }),
      }),
    ),
    problems: ['not-multipart', 'no-board-file'],
  },
  'POST /api/board-files/:id/readings': {
    ...{ summary: 'Read it, as a board or into one', whoMay: 'owner', ...ofFile },
    body: typed<ReadBoardFile>(readBoardFileSchema),
    ...{ answer: reading, status: 202, problems: ['no-board-file'] },
  },
  'GET /api/board-files/:id': {
    ...{ summary: 'What became of it', whoMay: 'owner', ...ofFile, answer: reading },
  },
} as const satisfies Contracts;
