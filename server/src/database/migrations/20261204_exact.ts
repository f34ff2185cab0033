import type { Knex } from 'knex';

/**
 * Lossless pixels of pictures that no browser reads exactly, cut into tiles; how often each colour is in a picture;
 * palettes on the shelf.
 * `exact`: null until they are wanted; `srgb`, `display-p3` or the hash of the profile by which they are read; `failed`.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table pictures add exact text;

    create table picture_exact_tiles (
      picture uuid not null references pictures (id),
      "row" smallint not null,
      "column" smallint not null,
      hash text not null references blobs (hash),
      primary key (picture, "row", "column")
    );
    create index picture_exact_tiles_by_hash on picture_exact_tiles (hash);
    create index pictures_by_exact on pictures (exact) where exact is not null;

    create table picture_histograms (
      picture uuid primary key references pictures (id),
      cells bytea not null
    );

    create table palettes (
      id uuid primary key,
      owner uuid not null references owners (id),
      title text not null,
      swatches jsonb not null,
      subject uuid references subjects (id),
      viewpoint jsonb,
      is_put_away boolean not null,
      kept_at timestamptz not null default now()
    );
    create index palettes_owner on palettes (owner, kept_at);
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop table palettes;
    drop table picture_histograms;
    drop table picture_exact_tiles;
    alter table pictures drop exact;
  `);
}
