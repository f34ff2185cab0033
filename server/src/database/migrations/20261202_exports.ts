import type { Knex } from 'knex';

/** What is taken out of boards as files: asked for, made by a job, kept for a day. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table exports (
      id uuid primary key,
      owner uuid not null,
      board uuid not null references boards (id) on delete cascade,
      request jsonb not null,
      name text not null,
      state text not null default 'waiting',
      why text,
      width integer,
      height integer,
      missing integer not null default 0,
      hash text,
      bytes bigint,
      created_at timestamptz not null default now()
    );
    create index exports_hash on exports (hash) where hash is not null;
    create index exports_created_at on exports (created_at);
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('drop table exports');
}
