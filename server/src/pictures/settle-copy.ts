import { randomUUID } from 'node:crypto';
import { marksInMirror, recordDone } from '@miradero/core/board';
import { kindOf, picturesOf } from '@miradero/core/items';
import type { BoardDone, Change, SettleCopy, SettledCopy } from '@miradero/core/schema';
import { acceptChanges } from '../boards/accept-changes.ts';
import { findBoardsOfPicture, findItems } from '../database/board-items.ts';
import { notifyNews } from '../database/notify.ts';
import { findCopy, settleCopies } from '../database/picture-copies.ts';
import { findPicture, patchPicture } from '../database/pictures.ts';
import type { Intake } from '../intake/take-in.ts';
import { ProblemError } from '../requests/problem.ts';

/**
 * Decides about two near copies. When one is kept it takes the other's place on every board, as a change like any other,
 * and the other is put away; its bytes stay.
 *
 * @returns what was done, to be taken back: the changes of boards, and which picture was put away
 * @throws ProblemError `picture-missing` when either is gone or they are no copies
 */
export async function settleCopy(
  { knex, queue, owner }: Intake,
  id: string,
  other: string,
  keep: SettleCopy['keep'],
): Promise<SettledCopy> {
  const [one, two] = [await findPicture(knex, owner, id), await findPicture(knex, owner, other)];
  const copy = await findCopy(knex, id, other);
  if (!one || !two || !copy) throw new ProblemError('picture-missing');
  const changes: BoardDone[] = [];
  let putAway: string | null = null;
  if (keep === 'this' || keep === 'other') {
    const [kept, gone] = keep === 'this' ? [one, two] : [two, one];
    for (const board of await findBoardsOfPicture(knex, gone.id)) {
      const items = await findItems(knex, board);
      const operations = items
        .filter((item) => picturesOf(item).includes(gone.id))
        .map((item) => ({
          item: item.id,
          set: kindOf(item).exchanged?.(item, kept, copy.isMirrored) ?? {},
        }))
        .filter(({ set }) => Object.keys(set).length > 0);
      if (operations.length === 0) continue;
      const standing = new Map(items.map((item) => [item.id, item]));
      const mirrored = copy.isMirrored
        ? marksInMirror(standing, new Set(operations.map(({ item }) => item)))
        : [];
      const change: Change = { id: randomUUID(), operations: [...operations, ...mirrored] };
      await acceptChanges(knex, queue, owner, board, [change]);
      changes.push({ board, done: recordDone(standing, change) });
    }
    if (!gone.isPutAway) putAway = gone.id;
    await patchPicture(knex, owner, gone.id, { isPutAway: true });
  }
  await settleCopies(knex, id, other, keep !== 'undecided');
  for (const picture of [id, other]) await notifyNews(knex, owner, { kind: 'picture', picture });
  return { changes, putAway };
}
