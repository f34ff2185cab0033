import fc from 'fast-check';
import { expect, it } from 'vitest';
import { askedOf, parametersOf } from './library-query.ts';

const asked = (query: string) => askedOf(new URLSearchParams(query));

it('reads from an address what makes sense, and leaves the rest out', () => {
  expect(asked('words=reed&sort=hue&isReversed=true&leastPx=600&from=2026-05-01')).toEqual({
    ...{ words: 'reed', sort: 'hue', isReversed: true, leastPx: 600, from: '2026-05-01' },
  });
  const nonsense =
    'sort=zz&colour=red&leastPx=-5&mostPx=1e15&darkest=2&from=0000-01-01&to=tomorrow&like=nope&pile=x&odd=1&__proto__=1&toString=1';
  expect(asked(nonsense)).toEqual({});
  expect(asked('tag=e%CC%81%00&words=%F0%9F%98')).toEqual({ tag: 'é', words: '\ufffd' });
});

it('gives any address back as one that it reads the same', () => {
  const key = fc.constantFrom(...['words', 'tag', 'sort', 'leastPx', 'colour', 'toScale', 'from', 'odd']);
  const value = fc.oneof(
    fc.string({ unit: 'binary', maxLength: 300 }),
    fc.constantFrom('hue', '600', 'ff00aa', 'true', '2026-01-31'),
  );
  fc.assert(
    fc.property(fc.array(fc.tuple(key, value), { maxLength: 6 }), (pairs) => {
      const once = askedOf(new URLSearchParams(pairs));
      expect(askedOf(new URLSearchParams(parametersOf(once).toString()))).toEqual(
        Object.fromEntries(Object.entries(once).filter(([, one]) => one !== '' && one !== false)),
      );
    }),
  );
});
