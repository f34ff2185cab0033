import type { Command } from '../commands/index.ts';
import { inGroup } from '../desk/index.ts';
import { openBoardFileSheet, openFormatsSheet, openSheet } from './sheet-state.ts';
import { copyAsPicture, saveFiles } from './taking-out.ts';

/** What takes pictures out to other programs. */
export const EXPORT_COMMANDS: readonly Command[] = inGroup('Take out', [
  ['copy-as-picture', 'copy as a picture', 'Alt+c', (desk) => void copyAsPicture(desk)],
  [
    'copy-without-marks',
    'copy as a picture, without marks',
    'Alt+Shift+c',
    (desk) => void copyAsPicture(desk, true),
  ],
  ['save-as-picture', 'save as a picture', 'Alt+p', openSheet],
  ['save-for-others', 'save as a drawing, layers, pages', [], openFormatsSheet],
  ['save-board-file', 'save the board as one file', [], openBoardFileSheet],
  ['save-files', 'save the pictures as files', [], saveFiles],
]);
