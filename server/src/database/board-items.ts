import type { Item } from '@miradero/core/schema';
import type { Knex } from './connection.ts';

interface ItemRow {
  id: string;
  kind: string;
  stack: string;
  removed: boolean;
  picture: string | null;
  properties: Record<string, unknown>;
}

const itemOf = ({ properties, picture, ...rest }: ItemRow): Item =>
  ({ ...rest, ...(picture === null ? {} : { picture }), ...properties }) as unknown as Item;

const COLUMNS = ['id', 'kind', 'stack', 'removed', 'picture', 'properties'] as const;

/** Every item of a board, removed ones included (an undo may bring them back). */
export async function findItems(knex: Knex, board: string): Promise<Item[]> {
  return (await knex('board_items').where({ board }).select(COLUMNS)).map(itemOf);
}

export async function findItemsById(knex: Knex, board: string, ids: readonly string[]): Promise<Item[]> {
  return (
    await knex('board_items')
      .where({ board })
      .andWhereRaw('id = any(?::text[])', [ids as string[]])
      .select(COLUMNS)
  ).map(itemOf);
}

/** Boards on which a picture stands. */
export async function findBoardsOfPicture(knex: Knex, picture: string): Promise<string[]> {
  return knex('board_items').where({ picture, removed: false }).distinct('board').pluck('board');
}

/** Writes whole items, new or altered, in one statement. */
export async function saveItems(trx: Knex, board: string, items: readonly Item[]): Promise<void> {
  if (items.length === 0) return;
  const rows = items.map((item) => {
    const { id, kind, stack, removed, ...others } = item;
    const { picture = null, ...properties } = others as Record<string, unknown> & { picture?: string };
    return { id, kind, stack, removed, picture, properties: JSON.stringify(properties) };
  });
  await trx.raw(
    `insert into board_items (board, id, kind, stack, removed, picture, properties)
     select ?, t.* from unnest(?::text[], ?::text[], ?::text[], ?::boolean[], ?::uuid[], ?::jsonb[]) as t
     on conflict (board, id) do update set
       stack = excluded.stack, removed = excluded.removed, picture = excluded.picture, properties = excluded.properties`,
    [
      board,
      rows.map((row) => row.id),
      rows.map((row) => row.kind),
      rows.map((row) => row.stack),
      rows.map((row) => row.removed),
      rows.map((row) => row.picture),
      rows.map((row) => row.properties),
    ] as never,
  );
}
