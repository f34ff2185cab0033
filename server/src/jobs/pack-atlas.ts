import { ATLAS_CELLS_ACROSS, atlasCellOrigin, sizeAtSide } from '@miradero/core/picture';
import sharp from 'sharp';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { countArriving } from '../database/pictures.ts';
import { readBytes, storeBytes } from '../storage/blob-store.ts';
import { ATLAS } from './kinds.ts';
import type { Queue } from './queue.ts';

const CAPACITY = ATLAS_CELLS_ACROSS ** 2;

interface Waiting {
  readonly id: string;
  readonly width: number;
  readonly height: number;
  readonly hash: string;
}

/** Pictures that are ready but lie in no atlas, oldest first, each with its smallest level. */
async function findWaiting(trx: Knex, owner: string, limit: number): Promise<Waiting[]> {
  const { rows } = await trx.raw(
    `select p.id, p.width, p.height,
       (select hash from picture_levels l where l.picture = p.id order by side limit 1) as hash
     from pictures p where p.owner = ? and p.state = 'ready' and p.atlas is null
     order by p.added_at, p.id limit ?`,
    [owner, limit],
  );
  return rows;
}

/** Copies of the pictures, each in its cell, over what the atlas held before. */
async function draw(
  cell: number,
  before: Buffer | undefined,
  cells: readonly { slot: number; bytes: Buffer; picture: Waiting }[],
): Promise<Buffer> {
  const side = cell * ATLAS_CELLS_ACROSS;
  const layers = await Promise.all(
    cells.map(async ({ slot, bytes, picture }) => {
      const size = sizeAtSide(picture.width, picture.height, cell);
      const { x: left, y: top } = atlasCellOrigin(slot, cell);
      const { data, info } = await sharp(bytes)
        .resize(size.width, size.height, { fit: 'fill' })
        // The rest of the cell repeats the edge: lossy compression would otherwise draw its ground into the picture.
        .extend({ right: cell - size.width, bottom: cell - size.height, extendWith: 'copy' })
        .ensureAlpha()
        .raw()
        .toBuffer({ resolveWithObject: true });
      const raw = { width: info.width, height: info.height, channels: info.channels };
      return { input: data, raw, left, top };
    }),
  );
  const ground = before
    ? sharp(before)
    : sharp({
        create: { width: side, height: side, channels: 4, background: { r: 0, g: 0, b: 0, alpha: 0 } },
      });
  return ground.composite(layers).webp({ quality: 86, effort: 1, smartSubsample: true }).toBuffer();
}

/** Puts up to one atlas full of waiting pictures into the owner's open atlas. @returns how many */
async function packOnce(knex: Knex, owner: string): Promise<number> {
  return knex.transaction(async (trx) => {
    await trx.raw('select pg_advisory_xact_lock(hashtext(?))', [`atlas ${owner}`]);
    let atlas = await trx('atlases').where({ owner }).andWhere('used', '<', CAPACITY).first();
    if (!atlas) [atlas] = await trx('atlases').insert({ owner }).returning('*');
    const waiting = await findWaiting(trx, owner, CAPACITY - atlas.used);
    if (waiting.length === 0) return 0;
    const cells = [];
    for (const [index, picture] of waiting.entries()) {
      cells.push({ slot: atlas.used + index, bytes: await readBytes(trx, picture.hash), picture });
    }
    const hashes: Record<string, string> = {};
    for (const [cell, column] of [
      [32, 'hash32'],
      [64, 'hash64'],
    ] as const) {
      const before = atlas[column] ? await readBytes(trx, atlas[column]) : undefined;
      hashes[column] = await storeBytes(trx, await draw(cell, before, cells), 'image/webp');
    }
    await trx('atlases')
      .where({ id: atlas.id })
      .update({ ...hashes, used: atlas.used + waiting.length });
    for (const { slot, picture } of cells)
      await trx('pictures').where({ id: picture.id }).update({ atlas: atlas.id, slot });
    for (const { picture } of cells) await notifyNews(trx, owner, { kind: 'picture', picture: picture.id });
    return waiting.length;
  });
}

/**
 * The job: packs every waiting picture of one owner; several in a row, but never two of one owner at once. While
 * pictures come in they are shown by their smallest level: each packing encodes the whole atlas anew, at the cost of a
 * picture's levels.
 */
export async function runAtlasJob(knex: Knex, owner: string, queue?: Queue): Promise<void> {
  if (queue && (await countArriving(knex, owner)) > 0) {
    await knex.transaction((trx) => queue.send(trx, ATLAS, { owner }));
    return;
  }
  while ((await packOnce(knex, owner)) > 0);
}
