import { cleanName, type Level, nameOfFile, nameOfPlace, readableName } from '@miradero/core/picture';
import type { PatchPicture, Picture, PictureCopy, PictureFacts, PictureSource } from '@miradero/core/schema';
import type { Knex } from './connection.ts';

interface PictureRow {
  id: string;
  name: string;
  file_name: string;
  type: string;
  bytes: string;
  sha256: string;
  width: number;
  height: number;
  state: Picture['state'];
  failure: string | null;
  thumbhash: string | null;
  added_at: Date;
  slot: number | null;
  hash32: string | null;
  hash64: string | null;
  levels: Level[];
  colour: string | null;
  depth: number | null;
  reading: string | null;
  has_tiles: boolean;
  exact: string | null;
  kind: Picture['kind'];
  frames: number;
  duration_ms: number | null;
  source: Partial<PictureSource>;
  facts: PictureFacts;
  use_mark: Picture['useMark'];
  only_for: string | null;
  is_put_away: boolean;
  copies: PictureCopy[];
  note: string;
  tags: string[];
  purposes: Picture['purposes'];
  pile: Picture['pile'];
  parts: string[];
  views: Picture['views'];
  is_to_scale: boolean;
  /** Not there where it was not asked for. */
  measures?: Picture['measures'];
}

const NO_SOURCE: PictureSource = { address: null, page: null, title: null, creator: null, licence: null };

export const pictureOf = (row: PictureRow): Picture => ({
  id: row.id,
  name: row.name,
  fileName: row.file_name,
  type: row.type,
  bytes: Number(row.bytes),
  sha256: row.sha256,
  width: row.width,
  height: row.height,
  state: row.state,
  failure: row.failure,
  addedAt: row.added_at.toISOString(),
  thumbhash: row.thumbhash,
  levels: row.levels,
  colour: row.colour,
  depth: row.depth,
  reading: row.reading,
  hasTiles: row.has_tiles,
  exact: row.exact === null || row.exact === 'failed' ? row.exact : 'ready',
  kind: row.kind,
  frames: row.frames,
  durationMs: row.duration_ms,
  source: { ...NO_SOURCE, ...row.source },
  facts: row.facts,
  useMark: row.use_mark,
  onlyFor: row.only_for,
  isPutAway: row.is_put_away,
  copies: row.copies,
  note: row.note,
  tags: row.tags,
  purposes: row.purposes,
  pile: row.pile,
  parts: row.parts,
  views: row.views,
  isToScale: row.is_to_scale,
  ...(row.measures === undefined ? {} : { measures: row.measures }),
  atlas:
    row.slot !== null && row.hash32 && row.hash64
      ? { slot: row.slot, hash32: row.hash32, hash64: row.hash64 }
      : null,
});

/** All but the measures, and the print, which only the search for copies reads. */
const COLUMNS =
  'id name file_name type bytes sha256 width height state failure thumbhash slot added_at colour depth reading has_tiles exact kind frames duration_ms source facts use_mark only_for is_put_away note tags purposes pile parts views is_to_scale'.split(
    ' ',
  );

const selectWithoutMeasures = (knex: Knex, owner: string) =>
  knex('pictures as p')
    .leftJoin('atlases as a', 'a.id', 'p.atlas')
    .joinRaw(
      `left join lateral (
         select json_agg(json_build_object('side', side, 'hash', hash, 'bytes', bytes) order by side) as levels
         from picture_levels where picture = p.id
       ) l on true`,
    )
    .joinRaw(
      `left join lateral (
         select json_agg(json_build_object('picture', o.id, 'isMirrored', c.is_mirrored,
           'scale', round(greatest(o.width, o.height)::numeric / greatest(p.width, p.height), 3)) order by o.id) as copies
         from picture_copies c
         join pictures o on o.id = case when c.picture = p.id then c.other else c.picture end
         where (c.picture = p.id or c.other = p.id) and not c.is_settled
       ) c on true`,
    )
    .where('p.owner', owner)
    .select(
      ...COLUMNS.map((column) => `p.${column}`),
      'a.hash32',
      'a.hash64',
      knex.raw("coalesce(l.levels, '[]'::json) as levels"),
      knex.raw("coalesce(c.copies, '[]'::json) as copies"),
    );

export const selectPictures = (knex: Knex, owner: string) =>
  selectWithoutMeasures(knex, owner).select('p.measures');

export async function findPicture(knex: Knex, owner: string, id: string): Promise<Picture | undefined> {
  const row = await selectPictures(knex, owner).andWhere('p.id', id).first();
  return row && pictureOf(row);
}

/** Those of them that are an owner's, in the order of `ids`: what is made of them comes out the same each time. */
export async function findPicturesById(
  knex: Knex,
  owner: string,
  ids: readonly string[],
): Promise<Picture[]> {
  const rows = await selectPictures(knex, owner).whereIn('p.id', [...ids]);
  const found = new Map(rows.map((row) => [row.id, pictureOf(row)]));
  return ids.flatMap((id) => found.get(id) ?? []);
}

