import type { Level } from '@miradero/core/picture';
import type { Picture } from '@miradero/core/schema';
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
}

const pictureOf = (row: PictureRow): Picture => ({
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
  atlas:
    row.slot !== null && row.hash32 && row.hash64
      ? { slot: row.slot, hash32: row.hash32, hash64: row.hash64 }
      : null,
});

const selectPictures = (knex: Knex, owner: string) =>
  knex('pictures as p')
    .leftJoin('atlases as a', 'a.id', 'p.atlas')
    .joinRaw(
      `left join lateral (
         select json_agg(json_build_object('side', side, 'hash', hash, 'bytes', bytes) order by side) as levels
         from picture_levels where picture = p.id
       ) l on true`,
    )
    .where('p.owner', owner)
    .select('p.*', 'a.hash32', 'a.hash64', knex.raw("coalesce(l.levels, '[]'::json) as levels"));

export async function findPicture(knex: Knex, owner: string, id: string): Promise<Picture | undefined> {
  const row = await selectPictures(knex, owner).andWhere('p.id', id).first();
  return row && pictureOf(row);
}

export async function findPicturesById(
  knex: Knex,
  owner: string,
  ids: readonly string[],
): Promise<Picture[]> {
  return (await selectPictures(knex, owner).whereIn('p.id', [...ids])).map(pictureOf);
}

/** Every picture that stands (or stood) on a board. */
export async function findPicturesOfBoard(knex: Knex, owner: string, board: string): Promise<Picture[]> {
  const rows = await selectPictures(knex, owner).whereIn(
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
  const query = selectPictures(knex, owner).orderBy([
    { column: 'p.added_at', order: 'desc' },
    { column: 'p.id' },
  ]);
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
}

/** Adds a picture whose bytes are stored. @returns false when it was there already */
export async function addPicture(trx: Knex, owner: string, picture: NewPicture): Promise<boolean> {
  const { fileName, ...rest } = picture;
  const rows = await trx('pictures')
    .insert({ ...rest, owner, file_name: fileName })
    .onConflict('id')
    .ignore()
    .returning('id');
  return rows.length > 0;
}

export async function renamePicture(knex: Knex, owner: string, id: string, name: string): Promise<boolean> {
  return (await knex('pictures').where({ owner, id }).update({ name })) > 0;
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

export async function recordFailure(knex: Knex, id: string, failure: string): Promise<void> {
  await knex('pictures').where({ id }).update({ state: 'failed', failure });
}
