import type { Knex } from 'knex';

/** In which browser a change was made: what is told to a browser as news is what others did. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('alter table board_changes add made_in uuid');
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('alter table board_changes drop made_in');
}
