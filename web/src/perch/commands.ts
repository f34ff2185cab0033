import { type CommandRow, commandsOf, place } from '../commands/index.ts';
import type { PaneControls } from './pane-controls.ts';

/** What can be done with the perch from any page. */
export interface PerchAnywhere {
  /** Shows what is in front, or closes where it shows that; with nothing in front it comes back as it was last. */
  toggle(): void;
  /** Shows the working set of the stage that the board in front is at. */
  showStage(): void;
  /** Opens what is in front in a further window, a page of its own. */
  another(isNarrow: boolean): void;
  /** Brings it back as it was last. */
  restore(): void;
  follow(): void;
  close(): void;
}
export const PERCH_ANYWHERE = place<PerchAnywhere>('perch-anywhere', 'The perch');

/** What is done with the further windows. */
export interface PerchWindows {
  useScreens(): void;
  /** Shows the screens, to mark where they are arranged. */
  markPart(): void;
  arrange(): void;
}

/** The window of the perch that has the keyboard. */
export interface PerchInHand {
  /** The pane in front; undefined while it is on its way. */
  readonly pane: PaneControls | undefined;
  split(side: 'beside' | 'below'): void;
  closePane(): void;
  nextPane(): void;
  /** @param by - 0: the stage that its board is at */
  nextStage(by: 1 | 0 | -1): void;
  toggleHoverLook(): void;
  toggleBare(): void;
  toggleEdge(): void;
  resize(by: 1 | -1): void;
  /** Escape, one thing at a time. */
  stepBack(): void;
  toBoard(): void;
  readonly windows: PerchWindows;
}
export const PERCH = place<PerchInHand>('perch', 'In the perch', 'perch');

const onPane = (
  rows: readonly [
    id: string,
    label: string,
    keys: string | readonly string[],
    run: (pane: PaneControls) => void,
    isRepeating?: true,
  ][],
): CommandRow<PerchInHand>[] =>
  rows.map(([id, label, keys, run, isRepeating]) => [
    ...([id, label, keys] as const),
    ({ pane }) => {
      if (pane) run(pane);
    },
    { isRepeating: isRepeating === true },
  ]);

