import { EVEN_MEASURES, SHELVES_BY } from '@miradero/core/board';
import type { Command } from '../commands/index.ts';
import { type DeskRow, inGroup } from '../desk/index.ts';
import { settleIntoBox } from './box.ts';
import { evenOn, lineUpAsTheyLie, lineUpOn, settleOn, shelveOn, spaceAsTheyLie } from './laying-out.ts';
import { makeStrip } from './strip.ts';

const EVEN_WORDS = {
  height: 'same height',
  width: 'same width',
  area: 'same area',
  longest: 'same longest side',
} as const;
const EVEN_KEYS = { height: 'e', width: 'Alt+e', area: 'Shift+E', longest: [] } as const;

const EDGES = [
  ['left', 'left edges'],
  ['middle-x', 'middles upright'],
  ['right', 'right edges'],
  ['top', 'upper edges'],
  ['middle-y', 'middles level'],
  ['bottom', 'lower edges'],
] as const;

/** What lays out what is selected, one cluster, or everything. */
export const LAYOUT_COMMANDS: readonly Command[] = inGroup('Lay out', [
  ['settle', 'settle', 'y', (desk) => void settleOn(desk, 'tight')],
  ['settle-in-order', 'settle in reading order', 'Shift+Y', (desk) => void settleOn(desk, 'in-order')],
  ['settle-without-holes', 'settle without holes', 'Alt+y', (desk) => void settleOn(desk, 'without-holes')],
  ['settle-box', 'settle into a box', [], (desk) => settleIntoBox(desk)],
  ...EVEN_MEASURES.map(
    (measure): DeskRow => [
      `even-${measure}`,
      EVEN_WORDS[measure],
      EVEN_KEYS[measure],
      (desk) => evenOn(desk, measure),
    ],
  ),
  ['line-up', 'line up', 'u', lineUpAsTheyLie],
  ['equal-gaps', 'equal gaps', 'Shift+U', spaceAsTheyLie],
  ...EDGES.map(([edge, words]): DeskRow => [`line-up-${edge}`, words, [], (desk) => lineUpOn(desk, edge)]),
  ...SHELVES_BY.map(
    (by): DeskRow => [`shelves-${by}`, `shelves by ${by}`, [], (desk) => void shelveOn(desk, by)],
  ),
  ['strip', 'strip', [], makeStrip],
]);
