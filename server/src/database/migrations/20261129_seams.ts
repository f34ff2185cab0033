import type { Knex } from 'knex';

/**
 * What is written on boards is found by its words: notes and cards are few among pictures. And of whose things a blob was
 * the atlas or preview before another took its place: windows that are open ask for it until it is swept.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create index board_items_written on board_items (board) where kind <> 'placement' and not removed;

    create table former_blobs (
      hash text not null references blobs (hash),
      owner uuid not null references owners (id),
      primary key (hash, owner)
    );
    create function keep_former_blob() returns trigger language plpgsql as $$
    begin
      if tg_table_name = 'boards' then
        insert into former_blobs values (old.preview, old.owner) on conflict do nothing;
      else
        insert into former_blobs
          select hash, old.owner from unnest(array[old.hash32, old.hash64]) as hash where hash is not null
          on conflict do nothing;
      end if;
      return null;
    end $$;
    create trigger former_preview after update of preview on boards for each row
      when (old.preview is not null and old.preview is distinct from new.preview)
      execute function keep_former_blob();
    create trigger former_atlas after update of hash32, hash64 on atlases for each row
      when (old.hash32 is distinct from new.hash32 or old.hash64 is distinct from new.hash64)
      execute function keep_former_blob();
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop trigger former_preview on boards;
    drop trigger former_atlas on atlases;
    drop function keep_former_blob;
    drop table former_blobs;
    drop index board_items_written;
  `);
}
