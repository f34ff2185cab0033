import type { WalkStep } from '@miradero/core/board';
import type { Point } from '@miradero/core/geometry';
import { type Command, commandsOf, place } from '../commands/index.ts';
import { alter } from './alter.ts';
import type { Desk } from './desk.ts';
import type { HeldAction } from './held-action.ts';
import { beginWalk, page, walk } from './walk.ts';

/** The board in front. */
export const BOARD = place<Desk>('board', 'On this board', 'board');
/** What is under the pointer of all that stands side by side, the board in front where nothing is. */
export const POINTED = place<Desk>('pointed', 'On this board', 'board');

export type DeskRow = readonly [
  id: string,
  label: string,
  keys: string | readonly string[],
  run: (desk: Desk) => void,
  held?: HeldAction,
];

/** A step of something that has many; a switch would flicker, and copies would pile up. */
const REPEATING =
  /^(?:nudge-.+|zoom-(?:in|out)|larger|smaller|raise|lower|degree-.+|fainter|stronger|frame-(?:on|back)|(?:lighter|darker)-surround)$/;

/** Commands of the board in front. */
export const inGroup = (group: string, rows: readonly DeskRow[]): Command[] =>
  commandsOf(
    BOARD,
    group,
    rows.map(([id, label, keys, run, held]) => [
      ...([id, label, keys, run] as const),
      {
        isRepeating: REPEATING.test(id),
        ...(held && {
          held: { hold: (desk: Desk) => desk.hold(held), letGo: (desk: Desk) => desk.letGo(held) },
        }),
      },
    ]),
  );

/** One press of a zoom key: the fourth doubles. */
const ZOOM_STEP = 2 ** 0.25;
const SIZE_STEP = 1.1;
const FADE_STEP = 0.1;
const NUDGE_FAR = 10;

/** What needs something to act on says so where there is nothing. */
const onTargets = (rows: readonly DeskRow[]): DeskRow[] =>
  rows.map(([id, label, keys, run, ...more]) => [
    ...([id, label, keys] as const),
    (desk) => {
      if (desk.targets.length > 0) run(desk);
      else desk.say(`Nothing to act on: ${label}.`, [NOTHING_HERE]);
    },
    ...more,
  ]);
/** What to do where a key finds nothing to act on. */
export const NOTHING_HERE = 'Select something first, point at it, or walk to it with the arrows.';

/** Turns pages while something is close and nothing is selected; else nudges what is selected or pointed at; where nothing is, or one walks already, goes on to the next item. */
function nudgeOrWalk(desk: Desk, step: WalkStep, deltaPx: Point): void {
  if (desk.tool?.arrow) desk.tool.arrow(desk, step, Math.abs(deltaPx.x + deltaPx.y) > 1);
  else if (desk.view?.isClose && desk.selection.size === 0) page(desk, step);
  else if (desk.isWalking || desk.targets.length === 0) walk(desk, step);
  else alter.move(desk, deltaPx);
}

const nudge = (id: WalkStep, words: string, key: string, x: number, y: number): DeskRow[] => [
  [`nudge-${id}`, `nudge ${words}, or walk`, key, (desk) => nudgeOrWalk(desk, id, { x, y })],
  [
    `nudge-${id}-far`,
    `nudge ${words}, ten at once`,
    `Shift+${key}`,
    (desk) => nudgeOrWalk(desk, id, { x: NUDGE_FAR * x, y: NUDGE_FAR * y }),
  ],
];

function remove(desk: Desk): void {
  if (desk.tool?.remove) desk.tool.remove(desk);
  else if (desk.targets.length > 0) alter.remove(desk);
  else desk.say('Nothing to act on: remove.', [NOTHING_HERE]);
}

function selectAll(desk: Desk): void {
  if (desk.tool?.selectAll) desk.tool.selectAll(desk);
  else desk.selectAll();
}

