import type { PartMove } from '@miradero/core/subject';
import { byName, commandsOf, type Finder, place } from '../commands/index.ts';
import { ask } from '../sync/index.ts';

/** A subject in front. */
export interface SubjectInFront {
  /** Gives the selected picture to a part, or shows what serves the part. @param number - from 1 */
  part(number: number): void;
  /** Moves the part that is chosen. */
  move(move: PartMove): void;
}
export const SUBJECT = place<SubjectInFront>('subject', 'This subject', 'subjects');

/** So many parts are reached by a number. */
const KEYED_PARTS = 9;

export const SUBJECT_COMMANDS = commandsOf(SUBJECT, 'Subject', [
  [
    'subject-part',
    'show the part with that number, or give it the picture',
    Array.from({ length: KEYED_PARTS }, (_, index) => `${index + 1}`),
    (subject, press) => subject.part(press + 1),
    { isByKeyAlone: true },
  ],
  ['part-up', 'part further up', '$mod+ArrowUp', (subject) => subject.move('up'), { isRepeating: true }],
  [
    'part-down',
    'part further down',
    '$mod+ArrowDown',
    (subject) => subject.move('down'),
    { isRepeating: true },
  ],
  ['part-in', 'part into the one above', '$mod+ArrowRight', (subject) => subject.move('in')],
  ['part-out', 'part out of the one that holds it', '$mod+ArrowLeft', (subject) => subject.move('out')],
]);

/** So many of a kind are offered by name. */
const MOST = 6;

const subjectsAndParts: Finder = {
  id: 'subjects',
  heading: 'Subjects and their parts',
  async find(words, { go }) {
    const { subjects } = await ask('GET /api/subjects');
    const here = subjects.filter(({ isPutAway }) => !isPutAway);
    const parts = here.flatMap((subject) =>
      subject.parts
        .flatMap((part) => [part, ...part.parts])
        .map(({ id, name }) => ({ id, name, subject: subject.id, about: subject.name })),
    );
    return [
      ...byName(here, words, MOST).map(({ id, name }) => ({ id, name, open: () => go(`/subjects/${id}`) })),
      ...byName(parts, words, MOST).map(({ id, name, subject, about }) => ({
        ...{ id, name, about },
        open: () => go(`/subjects/${subject}`, { part: id }),
      })),
    ];
  },
};

export const SUBJECT_FINDERS: readonly Finder[] = [subjectsAndParts];
