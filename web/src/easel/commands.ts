import { SHEET_ID } from '@miradero/core/items';
import { type Command, commandsOf } from '../commands/index.ts';
import { BOARD, type Desk } from '../desk/index.ts';
import { knockBack, toggleReferences } from './over-it.ts';
import { pinSelected } from './pinned.ts';

function toggleGuides(desk: Desk): void {
  if (desk.session.items.has(SHEET_ID)) desk.toggleGuides();
  else desk.say('Rulers and guides are there on a sheet of the easel.');
}

function asDrawing(desk: Desk): void {
  import('./following/on-paper.ts').then(
    ({ takeAsDrawing }) => takeAsDrawing(desk),
    () => desk.say('The server is away.', ['It can be made the drawing once it is back.']),
  );
}

/** Draws and paints here; that comes when it is needed. */
const painting = (run: (part: typeof import('./painting/begin.ts'), desk: Desk) => unknown) => (desk: Desk) =>
  void import('./painting/begin.ts').then(
    (part) => run(part, desk),
    () => desk.say('Drawing does not come: the server is away.', ['Load the page anew once it is back.']),
  );

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
  [
    'draw-here',
    'draw here',
    'Alt+Shift+d',
    painting(({ drawHere }, desk) => drawHere(desk)),
    { also: 'paint brush sketch layers' },
  ],
  [
    'make-study',
    'make a study of it',
    'Alt+Shift+u',
    painting(({ makeStudy }, desk) => makeStudy(desk)),
    { also: 'copy paint master toned ground' },
  ],
  [
    'shrink-drawing',
    'make room around the drawing',
    'Alt+Shift+m',
    painting(({ makeRoom }, desk) => makeRoom(desk)),
    { also: 'shrink smaller all layers' },
  ],
  [
    'lines-on-top',
    'lines on top',
    'Alt+Shift+l',
    painting(({ linesOnTop }, desk) => linesOnTop(desk)),
    { also: 'sketch layer above' },
  ],
  ['as-drawing', 'as the drawing', [], asDrawing, { also: 'photograph scan paper version' }],
  ['knock-back', 'knock the drawing back', 'Shift+Q', knockBack, { also: 'wash fainter ghost' }],
  ['pin', 'pin it over the board', 'Shift+Z', pinSelected, { also: 'float detail keep in sight' }],
]);
