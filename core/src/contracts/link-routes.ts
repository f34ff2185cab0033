import {
  type BoardLink,
  type CreateLink,
  createLinkSchema,
  type LinkListening,
  type PatchLink,
  patchLinkSchema,
} from '../schema/index.ts';
import * as answer from './answers.ts';
import { type Contracts, typed } from './contract.ts';

const { listOf, objectOf, orNull } = answer;
const guest = objectOf({
  ...{ name: answer.text, yes: answer.count, no: answer.count, remarks: answer.count },
  sentAt: orNull(answer.moment),
});
const link = objectOf({
  ...{ id: answer.uuid, title: answer.text, path: answer.text, withOriginals: answer.flag },
  ...{ tasks: answer.text, createdAt: answer.moment, endedAt: orNull(answer.moment), guests: listOf(guest) },
});
const oneLink = typed<{ link: BoardLink }>(objectOf({ link }));

export const LINK_ROUTES = {
  'GET /api/links': {
    ...{ summary: 'Whether links are served right now, and where', whoMay: 'owner' },
    answer: typed<{ listening: LinkListening }>(
      objectOf({
        listening: objectOf({ isOn: answer.flag, address: orNull(answer.text), why: orNull(answer.text) }),
      }),
    ),
  },
  'POST /api/links': {
    ...{ summary: 'A link to look at a board; once for each id', whoMay: 'owner', status: 201 },
    body: { ...typed<CreateLink>(createLinkSchema), mostBytes: 100_000 },
    ...{ answer: oneLink, problems: ['board-missing', 'link-missing'] },
  },
  'PATCH /api/links/:id': {
    ...{ summary: 'End it', whoMay: 'owner', parameters: { id: 'link-missing' } },
    ...{ body: typed<PatchLink>(patchLinkSchema), answer: oneLink },
  },
  'GET /api/boards/:id/links': {
    ...{ summary: 'Links to look at a board, the latest first', whoMay: 'owner' },
    parameters: { id: 'board-missing' },
    answer: typed<{ links: readonly BoardLink[] }>(objectOf({ links: listOf(link) })),
  },
} as const satisfies Contracts;
