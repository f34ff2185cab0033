import { commandsOf, place } from '../commands/index.ts';

/** The page of a board's past. */
export interface PastInFront {
  /** Makes the board what is shown. */
  bringBackAll(): void;
  /** Makes what is selected what it was. */
  bringBackSelected(): void;
  /** Gives what is shown a name. */
  name(): void;
  /** Back to the board as it is. */
  leave(): void;
}
export const PAST = place<PastInFront>('past', 'How this board was', 'history');

export const HISTORY_COMMANDS = commandsOf(PAST, 'History', [
  ['bring-back-selected', 'bring back what is selected', 'Alt+q', (past) => past.bringBackSelected()],
  ['bring-back-all', 'bring back the whole board', [], (past) => past.bringBackAll(), { also: 'restore' }],
  ['name-past', 'name this state', [], (past) => past.name()],
  ['leave-past', 'back to the board', 'Alt+z', (past) => past.leave(), { also: 'today now' }],
]);
