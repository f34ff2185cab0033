import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { solveLinear } from './index.ts';

describe('linear equations', () => {
  it('are solved: put in, the answer gives the right side', () => {
    const number = fc.integer({ min: -9, max: 9 });
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 7 }).chain((size) =>
          fc.record({
            rows: fc.array(fc.array(number, { minLength: size, maxLength: size }), {
              minLength: size,
              maxLength: size,
            }),
            wanted: fc.array(number, { minLength: size, maxLength: size }),
          }),
        ),
        ({ rows, wanted }) => {
          // With so heavy a diagonal there is one answer.
          const heavy = rows.map((row, at) => row.map((value, to) => (at === to ? value + 100 : value)));
          const right = heavy.map((row) => row.reduce((sum, value, at) => sum + value * wanted[at]!, 0));
          const found = solveLinear(
            heavy.map((row) => [...row]),
            right,
          )!;
          for (const [at, value] of wanted.entries()) expect(found[at]).toBeCloseTo(value, 8);
        },
      ),
    );
  });

  it('that need another order of rows are solved, too', () => {
    expect(
      solveLinear(
        [
          [0, 2],
          [3, 0],
        ],
        [4, 9],
      ),
    ).toEqual([3, 2]);
  });

  it('without a single answer have none', () => {
    expect(
      solveLinear(
        [
          [1, 2],
          [2, 4],
        ],
        [1, 2],
      ),
    ).toBeUndefined();
    expect(solveLinear([[0]], [1])).toBeUndefined();
    expect(solveLinear([[Number.NaN]], [1])).toBeUndefined();
  });
});
