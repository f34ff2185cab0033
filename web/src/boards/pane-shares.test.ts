import fc from 'fast-check';
import { expect, it } from 'vitest';
import { withLineAt } from './pane-shares.ts';

it('moves one line, leaves no pane too small to be met, and the others as they are', () => {
  expect(withLineAt([0.5, 0.5], 0, 0.3)).toEqual([0.3, 0.7]);
  expect(withLineAt([0.5, 0.5], 0, -4)[0]).toBeCloseTo(0.12);
  const [first, second, third] = withLineAt([0.2, 0.4, 0.4], 1, 0.7);
  expect(first).toBe(0.2);
  expect([second, third].map((one) => one!.toFixed(6))).toEqual(['0.500000', '0.300000']);
  const share = fc.double({ min: 0.05, max: 1, noNaN: true });
  fc.assert(
    fc.property(
      fc.tuple(share, share, share),
      fc.nat(1),
      fc.double({ min: -1, max: 2, noNaN: true }),
      (of, line, at) => {
        const sum = of[0] + of[1] + of[2];
        const shares = of.map((one) => one / sum);
        const next = withLineAt(shares, line, at);
        expect(next.reduce((all, one) => all + one, 0)).toBeCloseTo(1);
        expect(Math.min(next[line]!, next[line + 1]!)).toBeGreaterThan(0.04);
        const other = line === 0 ? 2 : 0;
        expect(next[other]).toBe(shares[other]);
      },
    ),
  );
});
