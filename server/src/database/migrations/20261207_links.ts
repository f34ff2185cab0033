import type { Knex } from 'knex';

/** Links to look at a board, who looked by them, and what they said. Nothing of a link is deleted: an ended one shows nothing. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table links (
      id uuid primary key,
      owner uuid not null references owners (id),
      board uuid not null references boards (id),
      secret text not null unique,
      title text not null,
      with_originals boolean not null,
      tasks text not null default '',
      created_at timestamptz not null default now(),
      ended_at timestamptz
    );
    create index links_by_board on links (board);

    create table link_guests (
      id uuid primary key,
      link uuid not null references links (id),
      name text not null,
      token_hash text not null unique,
      created_at timestamptz not null default now(),
      sent_at timestamptz
    );
    create index link_guests_by_link on link_guests (link);

    create table link_choices (
      guest uuid not null references link_guests (id),
      item text not null,
      choice text not null check (choice in ('yes', 'no')),
      primary key (guest, item)
    );

    create table link_remarks (
      id uuid primary key,
      guest uuid not null references link_guests (id),
      item text,
      text text not null,
      made_at timestamptz not null default now()
    );
    create index link_remarks_by_guest on link_remarks (guest, made_at);
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(
    'drop table link_remarks; drop table link_choices; drop table link_guests; drop table links;',
  );
}
