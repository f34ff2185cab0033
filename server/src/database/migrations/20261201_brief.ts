import type { Knex } from 'knex';

/** What a board is for: for whom, which question it answers, by when. Words alone: columns, since they are asked for with every board. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table boards
      add column for_whom text not null default '',
      add column question text not null default '',
      add column due text;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('alter table boards drop column for_whom, drop column question, drop column due');
}
