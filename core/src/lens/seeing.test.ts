import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  hexToOklab,
  isWarmHue,
  munsellValueOfSrgb,
  munsellValueToGrey8,
  naturalBreaks,
  oklabHueDeg,
  oklabToHex,
  oklabToOklch,
  srgb8ToOklab,
} from '../colour/index.ts';
import { colourAsAmount, LENS_IDS, lensOf, type Pixels, seeingOf, zoomedLens } from './index.ts';

const channel = fc.nat(255);
const row = (colours: readonly (readonly number[])[]): Pixels => ({
  ...{ width: colours.length, height: 1 },
  data: Uint8ClampedArray.from(colours.flatMap(([r, g, b]) => [r!, g!, b!, 255])),
});
const at = ({ data }: Pixels, pixel: number) => [...data.subarray(pixel * 4, pixel * 4 + 3)];
const see = (lens: Parameters<typeof seeingOf>[0], pixels: Pixels, amount = 0): Pixels => {
  seeingOf(lens)!.see(pixels, amount);
  return pixels;
};
const greys = (count: number): Pixels =>
  row(Array.from({ length: count }, (_, x) => Array(3).fill(Math.round((x * 255) / (count - 1)))));

describe('every lens', () => {
  it('that says it sees pixels does, and leaves their alpha', () => {
    for (const lens of LENS_IDS) {
      const { seesPixels, amount } = lensOf(lens);
      expect(seeingOf(lens) !== undefined, lens).toBe(seesPixels === true);
      if (!seesPixels) continue;
      const pixels = { width: 8, height: 6, data: new Uint8ClampedArray(192).fill(77) };
      for (const figure of amount ? [amount.least, amount.usual, amount.most] : [0]) {
        seeingOf(lens)!.see(pixels, figure);
        for (let alpha = 3; alpha < 192; alpha += 4) expect(pixels.data[alpha]).toBe(77);
      }
    }
  });

  it('of a length goes with the size in which it is seen, and of a number does not', () => {
    const laid = (lens: 'squint' | 'steps') => zoomedLens({ lens, amount: 5, on: null }, 2).amount;
    expect([laid('squint'), laid('steps')]).toEqual([10, 5]);
  });
});

describe('value steps', () => {
  it('are so many greys, with borders at equal heights of value', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 9 }), (count) => {
        const ramp = greys(256);
        const seen = see('steps', greys(256), count);
        for (let x = 0; x < 256; x += 1) {
          const [level] = at(ramp, x);
          const value = munsellValueOfSrgb(level!, level!, level!);
          const step = Math.min(count - 1, Math.floor((value / 10) * count));
          // On a border rounding may decide.
          if (Math.abs(value - Math.round((value * count) / 10) * (10 / count)) < 0.02) continue;
          expect(at(seen, x)[0]).toBe(munsellValueToGrey8(((step + 0.5) * 10) / count));
        }
      }),
    );
  });
});

describe('natural breaks', () => {
  it('part what lies apart, in the middle between', () => {
    const distribution = new Float32Array(100);
    for (const bin of [10, 11, 12]) distribution[bin] = 0.2;
    for (const bin of [80, 81]) distribution[bin] = 0.2;
    const [border] = naturalBreaks(distribution, 2);
    expect(border).toBeCloseTo((13 + 80) / 2 / 10, 6);
    expect(naturalBreaks(distribution, 3)).toHaveLength(2);
  });

  it('are the best there are: no other border has less spread', () => {
    const shares = fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 20, maxLength: 20 });
    fc.assert(
      fc.property(
        shares.filter((all) => all.some((one) => one > 0)),
        (all) => {
          const distribution = Float32Array.from(all);
          const spread = (from: number, to: number) => {
            const bins = all.slice(from, to).flatMap((share, bin) => Array<number>(share).fill(bin + from));
            const mean = bins.reduce((sum, bin) => sum + bin, 0) / (bins.length || 1);
            return bins.reduce((sum, bin) => sum + (bin - mean) ** 2, 0);
          };
          const ofBorder = (bin: number) => spread(0, bin) + spread(bin, 20);
          const [border] = naturalBreaks(distribution, 2);
          const found = ofBorder(Math.ceil(border! * 2 - 1e-9));
          const best = Math.min(...Array.from({ length: 21 }, (_, bin) => ofBorder(bin)));
          expect(found).toBeLessThanOrEqual(best + 1e-3);
        },
      ),
    );
  });
});

describe('notan', () => {
  it('is two or three tones, parted where the picture parts itself', () => {
    const colours = [
      ...Array(30).fill([30, 30, 34]),
      ...Array(30).fill([70, 66, 60]),
      ...Array(40).fill([220, 215, 190]),
    ];
    const two = see('notan', row(colours), 2);
    expect(at(two, 0)).toEqual(at(two, 30));
    expect(at(two, 99)[0]! - at(two, 0)[0]!).toBeGreaterThan(150);
    const three = see('notan', row(colours), 3);
    expect(new Set(colours.map((_, pixel) => at(three, pixel)[0])).size).toBe(3);
  });
});

