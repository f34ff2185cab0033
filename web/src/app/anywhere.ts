import { commandsOf, place } from '../commands/index.ts';
import { openBoards } from '../shell/index.ts';

/** What is there on every page. */
export interface Anywhere {
  /** The board in front. */
  readonly board: string | undefined;
  go(path: string, state?: object): void;
  turn(side: 'undo' | 'redo'): void;
  open(sheet: 'palette' | 'keys'): void;
  find(): void;
}
export const ANYWHERE = place<Anywhere>('anywhere', 'Everywhere');

/** The next of the open boards, around. */
function step({ board, go }: Anywhere, by: 1 | -1): void {
  const ids = openBoards.ids();
  if (ids.length === 0) return;
  const at = board !== undefined ? ids.indexOf(board) : by > 0 ? -1 : 0;
  go(`/boards/${ids[(at + by + ids.length) % ids.length]}`);
}

const ofBoard = (path: string, board: string | undefined): string =>
  board === undefined ? path : `${path}?board=${board}`;

export const ANYWHERE_COMMANDS = commandsOf(ANYWHERE, 'Everywhere', [
  ['palette', 'anything by name', '$mod+k', (app) => app.open('palette'), { also: 'search commands' }],
  ['keys', 'all keys', 'Shift+?', (app) => app.open('keys'), { also: 'help shortcuts how' }],
  ['find', 'find', '/', (app) => app.find(), { also: 'search' }],
  ['new-board', 'new board', [], (app) => app.go('/boards', { isNaming: true }), { also: 'create make' }],
  ['all-boards', 'all boards', '$mod+Shift+O', (app) => app.go('/boards')],
  ['easel', 'easel', [], (app) => app.go('/easel'), { also: 'sheets drawings' }],
  [
    'new-sheet',
    'new sheet',
    [],
    (app) => app.go('/easel', { isSettingUp: true }),
    { also: 'create canvas paper size print' },
  ],
  ['landing', 'landing', '$mod+Shift+L', (app) => app.go('/landing')],
  ['library', 'library', '$mod+Shift+F', (app) => app.go('/library'), { also: 'all pictures' }],
  ['subjects', 'subjects', [], (app) => app.go('/subjects')],
  [
    'sources',
    'sources of these pictures',
    [],
    (app) => app.go(ofBoard('/sources', app.board)),
    { also: 'credits licences' },
  ],
  ['settings', 'settings', [], (app) => app.go('/settings'), { also: 'options preferences theme backup' }],
  ['bring', 'bring from a phone or a narrow window', [], (app) => app.go(ofBoard('/bring', app.board))],
  ['undo', 'undo', '$mod+z', (app) => app.turn('undo'), { isRepeating: true, also: 'take back' }],
  ['redo', 'redo', '$mod+Shift+Z', (app) => app.turn('redo'), { isRepeating: true, also: 'make again' }],
  ['next-board', 'next open board', 'Alt+PageDown', (app) => step(app, 1)],
  ['previous-board', 'previous open board', 'Alt+PageUp', (app) => step(app, -1)],
]);
