import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { textMatcher } from './search.ts';
import { type Candidate, smallestSet } from './smallest-set.ts';

describe('words on a board', () => {
  it('are found without case and accents, in any order, each within a word', () => {
    const text = 'Chain wheel: “À l’abri”, 8 spokes';
    for (const query of ['wheel', 'CHAIN', "a l'abri", 'spok whe', 'wheel  chain'])
      expect(textMatcher(query)(text)).toBe(true);
    for (const query of ['', '   ', 'wheels', 'lantern wheel']) expect(textMatcher(query)(text)).toBe(false);
  });
});

describe('the smallest set', () => {
  const needs = ['form', 'light', 'colour', 'pose', 'mood'] as const;
  type Need = (typeof needs)[number];
  const candidates = fc
    .array(fc.tuple(fc.subarray([...needs]), fc.integer({ min: 0, max: 100 })), { maxLength: 9 })
    .map((all) =>
      all.map(([serves, sharpness], index): Candidate<Need> => ({ id: `p${index}`, serves, sharpness })),
    );

  it('is no larger than any that serves as much, and of those none is sharper', () => {
    fc.assert(
      fc.property(candidates, (all) => {
        const { ids, missing } = smallestSet(all, needs);
        const served = (set: readonly Candidate<Need>[]) => new Set(set.flatMap((one) => one.serves));
        const chosen = all.filter((one) => ids.includes(one.id));
        const possible = served(all);
        expect([...served(chosen)].sort()).toEqual([...possible].sort());
        expect(missing).toEqual(needs.filter((need) => !possible.has(need)));
        const sharpnessOf = (set: readonly Candidate<Need>[]) =>
          set.reduce((sum, one) => sum + one.sharpness, 0);
        for (let bits = 0; bits < 1 << all.length; bits += 1) {
          const set = all.filter((_, index) => bits & (1 << index));
          if (served(set).size < possible.size) continue;
          expect(set.length).toBeGreaterThanOrEqual(chosen.length);
          if (set.length === chosen.length) expect(sharpnessOf(set)).toBeLessThanOrEqual(sharpnessOf(chosen));
        }
      }),
      { numRuns: 200 },
    );
  });

  it('serves only what is asked for, and refuses more than it can weigh', () => {
    const all = [
      { id: 'both', serves: ['form', 'light'] as Need[], sharpness: 1 },
      { id: 'one', serves: ['form'] as Need[], sharpness: 9 },
    ];
    expect(smallestSet(all, ['form'])).toEqual({ ids: ['one'], missing: [] });
    expect(smallestSet(all, ['form', 'light', 'pose'])).toEqual({ ids: ['both'], missing: ['pose'] });
    expect(() =>
      smallestSet(
        [],
        Array.from({ length: 17 }, (_, index) => `n${index}`),
      ),
    ).toThrow(RangeError);
  });
});
