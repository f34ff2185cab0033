import type { Knex } from 'knex';

/**
 * The first tables. Every row belongs to an owner, directly or through its board or picture. Bytes are kept in pieces
 * outside the row (`STORAGE EXTERNAL`: pictures do not compress, and a piece is read without unpacking the others).
 * Stacking keys compare by code unit, as they do in the browser. Nothing is deleted at once, so nothing cascades.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table installation (
      id uuid primary key default gen_random_uuid(),
      only_one boolean not null default true unique check (only_one)
    );
    insert into installation default values;

    create table owners (
      id uuid primary key default gen_random_uuid(),
      name text not null,
      created_at timestamptz not null default now()
    );
    insert into owners (name) values ('local');

    create table blobs (
      hash text primary key check (hash ~ '^[0-9a-f]{64}$'),
      bytes bigint not null,
      type text not null,
      created_at timestamptz not null default now()
    );
    create table blob_pieces (
      hash text not null references blobs (hash),
      number integer not null,
      piece bytea not null,
      primary key (hash, number)
    );
    alter table blob_pieces alter column piece set storage external;

    create table atlases (
      id uuid primary key default gen_random_uuid(),
      owner uuid not null references owners (id),
      used integer not null default 0,
      hash32 text references blobs (hash),
      hash64 text references blobs (hash)
    );

    create table pictures (
      id uuid primary key,
      owner uuid not null references owners (id),
      name text not null,
      file_name text not null,
      type text not null,
      bytes bigint not null,
      sha256 text not null references blobs (hash),
      width integer not null,
      height integer not null,
      state text not null default 'arriving' check (state in ('arriving', 'ready', 'failed')),
      failure text,
      thumbhash text,
      atlas uuid references atlases (id),
      slot integer,
      added_at timestamptz not null default now(),
      unique (owner, sha256)
    );
    create index pictures_by_owner on pictures (owner, added_at desc, id);
    create index pictures_without_atlas on pictures (owner) where state = 'ready' and atlas is null;

    create table picture_levels (
      picture uuid not null references pictures (id),
      side integer not null,
      hash text not null references blobs (hash),
      bytes integer not null,
      primary key (picture, side)
    );
    create index picture_levels_by_hash on picture_levels (hash);

    create table boards (
      id uuid primary key,
      owner uuid not null references owners (id),
      name text not null,
      surround integer not null default 5 check (surround between 0 and 10),
      put_away boolean not null default false,
      revision bigint not null default 0,
      created_at timestamptz not null default now(),
      changed_at timestamptz not null default now()
    );
    create index boards_by_owner on boards (owner, changed_at desc);

    create table board_items (
      board uuid not null references boards (id),
      id text not null,
      kind text not null,
      stack text collate "C" not null,
      removed boolean not null,
      picture uuid,
      properties jsonb not null,
      primary key (board, id)
    );
    create index board_items_by_picture on board_items (picture, board) where picture is not null;

    create table board_changes (
      board uuid not null references boards (id),
      revision bigint not null,
      change uuid not null,
      operations jsonb not null,
      made_at timestamptz not null default now(),
      primary key (board, revision),
      unique (board, change)
    );
  `);
}

export async function down(): Promise<void> {
  throw new Error('The first migration cannot be taken back: it would delete every picture and board.');
}
