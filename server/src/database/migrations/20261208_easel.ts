import type { Knex } from 'knex';

/**
 * Drawings that are followed while they are made elsewhere, and their versions. A version is a picture like any other, but
 * for its drawing alone: `is_version` keeps it out of the library.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table pictures add is_version boolean not null default false;

    create table drawings (
      id uuid primary key,
      owner uuid not null references owners (id),
      board uuid not null references boards (id),
      name text not null,
      created_at timestamptz not null default now()
    );
    create index drawings_by_board on drawings (board);

    create table drawing_versions (
      drawing uuid not null references drawings (id),
      number integer not null,
      picture uuid not null references pictures (id),
      saved_at timestamptz not null,
      bytes bigint not null,
      primary key (drawing, number)
    );
    create index drawing_versions_by_picture on drawing_versions (picture);
    create index board_items_of_drawing on board_items ((properties ->> 'drawing')) where jsonb_exists(properties, 'drawing');
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(
    'drop index board_items_of_drawing; drop table drawing_versions; drop table drawings; alter table pictures drop is_version;',
  );
}
