import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  linearToSrgb,
  luminanceOfSrgb,
  luminanceToMunsellValue,
  munsellValueOfSrgb,
  munsellValueToGrey8,
  munsellValueToLuminance,
  srgbToLinear,
  surroundColour,
} from './index.ts';

describe('Munsell value', () => {
  // ASTM D1535-14, table of luminance factors for whole value steps (percent, two decimals).
  it.each([
    [0, 0],
    [1, 1.18],
    [2, 3.05],
    [3, 6.39],
    [4, 11.7],
    [5, 19.27],
    [6, 29.3],
    [7, 41.99],
    [8, 57.62],
    [9, 76.7],
    [10, 100],
  ])('has the published luminance at step %i', (value, luminance) => {
    expect(munsellValueToLuminance(value)).toBeCloseTo(luminance, 1);
  });

  it('comes back from its luminance', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 10, noNaN: true }), (value) => {
        expect(luminanceToMunsellValue(munsellValueToLuminance(value))).toBeCloseTo(value, 6);
      }),
    );
  });

  it('is the middle grey #797979 at step 5, black and white at the ends', () => {
    expect(munsellValueToGrey8(5)).toBe(0x79);
    expect(munsellValueToGrey8(0)).toBe(0);
    expect(munsellValueToGrey8(10)).toBe(255);
    expect(surroundColour(5)).toBe('rgb(121, 121, 121)');
    expect(munsellValueOfSrgb(0x79, 0x79, 0x79)).toBeCloseTo(5, 1);
  });

  it('refuses what is no value', () => {
    expect(() => munsellValueToLuminance(10.1)).toThrow(RangeError);
    expect(() => munsellValueToLuminance(Number.NaN)).toThrow(RangeError);
  });
});

describe('sRGB', () => {
  it('comes back from linear light', () => {
    for (let level = 0; level < 256; level += 1) {
      expect(Math.round(linearToSrgb(srgbToLinear(level / 255)) * 255)).toBe(level);
    }
  });

  it('has the luminances of BT.709 for its primaries', () => {
    expect(luminanceOfSrgb(255, 0, 0)).toBeCloseTo(0.2126, 6);
    expect(luminanceOfSrgb(0, 255, 0)).toBeCloseTo(0.7152, 6);
    expect(luminanceOfSrgb(255, 255, 255)).toBeCloseTo(1, 6);
  });
});
