import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rgbToXyz, srgbToLinear } from '../colour/index.ts';
import { lightOfLevels, readDeviceProfile } from './icc-profile.ts';
import { curv, para, profileBytes } from './test/profile-bytes.ts';

/** Columns of sRGB adapted to D50, as profiles have them. Source: IEC 61966-2-1, adapted by Bradford's method. */
const SRGB_D50 = [
  [0.43607, 0.22249, 0.01392],
  [0.38515, 0.71687, 0.09708],
  [0.14307, 0.06061, 0.7141],
] as const;
/** The same of ITU-R BT.2020. */
const BT2020_D50 = [
  [0.67346, 0.27903, -0.00193],
  [0.16566, 0.67534, 0.02998],
  [0.12504, 0.04561, 0.79685],
] as const;
const SRGB_CURVE = para(3, [2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045]);

const lightOf = (bytes: Uint8Array, r: number, g: number, b: number) => [
  ...lightOfLevels(Uint8Array.from([r, g, b, 255]), 255, readDeviceProfile(bytes)!),
];

describe('a profile of curves and a matrix', () => {
  it('of sRGB gives the light that sRGB has', () => {
    const bytes = profileBytes({ curves: [SRGB_CURVE, SRGB_CURVE, SRGB_CURVE], columns: SRGB_D50 });
    for (const rgb of [
      [0, 0, 0],
      [255, 255, 255],
      [12, 200, 90],
      [8, 4, 250],
    ] as const) {
      const light = lightOf(bytes, rgb[0], rgb[1], rgb[2]);
      for (const [at, level] of rgb.entries()) expect(light[at]).toBeCloseTo(srgbToLinear(level / 255), 3);
      expect(light[3]).toBe(1);
    }
  });

  it('that is wider keeps what sRGB cannot show, below 0 and above 1', () => {
    const gamma = curv([2.4 * 256]);
    const bytes = profileBytes({ curves: [gamma, gamma, gamma], columns: BT2020_D50 });
    const [r, g, b] = lightOf(bytes, 0, 255, 0);
    // Source: ITU-R BT.2087-0, linear BT.2020 to BT.709: −0.5876, 1.1329, −0.1006.
    expect(r).toBeCloseTo(-0.5876, 2);
    expect(g).toBeCloseTo(1.1329, 2);
    expect(b).toBeCloseTo(-0.1006, 2);
    const white = lightOf(bytes, 255, 255, 255);
    for (const channel of white.slice(0, 3)) expect(channel).toBeCloseTo(1, 2);
  });

  it('has curves of every kind', () => {
    const halves = (curve: number[]) => {
      const bytes = profileBytes({ curves: [curve, curve, curve], columns: SRGB_D50 });
      return readDeviceProfile(bytes)!.curves[0](0.5);
    };
    expect(halves(curv([]))).toBe(0.5);
    expect(halves(curv([2 * 256]))).toBeCloseTo(0.25, 6);
    expect(halves(curv([0, 20_000, 65_535]))).toBeCloseTo(20_000 / 65_535, 6);
    expect(halves(para(0, [3]))).toBeCloseTo(0.125, 6);
    expect(halves(para(1, [2, 1, -0.25]))).toBeCloseTo(0.0625, 4);
    expect(halves(para(2, [2, 1, -0.25, 0.1]))).toBeCloseTo(0.1625, 4);
    expect(halves(para(4, [2, 1, 0, 0.5, 0.6, 0.1, 0.05]))).toBeCloseTo(0.3, 4);
  });

  it('of grey gives neutral light', () => {
    const bytes = profileBytes({ grey: curv([2 * 256]) });
    expect(lightOf(bytes, 51, 51, 51).slice(0, 3)).toEqual([0.04, 0.04, 0.04].map((x) => Math.fround(x)));
  });

  it('with tables, of inks, damaged or cut short is none', () => {
    const whole = profileBytes({ curves: [SRGB_CURVE, SRGB_CURVE, SRGB_CURVE], columns: SRGB_D50 });
    expect(readDeviceProfile(profileBytes({ grey: curv([]), space: 'CMYK' }))).toBeUndefined();
    expect(readDeviceProfile(profileBytes({ grey: curv([]), more: ['A2B0'] }))).toBeUndefined();
    for (let length = 0; length < whole.length; length += 5)
      expect(() => readDeviceProfile(whole.subarray(0, length))).not.toThrow();
    fc.assert(
      fc.property(fc.nat(whole.length - 1), fc.integer({ min: 0, max: 255 }), (at, value) => {
        const bent = whole.slice();
        bent[at] = value;
        readDeviceProfile(bent);
      }),
    );
  });

  it('is read with the luminance that XYZ says', () => {
    const bytes = profileBytes({ curves: [SRGB_CURVE, SRGB_CURVE, SRGB_CURVE], columns: SRGB_D50 });
    const [r, g, b] = lightOf(bytes, 120, 60, 200) as [number, number, number];
    expect(0.2126 * r + 0.7152 * g + 0.0722 * b).toBeCloseTo(
      rgbToXyz({ r: 120 / 255, g: 60 / 255, b: 200 / 255 }).y,
      3,
    );
  });
});
