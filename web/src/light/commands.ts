import type { Command } from '../commands/index.ts';
import { inGroup } from '../desk/index.ts';

export const LIGHT_COMMANDS: readonly Command[] = inGroup('Read', [
  [
    'light-and-shadow',
    'light and shadow',
    [],
    (desk) =>
      void import('./marking.ts').then(
        ({ markLight }) => markLight(desk),
        () =>
          desk.say('Light and shadow do not come: the server is away.', [
            'Load the page anew once it is back.',
          ]),
      ),
  ],
]);