/** Every picture that stands (or stood) on a board, without measures. */
export async function findPicturesOfBoard(knex: Knex, owner: string, board: string): Promise<Picture[]> {
  const rows = await selectWithoutMeasures(knex, owner).whereIn(
    'p.id',
    knex('board_items').where({ board }).whereNotNull('picture').select('picture'),
  );
  return rows.map(pictureOf);
}

/** Newest first; `after` is the id of the last one of the page before. */
export async function listPictures(
  knex: Knex,
  owner: string,
  limit: number,
  after: string | undefined,
): Promise<Picture[]> {
  const query = selectPictures(knex, owner)
    .andWhere({ 'p.is_version': false })
    .orderBy([{ column: 'p.added_at', order: 'desc' }, { column: 'p.id' }]);
  if (after !== undefined) {
    const last = knex('pictures').where({ owner, id: after });
    query.andWhere((where) =>
      where
        .where('p.added_at', '<', last.clone().select('added_at'))
        .orWhere((same) =>
          same.where('p.added_at', last.clone().select('added_at')).andWhere('p.id', '>', after),
        ),
    );
  }
  return (await query.limit(limit)).map(pictureOf);
}

/** What is here for one board alone, and was not put away with it yet. */
export async function listOnlyFor(knex: Knex, owner: string, board: string): Promise<Picture[]> {
  const rows = await selectWithoutMeasures(knex, owner).andWhere({
    'p.only_for': board,
    'p.is_put_away': false,
  });
  return rows.map(pictureOf);
}

/** Those that came in, stand nowhere and were not sorted: nobody said yet what they are for. */
function onLanding<Q extends Knex.QueryBuilder>(query: Q, knex: Knex): Q {
  const standing = knex('board_items as i')
    .join('boards as b', 'b.id', 'i.board')
    .whereRaw('i.picture = p.id')
    .andWhere({ 'i.removed': false });
  return query
    .andWhere({ 'p.is_put_away': false, 'p.parts': '{}', 'p.tags': '{}', 'p.is_version': false })
    .whereNull('p.pile')
    .whereRaw("p.purposes = '[]'")
    .whereNotExists(standing) as Q;
}

/** How many pictures nobody has placed or sorted. */
export async function countLanding(knex: Knex, owner: string): Promise<number> {
  const [row] = await onLanding(knex('pictures as p').where({ 'p.owner': owner }), knex).count({
    count: '*',
  });
  return Number(row?.count ?? 0);
}

/** They, newest first. */
export async function listLanding(knex: Knex, owner: string, limit: number): Promise<Picture[]> {
  const rows = await onLanding(selectWithoutMeasures(knex, owner), knex)
    .orderBy([{ column: 'p.added_at', order: 'desc' }, { column: 'p.id' }])
    .limit(limit);
  return rows.map(pictureOf);
}

export interface NewPicture {
  readonly id: string;
  readonly name: string;
  readonly fileName: string;
  readonly type: string;
  readonly bytes: number;
  readonly sha256: string;
  readonly width: number;
  readonly height: number;
  readonly colour?: string;
  readonly depth?: number;
  readonly kind: Picture['kind'];
  readonly frames: number;
  readonly durationMs: number | null;
  readonly poster?: string;
  readonly source: Partial<PictureSource>;
  readonly facts?: PictureFacts;
}

/** Adds a picture whose bytes are stored. @returns false when it was there already */
export async function addPicture(trx: Knex, owner: string, picture: NewPicture): Promise<boolean> {
  const { fileName, durationMs, source, facts = {}, ...rest } = picture;
  const rows = await trx('pictures')
    .insert({
      ...rest,
      ...{
        owner,
        file_name: fileName,
        duration_ms: durationMs,
        source: JSON.stringify(source),
        facts: JSON.stringify(facts),
      },
    })
    .onConflict('id')
    .ignore()
    .returning('id');
  return rows.length > 0;
}

export async function recordFacts(trx: Knex, id: string, facts: PictureFacts): Promise<void> {
  await trx('pictures')
    .where({ id })
    .update({ facts: trx.raw('facts || ?::jsonb', [JSON.stringify(facts)]) });
}

/** Names a picture by the title in its file, where its name is still that of a file and says nothing. */
export async function nameByTitle(trx: Knex, id: string, title: string): Promise<void> {
  const row = await trx('pictures').where({ id }).first('name', 'file_name', 'source');
  const name = cleanName(title);
  if (name === '' || !row || readableName(row.file_name) !== undefined) return;
  const makeshift = [nameOfFile(row.file_name), nameOfPlace(row.source.address ?? '')];
  if (makeshift.includes(row.name)) await trx('pictures').where({ id, name: row.name }).update({ name });
}

