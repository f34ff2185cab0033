import type { Knex } from 'knex';

/**
 * How often reading a picture broke a limit or a process, and since when nothing names a blob. Columns with a constant
 * default, or none, cost no rewriting; the index holds only what waits to be swept.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table pictures add broken_decodes smallint not null default 0;
    alter table blobs add unnamed_since timestamptz;
    create index blobs_unnamed on blobs (unnamed_since) where unnamed_since is not null;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('alter table pictures drop broken_decodes; alter table blobs drop unnamed_since');
}
