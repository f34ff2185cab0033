import type { Command } from '../commands/index.ts';
import { inGroup } from '../desk/index.ts';

/** What is done at the easel. */
export const EASEL_COMMANDS: readonly Command[] = inGroup('Easel', [
  [
    ...(['guides', 'rulers and guides', 'Shift+R'] as const),
    (desk) => {
      if (desk.session.items.has('sheet')) desk.toggleGuides();
      else desk.say('Rulers and guides are there on a sheet of the easel.');
    },
  ],
]);
