import type { PictureStory } from '@miradero/core/schema';
import type { Knex } from './connection.ts';

/** Somebody looks at a picture. @returns whether there is such a picture */
export const recordLook = async (knex: Knex, owner: string, id: string): Promise<boolean> =>
  (await knex('pictures').where({ owner, id }).update({ looked_at: knex.fn.now() })) > 0;

/**
 * Where a picture stands and stood. Only the changes of boards that know it are read, and of those only the ones that
 * name it.
 */
export async function findStory(knex: Knex, owner: string, id: string): Promise<PictureStory> {
  const { rows } = await knex.raw(
    `select b.id, b.name, bool_or(not i.removed) as "isThere", count(*) filter (where not i.removed)::int as count,
       (select min(c.made_at) from board_changes c where c.board = b.id
          and c.operations @> jsonb_build_array(jsonb_build_object('create', jsonb_build_object('picture', cast(:id as text))))) as since
     from board_items i join boards b on b.id = i.board
     where i.picture = :id and b.owner = :owner group by b.id, b.name order by since nulls first, b.name`,
    { id, owner },
  );
  const told = rows as { id: string; name: string; isThere: boolean; count: number; since: Date | null }[];
  const where = (there: boolean) =>
    told
      .filter(({ isThere }) => isThere === there)
      .map(({ id, name, count, since }) => ({ id, name, count, since: since?.toISOString() ?? null }));
  return { boards: where(true), formerBoards: where(false) };
}
