import { byName, commandsOf, type Finder, place } from '../commands/index.ts';
import { addressOfPanes, MOST_PANES, panesIn, recentBoards, withPane } from '../shell/index.ts';
import { ask } from '../sync/index.ts';

/** The page of a board, beside what is on the board. */
export interface BoardTab {
  close(): void;
  putAway(): void;
  /** Opens what it is for. */
  brief(): void;
  /** Takes away the boards beside it. */
  alone(): void;
  /** Shows how it was. */
  history(): void;
  /** Opens its links to look. */
  links(): void;
  /** Names the state it is in. */
  nameState(): void;
  /** Sets up a sheet of the proportions of what is selected. */
  sheetLike(): void;
  /** Shows what is selected, or the working set, beside it, alone. */
  besideSelected(): void;
  besideStage(): void;
  /** Lays the boards side by side one above the other, or back. */
  turnPanes(): void;
  /** Lets the boards side by side look around together, or each for itself. */
  linkPanes(): void;
  /** Shows all of them in the mirror, or none. */
  mirrorPanes(): void;
  /** Brings the next of the boards side by side to the front. */
  next(): void;
}
export const BOARD_TAB = place<BoardTab>('board-tab', 'On this board', 'board');

export const BOARD_COMMANDS = commandsOf(BOARD_TAB, 'Board', [
  ['brief', 'brief', 'Alt+i', (tab) => tab.brief(), { also: 'what is this board for question deadline' }],
  [
    'history',
    'what happened here',
    'Alt+z',
    (tab) => tab.history(),
    { also: 'history past earlier version restore' },
  ],
  ['links', 'links to look', [], (tab) => tab.links(), { also: 'share partner class send invite' }],
  ['name-now', 'name this state', [], (tab) => tab.nameState(), { also: 'history version snapshot' }],
  ['next-pane', 'the board beside', 'Alt+n', (tab) => tab.next(), { also: 'next pane side by side' }],
  [
    'sheet-like',
    'a sheet of its proportions',
    [],
    (tab) => tab.sheetLike(),
    { also: 'easel new canvas from picture study' },
  ],
  [
    'selected-beside',
    'what is selected, beside',
    [],
    (tab) => tab.besideSelected(),
    { also: 'pane picture reference next to' },
  ],
  [
    'stage-beside',
    'the working set, beside',
    [],
    (tab) => tab.besideStage(),
    { also: 'pane references next to' },
  ],
  [
    'turn-panes',
    'one above the other',
    [],
    (tab) => tab.turnPanes(),
    { also: 'panes stacked side by side horizontal vertical' },
  ],
  ['link-panes', 'look around together', 'Shift+S', (tab) => tab.linkPanes(), { also: 'link cameras panes' }],
  ['mirror-panes', 'all in the mirror', 'Shift+H', (tab) => tab.mirrorPanes(), { also: 'mirror flip both' }],
  ['alone', 'this board alone', [], (tab) => tab.alone(), { also: 'no others beside single' }],
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

/** Boards to be laid beside the one in front; told by the name of a board, or by asking for any. */
const boardsBeside: Finder = {
  id: 'boards-beside',
  heading: 'Beside this board',
  async find(words, { go }) {
    const front = /^\/boards\/([^/]+)$/.exec(window.location.pathname)?.[1];
    const panes = front === undefined ? [] : panesIn(front, window.location.search);
    if (front === undefined || panes.length >= MOST_PANES) return [];
    const { boards } = await ask('GET /api/boards');
    const others = boards.filter(({ id, putAway }) => !putAway && !panes.includes(id));
    const isAny = words.length > 2 && 'beside'.startsWith(words.toLowerCase());
    return (isAny ? others.slice(0, MOST) : byName(others, words, MOST)).map(({ id, name }) => ({
      ...{ id, name, about: 'beside this one' },
      open: () => go(addressOfPanes(id, withPane(panes, id, 'right'))),
    }));
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

export const BOARD_FINDERS: readonly Finder[] = [boardsOfLate, boardsByName, boardsBeside, wordsOnBoards];
