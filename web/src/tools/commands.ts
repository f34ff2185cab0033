import type { BayShape } from '@miradero/core/items';
import type { Command } from '../commands/index.ts';
import { type DeskRow, inGroup } from '../desk/index.ts';
import { keep } from './held.ts';
import { keepAspect, type TrimAspect, trim, trimBy, untrim } from './trim.ts';

const asWords = (name: BayShape): [TrimAspect, string] => [name, `aspect ${name}`];

/** Aspects that a trim may keep. */
export const TRIM_ASPECTS: readonly (readonly [TrimAspect, string])[] = [
  ['free', 'any aspect'],
  ['own', "the picture's own aspect"],
  ...(['1 : 1', '5 : 4', '4 : 3', '3 : 2', '16 : 9', '2 : 1', 'A4'] as const).map(asWords),
];

/** Commands that take a tool, or are one while their key is held. */
export const TOOL_COMMANDS: readonly Command[] = [
  ...inGroup('Look', [
    ['pan', 'pan (hold and drag)', 'Space', () => {}, 'pan'],
    [
      ...(['zoom-drag', 'zoom (hold and drag)', 'z'] as const),
      (desk) => desk.say('Hold the key and drag right to come closer.'),
      'zoom',
    ],
  ]),
  ...inGroup('Picture', [
    ['trim', 'trim', 't', trim],
    ['trim-frame', 'trim to a rectangle', [], (desk) => trimBy(desk, 'frame')],
    ['trim-ellipse', 'trim to an ellipse', [], (desk) => trimBy(desk, 'ellipse')],
    ['trim-lasso', 'trim by a lasso', 'Alt+t', (desk) => trimBy(desk, 'lasso')],
    ['trim-slide', 'slide under the frame', [], (desk) => trimBy(desk, 'slide')],
    ['straighten', 'straighten', [], (desk) => trimBy(desk, 'straighten')],
    ...TRIM_ASPECTS.map(
      ([name, words]): DeskRow => [`aspect-${name}`, words, [], (desk) => keepAspect(desk, name)],
    ),
    ['untrim', 'whole picture', 'Shift+T', untrim],
    [...(['turn', 'turn', 'r'] as const), (desk) => keep(desk, 'turn'), 'turn'],
    [...(['fade', 'fade', 'o'] as const), (desk) => keep(desk, 'fade'), 'fade'],
  ]),
];
