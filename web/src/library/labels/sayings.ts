import type { LibraryWords } from '@miradero/core/contracts';
import {
  type Bulk,
  type PatchPicture,
  PILES,
  type Picture,
  type Pile,
  PURPOSES,
  type PurposeName,
  type Subject,
} from '@miradero/core/schema';
import { cutText, storableText } from '@miradero/core/text';
import { scoreOf } from '../../commands/index.ts';

/** One thing that can be said of a picture. */
export type Saying =
  | { readonly kind: 'part'; readonly id: string }
  | { readonly kind: 'purpose'; readonly purpose: PurposeName; readonly isNot: boolean }
  | { readonly kind: 'pile'; readonly pile: Pile }
  | { readonly kind: 'tag'; readonly name: string }
  | { readonly kind: 'scale' };

/** A saying as it is offered and found. */
export interface Offered {
  readonly id: string;
  readonly saying: Saying;
  readonly words: string;
  /** What it is, or what it belongs to. */
  readonly about: string;
  /** Pictures of the library of which it is said; undefined where nobody counts. */
  readonly count: number | undefined;
}

/** Something that is not there yet, made of what was typed. */
export type Making =
  | { readonly kind: 'tag'; readonly name: string }
  | { readonly kind: 'part'; readonly name: string; readonly subject: Subject }
  | { readonly kind: 'subject'; readonly name: string };

const TAG_MOST = 60;
/** Subjects to which a new part is offered. */
const SUBJECTS_OFFERED = 3;

/** Everything that can be said, in the order in which it is offered while nothing is typed. */
export function sayingsOf(subjects: readonly Subject[], words: LibraryWords): Offered[] {
  const shown = new Map(words.parts.map(({ id, count }) => [id, count]));
  const countOf = (purpose: string, isNot: boolean) =>
    words.purposes.find((one) => one.name === purpose && one.isNot === isNot)?.count ?? 0;
  const part = (id: string, name: string, about: string): Offered => ({
    ...{ id: `part ${id}`, saying: { kind: 'part', id }, words: name, about },
    count: shown.get(id) ?? 0,
  });
  const purpose =
    (isNot: boolean) =>
    (name: PurposeName): Offered => ({
      id: `purpose ${isNot} ${name}`,
      saying: { kind: 'purpose', purpose: name, isNot },
      words: isNot ? `not ${name}` : name,
      ...{ about: isNot ? 'not that' : 'purpose', count: countOf(name, isNot) },
    });
  return [
    ...PURPOSES.map(purpose(false)),
    ...subjects.flatMap((subject) => [
      part(subject.id, subject.name, 'subject, as a whole'),
      ...subject.parts.flatMap((one) => [
        part(one.id, one.name, `part of ${subject.name}`),
        ...one.parts.map((inner) => part(inner.id, `${one.name}, ${inner.name}`, `part of ${subject.name}`)),
      ]),
    ]),
    ...words.tags.map(
      ({ name, count }): Offered => ({
        id: `tag ${name}`,
        saying: { kind: 'tag', name },
        words: name,
        about: 'tag',
        count,
      }),
    ),
    ...PILES.map(
      (pile): Offered => ({
        ...{
          id: `pile ${pile}`,
          saying: { kind: 'pile', pile },
          words: pile,
          about: 'pile',
          count: undefined,
        },
      }),
    ),
    { id: 'scale', saying: { kind: 'scale' }, words: 'to scale', about: 'true measures', count: undefined },
    ...PURPOSES.map(purpose(true)),
  ];
}

/** Those that fit what is typed, the best first; nothing typed: as they stand. */
export function fitting(all: readonly Offered[], typed: string, most: number): Offered[] {
  const text = typed.trim();
  if (text === '') return all.slice(0, most);
  return all
    .map((one, index) => ({ one, index, score: scoreOf(one.words, text, one.about) }))
    .filter(({ score }) => score > 0)
    .sort((a, b) => b.score - a.score || a.index - b.index)
    .slice(0, most)
    .map(({ one }) => one);
}

/**
 * What can be made of what was typed and is not there under just that name: a tag; a part of the subjects that are shown, or
 * of the one whose name is typed before a colon ("ferry: ramp"); a subject.
 */
