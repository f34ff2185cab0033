import type { Knex } from 'knex';

/**
 * What a person says of pictures to sort them, what is measured of them, and subjects. Everything that is searched
 * has its index: words by full text and trigrams, lists by GIN, colours and looks by distance in OKLab (`cube`), orders
 * by B-trees that hold nothing put away, so that counting and leafing never touch the rows themselves. A subject's parts are one document: they are few, nested once, and always read together.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create extension if not exists pg_trgm;
    create extension if not exists cube;

    -- Immutable, as a generated column demands: no setting alters what these give.
    create function words_of(name text, file_name text, note text, tags text[], source jsonb) returns text
      language sql immutable parallel safe as $$
        select name || ' ' || note || ' ' || coalesce((select string_agg(t, ' ') from unnest(tags) t), '') || ' ' ||
          coalesce(source ->> 'title', '') || ' ' || coalesce(source ->> 'creator', '') || ' ' ||
          coalesce(substring(source ->> 'page' from '^https?://([^/?#]+)'), '') || ' ' ||
          regexp_replace(file_name, '[._-]', ' ', 'g')
      $$;

    alter table pictures
      add note text not null default '',
      add tags text[] not null default '{}',
      add purposes jsonb not null default '[]',
      add pile text check (pile in ('now', 'maybe', 'no')),
      add parts uuid[] not null default '{}',
      add views jsonb not null default '{}',
      add is_to_scale boolean not null default false,
      add put_away_at timestamptz,
      add looked_at timestamptz,
      add taken_at text generated always as (facts ->> 'takenAt') stored,
      add measures jsonb,
      add lightness real,
      add hue real,
      add sharpness real,
      add complexity real,
      add look cube;
    alter table pictures
      add words text generated always as (words_of(name, file_name, note, tags, source)) stored;
    -- Rows stay short: prints and measures are read for few pictures at a time.
    alter table pictures alter print set storage external;
    alter table pictures set (toast_tuple_target = 1024);

    create table picture_colours (
      picture uuid not null references pictures (id),
      colour cube not null,
      share real not null
    );
    create index picture_colours_by_picture on picture_colours (picture);
    create index picture_colours_near on picture_colours using gist (colour);

    create index pictures_by_words on pictures using gin (to_tsvector('english', words));
    create index pictures_by_spelling on pictures using gin (words gin_trgm_ops);
    create index pictures_by_tags on pictures using gin (tags);
    create index pictures_by_parts on pictures using gin (parts);
    create index pictures_by_purposes on pictures using gin (purposes jsonb_path_ops);
    create index pictures_by_added on pictures (owner, added_at desc, id) where not is_put_away;
    create index pictures_by_name on pictures (owner, lower(name), id) where not is_put_away;
    create index pictures_by_pixels on pictures (owner, (width::bigint * height), id) where not is_put_away;
    create index pictures_by_taken on pictures (owner, taken_at, id) where not is_put_away;
    create index pictures_by_taken_down on pictures (owner, taken_at desc nulls last, id desc) where not is_put_away;
    create index pictures_by_lightness on pictures (owner, lightness, id) where not is_put_away;
    create index pictures_by_lightness_down on pictures (owner, lightness desc nulls last, id desc) where not is_put_away;
    create index pictures_by_hue on pictures (owner, hue, id) where not is_put_away;
    create index pictures_by_hue_down on pictures (owner, hue desc nulls last, id desc) where not is_put_away;
    create index pictures_by_sharpness on pictures (owner, sharpness, id) where not is_put_away;
    create index pictures_by_sharpness_down on pictures (owner, sharpness desc nulls last, id desc) where not is_put_away;
    create index pictures_by_complexity on pictures (owner, complexity, id) where not is_put_away;
    create index pictures_by_complexity_down on pictures (owner, complexity desc nulls last, id desc) where not is_put_away;
    create index pictures_by_looked_at on pictures (owner, looked_at nulls first, id) where not is_put_away;
    create index pictures_by_looked_at_down on pictures (owner, looked_at desc nulls last, id desc) where not is_put_away;
    create index pictures_by_licence on pictures (owner, (source ->> 'licence'));
    create index pictures_by_creator on pictures (owner, (source ->> 'creator'));
    create index pictures_by_pile on pictures (owner, pile) where pile is not null;
    create index pictures_by_use on pictures (owner, use_mark);
    create index pictures_by_kind on pictures (owner, kind) where kind <> 'still';
    create index pictures_without_source on pictures (owner, added_at desc)
      where source ->> 'page' is null and source ->> 'address' is null and source ->> 'creator' is null;
    create index pictures_put_away on pictures (owner, put_away_at) where is_put_away;
    create index pictures_near_look on pictures using gist (look);
    update pictures set put_away_at = now() where is_put_away;

    create table subjects (
      id uuid primary key,
      owner uuid not null references owners (id),
      name text not null,
      parts jsonb not null default '[]',
      is_put_away boolean not null default false,
      added_at timestamptz not null default now()
    );
    create index subjects_by_owner on subjects (owner, added_at);

    create table tag_colours (
      owner uuid not null references owners (id),
      name text not null,
      colour text not null check (colour ~ '^#[0-9a-f]{6}$'),
      primary key (owner, name)
    );
  `);
}

export async function down(): Promise<void> {
  throw new Error('This migration cannot be taken back: tags, purposes and subjects would be lost.');
}
