import type { Knex } from '../database/connection.ts';

/**
 * Fills a library by SQL alone: pictures with names, tags, purposes, sources, sizes and figures that differ, none with
 * bytes of its own (all share one blob's name). What is wanted: that searching meets as many rows as it will.
 */
export async function makeManyPictures(
  knex: Knex,
  owner: string,
  count: number,
  swatches = 6,
): Promise<void> {
  await knex.raw('select setseed(0.42)');
  await knex.raw(
    `insert into blobs (hash, bytes, type)
     select lpad(to_hex(n), 64, '0'), 1000, 'image/jpeg' from generate_series(1, :count) n on conflict do nothing`,
    { count },
  );
  await knex.raw(
    `with lists as (select
       array['ferry','lantern','rope','plank','chain','wheel','mast','reed','coat','cap','hand','fog','ramp','hull',
             'window','lamp','gate','slip','oilskin','rust','mud','winch','house','channel'] as nouns,
       array['wet','old','bent','near','far','dark','pale','low','torn','bright','heavy','thin'] as adjectives,
       array['form','viewpoint','proportion','light','colour','surface','detail','pose','costume','mood','effect','method'] as purposes,
       array['Ilse Varn','Tomas Reel','Brina Holt','Ewa Sund','Pell Arden','Mira Quay'] as makers),
     many as materialized (
       select n, floor(random() * 24)::int + 1 as noun, floor(random() * 12)::int + 1 as adjective,
         floor(random() * 12)::int + 1 as purpose, floor(random() * 6)::int + 1 as maker,
         random() as r1, random() as r2, random() as r3, random() as r4, random() as r5
       from generate_series(1, :count) n)
     insert into pictures (id, owner, name, file_name, type, bytes, sha256, width, height, state, added_at, tags, purposes,
       source, pile, use_mark, kind, facts, likeness, lightness, hue, sharpness, complexity, look)
     select md5('many ' || n)::uuid, :owner,
       initcap(adjectives[adjective]) || ' ' || nouns[noun] || ' ' || n, 'DSC' || lpad(n::text, 6, '0') || '.jpg',
       'image/jpeg', 1000, lpad(to_hex(n), 64, '0'), 400 + floor(r1 * 5600)::int, 400 + floor(r2 * 3600)::int, 'ready',
       now() - n * interval '7 minutes',
       case when r3 < 0.3 then array[nouns[noun], adjectives[adjective]] else '{}' end,
       case when r4 < 0.5 then jsonb_build_array(jsonb_build_object('purpose', purposes[purpose], 'isNot', false, 'region', null))
         else '[]'::jsonb end,
       case when r5 < 0.6 then jsonb_build_object('creator', makers[maker], 'page', 'https://commons.example/work/' || n)
         else '{}'::jsonb end,
       case when r1 < 0.05 then 'now' when r1 < 0.1 then 'maybe' end,
       case when r2 < 0.3 then 'work' when r2 < 0.5 then 'look' end, 'still',
       case when r3 < 0.5 then jsonb_build_object('takenAt', to_char(now() - n * interval '9 minutes', 'YYYY-MM-DD"T"HH24:MI:SS'))
         else '{}'::jsonb end,
       (('x' || md5('a' || n))::bit(64)), r1, 360 * r2, 0.5 * r3, r4,
       cube(array[r1, 0.2 * (r2 - 0.5), 0.2 * (r3 - 0.5), r1 * 0.9, 0.2 * (r3 - 0.5), 0.2 * (r4 - 0.5),
                  r5, 0.2 * (r1 - 0.5), 0.2 * (r5 - 0.5), r5 * 0.8, 0.2 * (r4 - 0.5), 0.2 * (r2 - 0.5)])
     from many, lists
     on conflict do nothing`,
    { count, owner },
  );
  await knex.raw(
    `insert into picture_colours (picture, colour, share)
     select md5('many ' || n)::uuid, cube(array[random(), 0.4 * (random() - 0.5), 0.4 * (random() - 0.5)]), 0.6 / s
     from generate_series(1, :count) n, generate_series(1, :swatches) s`,
    { count, swatches },
  );
  for (const table of ['pictures', 'picture_colours', 'blobs']) await knex.raw(`vacuum analyze ${table}`);
}
