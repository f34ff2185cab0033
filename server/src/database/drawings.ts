import { versionsToDrop } from '@miradero/core/easel';
import type { AboutDrawing, Drawing, Placement } from '@miradero/core/schema';
import type { Knex } from './connection.ts';

interface VersionRow {
  number: number;
  picture: string;
  saved_at: Date;
  bytes: string;
}

/** Drawings of a board with their versions, newest first. */
export async function listDrawings(knex: Knex, owner: string, board: string): Promise<Drawing[]> {
  const drawings = await knex('drawings').where({ owner, board }).orderBy(['created_at', 'id']);
  const versions: (VersionRow & { drawing: string })[] = await knex('drawing_versions')
    .whereIn(
      'drawing',
      drawings.map(({ id }) => id),
    )
    .orderBy('number', 'desc');
  return drawings.map(({ id, name }) => ({
    id,
    name,
    versions: versions
      .filter(({ drawing }) => drawing === id)
      .map(({ number, picture, saved_at, bytes }) => ({
        ...{ number, picture, savedAt: saved_at.toISOString(), bytes: Number(bytes) },
      })),
  }));
}

/** Where what is known of a picture that is dropped lies. */
const OF_PICTURE = [
  'picture_levels',
  'picture_tiles',
  'picture_exact_tiles',
  'picture_colours',
  'picture_histograms',
] as const;

/** Forgets versions' pictures that nothing but their drawing ever showed; their bytes go with the next sweep. */
async function forgetPictures(trx: Knex, pictures: readonly string[]): Promise<void> {
  const { rows } = await trx.raw(
    `select p.id from pictures p where p.id = any(?) and p.is_version
     and not exists (select from drawing_versions v where v.picture = p.id)
     and not exists (select from board_items i where i.picture = p.id)`,
    [[...pictures]],
  );
  const ids = (rows as { id: string }[]).map(({ id }) => id);
  if (ids.length === 0) return;
  for (const table of OF_PICTURE) await trx(table).whereIn('picture', ids).delete();
  await trx('picture_copies').whereIn('picture', ids).orWhereIn('other', ids).delete();
  await trx('pictures').whereIn('id', ids).delete();
}

/** Saves that were made while the server was away come in any order: later ones count one further. */
async function makeRoom(trx: Knex, drawing: string, from: number): Promise<void> {
  // Past each other by way of numbers that no version has.
  await trx('drawing_versions')
    .where({ drawing })
    .andWhere('number', '>=', from)
    .update({ number: trx.raw('-number - 1') });
  await trx('drawing_versions')
    .where({ drawing })
    .andWhere('number', '<', 0)
    .update({ number: trx.raw('-number') });
}

/**
 * A picture becomes a version of a drawing, in its place by when it was saved, unless it is as it was before. What need not be kept goes.
 *
 * @param isNew - the picture came for it alone
 * @returns false where the owner has no such board, or the drawing is somebody else's
 */
export async function recordVersion(
  trx: Knex,
  owner: string,
  { id, name, board, savedAt }: AboutDrawing,
  picture: { readonly id: string; readonly bytes: number; readonly isNew: boolean },
): Promise<boolean> {
  if (!(await trx('boards').where({ id: board, owner }).first('id'))) return false;
  await trx('drawings').insert({ id, owner, board, name }).onConflict('id').ignore();
  const drawing = await trx('drawings').where({ id, owner }).forUpdate().first('id');
  if (!drawing) return false;
  if (picture.isNew) await trx('pictures').where({ id: picture.id }).update({ is_version: true });
  const versions: VersionRow[] = await trx('drawing_versions')
    .where({ drawing: id })
    .orderBy('number', 'desc');
  const saved_at = new Date(savedAt);
  const before = versions.find((one) => one.saved_at.getTime() <= saved_at.getTime());
  if (before?.picture === picture.id) return true;
  const next = {
    ...{ number: (before?.number ?? (versions.at(-1)?.number ?? 1) - 1) + 1, picture: picture.id },
    ...{ saved_at, bytes: String(picture.bytes) },
  };
  const isLater = ({ number }: VersionRow) => number >= next.number;
  if (versions.some(isLater)) await makeRoom(trx, id, next.number);
  await trx('drawing_versions').insert({ drawing: id, ...next });
  const all = [...versions.map((one) => (isLater(one) ? { ...one, number: one.number + 1 } : one)), next];
  const dropped = new Set(
    versionsToDrop(
      all.map(({ number, saved_at, bytes }) => ({
        ...{ number, savedAtMs: saved_at.getTime(), bytes: Number(bytes) },
      })),
    ),
  );
  if (dropped.size === 0) return true;
  await trx('drawing_versions')
    .where({ drawing: id })
    .whereIn('number', [...dropped])
    .delete();
  const pictures = all.filter(({ number }) => dropped.has(number)).map((version) => version.picture);
  await forgetPictures(trx, pictures);
  return true;
}

/** A placement that shows a drawing as it was before. */
export interface OutdatedPlacement {
  readonly board: string;
  readonly item: string;
  readonly standing: Pick<Placement, 'width' | 'trim' | 'pictureWidth' | 'pictureHeight'>;
}

/** The newest version of a drawing, and what stands on boards and shows another one. */
export async function findOutdated(
  knex: Knex,
  owner: string,
  drawing: string,
): Promise<
  | {
      readonly newest: { readonly id: string; readonly width: number; readonly height: number };
      readonly placements: readonly OutdatedPlacement[];
    }
  | undefined
> {
  const newest = await knex('drawing_versions as v')
    .join('drawings as d', 'd.id', 'v.drawing')
    .join('pictures as p', 'p.id', 'v.picture')
    .where({ 'v.drawing': drawing, 'd.owner': owner })
    .orderBy('v.number', 'desc')
    .first('p.id', 'p.width', 'p.height');
  if (!newest) return undefined;
  const { rows } = await knex.raw(
    `select i.board, i.id as item, i.properties as standing from board_items i join boards b on b.id = i.board
     where jsonb_exists(i.properties, 'drawing') and i.properties ->> 'drawing' = ? and b.owner = ?
       and i.kind = 'placement' and not i.removed and i.picture <> ?`,
    [drawing, owner, newest.id],
  );
  return { newest, placements: rows };
}