function comeClose(desk: Desk): void {
  if (desk.targets.length === 0 && !desk.view?.isClose)
    desk.say('Nothing to act on: come close.', [NOTHING_HERE]);
  else desk.comeClose();
}

/** What can be done with a board and what is selected on it; tools and kinds of items have actions of their own. */
export const DESK_COMMANDS: readonly Command[] = [
  ...inGroup('Look', [
    ['come-close', 'come close', 'f', comeClose],
    ['whole-board', 'whole board', '0', (desk) => desk.view?.showWholeBoard()],
    ...onTargets([['fit-selection', 'selection in view', '2', (desk) => desk.fitSelection()]]),
    ['actual-size', 'zoom to 100 %', '1', (desk) => desk.view?.zoomTo(1)],
    ['zoom-in', 'zoom in', ['=', 'Shift+Equal', 'NumpadAdd'], (desk) => desk.view?.zoomMiddle(ZOOM_STEP)],
    ['zoom-out', 'zoom out', ['-', 'NumpadSubtract'], (desk) => desk.view?.zoomMiddle(1 / ZOOM_STEP)],
    ['hide-controls', 'hide controls', '.', (desk) => desk.toggleControls()],
  ]),
  ...inGroup('Select', [
    ['select-all', 'select all', '$mod+a', selectAll],
    ['escape', 'leave', 'Escape', (desk) => desk.stepBack(desk.view)],
    ['walk', 'walk from item to item', [], beginWalk],
    ...onTargets([['label', 'wall label', 'i', (desk) => desk.toggleLabel()]]),
  ]),
  ...inGroup('Place', [
    ...nudge('left', 'left', 'ArrowLeft', -1, 0),
    ...nudge('right', 'right', 'ArrowRight', 1, 0),
    ...nudge('up', 'up', 'ArrowUp', 0, -1),
    ...nudge('down', 'down', 'ArrowDown', 0, 1),
    ...onTargets([
      ['larger', 'larger', 'Shift+Period', (desk) => alter.size(desk, SIZE_STEP)],
      ['smaller', 'smaller', 'Shift+Comma', (desk) => alter.size(desk, 1 / SIZE_STEP)],
      ['raise', 'raise', 'PageUp', (desk) => alter.restack(desk, 'raise')],
      ['lower', 'lower', 'PageDown', (desk) => alter.restack(desk, 'lower')],
      ['duplicate', 'duplicate', 'b', (desk) => alter.duplicate(desk)],
    ]),
    ['remove', 'remove', ['Delete', 'Backspace'], remove],
  ]),
  ...inGroup(
    'Picture',
    onTargets([
      ['flip', 'flip', 'x', (desk) => alter.flip(desk, 'flipX')],
      ['upside-down', 'upside down', 'Shift+X', (desk) => alter.flip(desk, 'flipY')],
      ['quarter-right', 'turn right by 90°', ']', (desk) => alter.turn(desk, 90)],
      ['quarter-left', 'turn left by 90°', '[', (desk) => alter.turn(desk, -90)],
      ['degree-right', 'turn right by 1°', 'Shift+BracketRight', (desk) => alter.turn(desk, 1)],
      ['degree-left', 'turn left by 1°', 'Shift+BracketLeft', (desk) => alter.turn(desk, -1)],
      ['fainter', 'fainter', 'Alt+ArrowDown', (desk) => alter.fade(desk, -FADE_STEP)],
      ['stronger', 'stronger', 'Alt+ArrowUp', (desk) => alter.fade(desk, FADE_STEP)],
      ['multiply', 'multiply', [], alter.multiply],
      ['as-it-came', 'as it came', 'a', (desk) => alter.restore(desk)],
    ]),
  ),
  ...inGroup('Board', [
    ['lighter-surround', 'lighter surround', 'Alt+Equal', (desk) => desk.stepSurround(1)],
    ['darker-surround', 'darker surround', 'Alt+-', (desk) => desk.stepSurround(-1)],
  ]),
];
