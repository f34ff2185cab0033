import type { Command } from '../commands/index.ts';
import { type DeskRow, inGroup } from '../desk/index.ts';
import { startFinding } from './finding.tsx';
import { LENS_COMMANDS } from './lenses.ts';
import { toggleOverview } from './overview.tsx';
import { goToView, keepView } from './views.ts';
import { goOnToStage, toggleInSet } from './working-sets.ts';

const NUMBERS = [1, 2, 3, 4, 5, 6, 7, 8, 9] as const;

/** Ways to find one's way on a board. */
export const LOOKING_COMMANDS: readonly Command[] = [
  ...LENS_COMMANDS,
  ...inGroup('Look', [
    ['find-here', 'find by word', '$mod+f', startFinding],
    ['overview', 'map in the corner', 'Shift+Digit0', toggleOverview],
    ['working-set', 'in or out of the working set', 's', toggleInSet],
    ['next-stage', 'next stage of the work', 'Alt+s', (desk) => goOnToStage(desk, 1)],
    ['stage-before', 'stage before', 'Alt+Shift+S', (desk) => goOnToStage(desk, -1)],
    ['keep-view', 'keep this view', '$mod+Shift+V', (desk) => void keepView(desk)],
    ...NUMBERS.map(
      (number): DeskRow => [
        `view-${number}`,
        `view ${number}`,
        `Shift+Digit${number}`,
        (desk) => goToView(desk, number),
      ],
    ),
  ]),
];
