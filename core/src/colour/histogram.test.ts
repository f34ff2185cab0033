import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { histogramOf } from './index.ts';

/** More pixels than are counted in as many cells as they have colours. */
const MANY = 1 << 15;

const level = fc.integer({ min: 0, max: 255 });
const alpha = fc.constantFrom(255, 255, 0, 128, 7);
const some = fc.array(fc.tuple(level, level, level, alpha), { minLength: 1, maxLength: 60 });

describe('a histogram', () => {
  it('of few pixels is that of many that are the same', () => {
    fc.assert(
      fc.property(some, (colours) => {
        const few = Uint8Array.from(colours.flat());
        const times = Math.ceil((MANY + 1) / colours.length);
        const many = new Uint8Array(few.length * times);
        for (let at = 0; at < times; at += 1) many.set(few, at * few.length);
        const [one, other] = [histogramOf(few), histogramOf(many)];
        expect(one.cells).toHaveLength(other.cells.length);
        expect(one.total * times).toBeCloseTo(other.total, 3);
        for (const [at, part] of one.cells.entries())
          expect(Math.abs(part * (at % 4 === 3 ? times : 1) - other.cells[at]!)).toBeLessThan(1e-3);
      }),
      { numRuns: 40 },
    );
  });

  it('leaves out what is masked and what is clear, each time anew', () => {
    const data = Uint8Array.from([200, 40, 30, 255, 20, 60, 160, 255, 1, 2, 3, 0]);
    const weights = (mask?: Uint8Array) => [...histogramOf(data, mask).cells].filter((_, at) => at % 4 === 3);
    expect(weights()).toEqual([1, 1]);
    expect(weights(Uint8Array.of(0, 1, 1))).toEqual([1]);
    expect(weights()).toEqual([1, 1]);
    expect(histogramOf(data, new Uint8Array(3)).total).toBe(0);
  });
});