/** In the order in which the perch offers them. */
export const PERCH_CHAPTERS: readonly {
  readonly title: string;
  readonly rows: readonly CommandRow<PerchInHand>[];
}[] = [
  {
    title: 'Look closer',
    rows: onPane([
      ['perch-close', 'come close, or back', 'f', (pane) => pane.comeClose()],
      ['perch-all', 'all of it', '0', (pane) => pane.view.showWholeBoard()],
      ['perch-width', 'as wide as the window', '3', (pane) => pane.fit('width')],
      ['perch-height', 'as high as the window', '4', (pane) => pane.fit('height')],
      ['perch-next', 'next picture', 'PageDown', (pane) => pane.page('right'), true],
      ['perch-before', 'picture before', 'PageUp', (pane) => pane.page('left'), true],
      ['perch-names', 'by name', 'Alt+k', (pane) => pane.openNames(true)],
      ['perch-find', 'find by word', '$mod+f', (pane) => pane.find()],
      ['perch-colour', 'read a colour', 'k', (pane) => void pane.readColour()],
      ['perch-screen-colour', 'colour from the screen', 'Shift+K', (pane) => void pane.readScreen()],
    ]),
  },
  {
    title: 'For looking only',
    rows: onPane([
      ['perch-turn', 'turn the view', 'Alt+r', (pane) => pane.turn(90)],
      ['perch-turn-back', 'turn it back', 'Alt+Shift+R', (pane) => pane.turn(-90)],
      ['perch-lean', 'lean the view by 5°', 'Alt+BracketRight', (pane) => pane.turn(5), true],
      ['perch-lean-back', 'lean it back', 'Alt+BracketLeft', (pane) => pane.turn(-5), true],
      ['perch-mirror', 'view in the mirror', 'Alt+m', (pane) => pane.mirror()],
      ['perch-fainter', 'fainter against the surround', 'Alt+Shift+ArrowDown', (pane) => pane.fade(-1), true],
      ['perch-stronger', 'stronger against it', 'Alt+Shift+ArrowUp', (pane) => pane.fade(1), true],
      ['perch-lighter', 'lighter surround here', 'Alt+Equal', (pane) => pane.stepSurround(1), true],
      ['perch-darker', 'darker surround here', 'Alt+-', (pane) => pane.stepSurround(-1), true],
      ['perch-notes', 'hide notes, or show them', 'Alt+w', (pane) => pane.toggleNotes()],
      ['perch-plain', 'as it is', 'Alt+a', (pane) => pane.plain()],
      ['perch-slideshow', 'slideshow', 'Alt+l', (pane) => pane.toggleSlideshow()],
    ]),
  },
  {
    title: 'Panes and stages',
    rows: [
      ['perch-beside', 'another pane beside', 'Alt+b', (perch) => perch.split('beside')],
      ['perch-below', 'another pane below', 'Alt+u', (perch) => perch.split('below')],
      ['perch-pane', 'next pane', 'Alt+n', (perch) => perch.nextPane()],
      ['perch-close-pane', 'close this pane', 'Alt+x', (perch) => perch.closePane()],
      ['perch-stage', 'next stage of the work', 'Alt+s', (perch) => perch.nextStage(1)],
      ['perch-stage-before', 'stage before', 'Alt+Shift+S', (perch) => perch.nextStage(-1)],
      ['perch-board', 'the whole board', '$mod+0', (perch) => perch.toBoard()],
    ],
  },
  {
    title: 'The perch itself',
    rows: [
      ['perch-hover', 'come close by resting', 'Alt+h', (perch) => perch.toggleHoverLook()],
      ['perch-bare', 'bare, without controls', '.', (perch) => perch.toggleBare()],
      ['perch-edge', 'controls at the other edge', [], (perch) => perch.toggleEdge()],
      ['perch-smaller', 'smaller window', 'Alt+Comma', (perch) => perch.resize(-1)],
      ['perch-larger', 'larger window', 'Alt+Period', (perch) => perch.resize(1)],
      ['perch-screens', 'use the other screen', [], ({ windows }) => windows.useScreens()],
      ['perch-part', 'where windows belong', [], ({ windows }) => windows.markPart()],
      ['perch-arrange', 'arrange the windows there', [], ({ windows }) => windows.arrange()],
    ],
  },
];

/** What it offers beside them: there are such on every page. */
export const PERCH_ALSO = ['perch-another', 'perch-narrow', 'perch-follows', 'perch'] as const;

export const PERCH_COMMANDS = [
  ...PERCH_CHAPTERS.flatMap(({ rows }) => commandsOf(PERCH, 'In the perch', rows)),
  ...commandsOf(PERCH, 'In the perch', [['perch-escape', 'leave', 'Escape', (perch) => perch.stepBack()]]),
  ...commandsOf(PERCH_ANYWHERE, 'Look', [
    [
      'perch',
      'perch',
      'p',
      (perch) => perch.toggle(),
      { also: 'float above on top window keep in sight show this' },
    ],
    [
      'perch-restore',
      'the perch as it was last',
      'Alt+Shift+P',
      (perch) => perch.restore(),
      { also: 'float above restore' },
    ],
    ['perch-set', 'working set in the perch', 'Alt+Shift+W', (perch) => perch.showStage()],
    ['perch-another', 'another perch window', 'Alt+o', (perch) => perch.another(false)],
    [
      'perch-narrow',
      'narrow window beside the work',
      [],
      (perch) => perch.another(true),
      { also: 'slice split view side by side tablet' },
    ],
    ['perch-follows', 'the perch follows what is selected', 'Alt+f', (perch) => perch.follow()],
    ['perch-ends', 'close the perch', [], (perch) => perch.close()],
  ]),
];
