import { readdir, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { tileGridOf } from '@miradero/core/picture';
import type { Knex } from '../database/connection.ts';
import { type ExactTile, recordExactTiles } from '../database/exact-tiles.ts';
import { notifyNews } from '../database/notify.ts';
import { DecodeError, type Decoding } from '../pixels/decoding/decoders.ts';
import { storeBytes, withBlobFiles } from '../storage/blob-store.ts';
import { makeWorkFolder } from '../storage/work-folders.ts';
import type { TellProgress } from './progress.ts';

const PNG = 'image/png';
/** Of the time that cutting and keeping take so much is cutting. */
const CUTTING = 0.7;

/** The job: keeps every pixel of a picture, lossless and in its own depth, in tiles of which a part is soon read. */
export async function runExactJob(
  knex: Knex,
  decoders: Decoding,
  picture: string,
  tell: TellProgress,
): Promise<void> {
  const row = await knex('pictures')
    .where({ id: picture, state: 'ready' })
    .first('owner', 'sha256', 'poster', 'type', 'width', 'height', 'exact');
  if (!row || row.exact !== null) return;
  const { owner, type, width, height } = row;
  const folder = await makeWorkFolder();
  try {
    const { space, profile } = await withBlobFiles(knex, [row.sha256, row.poster], ([path, poster]) =>
      decoders.run('exact', { folder, path: path!, poster, type, width, height }),
    );
    tell(owner, CUTTING);
    const { columns, rows } = tileGridOf(width, height);
    const cut = join(folder, 'tiles_files', '0');
    const count = (await readdir(cut)).length;
    if (count !== columns * rows) throw new Error(`${count} tiles were cut of ${columns * rows}`);
    await knex.transaction(async (trx) => {
      const tiles: ExactTile[] = [];
      for (let place = 0; place < count; place += 1) {
        const [column, line] = [place % columns, Math.floor(place / columns)];
        const bytes = await readFile(join(cut, `${column}_${line}.png`));
        tiles.push({ row: line, column, hash: await storeBytes(trx, bytes, PNG) });
        tell(owner, CUTTING + ((1 - CUTTING) * tiles.length) / count);
      }
      const exact = profile
        ? await storeBytes(trx, Buffer.from(profile), 'application/vnd.iccprofile')
        : space;
      await recordExactTiles(trx, picture, tiles, exact);
      await notifyNews(trx, owner, { kind: 'picture', picture });
    });
  } catch (error) {
    if (!(error instanceof DecodeError) || error.reason !== 'unreadable') throw error;
    await leaveExact(knex, picture);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** There will be no exact pixels: what is read of this picture stays what browsers say. */
export async function leaveExact(knex: Knex, picture: string): Promise<void> {
  const [row] = await knex('pictures')
    .where({ id: picture, exact: null })
    .update({ exact: 'failed' }, ['owner']);
  if (row) await notifyNews(knex, row.owner, { kind: 'picture', picture });
}
