import { type Command, commandsOf } from '../commands/index.ts';
import { type Desk, inGroup, POINTED } from '../desk/index.ts';

/** Reading is fetched when it is first asked for: a board opens without it. */
const reading = () => import('./reading-room.ts');

const withRoom =
  (use: (room: Awaited<ReturnType<typeof reading>>, desk: Desk) => void) =>
  (desk: Desk): void =>
    void reading().then(
      (room) => use(room, desk),
      () =>
        desk.say('Reading colours does not come: the server is away.', [
          'Load the page anew once it is back.',
        ]),
    );

/** Reads colours, and what is made of them. */
export const COLOUR_COMMANDS: readonly Command[] = [
  ...commandsOf(POINTED, 'Read', [
    [
      ...(['read-colour', 'read a colour', 'k', withRoom((room, desk) => room.readColour(desk))] as const),
      {
        also: 'pick eyedropper hold',
        held: {
          hold: withRoom((room, desk) => room.holdReading(desk)),
          letGo(desk) {
            withRoom((room) => room.letGoReading())(desk);
            return true;
          },
        },
      },
    ],
  ]),
  ...inGroup('Read', [
    ['read-screen', 'colour from the screen', 'Shift+K', withRoom((room, desk) => room.readFromScreen(desk))],
    ['merge-palettes', 'merge palettes', [], withRoom((room, desk) => room.mergePalettes(desk))],
    ['compare-palettes', 'palettes side by side', [], withRoom((room, desk) => room.comparePalettes(desk))],
    [
      'palette-shelf',
      'palette shelf',
      [],
      withRoom((room, desk) => room.openColourSheet({ kind: 'shelf', desk })),
    ],
    ['bring-palette', 'palette from a file', [], withRoom((room, desk) => void room.bringPalette(desk))],
    ['make-palette', 'palette', 'Alt+k', withRoom((room, desk) => room.paletteHere(desk))],
  ]),
];
