import { factsBefore, takeBackFacts } from '@miradero/core/board';
import type { Before, Bulk, BulkAnswer, RestoreAnswer } from '@miradero/core/schema';
import type { Knex } from './connection.ts';

interface Row {
  id: string;
  name: string;
  source: Before['source'];
  use_mark: 'look' | 'work' | null;
  pile: Before['pile'];
  is_to_scale: boolean;
  is_put_away: boolean;
  tags: string[];
  purposes: NonNullable<Before['purposes']>;
  parts: string[];
}

const withAndWithout = <T>(all: readonly T[], add: readonly T[] = [], drop: readonly T[] = []): T[] => {
  const key = (value: T) => JSON.stringify(value);
  const gone = new Set(drop.map(key));
  const kept = all.filter((value) => !gone.has(key(value)));
  const known = new Set(kept.map(key));
  return [...kept, ...add.filter((value) => !known.has(key(value)))];
};

/** PostgreSQL hands `jsonb` out with its keys in an order of its own. */
const asAsked = ({ purpose, isNot, region, word }: Row['purposes'][number]) => ({
  purpose,
  isNot,
  region: region && { x: region.x, y: region.y, width: region.width, height: region.height },
  ...(word !== undefined && { word }),
});

/** What a picture is to be, and what it was, in the same properties. */
function tell(row: Row, bulk: Bulk, number: number): { after: Before; before: Before } {
  const after: Record<string, unknown> = {};
  const before: Record<string, unknown> = {};
  const set = (key: keyof Before, was: unknown, is: unknown) => {
    before[key] = was;
    after[key] = is;
  };
  if (bulk.series !== undefined)
    set('name', row.name, bulk.pictures.length === 1 ? bulk.series : `${bulk.series} ${number}`);
  if (bulk.source !== undefined) {
    const was = Object.fromEntries(
      Object.keys(bulk.source).map((key) => [key, row.source?.[key as keyof typeof row.source] ?? null]),
    );
    set('source', was, bulk.source);
  }
  if (bulk.useMark !== undefined) set('useMark', row.use_mark, bulk.useMark);
  if (bulk.pile !== undefined) set('pile', row.pile, bulk.pile);
  if (bulk.isToScale !== undefined) set('isToScale', row.is_to_scale, bulk.isToScale);
  if (bulk.isPutAway !== undefined) set('isPutAway', row.is_put_away, bulk.isPutAway);
  if (bulk.addTags || bulk.dropTags)
    set('tags', row.tags, withAndWithout(row.tags, bulk.addTags, bulk.dropTags));
  if (bulk.addParts || bulk.dropParts)
    set('parts', row.parts, withAndWithout(row.parts, bulk.addParts, bulk.dropParts));
  if (bulk.addPurposes || bulk.dropPurposes) {
    const was = row.purposes.map(asAsked);
    set(
      'purposes',
      was,
      withAndWithout(was, bulk.addPurposes?.map(asAsked), bulk.dropPurposes?.map(asAsked)),
    );
  }
  return { after: { picture: row.id, ...after }, before: { picture: row.id, ...before } };
}

/**
 * Sets each picture to what is said of it, by one statement. Of a source, what is not named stays; what is null goes.
 * Pictures of other owners and unknown ones are passed over.
 */
export async function setPictures(trx: Knex, owner: string, each: readonly Before[]): Promise<void> {
  await trx.raw(
    `update pictures p set
       name = coalesce(v ->> 'name', p.name),
       source = case when jsonb_exists(v, 'source') then jsonb_strip_nulls(p.source || (v -> 'source')) else p.source end,
       use_mark = case when jsonb_exists(v, 'useMark') then v ->> 'useMark' else p.use_mark end,
       pile = case when jsonb_exists(v, 'pile') then v ->> 'pile' else p.pile end,
       is_to_scale = coalesce((v -> 'isToScale')::boolean, p.is_to_scale),
       is_put_away = coalesce((v -> 'isPutAway')::boolean, p.is_put_away),
       put_away_at = case when not jsonb_exists(v, 'isPutAway') then p.put_away_at
         when (v -> 'isPutAway')::boolean then coalesce(p.put_away_at, now()) end,
       tags = case when jsonb_exists(v, 'tags') then array(select jsonb_array_elements_text(v -> 'tags')) else p.tags end,
       parts = case when jsonb_exists(v, 'parts') then array(select jsonb_array_elements_text(v -> 'parts')::uuid) else p.parts end,
       purposes = coalesce(v -> 'purposes', p.purposes)
     from jsonb_array_elements(cast(:each as jsonb)) v
     where p.id = (v ->> 'picture')::uuid and p.owner = :owner`,
    { each: JSON.stringify(each), owner },
  );
}

