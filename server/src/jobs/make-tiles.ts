import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { LADDER_SIDES, tileGridOf } from '@miradero/core/picture';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { type NewTile, recordTiles } from '../database/picture-tiles.ts';
import { countBrokenDecode, recordTrouble } from '../database/pictures.ts';
import { DecodeError, type Decoding } from '../pixels/decoding/decoders.ts';
import { storeBytes, withBlobFiles } from '../storage/blob-store.ts';
import { MOST_TRIES } from './make-levels.ts';

const LARGEST_LEVEL = LADDER_SIDES[LADDER_SIDES.length - 1]!;

/** Folders of the levels that go beyond the ladder, finest first. */
async function finerLevels(folder: string, width: number, height: number): Promise<string[]> {
  const root = join(folder, 'pyramid_files');
  const numbers = (await readdir(root)).map(Number).sort((a, b) => b - a);
  const longest = Math.max(width, height);
  return numbers
    .filter((_, index) => longest / 2 ** index > LARGEST_LEVEL)
    .map((number) => join(root, String(number)));
}

/** The job: cuts a very large picture into tiles at full size and every halving down to the ladder. */
export async function runTilesJob(knex: Knex, decoders: Decoding, picture: string): Promise<void> {
  const row = await knex('pictures')
    .where({ id: picture })
    .first('owner', 'sha256', 'type', 'width', 'height', 'has_tiles');
  if (!row || row.has_tiles) return;
  const folder = await mkdtemp(join(tmpdir(), 'miradero-tiles-'));
  try {
    const { type, width, height } = row;
    try {
      await withBlobFiles(knex, [row.sha256], ([path]) =>
        decoders.run('pyramid', { folder, path: path!, poster: undefined, type, width, height }),
      );
    } catch (error) {
      if (!(error instanceof DecodeError)) throw error;
      // It is shown by its levels all the same; what is missing is its finest detail.
      if (error.reason !== 'unreadable' && (await countBrokenDecode(knex, picture)) < MOST_TRIES) throw error;
      await recordTrouble(knex, picture, `Its finest details cannot be shown: ${error.message}`);
      await notifyNews(knex, row.owner, { kind: 'picture', picture });
      return;
    }
    const levels = await finerLevels(folder, row.width, row.height);
    await knex.transaction(async (trx) => {
      const tiles: NewTile[] = [];
      for (const [level, path] of levels.entries()) {
        const { columns, rows } = tileGridOf(
          Math.ceil(row.width / 2 ** level),
          Math.ceil(row.height / 2 ** level),
        );
        for (let place = 0; place < columns * rows; place += 1) {
          const [column, line] = [place % columns, Math.floor(place / columns)];
          const bytes = await readFile(join(path, `${column}_${line}.webp`));
          tiles.push({ level, row: line, column, hash: await storeBytes(trx, bytes, 'image/webp') });
        }
      }
      await recordTiles(trx, picture, tiles);
      await notifyNews(trx, row.owner, { kind: 'picture', picture });
    });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
