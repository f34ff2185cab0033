import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  munsellValueOfSrgb,
  munsellValueToGrey8,
  valueAtShare,
  valueDistribution,
  valuesOf,
} from './index.ts';

const pixelsOf = (...colours: (readonly [number, number, number, number])[]) => ({
  width: colours.length,
  height: 1,
  data: Uint8ClampedArray.from(colours.flat()),
});
const channel = fc.integer({ min: 0, max: 255 });

describe('values of pixels', () => {
  it('agree with the equation within 0.01, for any colour', () => {
    fc.assert(
      fc.property(channel, channel, channel, (r, g, b) => {
        expect(Math.abs(valuesOf(pixelsOf([r, g, b, 255]))[0]! - munsellValueOfSrgb(r, g, b))).toBeLessThan(
          0.01,
        );
      }),
    );
  });

  it('skip what can be seen through', () => {
    expect(valuesOf(pixelsOf([9, 9, 9, 20]))[0]).toBeNaN();
    expect([...valueDistribution(pixelsOf([9, 9, 9, 0]), 4)]).toEqual([0, 0, 0, 0]);
  });
});

describe('the distribution', () => {
  it('puts each grey into its own step, with its share', () => {
    const grey = (value: number) => munsellValueToGrey8(value);
    const of = (value: number) => [grey(value), grey(value), grey(value), 255] as const;
    const shares = valueDistribution(pixelsOf(of(2.5), of(2.5), of(2.5), of(7.5)), 10);
    expect(shares[2]).toBeCloseTo(0.75);
    expect(shares[7]).toBeCloseTo(0.25);
  });

  it('adds up to one', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(channel, channel, channel, fc.constant(255)), { minLength: 1, maxLength: 40 }),
        fc.integer({ min: 1, max: 60 }),
        (colours, bins) => {
          const sum = valueDistribution(pixelsOf(...colours), bins).reduce(
            (total, share) => total + share,
            0,
          );
          expect(sum).toBeCloseTo(1, 5);
        },
      ),
    );
  });

  it('tells below which value a share lies', () => {
    const even = Float32Array.from({ length: 10 }, () => 0.1);
    expect(valueAtShare(even, 0.5)).toBeCloseTo(5, 4);
    expect(valueAtShare(Float32Array.of(0, 0, 0, 1, 0), 0.5)).toBeCloseTo(7);
    expect(valueAtShare(Float32Array.of(0, 1), 0)).toBeCloseTo(5);
  });

  it('refuses a senseless number of bins', () => {
    expect(() => valueDistribution(pixelsOf([0, 0, 0, 255]), 0)).toThrow(RangeError);
  });
});
