import type { LibraryWords } from '@miradero/core/contracts';
import type { Picture, Subject } from '@miradero/core/schema';
import { describe, expect, it } from 'vitest';
import {
  fitting,
  holdsOf,
  holdsOfMany,
  makings,
  patchSaying,
  type Saying,
  sayingsOf,
  tellSaying,
} from './sayings.ts';

/** Forty subjects of fifteen parts each, the first of them with a part of a part. */
const SUBJECTS: readonly Subject[] = Array.from({ length: 40 }, (_, n) => ({
  ...{ id: `s${n}`, name: n === 0 ? 'The ferry' : `Vessel ${n}`, isPutAway: false, pictures: 0 },
  parts: Array.from({ length: 15 }, (_, m) => ({
    ...{ id: `s${n}p${m}`, name: m === 0 ? 'ramps' : `plank ${n}-${m}` },
    parts: n === 0 && m === 0 ? [{ id: 'hinge', name: 'hinge' }] : [],
  })),
}));
const WORDS: LibraryWords = {
  ...{ licences: [], creators: [], tags: [{ name: 'ramshackle', colour: null, count: 3 }] },
  parts: [{ id: 's0p0', count: 5 }],
  purposes: [
    { name: 'form', isNot: false, count: 7 },
    { name: 'form', isNot: true, count: 1 },
  ],
};
const ALL = sayingsOf(SUBJECTS, WORDS);
const named = (typed: string) => fitting(ALL, typed, 9).map(({ words, about }) => `${words}, ${about}`);

const picture = (said: Partial<Picture>): Picture =>
  ({ parts: [], tags: [], purposes: [], pile: null, isToScale: false, ...said }) as unknown as Picture;
const PIECE = { x: 0, y: 0, width: 0.5, height: 0.5 };

describe('what can be said', () => {
  it('is found among six hundred parts by a few letters, with what it belongs to and its count', () => {
    expect(ALL.length).toBeGreaterThan(640);
    expect(named('ram').slice(0, 2)).toEqual(['ramps, part of The ferry', 'ramps, hinge, part of The ferry']);
    expect(named('ferry ram')).toContain('ramps, part of The ferry');
    expect(named('plank 33-7')).toEqual(['plank 33-7, part of Vessel 33']);
    expect(named('rams')).toEqual(['ramshackle, tag']);
    expect(named('not form')[0]).toBe('not form, not that');
    expect(named('nothing like it')).toEqual([]);
    const counts = Object.fromEntries(ALL.map(({ id, count }) => [id, count]));
    expect([
      counts['part s0p0'],
      counts['part s1p0'],
      counts['purpose false form'],
      counts['purpose true form'],
    ]).toEqual([5, 0, 7, 1]);
  });

  it('begins with purposes while nothing is typed', () => {
    expect(fitting(ALL, ' ', 3).map(({ words }) => words)).toEqual(['form', 'viewpoint', 'proportion']);
  });
});

describe('what is not there yet', () => {
  const made = (typed: string, near: readonly Subject[] = []) =>
    makings(typed, ALL, SUBJECTS, near).map((one) =>
      one.kind === 'part' ? `part ${one.name} of ${one.subject.name}` : `${one.kind} ${one.name}`,
    );
  it('is made of what was typed', () => {
    expect(made('bollard', [SUBJECTS[0]!])).toEqual([
      'tag bollard',
      'part bollard of The ferry',
      'subject bollard',
    ]);
    expect(made('  ')).toEqual([]);
    expect(made('Ramshackle')).toEqual(['subject Ramshackle']);
    expect(made('ramps')).toEqual(['tag ramps']);
  });

  it('is a part of the subject that is named before a colon', () => {
    expect(made('vessel 39: stem')).toEqual(['part stem of Vessel 39']);
    expect(made('nobody: stem')).toContain('tag nobody: stem');
  });

  it('is short enough to be kept, whatever was typed', () => {
    const [tag] = makings(`${'n'.repeat(20_000)}\ud83d\0`, ALL, SUBJECTS, []);
    expect(tag).toEqual({ kind: 'tag', name: 'n'.repeat(60) });
  });
});

describe('a saying', () => {
  const sayings: readonly Saying[] = [
    { kind: 'part', id: 's0p0' },
    { kind: 'tag', name: 'dusk' },
    { kind: 'pile', pile: 'now' },
    { kind: 'scale' },
    { kind: 'purpose', purpose: 'light', isNot: false },
    { kind: 'purpose', purpose: 'light', isNot: true },
  ];

  it('holds once it is said, and no longer when it is taken back; marked parts stay', () => {
    const before = picture({ purposes: [{ purpose: 'light', isNot: false, region: PIECE }] });
    for (const saying of sayings) {
      expect(holdsOf(before, saying)).toBe(false);
      const said = { ...before, ...patchSaying(before, saying, true) } as Picture;
      expect(holdsOf(said, saying), saying.kind).toBe(true);
      expect(said.purposes).toContainEqual({ purpose: 'light', isNot: false, region: PIECE });
      // Twice is once.
      const twice = { ...said, ...patchSaying(said, saying, true) } as Picture;
      expect(twice).toEqual(said);
      const unsaid = { ...said, ...patchSaying(said, saying, false) } as Picture;
      expect(unsaid).toEqual(before);
    }
  });

  it('holds of all, of some or of none', () => {
    const tagged = picture({ tags: ['dusk'] });
    const dusk: Saying = { kind: 'tag', name: 'dusk' };
    expect(holdsOfMany([tagged, tagged], dusk)).toBe(true);
    expect(holdsOfMany([tagged, picture({})], dusk)).toBe('mixed');
    expect(holdsOfMany([picture({})], dusk)).toBe(false);
  });

  it('is told to many, and named for taking back', () => {
    expect(tellSaying({ kind: 'tag', name: 'dusk' }, true, 'dusk')).toEqual({
      told: { addTags: ['dusk'] },
      words: 'Tagged dusk',
    });
    expect(tellSaying({ kind: 'pile', pile: 'now' }, false, 'now')).toEqual({
      told: { pile: null },
      words: 'Taken from its pile',
    });
    expect(tellSaying({ kind: 'purpose', purpose: 'form', isNot: true }, false, 'not form')).toEqual({
      told: { dropPurposes: [{ purpose: 'form', isNot: true, region: null }] },
      words: 'No longer for not form',
    });
  });
});