export function makings(
  typed: string,
  all: readonly Offered[],
  subjects: readonly Subject[],
  near: readonly Subject[],
): Making[] {
  const text = cutText(storableText(typed).trim(), 120).trim();
  if (text === '') return [];
  const [before, after] = text.includes(':')
    ? [text.slice(0, text.indexOf(':')), text.slice(text.indexOf(':') + 1).trim()]
    : ['', text];
  const named = before
    ? subjects.filter(({ name }) => scoreOf(name, before) > 0).slice(0, SUBJECTS_OFFERED)
    : [];
  if (before && named.length > 0 && after)
    return named.map((subject) => ({ kind: 'part', name: after, subject }));
  const isThere = (kind: Saying['kind']) =>
    all.some(({ saying, words }) => saying.kind === kind && words.toLowerCase() === text.toLowerCase());
  const tag = cutText(text, TAG_MOST).trim();
  return [
    ...(isThere('tag') || tag === '' ? [] : [{ kind: 'tag' as const, name: tag }]),
    ...near.slice(0, SUBJECTS_OFFERED).map((subject) => ({ kind: 'part' as const, name: text, subject })),
    ...(isThere('part') ? [] : [{ kind: 'subject' as const, name: text }]),
  ];
}

/** Whether a saying holds of a picture; purposes of regions are their own matter. */
export function holdsOf(picture: Picture, saying: Saying): boolean {
  switch (saying.kind) {
    case 'part':
      return picture.parts.includes(saying.id);
    case 'purpose':
      return picture.purposes.some(
        ({ purpose, isNot, region }) =>
          region === null && purpose === saying.purpose && isNot === saying.isNot,
      );
    case 'pile':
      return picture.pile === saying.pile;
    case 'tag':
      return picture.tags.includes(saying.name);
    case 'scale':
      return picture.isToScale;
  }
}

/** Of all, of some (`mixed`) or of none of the pictures. */
export function holdsOfMany(pictures: readonly Picture[], saying: Saying): boolean | 'mixed' {
  const count = pictures.filter((picture) => holdsOf(picture, saying)).length;
  return count === 0 ? false : count === pictures.length ? true : 'mixed';
}

/** Subjects of which some of the pictures show something. */
export const subjectsShown = (pictures: readonly Picture[], subjects: readonly Subject[]): Subject[] =>
  subjects.filter(({ id, parts }) =>
    [id, ...parts.flatMap((part) => [part.id, ...part.parts.map((inner) => inner.id)])].some((one) =>
      pictures.some((picture) => picture.parts.includes(one)),
    ),
  );

const toggled = <T>(all: readonly T[], one: T, isGiven: boolean): T[] =>
  isGiven ? [...all.filter((other) => other !== one), one] : all.filter((other) => other !== one);

/** What is altered of a picture when something is said of it, or no longer. */
export function patchSaying(picture: Picture, saying: Saying, isGiven: boolean): PatchPicture {
  switch (saying.kind) {
    case 'part':
      return { parts: toggled(picture.parts, saying.id, isGiven) };
    case 'tag':
      return { tags: toggled(picture.tags, saying.name, isGiven) };
    case 'pile':
      return { pile: isGiven ? saying.pile : null };
    case 'scale':
      return { isToScale: isGiven };
    case 'purpose': {
      const { purpose, isNot } = saying;
      const others = picture.purposes.filter(
        (one) => one.region !== null || one.purpose !== purpose || one.isNot !== isNot,
      );
      return { purposes: isGiven ? [...others, { purpose, isNot, region: null }] : others };
    }
  }
}

/** What many pictures are told together, and how it will be said when it is taken back. */
export function tellSaying(
  saying: Saying,
  isGiven: boolean,
  words: string,
): { told: Omit<Bulk, 'pictures'>; words: string } {
  switch (saying.kind) {
    case 'part':
      return isGiven
        ? { told: { addParts: [saying.id] }, words: `Given to ${words}` }
        : { told: { dropParts: [saying.id] }, words: `Taken from ${words}` };
    case 'tag':
      return isGiven
        ? { told: { addTags: [saying.name] }, words: `Tagged ${saying.name}` }
        : { told: { dropTags: [saying.name] }, words: `No longer tagged ${saying.name}` };
    case 'pile':
      return isGiven
        ? { told: { pile: saying.pile }, words: `Laid on the pile “${saying.pile}”` }
        : { told: { pile: null }, words: 'Taken from its pile' };
    case 'scale':
      return { told: { isToScale: isGiven }, words: isGiven ? 'Said to be to scale' : 'No longer to scale' };
    case 'purpose': {
      const one = [{ purpose: saying.purpose, isNot: saying.isNot, region: null }];
      return isGiven
        ? { told: { addPurposes: one }, words: `For ${words}` }
        : { told: { dropPurposes: one }, words: `No longer for ${words}` };
    }
  }
}
