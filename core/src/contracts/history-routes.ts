import { ITEM_KINDS } from '../items/index.ts';
import {
  type BoardNews,
  type History,
  type NewsQuery,
  newsQuerySchema,
  type PastSegment,
  type PutNamedState,
  putNamedStateSchema,
  type RevisionQuery,
  revisionQuerySchema,
} from '../schema/index.ts';
import * as answer from './answers.ts';
import { type Contracts, typed } from './contract.ts';

const { listOf, objectOf, orNull } = answer;
const kinds = Object.keys(ITEM_KINDS);
const counts = objectOf({ added: answer.count, removed: answer.count, altered: answer.count });
const gist = objectOf(Object.fromEntries(kinds.map((kind) => [kind, counts])), kinds);
const by = orNull(answer.text);
const ofBoard = { parameters: { id: 'board-missing' }, problems: ['ahead'] } as const;

export const HISTORY_ROUTES = {
  'GET /api/boards/:id/history': {
    ...{ summary: 'What was done to a board, stretch by stretch, and names of its states' },
    ...{ whoMay: 'owner', parameters: { id: 'board-missing' } },
    answer: typed<History>(
      objectOf({
        revision: answer.count,
        stretches: listOf(
          objectOf({
            ...{ from: answer.count, to: answer.count, begunAt: answer.moment, endedAt: answer.moment },
            ...{ by, gist },
          }),
        ),
        named: listOf(
          objectOf({
            ...{ id: answer.uuid, revision: answer.count, name: answer.text, namedAt: answer.moment },
          }),
        ),
      }),
    ),
  },
  'GET /api/boards/:id/history/segment': {
    ...{ summary: 'The piece of the past in which a revision lies', whoMay: 'owner', ...ofBoard },
    query: typed<RevisionQuery>(revisionQuerySchema),
    answer: typed<PastSegment>(
      objectOf({
        ...{ base: answer.count, until: answer.count, items: listOf(answer.item) },
        changes: listOf(objectOf({ revision: answer.count, at: answer.moment, by, change: answer.change })),
      }),
    ),
  },
  'GET /api/boards/:id/history/news': {
    ...{ summary: 'What happened since a revision, as it stands now', whoMay: 'owner', ...ofBoard },
    query: typed<NewsQuery>(newsQuerySchema),
    answer: typed<BoardNews>(
      objectOf({
        ...{ revision: answer.count, items: listOf(answer.text) },
        by: listOf(objectOf({ name: by, gist })),
      }),
    ),
  },
  'PATCH /api/named-states/:id': {
    ...{ summary: 'Name a state of a board, or alter its name', whoMay: 'owner' },
    parameters: { id: 'named-state-missing' },
    body: typed<PutNamedState>(putNamedStateSchema),
    ...{ answer: 'nothing', problems: ['board-missing', 'ahead'] },
  },
} as const satisfies Contracts;
