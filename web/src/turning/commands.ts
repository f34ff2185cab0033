import type { Command } from '../commands/index.ts';
import { type Desk, inGroup } from '../desk/index.ts';

const turning = () => import('./turning-room.ts');

const withRoom =
  (use: (room: Awaited<ReturnType<typeof turning>>, desk: Desk) => void) =>
  (desk: Desk): void =>
    void turning().then(
      (room) => use(room, desk),
      () => desk.say('Nothing can be turned: the server is away.', ['Load the page anew once it is back.']),
    );

/** Models are turned by a part of the page that comes when it is asked for, and drawn by one that comes with the first. */
export const TURNING_COMMANDS: readonly Command[] = inGroup('Play', [
  ['turn-model', 'turn a model', 'Shift+J', withRoom((room, desk) => room.turnModel(desk))],
  ['take-view', 'this view as a picture', [], withRoom((room, desk) => room.takeTurned(desk))],
]);
