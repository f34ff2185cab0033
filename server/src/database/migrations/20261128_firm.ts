import type { Knex } from 'knex';

/** How often reading a picture broke a limit or a process; a column with a constant default costs no rewriting. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('alter table pictures add broken_decodes smallint not null default 0');
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('alter table pictures drop broken_decodes');
}
