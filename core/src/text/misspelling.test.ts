import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { slipsBetween, wordsMeant } from './misspelling.ts';

const KNOWN = [
  'wheel',
  'wheels',
  'reel',
  'rope',
  'ropes',
  'robe',
  'lantern',
  'fender',
  'zürich',
  'mast',
  'oilskin',
];

describe('slips', () => {
  it('are a letter left out, put in, taken for another, or two swapped', () => {
    expect(slipsBetween('weel', 'wheel', 2).whole).toBe(1);
    expect(slipsBetween('wheell', 'wheel', 2).whole).toBe(1);
    expect(slipsBetween('fendar', 'fender', 2).whole).toBe(1);
    expect(slipsBetween('rpoe', 'rope', 2).whole).toBe(1);
    expect(slipsBetween('lantren', 'lantern', 2).whole).toBe(1);
    expect(slipsBetween('zeppelin', 'lantern', 2).whole).toBe(3);
  });

  it('are counted to the beginning of a word, too', () => {
    expect(slipsBetween('oilzk', 'oilskin', 2)).toEqual({ whole: 3, beginning: 1 });
    expect(slipsBetween('oils', 'oilskin', 2)).toEqual({ whole: 3, beginning: 0 });
  });

  const word = fc.string({ unit: fc.constantFrom('a', 'b', 'c', 'é', '𝄞'), maxLength: 7 });
  it('are as many there as back, none only between the same, and more than wanted are not told apart', () => {
    fc.assert(
      fc.property(word, word, fc.integer({ min: 0, max: 9 }), (one, other, most) => {
        const { whole, beginning } = slipsBetween(one, other, most);
        expect(whole).toBe(slipsBetween(other, one, most).whole);
        expect(whole === 0).toBe(one === other);
        expect(whole).toBeLessThanOrEqual(most + 1);
        expect(beginning).toBeLessThanOrEqual(whole);
        expect(Math.min(most + 1, slipsBetween(one, other, 20).whole)).toBe(whole);
      }),
    );
  });

  it('are one where one letter was left out', () => {
    fc.assert(
      fc.property(
        word.filter((text) => text.length > 0),
        fc.nat(),
        (text, at) => {
          const letters = [...text];
          const without = letters.toSpliced(at % letters.length, 1).join('');
          expect(slipsBetween(without, text, 3).whole).toBe(1);
        },
      ),
    );
  });
});

describe('words meant', () => {
  it('are those with the fewest slips, whole words before beginnings', () => {
    expect(wordsMeant('weel', KNOWN)).toEqual(['wheel', 'reel']);
    expect(wordsMeant('rpoe', KNOWN)).toEqual(['rope']);
    expect(wordsMeant('fendr', KNOWN)).toEqual(['fender']);
    expect(wordsMeant('oilksi', KNOWN)).toEqual(['oilskin']);
    expect(wordsMeant('zurich', KNOWN)).toEqual(['zürich']);
  });

  it('are none where nothing is near, or too little was typed', () => {
    expect(wordsMeant('zeppelin', KNOWN)).toEqual([]);
    expect(wordsMeant('rx', KNOWN)).toEqual([]);
    expect(wordsMeant('weel', [])).toEqual([]);
  });

  it('are no more than can be looked for', () => {
    const known = Array.from({ length: 26 }, (_, at) => `r${String.fromCharCode(97 + at)}pe`);
    expect(wordsMeant('rpe', known)).toHaveLength(12);
  });
});
