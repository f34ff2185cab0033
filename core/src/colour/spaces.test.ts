import { converter, differenceCiede2000 } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  COLOUR_WORDS,
  colourOfArea,
  colourWords,
  compareColours,
  contrastRatio,
  deltaE2000,
  directionWords,
  hexOfRgb,
  hsvToRgb,
  hueBetween,
  isBeyondSrgb,
  labToLch,
  labToRgb,
  lchToLab,
  NOTATION_IDS,
  oklabToOklch,
  oklabToRgb,
  type Rgb,
  rgbOf8,
  rgbOfHex,
  rgbToHsl,
  rgbToHsv,
  rgbToLab,
  rgbToOklab,
  warmthOf,
  writeCmyk,
  writeColour,
} from './index.ts';

const channel = fc.double({ min: 0, max: 1, noNaN: true });
const colour: fc.Arbitrary<Rgb> = fc.record({ r: channel, g: channel, b: channel });
const colour8 = fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255)).map(([r, g, b]): Rgb => rgbOf8(r, g, b));
/** As another library has it. */
const peer = ({ r, g, b }: Rgb) => ({ mode: 'rgb', r, g, b }) as const;

// Sharma, Wu and Dalal (2005), table 1.
const PAIRS = `
50 2.6772 -79.7751 50 0 -82.7485 2.0425
50 3.1571 -77.2803 50 0 -82.7485 2.8615
50 2.8361 -74.0200 50 0 -82.7485 3.4412
50 -1.3802 -84.2814 50 0 -82.7485 1.0000
50 -1.1848 -84.8006 50 0 -82.7485 1.0000
50 -0.9009 -85.5211 50 0 -82.7485 1.0000
50 0 0 50 -1 2 2.3669
50 -1 2 50 0 0 2.3669
50 2.4900 -0.0010 50 -2.4900 0.0009 7.1792
50 2.4900 -0.0010 50 -2.4900 0.0010 7.1792
50 2.4900 -0.0010 50 -2.4900 0.0011 7.2195
50 2.4900 -0.0010 50 -2.4900 0.0012 7.2195
50 -0.0010 2.4900 50 0.0009 -2.4900 4.8045
50 -0.0010 2.4900 50 0.0010 -2.4900 4.8045
50 -0.0010 2.4900 50 0.0011 -2.4900 4.7461
50 2.5000 0 50 0 -2.5000 4.3065
50 2.5000 0 73 25 -18 27.1492
50 2.5000 0 61 -5 29 22.8977
50 2.5000 0 56 -27 -3 31.9030
50 2.5000 0 58 24 15 19.4535
50 2.5000 0 50 3.1736 0.5854 1.0000
50 2.5000 0 50 3.2972 0 1.0000
50 2.5000 0 50 1.8634 0.5757 1.0000
50 2.5000 0 50 3.2592 0.3350 1.0000
60.2574 -34.0099 36.2677 60.4626 -34.1751 39.4387 1.2644
63.0109 -31.0961 -5.8663 62.8187 -29.7946 -4.0864 1.2630
61.2901 3.7196 -5.3901 61.4292 2.2480 -4.9620 1.8731
35.0831 -44.1164 3.7933 35.0232 -40.0716 1.5901 1.8645
22.7233 20.0904 -46.6940 23.0331 14.9730 -42.5619 2.0373
36.4612 47.8580 18.3852 36.2715 50.5065 21.2231 1.4146
90.8027 -2.0831 1.4410 91.1528 -1.6435 0.0447 1.4441
90.9257 -0.5406 -0.9208 88.6381 -0.8985 -0.7239 1.5381
6.7747 -0.2908 -2.4247 5.8714 -0.0985 -2.2286 0.6377
2.0776 0.0795 -1.1350 0.9033 -0.0636 -0.5514 0.9082`
  .trim()
  .split('\n')
  .map((line) => line.split(' ').map(Number) as [number, number, number, number, number, number, number]);

describe('ΔE00', () => {
  it('has all of the 34 published pairs, to four decimals, from both sides', () => {
    expect(PAIRS).toHaveLength(34);
    for (const [l, a, b, l2, a2, b2, published] of PAIRS) {
      const [one, two] = [
        { l, a, b },
        { l: l2, a: a2, b: b2 },
      ];
      expect(deltaE2000(one, two)).toBeCloseTo(published, 4);
      expect(deltaE2000(two, one)).toBeCloseTo(published, 4);
    }
  });

  it('agrees with another library on any two colours', () => {
    const differ = differenceCiede2000();
    const toLab = converter('lab65');
    fc.assert(
      fc.property(colour, colour, (one, two) => {
        const [a, b] = [toLab(peer(one)), toLab(peer(two))];
        const ours = deltaE2000({ l: a.l, a: a.a, b: a.b }, { l: b.l, a: b.a, b: b.b });
        expect(ours).toBeCloseTo(differ(a, b), 6);
      }),
    );
  });
});

