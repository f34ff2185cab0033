import { alter } from './alter.ts';
import type { Desk } from './desk.ts';
import type { HeldAction } from './held-action.ts';

/** One thing that can be done, by key, by the sill, and by name. */
export interface Action {
  readonly id: string;
  readonly label: string;
  /** The chapter of the keys sheet in which it stands. */
  readonly group: string;
  /** Our keys, in the notation of tinykeys; several ways are alternatives. */
  readonly keys: readonly string[];
  /** Done again and again while its key is held down; everything else happens once a press. */
  readonly isRepeating: boolean;
  /** The key is held while the hand does something; `words` say what. */
  readonly held?: HeldAction;
  readonly run: (desk: Desk) => void;
}

export type ActionRow = readonly [
  id: string,
  label: string,
  keys: string | readonly string[],
  run: (desk: Desk) => void,
  held?: HeldAction,
];

/** A step of something that has many; a switch would flicker, and copies would pile up. */
const REPEATING =
  /^(?:nudge-.+|zoom-(?:in|out)|larger|smaller|raise|lower|degree-.+|fainter|stronger|(?:lighter|darker)-surround)$/;

export const inGroup = (group: string, rows: readonly ActionRow[]): Action[] =>
  rows.map(([id, label, keys, run, held]) => ({
    id,
    label,
    group,
    isRepeating: REPEATING.test(id),
    keys: typeof keys === 'string' ? [keys] : keys,
    run,
    ...(held ? { held } : {}),
  }));

/** Ways to bring something in that need more than a key: a chooser, a sheet, a camera. */
export type GatherWay = 'files' | 'folder' | 'paste' | 'address' | 'grab' | 'grab-again' | 'camera';
export const GATHER = 'miradero-gather';
/** Opens a way; the page that is in front knows where to. Within the event, so that the browser sees a person's act. */
export const gatherBy = (way: GatherWay): void => {
  window.dispatchEvent(new CustomEvent<GatherWay>(GATHER, { detail: way }));
};
const perch = () => document.querySelector<HTMLButtonElement>('#open-perch')?.click();

/** One press of a zoom key: the fourth doubles. */
const ZOOM_STEP = 2 ** 0.25;
const SIZE_STEP = 1.1;
const FADE_STEP = 0.1;
const NUDGE_FAR = 10;

const nudge = (id: string, words: string, key: string, x: number, y: number): ActionRow[] => [
  [`nudge-${id}`, `nudge ${words}`, key, (desk) => alter.move(desk, { x, y })],
  [
    `nudge-${id}-far`,
    `nudge ${words}, ten at once`,
    `Shift+${key}`,
    (desk) => alter.move(desk, { x: NUDGE_FAR * x, y: NUDGE_FAR * y }),
  ],
];

/** What can be done with a board and what is selected on it; tools and kinds of items have actions of their own. */
export const DESK_ACTIONS: readonly Action[] = [
  ...inGroup('Look', [
    ['come-close', 'come close', 'f', (desk) => desk.comeClose()],
    ['whole-board', 'whole board', '0', (desk) => desk.view?.showWholeBoard()],
    ['fit-selection', 'selection in view', '2', (desk) => desk.fitSelection()],
    ['actual-size', 'zoom to 100 %', '1', (desk) => desk.view?.zoomTo(1)],
    ['zoom-in', 'zoom in', ['=', 'Shift+Equal', 'NumpadAdd'], (desk) => desk.view?.zoomMiddle(ZOOM_STEP)],
    ['zoom-out', 'zoom out', ['-', 'NumpadSubtract'], (desk) => desk.view?.zoomMiddle(1 / ZOOM_STEP)],
    ['perch', 'perch', 'p', perch],
    ['hide-controls', 'hide controls', '.', (desk) => desk.toggleControls()],
  ]),
  ...inGroup('Select', [
    ['select-all', 'select all', '$mod+a', (desk) => desk.selectAll()],
    ['escape', 'leave', 'Escape', (desk) => desk.escape()],
    ['label', 'wall label', 'i', (desk) => desk.toggleLabel()],
  ]),
  ...inGroup('Place', [
    ...nudge('left', 'left', 'ArrowLeft', -1, 0),
    ...nudge('right', 'right', 'ArrowRight', 1, 0),
    ...nudge('up', 'up', 'ArrowUp', 0, -1),
    ...nudge('down', 'down', 'ArrowDown', 0, 1),
    ['larger', 'larger', 'Shift+Period', (desk) => alter.size(desk, SIZE_STEP)],
    ['smaller', 'smaller', 'Shift+Comma', (desk) => alter.size(desk, 1 / SIZE_STEP)],
    ['raise', 'raise', 'PageUp', (desk) => alter.restack(desk, 'raise')],
    ['lower', 'lower', 'PageDown', (desk) => alter.restack(desk, 'lower')],
    ['duplicate', 'duplicate', 'b', (desk) => alter.duplicate(desk)],
    ['remove', 'remove', ['Delete', 'Backspace'], (desk) => alter.remove(desk)],
  ]),
  ...inGroup('Picture', [
    ['flip', 'flip', 'x', (desk) => alter.flip(desk, 'flipX')],
    ['upside-down', 'upside down', 'Shift+X', (desk) => alter.flip(desk, 'flipY')],
    ['quarter-right', 'turn right by 90°', ']', (desk) => alter.turn(desk, 90)],
    ['quarter-left', 'turn left by 90°', '[', (desk) => alter.turn(desk, -90)],
    ['degree-right', 'turn right by 1°', 'Shift+BracketRight', (desk) => alter.turn(desk, 1)],
    ['degree-left', 'turn left by 1°', 'Shift+BracketLeft', (desk) => alter.turn(desk, -1)],
    ['fainter', 'fainter', 'Alt+ArrowDown', (desk) => alter.fade(desk, -FADE_STEP)],
    ['stronger', 'stronger', 'Alt+ArrowUp', (desk) => alter.fade(desk, FADE_STEP)],
    ['as-it-came', 'as it came', 'a', (desk) => alter.restore(desk)],
  ]),
  ...inGroup('Bring in', [
    ['choose-files', 'choose files', 'c', () => gatherBy('files')],
    ['look-into-folder', 'look into a folder', 'Shift+C', () => gatherBy('folder')],
    ['paste', 'paste a picture', [], () => gatherBy('paste')],
    ['by-address', 'by address', 'Shift+A', () => gatherBy('address')],
    ['grab', 'grab from the screen', 'Shift+G', () => gatherBy('grab')],
    ['grab-again', 'grab from the same again', 'Alt+g', () => gatherBy('grab-again')],
    ['camera', 'camera', 'Shift+P', () => gatherBy('camera')],
  ]),
  ...inGroup('Board', [
    ['lighter-surround', 'lighter surround', 'Alt+Equal', (desk) => desk.stepSurround(1)],
    ['darker-surround', 'darker surround', 'Alt+-', (desk) => desk.stepSurround(-1)],
  ]),
];
