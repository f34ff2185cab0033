import { readdir, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { LADDER_SIDES, pyramidOf } from '@miradero/core/picture';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { type NewTile, recordTiles } from '../database/picture-tiles.ts';
import { countBrokenDecode, recordTrouble } from '../database/pictures.ts';
import { DecodeError, type Decoding } from '../pixels/decoding/decoders.ts';
import { storeBytes, withBlobFiles } from '../storage/blob-store.ts';
import { makeWorkFolder } from '../storage/work-folders.ts';
import { MOST_TRIES } from './make-levels.ts';
import type { TellProgress } from './progress.ts';

const LARGEST_LEVEL = LADDER_SIDES[LADDER_SIDES.length - 1]!;

/** Of the time that cutting and keeping take so much is cutting. */
const CUTTING = 0.9;
const LOOK_MS = 500;

/** How many tiles lie in the folder by now. */
async function countTiles(folder: string): Promise<number> {
  const root = join(folder, 'pyramid_files');
  const levels = await readdir(root).catch(() => []);
  const counts = await Promise.all(
    levels.map((level) => readdir(join(root, level)).then((all) => all.length)),
  );
  return counts.reduce((sum, count) => sum + count, 0);
}

/** Tells, while something writes tiles into a folder, how far it is. @returns a function that ends it */
function watchTiles(folder: string, expected: number, tell: (share: number) => void): () => void {
  const timer = setInterval(() => {
    countTiles(folder).then(
      (count) => tell(Math.min(1, count / expected)),
      () => {},
    );
  }, LOOK_MS);
  return () => clearInterval(timer);
}

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
export async function runTilesJob(
  knex: Knex,
  decoders: Decoding,
  picture: string,
  tell: TellProgress,
): Promise<void> {
  const row = await knex('pictures')
    .where({ id: picture })
    .first('owner', 'sha256', 'type', 'width', 'height', 'has_tiles');
  if (!row || row.has_tiles) return;
  const folder = await makeWorkFolder();
  try {
    const { owner, type, width, height } = row;
    const grids = pyramidOf(width, height);
    const expected = grids.reduce((sum, { columns, rows }) => sum + columns * rows, 0);
    const stopWatching = watchTiles(folder, expected, (share) => tell(owner, share * CUTTING));
    try {
      await withBlobFiles(knex, [row.sha256], ([path]) =>
        decoders.run('pyramid', { folder, path: path!, poster: undefined, type, width, height }),
      );
    } catch (error) {
      if (!(error instanceof DecodeError)) throw error;
      // It is shown by its levels all the same; what is missing is its finest detail.
      if (error.reason !== 'unreadable' && (await countBrokenDecode(knex, picture)) < MOST_TRIES) throw error;
      await recordTrouble(knex, picture, `Its finest details cannot be shown: ${error.message}`);
      await notifyNews(knex, owner, { kind: 'picture', picture });
      return;
    } finally {
      stopWatching();
    }
    const levels = await finerLevels(folder, width, height);
    await knex.transaction(async (trx) => {
      const tiles: NewTile[] = [];
      for (const [level, path] of levels.entries()) {
        const { columns, rows } = grids[level]!;
        for (let place = 0; place < columns * rows; place += 1) {
          const [column, line] = [place % columns, Math.floor(place / columns)];
          const bytes = await readFile(join(path, `${column}_${line}.webp`));
          tiles.push({ level, row: line, column, hash: await storeBytes(trx, bytes, 'image/webp') });
          tell(owner, CUTTING + (1 - CUTTING) * Math.min(1, tiles.length / expected));
        }
      }
      await recordTiles(trx, picture, tiles);
      await notifyNews(trx, owner, { kind: 'picture', picture });
    });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
