import type { Command } from '../commands/index.ts';
import { type Desk, inGroup } from '../desk/index.ts';

const stepping = () => import('./stepping.ts');

const withRoom =
  (use: (room: Awaited<ReturnType<typeof stepping>>, desk: Desk) => void) =>
  (desk: Desk): void =>
    void stepping().then(
      (room) => use(room, desk),
      () => desk.say('Nothing can be played: the server is away.', ['Load the page anew once it is back.']),
    );

/** What moves is played by a part of the page that comes when it is asked for. */
export const MOTION_COMMANDS: readonly Command[] = inGroup('Play', [
  ['play', 'play, or stop', 'Shift+M', withRoom((room, desk) => room.playOrStop(desk))],
  ['frame-by-frame', 'frame by frame', 'Shift+N', withRoom((room, desk) => room.stepThrough(desk))],
  ['frame-on', 'next frame', 'Alt+j', withRoom((room, desk) => room.stepFrames(desk, 1))],
  ['frame-back', 'frame before', 'Alt+Shift+J', withRoom((room, desk) => room.stepFrames(desk, -1))],
]);
