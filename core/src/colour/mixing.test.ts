import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  BANDS,
  colourOfReflectance,
  deltaE2000,
  mixtureSteps,
  oklabToOklch,
  type Rgb,
  reflectanceOf,
  rgbOf8,
  rgbOfHex,
  rgbToLab,
  rgbToOklab,
} from './index.ts';

const colour8 = fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255)).map(([r, g, b]): Rgb => rgbOf8(r, g, b));
const apart = (one: Rgb, two: Rgb) => deltaE2000(rgbToLab(one), rgbToLab(two));

describe('a reflectance', () => {
  it('looks like the colour it was made of, within half of what is seen, and lies between nothing and all', () => {
    fc.assert(
      fc.property(colour8, (colour) => {
        const reflectance = reflectanceOf(colour);
        expect(reflectance).toHaveLength(BANDS);
        for (const one of reflectance) {
          expect(one).toBeGreaterThan(0);
          expect(one).toBeLessThan(1);
        }
        expect(apart(colourOfReflectance(reflectance), colour)).toBeLessThanOrEqual(0.5);
      }),
      { numRuns: 300 },
    );
    // The corners of sRGB are the hardest.
    for (const r of [0, 255])
      for (const g of [0, 255])
        for (const b of [0, 255]) {
          const corner = rgbOf8(r, g, b);
          expect(apart(colourOfReflectance(reflectanceOf(corner)), corner)).toBeLessThanOrEqual(0.5);
        }
  });

  it('of a grey is level: no band is told from another', () => {
    const grey = reflectanceOf(rgbOfHex('#797979'));
    expect(Math.max(...grey) - Math.min(...grey)).toBeLessThan(0.002);
  });
});

describe('a mixture', () => {
  it('begins and ends with its colours', () => {
    fc.assert(
      fc.property(colour8, colour8, fc.constantFrom('light', 'paint'), (one, two, mixing) => {
        const steps = mixtureSteps(one, two, 5, mixing as 'light' | 'paint');
        expect(steps).toHaveLength(5);
        expect(apart(steps[0]!, one)).toBeLessThanOrEqual(0.5);
        expect(apart(steps[4]!, two)).toBeLessThanOrEqual(0.5);
      }),
      { numRuns: 60 },
    );
    expect(() => mixtureSteps(rgbOf8(0, 0, 0), rgbOf8(1, 1, 1), 1, 'light')).toThrow(RangeError);
  });

  it('of blue and yellow is green as paint, and yellower as light', () => {
    const [blue, yellow] = [rgbOfHex('#1b4fa0'), rgbOfHex('#f2d31b')];
    // Blue paint is strong: three parts of yellow to one of it.
    const paint = mixtureSteps(blue, yellow, 5, 'paint')[3];
    const light = mixtureSteps(blue, yellow, 5, 'light')[3];
    const [green, straw] = [oklabToOklch(rgbToOklab(paint!)), oklabToOklch(rgbToOklab(light!))];
    expect(green.h).toBeGreaterThan(125);
    expect(green.h).toBeLessThan(170);
    expect(green.c).toBeGreaterThan(0.08);
    expect(straw.h).toBeLessThan(115);
  });

  it('as paint is darker in the middle than light would be: white loses against black', () => {
    const [, paint] = mixtureSteps(rgbOf8(250, 250, 250), rgbOf8(20, 20, 20), 3, 'paint');
    const [, light] = mixtureSteps(rgbOf8(250, 250, 250), rgbOf8(20, 20, 20), 3, 'light');
    expect(rgbToLab(paint!).l).toBeLessThan(rgbToLab(light!).l);
  });
});
