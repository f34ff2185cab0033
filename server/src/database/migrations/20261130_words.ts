import type { Knex } from 'knex';

/**
 * The words that stand on pictures, once each: a misspelt word is compared with them, and not with every picture. They are
 * kept by whatever writes pictures; counters and years are no words that anybody misspells. Trigrams of every picture
 * served the same, took ten times as long to ask, and had to be written with every picture.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    drop index pictures_by_spelling;
    create table picture_words (
      owner uuid not null references owners (id),
      word text collate "C" not null,
      primary key (owner, word)
    );

    -- In their order, so that two who write the same new words wait for each other and not in a circle.
    create function note_words(owners uuid[], texts text[]) returns void language sql as $$
      insert into picture_words (owner, word)
        select distinct given.owner, fresh
          from unnest(owners, texts) as given (owner, words),
            unnest(tsvector_to_array(to_tsvector('simple', given.words))) fresh
          where length(fresh) between 3 and 40 and fresh !~ '[0-9]'
            and not exists (select from picture_words p where p.owner = given.owner and p.word = fresh collate "C")
          order by given.owner, fresh
        on conflict do nothing
    $$;
    create function note_words_of_new() returns trigger language plpgsql as $$
    begin
      perform note_words(array_agg(owner), array_agg(words)) from fresh having count(*) > 0;
      return null;
    end $$;
    create function note_words_of_altered() returns trigger language plpgsql as $$
    begin
      perform note_words(array_agg(fresh.owner), array_agg(fresh.words))
        from fresh join stale on stale.id = fresh.id and stale.words is distinct from fresh.words
        having count(*) > 0;
      return null;
    end $$;
    create trigger words_of_new after insert on pictures referencing new table as fresh
      for each statement execute function note_words_of_new();
    create trigger words_of_altered after update on pictures referencing old table as stale new table as fresh
      for each statement execute function note_words_of_altered();

    select note_words(array_agg(owner), array_agg(words)) from pictures having count(*) > 0;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop trigger words_of_new on pictures;
    drop trigger words_of_altered on pictures;
    drop function note_words_of_new, note_words_of_altered, note_words;
    drop table picture_words;
    create index pictures_by_spelling on pictures using gin (words gin_trgm_ops);
  `);
}
