import type { Command } from '../commands/index.ts';
import { inGroup } from '../desk/index.ts';

export const STUDY_COMMANDS: readonly Command[] = inGroup('Read', [
  [
    'value-study',
    'value study',
    [],
    (desk) =>
      void import('./studying.ts').then(
        ({ studyValuesOf }) => studyValuesOf(desk),
        () => desk.say('The value study does not come: the server is away.'),
      ),
  ],
]);
