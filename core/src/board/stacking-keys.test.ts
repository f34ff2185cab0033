import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { keysBetween } from './stacking-keys.ts';

const odd = fc.stringMatching(/^[0-9A-Za-z]{1,8}$/);

describe('stacking keys', () => {
  it('lie in order between any two that leave room, however those were made', () => {
    fc.assert(
      fc.property(fc.option(odd), fc.option(odd), fc.integer({ min: 1, max: 40 }), (one, other, count) => {
        const [below, above] = one !== null && other !== null && one > other ? [other, one] : [one, other];
        // Nothing lies between a key and the same with zeros after it.
        const isRoom = above === null || above.replace(/0+$/, '') > (below ?? '');
        fc.pre(isRoom);
        const keys = keysBetween(below, above, count);
        expect(keys).toHaveLength(count);
        const all = [...(below === null ? [] : [below]), ...keys, ...(above === null ? [] : [above])];
        for (const [index, key] of all.slice(1).entries()) expect(key > all[index]!).toBe(true);
        for (const key of keys) expect(key).toMatch(/^[0-9A-Za-z]{1,200}$/);
      }),
      { numRuns: 500 },
    );
  });
});
