import type { Drawing } from '../schema/index.ts';
import * as answer from './answers.ts';
import { type Contracts, typed } from './contract.ts';

const { listOf, objectOf } = answer;

export const DRAWING_ROUTES = {
  'GET /api/boards/:id/drawings': {
    ...{ summary: 'Drawings that are followed on a board, with their versions', whoMay: 'owner' },
    parameters: { id: 'board-missing' },
    answer: typed<{ drawings: readonly Drawing[] }>(
      objectOf({
        drawings: listOf(
          objectOf({
            ...{ id: answer.uuid, name: answer.text },
            versions: listOf(
              objectOf({
                ...{ number: answer.count, picture: answer.uuid },
                ...{ savedAt: answer.moment, bytes: answer.count },
              }),
            ),
          }),
        ),
      }),
    ),
  },
} as const satisfies Contracts;
