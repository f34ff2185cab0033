import { randomUUID } from 'node:crypto';
import type { Change, Placement, SettleCopy } from '@miradero/core/schema';
import { acceptChanges } from '../boards/accept-changes.ts';
import { findBoardsOfPicture, findItems } from '../database/board-items.ts';
import { notifyNews } from '../database/notify.ts';
import { findCopy, settleCopies } from '../database/picture-copies.ts';
import { findPicture, patchPicture } from '../database/pictures.ts';
import { ProblemError } from '../http/problem.ts';
import type { Intake } from '../intake/take-in.ts';

/** What puts `by` in the place of a picture: same frame, turned over where one is the mirror of the other. */
function exchange(item: Placement, by: { id: string; width: number; height: number }, isMirrored: boolean) {
  const { trim } = item;
  const mirrored = { flipX: !item.flipX, trim: { ...trim, x: Math.max(0, 1 - trim.x - trim.width) } };
  return {
    item: item.id,
    set: {
      ...{ picture: by.id, pictureWidth: by.width, pictureHeight: by.height },
      ...(isMirrored ? mirrored : {}),
    },
  };
}

/**
 * Decides about two near copies. When one is kept it takes the other's place on every board, as a change like any other,
 * and the other is put away; its bytes stay.
 *
 * @returns the boards that changed
 * @throws ProblemError `picture-missing` when either is gone or they are no copies
 */
export async function settleCopy(
  { knex, queue, owner }: Intake,
  id: string,
  other: string,
  keep: SettleCopy['keep'],
): Promise<string[]> {
  const [one, two] = [await findPicture(knex, owner, id), await findPicture(knex, owner, other)];
  const copy = await findCopy(knex, id, other);
  if (!one || !two || !copy) throw new ProblemError('picture-missing');
  const boards: string[] = [];
  if (keep !== 'both') {
    const [kept, gone] = keep === 'this' ? [one, two] : [two, one];
    for (const board of await findBoardsOfPicture(knex, gone.id)) {
      const items = await findItems(knex, board);
      const operations = items
        .filter((item): item is Placement => item.kind === 'placement' && item.picture === gone.id)
        .map((item) => exchange(item, kept, copy.isMirrored));
      const change: Change = { id: randomUUID(), operations };
      await acceptChanges(knex, queue, owner, board, [change]);
      boards.push(board);
    }
    await patchPicture(knex, owner, gone.id, { isPutAway: true });
  }
  await settleCopies(knex, id, other);
  for (const picture of [id, other]) await notifyNews(knex, owner, { kind: 'picture', picture });
  return boards;
}