describe('spaces', () => {
  it('agree with another library', () => {
    const [toLab, toOklab, toHsl, toHsv] = [
      converter('lab65'),
      converter('oklab'),
      converter('hsl'),
      converter('hsv'),
    ];
    fc.assert(
      fc.property(colour8, (rgb) => {
        const [lab, theirs] = [rgbToLab(rgb), toLab(peer(rgb))];
        for (const axis of ['l', 'a', 'b'] as const) expect(lab[axis]).toBeCloseTo(theirs[axis], 2);
        const [oklab, theirOklab] = [rgbToOklab(rgb), toOklab(peer(rgb))];
        for (const axis of ['l', 'a', 'b'] as const) expect(oklab[axis]).toBeCloseTo(theirOklab[axis], 4);
        const [hsl, theirHsl] = [rgbToHsl(rgb), toHsl(peer(rgb))];
        expect([hsl.h, hsl.s, hsl.l].map((x) => x.toFixed(6))).toEqual(
          [theirHsl.h ?? 0, theirHsl.s, theirHsl.l].map((x) => x.toFixed(6)),
        );
        const [hsv, theirHsv] = [rgbToHsv(rgb), toHsv(peer(rgb))];
        expect([hsv.h, hsv.s, hsv.v].map((x) => x.toFixed(6))).toEqual(
          [theirHsv.h ?? 0, theirHsv.s, theirHsv.v].map((x) => x.toFixed(6)),
        );
      }),
    );
  });

  it('come back, also what sRGB cannot show', () => {
    const wide = fc.double({ min: -0.4, max: 1.4, noNaN: true });
    fc.assert(
      fc.property(wide, wide, wide, (r, g, b) => {
        for (const back of [
          labToRgb(rgbToLab({ r, g, b })),
          labToRgb(lchToLab(labToLch(rgbToLab({ r, g, b })))),
          oklabToRgb(rgbToOklab({ r, g, b })),
        ]) {
          expect(back.r).toBeCloseTo(r, 3);
          expect(back.g).toBeCloseTo(g, 3);
          expect(back.b).toBeCloseTo(b, 3);
        }
      }),
    );
    fc.assert(
      fc.property(colour8, (rgb) => {
        expect(hexOfRgb(hsvToRgb(rgbToHsv(rgb)))).toBe(hexOfRgb(rgb));
        expect(rgbOfHex(hexOfRgb(rgb))).toEqual(rgb);
      }),
    );
  });

  it('know what sRGB cannot show, and the contrast of black and white', () => {
    // The green of Display P3, in sRGB.
    expect(isBeyondSrgb({ r: -0.512, g: 1.018, b: -0.311 })).toBe(true);
    expect(isBeyondSrgb(rgbOf8(0, 255, 0))).toBe(false);
    expect(contrastRatio(rgbOf8(0, 0, 0), rgbOf8(255, 255, 255))).toBeCloseTo(21);
    expect(contrastRatio(rgbOf8(119, 119, 119), rgbOf8(255, 255, 255))).toBeCloseTo(4.48, 2);
    expect(() => rgbOfHex('#12345')).toThrow(RangeError);
  });
});

describe('an area', () => {
  it('is added as light: half black and half white is as light as half the light', () => {
    const data = new Uint8ClampedArray([0, 0, 0, 255, 255, 255, 255, 255]);
    const area = colourOfArea(data)!;
    // 0.5 of linear light is level 188.
    expect(hexOfRgb(area.mean)).toBe('#bcbcbc');
    expect(area.count).toBe(2);
    expect(area.spread).toBeGreaterThan(20);
  });

  it('of one colour has no spread; what is not opaque or not in the mask is left out', () => {
    const data = new Uint8ClampedArray([10, 200, 30, 255, 10, 200, 30, 255, 255, 0, 0, 255, 0, 0, 255, 100]);
    const area = colourOfArea(data, Uint8Array.of(1, 1, 0, 1))!;
    expect(hexOfRgb(area.mean)).toBe('#0ac81e');
    expect(area.spread).toBeCloseTo(0, 4);
    expect(area.count).toBe(2);
    expect(colourOfArea(new Uint8ClampedArray(8))).toBeUndefined();
  });

  it('measures the spread of a large one by a part of it, which is like the whole', () => {
    const data = new Uint8ClampedArray(400 * 400 * 4);
    for (let pixel = 0; pixel < 160_000; pixel += 1)
      data.set([(pixel * 7919) % 256, 100, (pixel * 104_729) % 256, 255], pixel * 4);
    const small = colourOfArea(data.slice(0, 4 * 39_936))!;
    expect(colourOfArea(data)!.spread / small.spread).toBeCloseTo(1, 1);
  });
});