/** Gives a picture its first poster. @returns false when it has one, or is gone */
export async function recordPoster(trx: Knex, id: string, poster: string): Promise<boolean> {
  const state = 'arriving';
  return (
    (await trx('pictures')
      .where({ id })
      .whereNull('poster')
      .update({ poster, state, failure: null, broken_decodes: 0 })) > 0
  );
}

/** A picture that was given up waits to be read once more. @returns whether it had been */
export async function takeUpGivenUp(trx: Knex, id: string): Promise<boolean> {
  const anew = { state: 'arriving', failure: null, broken_decodes: 0 } as const;
  return (await trx('pictures').where({ id, state: 'failed' }).update(anew)) > 0;
}

/** Fills in what was not known of a source; what is known stays. */
export async function completeSource(trx: Knex, id: string, source: Partial<PictureSource>): Promise<void> {
  const known = Object.fromEntries(Object.entries(source).filter(([, value]) => value !== null));
  await trx.raw('update pictures set source = ?::jsonb || jsonb_strip_nulls(source) where id = ?', [
    JSON.stringify(known),
    id,
  ]);
}

/** Columns of what is simply set; lists and documents are written as JSON or arrays. */
const SIMPLE = {
  name: 'name',
  useMark: 'use_mark',
  onlyFor: 'only_for',
  note: 'note',
  pile: 'pile',
  isToScale: 'is_to_scale',
  tags: 'tags',
  parts: 'parts',
} as const;

/** Sets what is named of a picture; of its views, those of subjects that are not named stay. @returns whether there is such a picture */
export async function patchPicture(
  knex: Knex,
  owner: string,
  id: string,
  patch: PatchPicture,
): Promise<boolean> {
  const { source, isPutAway, purposes, views, addParts, fillViews, stance } = patch;
  const set: Record<string, unknown> = {};
  for (const [key, column] of Object.entries(SIMPLE)) {
    const value = patch[key as keyof typeof SIMPLE];
    if (value !== undefined) set[column] = value;
  }
  if (isPutAway !== undefined)
    Object.assign(set, { is_put_away: isPutAway, put_away_at: isPutAway ? knex.fn.now() : null });
  if (source !== undefined) set.source = knex.raw('source || ?::jsonb', [JSON.stringify(source)]);
  if (stance !== undefined) set.facts = knex.raw('facts || ?::jsonb', [JSON.stringify({ stance })]);
  if (purposes !== undefined) set.purposes = JSON.stringify(purposes);
  // What is added is added by the statement itself: whoever asks need not know what is there.
  if (views !== undefined || fillViews !== undefined)
    set.views = knex.raw('?::jsonb || views || ?::jsonb', [
      JSON.stringify(fillViews ?? {}),
      JSON.stringify(views ?? {}),
    ]);
  if (addParts !== undefined) {
    const given = patch.parts === undefined ? 'parts' : '?::uuid[]';
    set.parts = knex.raw(
      `array(select part from unnest(${given} || ?::uuid[]) with ordinality as all_parts (part, number)
             group by part order by min(number))`,
      (patch.parts === undefined ? [addParts] : [patch.parts, addParts]) as never,
    );
  }
  return (await knex('pictures').where({ owner, id }).update(set)) > 0;
}

/** Records the made levels and that the picture is ready, all at once. */
export async function recordLevels(
  trx: Knex,
  id: string,
  levels: readonly Level[],
  thumbhash: string,
  reading: string | null,
): Promise<void> {
  await trx('picture_levels')
    .insert(levels.map((level) => ({ picture: id, ...level })))
    .onConflict(['picture', 'side'])
    .merge();
  await trx('pictures').where({ id }).update({ thumbhash, reading, state: 'ready', failure: null });
}

/** What is missing of a picture that can be shown. */
export async function recordTrouble(knex: Knex, id: string, failure: string): Promise<void> {
  await knex('pictures').where({ id }).update({ failure });
}

/** Counts that reading a picture broke a limit, or the process that did it. @returns how often that happened */
export async function countBrokenDecode(knex: Knex, id: string): Promise<number> {
  const rows = await knex('pictures')
    .where({ id })
    .increment('broken_decodes', 1)
    .returning('broken_decodes');
  return rows[0]?.broken_decodes ?? 0;
}

export async function recordFailure(knex: Knex, id: string, failure: string): Promise<void> {
  await knex('pictures').where({ id }).update({ state: 'failed', failure });
}

/** How many pictures that came lately still wait for their levels; one that got stuck holds nothing up for ever. */
export async function countArriving(knex: Knex, owner: string): Promise<number> {
  const row = await knex('pictures')
    .where({ owner, state: 'arriving' })
    .andWhereRaw("added_at > now() - interval '5 minutes'")
    .count({ count: '*' })
    .first();
  return Number(row?.count ?? 0);
}
