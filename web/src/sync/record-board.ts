import { factsBefore } from '@miradero/core/board';
import type { Board } from '@miradero/core/schema';
import { pathOfBoard } from './board-facts.ts';
import type { Sync } from './sync.ts';

/** A board was altered at the server, from the list of boards: a step takes it back. */
export function recordBoardPatch({ steps }: Pick<Sync, 'steps'>, board: Board, patch: object): void {
  const after = { ...patch };
  const words = 'putAway' in patch && patch.putAway ? `“${board.name}” put away` : undefined;
  steps.record(
    { kind: 'facts', path: pathOfBoard(board.id), before: factsBefore({ ...board }, after), after },
    { at: '/boards', ...(words ? { words } : {}) },
  );
}

/** A board was made: it goes by being put away. */
export function recordBoardMade({ steps }: Pick<Sync, 'steps'>, { id, name }: Board): void {
  const [before, after] = [{ putAway: true }, { putAway: false }];
  steps.record(
    { kind: 'facts', path: pathOfBoard(id), before, after },
    { at: '/boards', words: `Board “${name}” made` },
  );
}
