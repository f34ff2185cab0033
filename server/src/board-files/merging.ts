import type { BoardFile, BoardOrigin } from '@miradero/core/schema';
import type { BoardWithOrigin } from '../database/board-files.ts';

type Entry = NonNullable<BoardFile['changes']>[number];

const isSame = (one: BoardOrigin, other: Pick<BoardOrigin, 'database' | 'board'>): boolean =>
  one.database === other.database && one.board === other.board;

/**
 * What of a file can be merged into a board: it left from there and comes back, or it is a later state of what the board came
 * from.
 *
 * @returns undefined where they share no past, or the file carries no changes
 */
export function mergeable(
  { origin, from, changes }: Pick<BoardFile, 'origin' | 'from' | 'changes'>,
  board: BoardWithOrigin,
  database: string,
): readonly Entry[] | undefined {
  if (changes === null) return undefined;
  const here = { database, board: board.id };
  if (isSame(origin, here) || isSame(from, here)) return changes;
  if (board.origin && isSame(board.origin, from)) {
    const since = board.origin.revision;
    return changes.filter(({ revision }) => revision > since);
  }
  return undefined;
}
