import { commandsOf, place } from '../commands/index.ts';

/** A board that the perch can show. */
export const PERCHABLE = place<{ toggle(): void }>('perch', 'On this board', 'board');

export const PERCH_COMMANDS = commandsOf(PERCHABLE, 'Look', [
  ['perch', 'perch', 'p', (board) => board.toggle(), { also: 'float above on top window' }],
]);
