import type { Knex } from 'knex';

/**
 * Pictures know what they are (still, animated, clip, model), where they come from and what they may be used for; near
 * copies are collected by a hash of 64 bits and decided by a print (`core/picture/likeness`). The hash has no index:
 * comparing 100,000 of them bit by bit takes about 20 ms.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table pictures
      add kind text not null default 'still' check (kind in ('still', 'animated', 'clip', 'model')),
      add frames integer not null default 1,
      add duration_ms integer,
      add poster text references blobs (hash),
      add source jsonb not null default '{}',
      add facts jsonb not null default '{}',
      add use_mark text check (use_mark in ('look', 'work')),
      add only_for uuid references boards (id),
      add is_put_away boolean not null default false,
      add likeness bit(64),
      add print bytea;
    create index pictures_by_poster on pictures (poster) where poster is not null;
    create index pictures_by_board_only on pictures (only_for) where only_for is not null;

    create table picture_copies (
      picture uuid not null references pictures (id),
      other uuid not null references pictures (id),
      is_mirrored boolean not null,
      is_settled boolean not null default false,
      primary key (picture, other),
      check (picture < other)
    );
    create index picture_copies_by_other on picture_copies (other);
  `);
}

export async function down(): Promise<void> {
  throw new Error('This migration cannot be taken back: sources and marks of pictures would be lost.');
}
