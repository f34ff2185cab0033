import { commandsOf, type Finder, place } from '../commands/index.ts';
import { BOARD } from '../desk/index.ts';
import { askPlace } from './keeping/ask-place.ts';

/** Ways to bring something in that need more than a drop: a chooser, a sheet, a camera. */
export interface WaysIn {
  choose(what: 'files' | 'folder'): void;
  paste(): void;
  open(sheet: 'address' | 'grab' | 'grab-again' | 'camera'): void;
}

/** A page onto which things can be brought; it knows where to. */
export const GATHERING = place<WaysIn>('gathering', 'Bring in');

export const GATHER_COMMANDS = commandsOf(GATHERING, 'Bring in', [
  ['choose-files', 'choose files', 'c', (ways) => ways.choose('files'), { also: 'open add upload pictures' }],
  ['look-into-folder', 'look into a folder', 'Shift+C', (ways) => ways.choose('folder')],
  ['paste', 'paste a picture', [], (ways) => ways.paste(), { also: 'clipboard' }],
  ['by-address', 'by address', 'Shift+A', (ways) => ways.open('address'), { also: 'web link page url' }],
  ['grab', 'grab from the screen', 'Shift+G', (ways) => ways.open('grab'), { also: 'capture' }],
  ['grab-again', 'grab from the same again', 'Alt+g', (ways) => ways.open('grab-again')],
  ['camera', 'camera', 'Shift+P', (ways) => ways.open('camera'), { also: 'photograph' }],
]);

/** So many boards are reached by a number. */
export const KEYED_BOARDS = 9;

/** What the landing does with what is selected. */
export interface LandingInFront {
  /** @param number - of the board, from 1 */
  placeOn(number: number): void;
  putAway(): void;
  selectAll(): void;
}
export const LANDING_PLACE = place<LandingInFront>('landing', 'On the landing', 'landing');

export const LANDING_COMMANDS = commandsOf(LANDING_PLACE, 'Landing', [
  ['landing-all', 'select all that lies here', '$mod+a', (landing) => landing.selectAll()],
  ['landing-put-away', 'put away what is selected', 'h', (landing) => landing.putAway()],
  [
    'landing-to-board',
    'to the board with that number',
    Array.from({ length: KEYED_BOARDS }, (_, index) => `${index + 1}`),
    (landing, press) => landing.placeOn(press + 1),
    { isByKeyAlone: true },
  ],
]);

/** A person's own places, asked for what was typed. */
const placesToLook: Finder = {
  id: 'places-to-look',
  heading: 'Look for it elsewhere',
  find: async (words, { sync, places }) =>
    (sync.settings.settings.places ?? []).map((one) => ({
      ...{ id: `${one.name} ${one.address}`, name: `“${words}” at ${one.name}` },
      ...(one.isTab ? { about: 'in a tab' } : {}),
      open: () => askPlace(sync, places.get(BOARD), one, words),
    })),
};

export const GATHER_FINDERS: readonly Finder[] = [placesToLook];
