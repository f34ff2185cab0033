import { byName, commandsOf, type Finder, place } from '../commands/index.ts';
import { recentBoards } from '../shell/index.ts';
import { ask } from '../sync/index.ts';

/** The page of a board, beside what is on the board. */
export interface BoardTab {
  close(): void;
  putAway(): void;
  /** Opens what it is for. */
  brief(): void;
}
export const BOARD_TAB = place<BoardTab>('board-tab', 'On this board', 'board');

export const BOARD_COMMANDS = commandsOf(BOARD_TAB, 'Board', [
  ['brief', 'brief', 'Alt+i', (tab) => tab.brief(), { also: 'what is this board for question deadline' }],
  ['close-board', 'close this tab', [], (tab) => tab.close()],
  ['put-away', 'put this board away', [], (tab) => tab.putAway(), { also: 'delete remove' }],
]);

/** So many of a kind are offered by name. */
const MOST = 8;

const boardsByName: Finder = {
  id: 'boards',
  heading: 'Boards',
  async find(words, { go }) {
    const { boards } = await ask('GET /api/boards');
    const here = boards.filter(({ putAway }) => !putAway);
    return byName(here, words, MOST).map(({ id, name }) => ({ id, name, open: () => go(`/boards/${id}`) }));
  },
};

/** The boards that were in front last, from wherever one is; before anything is typed. */
const boardsOfLate: Finder = {
  id: 'boards-of-late',
  heading: 'Recent',
  isAtRest: true,
  async find(words, { go }) {
    if (words !== '') return [];
    const [here, ...before] = recentBoards();
    const ids = here && window.location.pathname === `/boards/${here}` ? before : [here, ...before];
    const { boards } = await ask('GET /api/boards');
    return ids.flatMap((id) => {
      const board = boards.find((one) => one.id === id && !one.putAway);
      return board ? [{ id: board.id, name: board.name, open: () => go(`/boards/${board.id}`) }] : [];
    });
  },
};

/** What is written on boards: notes, cards. */
const wordsOnBoards: Finder = {
  id: 'words-on-boards',
  heading: 'Written on boards',
  async find(words, { go }, signal) {
    const { items } = await ask('GET /api/boards/items', { query: { words, limit: MOST } }, signal);
    return items.map(({ board, boardName, item, said }) => ({
      ...{ id: `${board} ${item}`, name: said, about: boardName },
      open: () => go(`/boards/${board}`, { items: [item] }),
    }));
  },
};

export const BOARD_FINDERS: readonly Finder[] = [boardsOfLate, boardsByName, wordsOnBoards];
