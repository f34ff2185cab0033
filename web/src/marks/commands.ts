import type { Meant } from '@miradero/core/freehand';
import { isMark } from '@miradero/core/items';
import type { Command } from '../commands/index.ts';
import { type Desk, type DeskRow, inGroup } from '../desk/index.ts';

const NOT_HERE = [
  'Drawing does not come: the server is away.',
  'Load the page anew once it is back.',
] as const;

/** Does something with a part of this room that comes when it is needed. */
const having =
  <Part>(load: () => Promise<Part>, run: (part: Part, desk: Desk) => void) =>
  (desk: Desk) =>
    void load().then(
      (part) => run(part, desk),
      () => desk.say(NOT_HERE[0], [NOT_HERE[1]]),
    );
const drawing = () => import('./drawing.ts');

/** Marks are hidden in this window, or shown again. */
function hideMarks(desk: Desk): void {
  const { feed } = desk;
  feed.areMarksHidden = !feed.areMarksHidden;
  if (!feed.areMarksHidden) {
    desk.say('Marks are shown.');
    return;
  }
  const unseen = desk.selected.filter(isMark).map(({ id }) => id);
  if (unseen.length > 0) desk.select([...desk.selection].filter((id) => !unseen.includes(id)));
  desk.say('Marks are hidden.', ['The same key shows them.']);
}

const meant = (as: Meant, words: string, key: string): DeskRow => [
  `mark-${as}`,
  words,
  key,
  having(drawing, ({ meanLast }, desk) => meanLast(desk, as)),
];

export const MARK_COMMANDS: readonly Command[] = inGroup('Make', [
  ['draw-marks', 'draw marks', 'g', having(drawing, ({ drawMarks }, desk) => drawMarks(desk))],
  [
    'rub-out',
    'rub out marks',
    'd',
    having(
      () => import('./rubbing.ts'),
      ({ rubMarks }, desk) => rubMarks(desk),
    ),
  ],
  [
    'choose-marks',
    'choose marks, to move or recolour',
    'Shift+D',
    having(
      () => import('./choosing.ts'),
      ({ chooseMarks }, desk) => chooseMarks(desk),
    ),
  ],
  ['hide-marks', 'hide or show marks', '9', hideMarks],
  meant('line', 'as a line', '5'),
  meant('arrow', 'as an arrow', '6'),
  meant('ellipse', 'as an ellipse', '7'),
  meant('rectangle', 'as a rectangle', '8'),
]);
