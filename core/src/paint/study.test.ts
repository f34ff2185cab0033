import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { luminanceOf, luminanceToMunsellValue, oklabHueDeg, rgbOf8, srgb8ToOklab } from '../colour/index.ts';
import { containsRectangle, overlaps } from '../geometry/index.ts';
import { groundFor, type Rgb8, studyFrame, underpainted } from './study.ts';

const byte = fc.integer({ min: 0, max: 255 });
const picture = fc
  .array(fc.tuple(byte, byte, byte), { minLength: 1, maxLength: 40 })
  .map((all) => Uint8ClampedArray.from(all.flatMap((colour) => [...colour, 255])));
const munsellOf = ([r, g, b]: Rgb8) => luminanceToMunsellValue(100 * luminanceOf(rgbOf8(r, g, b)));

describe('a toned ground', () => {
  it('by the mean is that of the light', () => {
    // Half black and half white send half the light: 188, and not 128.
    expect(groundFor(Uint8ClampedArray.of(0, 0, 0, 255, 255, 255, 255, 255), 'mean')).toEqual([
      188, 188, 188,
    ]);
    expect(groundFor(Uint8ClampedArray.of(9, 90, 200, 255, 0, 255, 0, 0), 'mean')).toEqual([9, 90, 200]);
    expect(groundFor(new Uint8ClampedArray(16), 'mean')).toEqual([255, 255, 255]);
  });

  it('has the value of the reference, a whole step of it, or in a warm or a cool hue', () => {
    fc.assert(
      fc.property(picture, (data) => {
        const mean = munsellOf(groundFor(data, 'mean'));
        const step = munsellOf(groundFor(data, 'value'));
        expect(Math.abs(step - Math.round(step))).toBeLessThan(0.06);
        expect(Math.abs(step - mean)).toBeLessThan(0.58);
        const [warm, cool] = [groundFor(data, 'warm'), groundFor(data, 'cool')];
        // OKLab's lightness is not Munsell's: in a hue they part a little.
        for (const colour of [warm, cool]) expect(Math.abs(munsellOf(colour) - mean)).toBeLessThan(0.35);
        if (mean > 2 && mean < 8.5) {
          expect(warm[0]).toBeGreaterThan(warm[2]);
          expect(cool[2]).toBeGreaterThan(cool[0]);
        }
      }),
    );
    const hue = (colour: Rgb8) => oklabHueDeg(srgb8ToOklab(...colour));
    const grey = Uint8ClampedArray.of(120, 120, 120, 255);
    expect(Math.abs(hue(groundFor(grey, 'warm')) - 60)).toBeLessThan(3);
    expect(Math.abs(hue(groundFor(grey, 'cool')) - 250)).toBeLessThan(3);
  });
});

describe('an underpainting', () => {
  it('has so many values of one hue, in the order of the picture’s', () => {
    const ramp = Uint8ClampedArray.from({ length: 256 * 4 }, (_, at) => (at % 4 === 3 ? 255 : at >> 2));
    const out = underpainted(ramp, 'warm', 5);
    const colours = Array.from(
      { length: 256 },
      (_, level) => [...out.subarray(level * 4, level * 4 + 3)] as unknown as Rgb8,
    );
    expect(new Set(colours.map(String)).size).toBe(5);
    const values = colours.map(munsellOf);
    for (const [level, value] of values.entries())
      if (level > 0) expect(value).toBeGreaterThanOrEqual(values[level - 1]! - 1e-9);
    expect(underpainted(Uint8ClampedArray.of(1, 2, 3, 7), 'cool', 3)[3]).toBe(7);
    expect(() => underpainted(ramp, 'cool', 1)).toThrow(RangeError);
  });
});

describe('a study', () => {
  const reference = { x: 10, y: 20, width: 100, height: 60 };

  it('stands beside its reference, as large', () => {
    expect(studyFrame(reference, [])).toEqual({ x: 114, y: 20, width: 100, height: 60 });
    // On the other side, where something stands there.
    const right = { x: 200, y: 70, width: 50, height: 50 };
    expect(studyFrame(reference, [right])).toEqual({ x: -94, y: 20, width: 100, height: 60 });
    // Within a bay it stays in it, or beside it.
    const bay = { x: -20, y: -20, width: 500, height: 300 };
    expect(studyFrame(reference, [bay]).x).toBe(114);
  });

  it('covers nothing, however full it is', () => {
    const span = fc.integer({ min: -900, max: 900 });
    const size = fc.integer({ min: 1, max: 2_500 });
    const others = fc.array(fc.record({ x: span, y: span, width: size, height: size }), { maxLength: 30 });
    fc.assert(
      fc.property(others, (all) => {
        const frame = studyFrame(reference, all);
        const beside = all.filter((one) => !containsRectangle(one, reference));
        expect([reference, ...beside].filter((one) => overlaps(frame, one))).toEqual([]);
        expect([frame.width, frame.height]).toEqual([100, 60]);
      }),
    );
  });
});
