import { boundsOf, drawList, isDrawn, withMarks } from '@miradero/core/board';
import { unionOf } from '@miradero/core/geometry';
import { picturesOf } from '@miradero/core/items';
import type { Item } from '@miradero/core/schema';
import { findItems } from '../database/board-items.ts';
import { findBoardForPreview, recordPreview } from '../database/boards.ts';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { findPicturesById } from '../database/pictures.ts';
import { readLevelPart } from '../painting/level-pixels.ts';
import { paintPreview } from '../painting/paint-preview.ts';
import { readBytes, storeBytes } from '../storage/blob-store.ts';

/** A preview shows at most so many things, the largest: more would be specks, and take long. */
const MOST = 300;

const areaOf = (item: Item): number => {
  const { width, height } = boundsOf(item);
  return width * height;
};

/** The job: paints the preview of a board as it is now. */
export async function runPreviewJob(knex: Knex, id: string): Promise<void> {
  const board = await findBoardForPreview(knex, id);
  if (!board) return;
  const all = new Map((await findItems(knex, id)).map((item) => [item.id, item]));
  const seen = [...all.values()].filter((item) => isDrawn(all, item));
  const items = [...seen].sort((a, b) => areaOf(b) - areaOf(a)).slice(0, MOST);
  const extent = unionOf(seen.map(boundsOf));
  if (extent === undefined) {
    await recordPreview(knex, id, null, board.revision);
  } else {
    const ids = new Set(items.flatMap(picturesOf));
    const pictures = await findPicturesById(knex, board.owner, [...ids]);
    const sources = new Map(pictures.map((picture) => [picture.id, picture]));
    const bytes = await paintPreview(
      drawList(withMarks(all, items), extent),
      extent,
      board.surround,
      sources,
      (placed) => readLevelPart(placed, sources.get(placed.picture)!, (hash) => readBytes(knex, hash)),
    );
    await knex.transaction(async (trx) => {
      await recordPreview(trx, id, await storeBytes(trx, bytes, 'image/webp'), board.revision);
    });
  }
  await notifyNews(knex, board.owner, { kind: 'board-facts', board: id });
}
