import { CHOSEN_LENSES, type LensId, lensOf } from '@miradero/core/lens';
import type { Pile } from '@miradero/core/schema';
import { type CommandRow, commandsOf, type Finder, place } from '../commands/index.ts';
import { LENS_KEYS, lensCommand } from '../looking/index.ts';
import { ask } from '../sync/index.ts';

/** What the library does with what is selected. */
export interface LibraryInFront {
  /** Moves the focus by so many pictures across and rows down; with `isRange` all between are selected. */
  step(across: number, down: number, isRange: boolean): void;
  selectAll(): void;
  clear(): void;
  open(): void;
  putAway(): void;
  lay(pile: Pile): void;
  toggleBerths(): void;
}
export const LIBRARY = place<LibraryInFront>('library', 'In the library', 'library');

/** One picture in front. */
export interface PictureInFront {
  leave(): void;
  /** Moves the part that is held by so many steps; `grow` moves its lower right corner. */
  move(x: number, y: number): void;
  grow(x: number, y: number): void;
  forget(): void;
  /** Looks through a lens, or no longer; undefined: through none. */
  look(lens: LensId | undefined): void;
}

/** Lenses through which a picture alone is looked at: there are no others to be dimmed. */
export const LONE_LENSES = CHOSEN_LENSES.filter((lens) => !lensOf(lens).dimsOthers);
export const PICTURE = place<PictureInFront>('picture', 'This picture', 'picture');

const steer = (words: string, key: string, x: number, y: number): CommandRow<PictureInFront>[] => [
  [
    `region-${words}`,
    `move the part ${words}`,
    `Arrow${key}`,
    (one) => one.move(x, y),
    { isRepeating: true },
  ],
  [
    `region-grow-${words}`,
    `edge of the part ${words}`,
    `Shift+Arrow${key}`,
    (one) => one.grow(x, y),
    { isRepeating: true },
  ],
];

const step = (words: string, key: string, across: number, down: number): CommandRow<LibraryInFront>[] => [
  [
    `library-${words}`,
    `next ${words}`,
    `Arrow${key}`,
    (library) => library.step(across, down, false),
    { isRepeating: true },
  ],
  [
    `library-range-${words}`,
    `select on ${words}`,
    `Shift+Arrow${key}`,
    (library) => library.step(across, down, true),
    { isRepeating: true },
  ],
];

export const LIBRARY_COMMANDS = [
  ...commandsOf(LIBRARY, 'Library', [
    ...step('left', 'Left', -1, 0),
    ...step('right', 'Right', 1, 0),
    ...step('up', 'Up', 0, -1),
    ...step('down', 'Down', 0, 1),
    ['library-all', 'select all that is found', '$mod+a', (library) => library.selectAll()],
    ['library-clear', 'select nothing', 'Escape', (library) => library.clear()],
    ['library-open', 'look at the picture', 'Enter', (library) => library.open()],
    ['library-put-away', 'put away, or bring back', 'h', (library) => library.putAway()],
    ['library-berths', 'to a board or a part', 'b', (library) => library.toggleBerths()],
    ['pile-now', 'lay on the pile “now”', '1', (library) => library.lay('now')],
    ['pile-maybe', 'lay on the pile “maybe”', '2', (library) => library.lay('maybe')],
    ['pile-no', 'lay on the pile “no”', '3', (library) => library.lay('no')],
  ]),
  ...commandsOf(PICTURE, 'Library', [
    ['picture-leave', 'leave', 'Escape', (picture) => picture.leave()],
    ...steer('left', 'Left', -1, 0),
    ...steer('right', 'Right', 1, 0),
    ...steer('up', 'Up', 0, -1),
    ...steer('down', 'Down', 0, 1),
    ...LONE_LENSES.map(
      (lens): CommandRow<PictureInFront> => [
        `picture-${lensCommand(lens)}`,
        lensOf(lens).words,
        LENS_KEYS[lens] ?? [],
        (picture) => picture.look(lens),
        { also: 'lens look' },
      ],
    ),
    ['picture-no-lens', 'without lenses', 'Alt+v', (picture) => picture.look(undefined)],
    ['region-forget', 'forget the part', ['Delete', 'Backspace'], (picture) => picture.forget()],
  ]),
];

/** So many pictures are offered by name. */
const MOST = 8;

const pictures: Finder = {
  id: 'pictures',
  heading: 'Pictures',
  async find(words, { go }, signal) {
    // The library looks for words; of signs alone it would tell everything.
    if (!/[\p{L}\p{N}]/u.test(words)) return [];
    const found = await ask('GET /api/library', { query: { words, limit: MOST } }, signal);
    return found.pictures.map(({ id, name }) => ({ id, name, open: () => go(`/library/${id}`) }));
  },
};

export const LIBRARY_FINDERS: readonly Finder[] = [pictures];