describe('words', () => {
  it('are about 120 names, each of them given to some colour', () => {
    expect(COLOUR_WORDS.length).toBeGreaterThan(105);
    expect(COLOUR_WORDS.length).toBeLessThan(130);
    const given = new Set<string>();
    for (let r = 0; r < 256; r += 5)
      for (let g = 0; g < 256; g += 5)
        for (let b = 0; b < 256; b += 5) given.add(colourWords(rgbToOklab(rgbOf8(r, g, b))));
    expect(COLOUR_WORDS.filter((name) => !given.has(name))).toEqual([]);
    expect([...given].filter((name) => !COLOUR_WORDS.includes(name))).toEqual([]);
  });

  it.each([
    ['#000000', 'black'],
    ['#ffffff', 'white'],
    ['#797979', 'middle grey'],
    ['#ff0000', 'red'],
    ['#0000ff', 'blue'],
    ['#ffff00', 'lemon yellow'],
    ['#7e6650', 'dull brown'],
    ['#3f5b40', 'dull warm green, dark'],
  ])('call %s %s', (hex, words) => {
    expect(colourWords(rgbToOklab(rgbOfHex(hex)))).toBe(words);
  });
});

describe('two colours', () => {
  it('differ in a direction that has words', () => {
    const brown = rgbOfHex('#7e6650');
    expect(directionWords(compareColours(brown, brown))).toBeUndefined();
    expect(directionWords(compareColours(brown, rgbOfHex('#a78c70')))).toContain('lighter');
    expect(directionWords(compareColours(brown, rgbOfHex('#50667e')))).toContain('cooler');
    expect(directionWords(compareColours(rgbOfHex('#8a6a4a'), rgbOfHex('#6a6a6a')))).toContain('duller');
    expect(compareColours(brown, rgbOfHex('#808080')).hueDeg).toBeUndefined();
  });

  it('say the opposite the other way round', () => {
    fc.assert(
      fc.property(colour, colour, (one, two) => {
        const [there, back] = [compareColours(one, two), compareColours(two, one)];
        expect(there.value).toBeCloseTo(-back.value, 9);
        expect(there.warmth).toBeCloseTo(-back.warmth, 9);
        expect(there.chroma).toBeCloseTo(-back.chroma, 9);
        expect(there.deltaE).toBeCloseTo(back.deltaE, 9);
        expect(there.contrast).toBeCloseTo(back.contrast, 9);
      }),
    );
    expect(warmthOf(rgbOfHex('#ff8000'))).toBeGreaterThan(0.8);
    expect(warmthOf(rgbOfHex('#0050ff'))).toBeLessThan(-0.8);
    expect(hueBetween(350, 20)).toBe(30);
    expect(hueBetween(20, 350)).toBe(-30);
  });
});

describe('notations', () => {
  it('write a colour as the trade does', () => {
    const brown = rgbOfHex('#7e6650');
    const written = Object.fromEntries(NOTATION_IDS.map((id) => [id, writeColour(brown, id)]));
    expect(written).toMatchObject({
      hex: '#7e6650',
      rgb: 'rgb(126 102 80)',
      hsl: 'hsl(29 22% 40%)',
      hsv: '29° 37% 49%',
      name: 'dull brown',
    });
    expect(written.cmyk).toBeUndefined();
    expect(written.value).toBe('V 4.4');
    const { l, c, h } = oklabToOklch(rgbToOklab(brown));
    expect(written.oklch).toBe(`oklch(${(l * 100).toFixed(1)}% ${c.toFixed(3)} ${h.toFixed(1)})`);
    expect(writeCmyk([0.1, 0.25, 1, 0.004])).toBe('C 10% M 25% Y 100% K 0%');
  });

  it('write what sRGB cannot show without cutting it off', () => {
    expect(writeColour({ r: -0.512, g: 1.018, b: -0.311 }, 'hex')).toMatch(
      /^oklch\(8[45]\.\d% 0\.\d+ 14\d\.\d\)$/,
    );
  });
});
