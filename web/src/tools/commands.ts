import type { Command } from '../commands/index.ts';
import { inGroup } from '../desk/index.ts';
import { keep } from './held.ts';
import { trim, untrim } from './trim.ts';

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
    ['untrim', 'whole picture', 'Shift+T', untrim],
    [...(['turn', 'turn', 'r'] as const), (desk) => keep(desk, 'turn'), 'turn'],
    [...(['fade', 'fade', 'o'] as const), (desk) => keep(desk, 'fade'), 'fade'],
  ]),
];
