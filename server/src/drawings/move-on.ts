import { randomUUID } from 'node:crypto';
import { shownInstead } from '@miradero/core/items';
import { acceptChanges } from '../boards/accept-changes.ts';
import type { Knex } from '../database/connection.ts';
import { findOutdated } from '../database/drawings.ts';
import { notifyNews } from '../database/notify.ts';
import type { Queue } from '../jobs/queue.ts';

/** Lets every placement of a drawing, on whatever board, show its newest version: changes like anybody's. */
export async function moveOn(
  { knex, queue, owner }: { readonly knex: Knex; readonly queue: Queue; readonly owner: string },
  drawing: string,
): Promise<void> {
  const outdated = await findOutdated(knex, owner, drawing);
  if (!outdated) return;
  const { newest, placements } = outdated;
  for (const board of new Set(placements.map((one) => one.board))) {
    const operations = placements
      .filter((one) => one.board === board)
      .map(({ item, standing }) => ({ item, set: shownInstead(standing, newest) }));
    await acceptChanges(knex, queue, owner, board, [{ id: randomUUID(), operations }]);
  }
  await notifyNews(knex, owner, { kind: 'picture', picture: newest.id });
}
