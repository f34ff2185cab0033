import { LINK_ROUTES } from '@miradero/core/contracts';
import { cleanName } from '@miradero/core/picture';
import type { BoardLink } from '@miradero/core/schema';
import { boardOf } from '../boards/board-of.ts';
import type { Knex } from '../database/connection.ts';
import {
  addLink,
  endLink,
  findChoices,
  findGuests,
  findLink,
  findLinksOfBoard,
  findRemarks,
  type Link,
} from '../database/links.ts';
import { notifyNews } from '../database/notify.ts';
import { ProblemError } from '../requests/problem.ts';
import { type Route, routesFor } from '../requests/route.ts';
import type { LinkListener } from './listener.ts';

async function told(knex: Knex, link: Link): Promise<BoardLink> {
  const { id, title, secret, withOriginals, tasks, createdAt, endedAt } = link;
  const guests: BoardLink['guests'][number][] = [];
  for (const { id: guest, name, sentAt } of await findGuests(knex, id)) {
    const choices = [...(await findChoices(knex, guest)).values()];
    const yes = choices.filter((one) => one === 'yes').length;
    const remarks = (await findRemarks(knex, guest)).length;
    guests.push({ name, yes, no: choices.length - yes, remarks, sentAt });
  }
  return { id, title, path: `/l/${secret}/`, withOriginals, tasks, createdAt, endedAt, guests };
}

/** Links to look at boards, for their owner. */
export const linkRoutes = (knex: Knex, listener: LinkListener): Route[] => {
  const ownLink = async (owner: string, id: string): Promise<Link> => {
    const link = await findLink(knex, owner, id);
    if (!link) throw new ProblemError('link-missing');
    return link;
  };
  return routesFor(LINK_ROUTES, {
    'GET /api/links': async () => ({ listening: listener.now }),

    async 'POST /api/links'({ owner, body: { id, board: boardId, title = '', withOriginals, tasks = '' } }) {
      const board = await boardOf(knex, owner, boardId);
      await addLink(knex, {
        id,
        owner,
        board: board.id,
        title: cleanName(title),
        withOriginals,
        tasks: tasks.trim(),
      });
      await notifyNews(knex, owner, { kind: 'board-facts', board: board.id });
      return { link: await told(knex, await ownLink(owner, id)) };
    },

    async 'PATCH /api/links/:id'({ owner, parameters: { id } }) {
      const { board } = await ownLink(owner, id);
      await endLink(knex, owner, id);
      await notifyNews(knex, owner, { kind: 'board-facts', board });
      return { link: await told(knex, await ownLink(owner, id)) };
    },

    async 'GET /api/boards/:id/links'({ owner, parameters: { id } }) {
      await boardOf(knex, owner, id);
      return {
        links: await Promise.all((await findLinksOfBoard(knex, owner, id)).map((link) => told(knex, link))),
      };
    },
  });
};
