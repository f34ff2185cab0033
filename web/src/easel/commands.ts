import { SHEET_ID } from '@miradero/core/items';
import { type Command, commandsOf } from '../commands/index.ts';
import { BOARD, type Desk } from '../desk/index.ts';
import { knockBack, toggleReferences } from './over-it.ts';
import { pinSelected } from './pinned.ts';

function toggleGuides(desk: Desk): void {
  if (desk.session.items.has(SHEET_ID)) desk.toggleGuides();
  else desk.say('Rulers and guides are there on a sheet of the easel.');
}

/** What is done at the easel. */
export const EASEL_COMMANDS: readonly Command[] = commandsOf(BOARD, 'Easel', [
  ['guides', 'rulers and guides', 'Shift+R', toggleGuides],
  [
    ...(['references', 'without the references', 'Shift+W', toggleReferences] as const),
    {
      also: 'hide show pictures over the drawing overlay',
      held: {
        hold: toggleReferences,
        letGo(desk: Desk) {
          toggleReferences(desk);
          return true;
        },
      },
    },
  ],
  ['knock-back', 'knock the drawing back', 'Shift+Q', knockBack, { also: 'wash fainter ghost' }],
  ['pin', 'pin it over the board', 'Shift+Z', pinSelected, { also: 'float detail keep in sight' }],
]);
