import type { Knex } from 'knex';

/** Colours that were guessed by eye, with what they were. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table guesses (
      id uuid primary key,
      owner uuid not null,
      truth text not null,
      guess text not null,
      guessed_at timestamptz not null default now()
    );
    create index guesses_owner on guesses (owner, guessed_at);
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('drop table guesses');
}