async function lockPictures(
  trx: Knex,
  owner: string,
  ids: readonly string[],
): Promise<ReadonlyMap<string, Row>> {
  const columns = ['id', 'name', 'source', 'use_mark', 'pile', 'is_to_scale', 'is_put_away'];
  const rows: Row[] = await trx('pictures')
    .where({ owner })
    .whereIn('id', [...ids])
    .forUpdate()
    .select(...columns, 'tags', 'purposes', 'parts');
  return new Map(rows.map((row) => [row.id, row]));
}

/**
 * Tells many pictures the same, within `trx`.
 *
 * @returns what each was in what was said, and is now, in the order asked for; unknown pictures are left out
 */
export async function tellPictures(trx: Knex, owner: string, bulk: Bulk): Promise<BulkAnswer> {
  const byId = await lockPictures(trx, owner, bulk.pictures);
  const told = bulk.pictures.flatMap((id, index) => {
    const row = byId.get(id);
    return row ? [tell(row, bulk, index + 1)] : [];
  });
  await setPictures(
    trx,
    owner,
    told.map(({ after }) => after),
  );
  return { before: told.map(({ before }) => before), after: told.map(({ after }) => after) };
}

const factsOf = (row: Row): Record<string, unknown> => ({
  ...{ name: row.name, source: row.source, useMark: row.use_mark, pile: row.pile, tags: row.tags },
  ...{ isToScale: row.is_to_scale, isPutAway: row.is_put_away, parts: row.parts },
  purposes: row.purposes.map(asAsked),
});

/**
 * Makes pictures again what they were `before`, within `trx`, but for what is no longer as `after` says: somebody told it
 * anew since. Without `after` all of it.
 */
export async function restorePictures(
  trx: Knex,
  owner: string,
  before: readonly Before[],
  after: readonly Before[] = [],
): Promise<RestoreAnswer> {
  const byId = await lockPictures(
    trx,
    owner,
    before.map(({ picture }) => picture),
  );
  const told = new Map(after.map((one) => [one.picture, one]));
  let skipped = 0;
  const each = before.flatMap(({ picture, ...was }) => {
    const row = byId.get(picture);
    if (!row) return [];
    const { picture: _, ...is } = told.get(picture) ?? { picture };
    const now = factsOf(row);
    const back = takeBackFacts(told.has(picture) ? now : undefined, was, is);
    skipped += back.skipped;
    if (Object.keys(back.set).length === 0) return [];
    return [{ was: { picture, ...factsBefore(now, back.set) }, is: { picture, ...back.set } }];
  });
  const is = each.map((one) => one.is as Before);
  await setPictures(trx, owner, is);
  return { before: each.map((one) => one.was as Before), after: is, skipped };
}

/** Boards on which any of the pictures stand. */
export async function findStanding(
  knex: Knex,
  owner: string,
  pictures: readonly string[],
): Promise<{ id: string; name: string; count: number }[]> {
  const rows = await knex('board_items as i')
    .join('boards as b', 'b.id', 'i.board')
    .where({ 'b.owner': owner, 'i.removed': false })
    .whereIn('i.picture', [...pictures])
    .groupBy('b.id', 'b.name')
    .orderBy('b.name')
    .select('b.id', 'b.name', knex.raw('count(distinct i.picture)::int as count'));
  return rows;
}

/**
 * Removes for good what was put away so long ago and never stood on a board: the past of one shows it still. Its bytes go with the next sweep of blobs.
 *
 * @returns how many
 */
export async function removePutAway(knex: Knex, grace: string): Promise<number> {
  return knex.transaction(async (trx) => {
    const { rows } = await trx.raw(
      `select id from pictures p where is_put_away and put_away_at < now() - ?::interval
         and not exists (select from board_pictures s where s.picture = p.id)
       limit 1000 for update skip locked`,
      [grace],
    );
    const ids = (rows as { id: string }[]).map(({ id }) => id);
    if (ids.length === 0) return 0;
    await trx('picture_copies').whereIn('picture', ids).orWhereIn('other', ids).delete();
    for (const table of [
      'picture_colours',
      'picture_levels',
      'picture_tiles',
      'picture_exact_tiles',
      'picture_histograms',
    ])
      await trx(table).whereIn('picture', ids).delete();
    await trx('pictures').whereIn('id', ids).delete();
    return ids.length;
  });
}
