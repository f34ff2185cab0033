import type { Knex } from 'knex';

/**
 * Everything can be turned and faded; pictures know their own colour space, and have a lossless copy where browsers
 * cannot read them and tiles where they are very large; boards have a preview; owners have settings.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    update board_items set properties = '{"turn": 0, "opacity": 1}'::jsonb || properties;

    -- Room in each page for the next version of a row: moving five thousand items then touches no index.
    alter table board_items set (fillfactor = 70);

    alter table pictures
      add colour text,
      add depth smallint,
      add reading text references blobs (hash),
      add has_tiles boolean not null default false;

    create table picture_tiles (
      picture uuid not null references pictures (id),
      level smallint not null,
      "row" smallint not null,
      "column" smallint not null,
      hash text not null references blobs (hash),
      primary key (picture, level, "row", "column")
    );

    alter table boards
      add preview text references blobs (hash),
      add preview_revision bigint;

    create index picture_tiles_by_hash on picture_tiles (hash);
    create index pictures_by_sha256 on pictures (sha256);
    create index pictures_by_reading on pictures (reading) where reading is not null;

    create table owner_settings (
      owner uuid not null references owners (id),
      name text not null,
      value jsonb not null,
      primary key (owner, name)
    );
  `);
}

export async function down(): Promise<void> {
  throw new Error('This migration cannot be taken back: settings and copies of pictures would be lost.');
}
