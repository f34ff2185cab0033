import type { Command } from '../commands/index.ts';
import { type Desk, inGroup } from '../desk/index.ts';

/** Studies are fetched when the first is asked for: a board opens without them. */
const studies = () => import('./study-room.ts');

const withRoom =
  (use: (room: Awaited<ReturnType<typeof studies>>, desk: Desk) => void) =>
  (desk: Desk): void =>
    void studies().then(
      (room) => use(room, desk),
      () => desk.say('Studies do not come: the server is away.', ['Load the page anew once it is back.']),
    );

export const STUDY_COMMANDS: readonly Command[] = inGroup('Read', [
  ['value-study', 'value study', [], withRoom((room, desk) => room.studyValuesOf(desk))],
  ['compare-values', 'values side by side', [], withRoom((room, desk) => room.compareValues(desk))],
  ['form-study', 'form and ground', [], withRoom((room, desk) => room.studyForm(desk))],
  ['outline-strokes', 'outline in lines', [], withRoom((room, desk) => room.outlineOf(desk))],
]);
