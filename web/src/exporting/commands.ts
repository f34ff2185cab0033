import type { Command } from '../commands/index.ts';
import { inGroup } from '../desk/index.ts';
import { openSheet } from './sheet-state.ts';
import { copyAsPicture, saveFiles } from './taking-out.ts';

/** What takes pictures out to other programs. */
export const EXPORT_COMMANDS: readonly Command[] = inGroup('Take out', [
  ['copy-as-picture', 'copy as a picture', 'Alt+c', (desk) => void copyAsPicture(desk)],
  ['save-as-picture', 'save as a picture', 'Alt+p', openSheet],
  ['save-files', 'save the pictures as files', [], saveFiles],
]);
