import type { Knex } from 'knex';

/** What is written on boards is found by its words: notes and cards are few among pictures. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(
    "create index board_items_written on board_items (board) where kind <> 'placement' and not removed",
  );
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('drop index board_items_written');
}
