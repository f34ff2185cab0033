import type { Knex } from 'knex';

/**
 * The past of a board: what each change did and who made it (null: the owner), states kept at intervals, so that any other
 * is a few changes away, names of states, and every picture that a board ever showed: its past shows it still.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table board_changes add made_by text, add gist jsonb not null default '{}';

    create table board_states (
      board uuid not null references boards (id),
      revision bigint not null,
      bytes integer not null,
      items text not null,
      primary key (board, revision)
    );

    create table board_pictures (
      board uuid not null references boards (id),
      picture uuid not null,
      primary key (board, picture)
    );
    create index board_pictures_by_picture on board_pictures (picture);

    create table named_states (
      id uuid primary key,
      board uuid not null references boards (id),
      revision bigint not null,
      name text not null,
      is_put_away boolean not null default false,
      named_at timestamptz not null default now()
    );
    create index named_states_by_board on named_states (board);

    insert into board_pictures (board, picture)
      select board, picture from board_items where picture is not null
      union
      select c.board, named.picture::uuid
        from board_changes c, jsonb_array_elements(c.operations) o,
          lateral (select coalesce(o -> 'create' ->> 'picture', o -> 'set' ->> 'picture') as picture) named
        where named.picture is not null;

    with deeds as (
      select c.board, c.revision, i.kind,
          case (coalesce(o -> 'create', o -> 'set') ->> 'removed')
            when 'true' then 'removed' when 'false' then 'added' else 'altered' end as did,
          count(distinct i.id) as count
        from board_changes c, jsonb_array_elements(c.operations) o, board_items i
        where i.board = c.board and i.id = coalesce(o -> 'create' ->> 'id', o ->> 'item')
        group by 1, 2, 3, 4
    ), counts as (
      select board, revision, kind,
          coalesce(sum(count) filter (where did = 'added'), 0) as added,
          coalesce(sum(count) filter (where did = 'removed'), 0) as removed,
          coalesce(sum(count) filter (where did = 'altered'), 0) as altered
        from deeds group by 1, 2, 3
    ), gists as (
      select board, revision,
          jsonb_object_agg(kind, jsonb_build_object('added', added, 'removed', removed, 'altered', altered)) as gist
        from counts group by 1, 2
    )
    update board_changes c set gist = g.gist from gists g where g.board = c.board and g.revision = c.revision;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop table named_states;
    drop table board_pictures;
    drop table board_states;
    alter table board_changes drop made_by, drop gist;
  `);
}