describe('few colours', () => {
  it('leave a picture of few as it is, and have no more than were asked for', () => {
    const few = [...Array(50).fill([200, 40, 30]), ...Array(30).fill([20, 60, 160])];
    expect(at(see('posterised', row(few), 4), 0)).toEqual([200, 40, 30]);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(channel, channel, channel), { minLength: 1, maxLength: 60 }),
        fc.integer({ min: 2, max: 8 }),
        (colours, count) => {
          const seen = see('posterised', row(colours), count);
          expect(new Set(colours.map((_, pixel) => at(seen, pixel).join())).size).toBeLessThanOrEqual(count);
        },
      ),
    );
  });
});

describe('by its own colour alone', () => {
  const oklch = ([r, g, b]: readonly number[]) => oklabToOklch(srgb8ToOklab(r!, g!, b!));

  it('chroma is seen as lightness: greys black, the strongest white', () => {
    const seen = see(
      'chroma',
      row([
        [128, 128, 128],
        [150, 120, 110],
        [255, 0, 255],
      ]),
    );
    expect(at(seen, 0)[0]).toBeLessThan(4);
    expect(at(seen, 1)[0]).toBeGreaterThan(at(seen, 0)[0]!);
    expect(at(seen, 2)[0]).toBeGreaterThan(240);
  });

  it('hue is kept where there is one, with the same lightness for all', () => {
    fc.assert(
      fc.property(channel, channel, channel, (r, g, b) => {
        const { c, h } = oklch([r, g, b]);
        fc.pre(c > 0.06);
        const seen = oklch(at(see('hue', row([[r, g, b]])), 0));
        expect(Math.abs(((seen.h - h + 540) % 360) - 180)).toBeLessThan(12);
        expect(seen.l).toBeCloseTo(0.72, 1);
      }),
    );
    const [grey] = [at(see('hue', row([[90, 90, 90]])), 0)];
    expect(Math.max(...grey!) - Math.min(...grey!)).toBeLessThan(3);
  });

  it('warm is seen as orange, cool as blue', () => {
    fc.assert(
      fc.property(channel, channel, channel, (r, g, b) => {
        const { c, h } = oklch([r, g, b]);
        // Beside a border a table decides.
        fc.pre(c > 0.08 && [128, 340].every((border) => Math.abs(((h - border + 540) % 360) - 180) > 15));
        const seen = oklabHueDeg(
          hexToOklab(
            oklabToHex(srgb8ToOklab(...(at(see('warmth', row([[r, g, b]])), 0) as [number, number, number]))),
          ),
        );
        expect(isWarmHue(seen)).toBe(isWarmHue(h));
      }),
    );
  });
});

describe('where a colour lives', () => {
  it('is left as it is, and what is unlike it sinks into grey', () => {
    const seen = see(
      'where',
      row([
        [200, 40, 30],
        [204, 44, 34],
        [20, 60, 160],
      ]),
      colourAsAmount('#c8281e'),
    );
    expect(at(seen, 0)).toEqual([200, 40, 30]);
    expect(at(seen, 1)).toEqual([204, 44, 34]);
    const faint = at(seen, 2);
    expect(Math.max(...faint) - Math.min(...faint)).toBeLessThan(30);
  });
});

describe('an outline', () => {
  const halves = (size: number): Pixels => {
    const pixels = { width: size, height: size, data: new Uint8ClampedArray(size * size * 4).fill(255) };
    for (let y = 0; y < size; y += 1)
      for (let x = 0; x < size / 2; x += 1) pixels.data.set([20, 20, 20, 255], (y * size + x) * 4);
    return pixels;
  };

  it('is nothing on an even ground, and dark where one ends, at any detail', () => {
    const even = { width: 30, height: 30, data: new Uint8ClampedArray(3_600).fill(140) };
    expect(at(see('outline', even, 3), 450)).toEqual([250, 250, 250]);
    for (const detail of [0, 2, 6, 12]) {
      const seen = see('outline', halves(80), detail);
      expect(at(seen, 40 * 80 + 40)[0]).toBeLessThan(80);
      expect(at(seen, 40 * 80 + 4)[0]).toBe(250);
    }
  });

  it('leaves out what is finer than the detail that is wanted', () => {
    const grain = (): Pixels => ({
      ...{ width: 60, height: 60 },
      data: Uint8ClampedArray.from({ length: 14_400 }, (_, index) =>
        index % 4 === 3 ? 255 : 120 + (((index >>> 2) * 7_919) % 40),
      ),
    });
    const ink = (pixels: Pixels) =>
      Array.from({ length: 3_600 }, (_, pixel) => 250 - at(pixels, pixel)[0]!).reduce(
        (sum, one) => sum + one,
        0,
      );
    expect(ink(see('outline', grain(), 10))).toBeLessThan(ink(see('outline', grain(), 0)) / 4);
  });
});
