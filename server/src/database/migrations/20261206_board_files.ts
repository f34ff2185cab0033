import type { Knex } from 'knex';

/**
 * Boards travel as files. `origin`: the board elsewhere from which one came, and its state then; `origin_base`: the revision
 * here that was that state. `left_revision`: the state in which a board was handed out first: what was done since goes
 * along later. `board_files`: files that came in, until they are read.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table boards add origin jsonb, add origin_base bigint, add left_revision bigint;

    create table board_files (
      id uuid primary key,
      owner uuid not null references owners (id),
      hash text references blobs (hash),
      state text not null default 'waiting',
      why text,
      request jsonb,
      result jsonb,
      created_at timestamptz not null default now()
    );
    create index board_files_by_hash on board_files (hash) where hash is not null;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop table board_files;
    alter table boards drop origin, drop origin_base, drop left_revision;
  `);
}
